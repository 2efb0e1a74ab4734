"""The files that stand beside the rendered video."""

from __future__ import annotations

from pathlib import Path

from chapto.document.breakdown import Breakdown
from chapto.programme.caption_places import raised_captions
from chapto.programme.programme import Programme
from chapto.publish.captions import to_subrip, to_webvtt
from chapto.publish.chapter_list import chapter_list
from chapto.publish.description import description
from chapto.store.outputs import BREAKDOWN_SUFFIX, OutputGate, free_name

SIDECARS = (".vtt", ".srt", ".chapters.txt", ".description.txt")


def places_of(video: Path) -> tuple[Path, ...]:
    """Where a video and the files beside it go."""
    return (video, *(video.with_suffix(ending) for ending in SIDECARS))


def default_video(project: Path | None, suffix: str = ".mp4") -> Path:
    """Where a breakdown is rendered to unless the creator says otherwise: `NAME-breakdown.mp4` beside its file, under
    a name that nothing has yet."""
    base = project.with_suffix("") if project else Path.home() / "new"
    return free_name(base.with_name(f"{base.name}{BREAKDOWN_SUFFIX}{suffix}"), also=SIDECARS)


def default_preview(video: Path) -> Path:
    """Where a preview of a video goes: `NAME-preview.mp4` beside it."""
    return video.with_name(f"{video.stem}-preview.mp4")


def write_beside(
    b: Breakdown, video: Path, programme: Programme, gate: OutputGate, kept: tuple[str, ...] = ()
) -> tuple[Path, ...]:
    """Write captions (.vtt, .srt), the chapter list (.chapters.txt) and the description (.description.txt) beside
    `video`; returns their places. `kept` are lines about promises that were kept. `DescriptionError` where one's own
    template can't be used."""
    raised = raised_captions(programme, b.format.width / b.format.height, control=b.control_strip)
    texts = {
        ".vtt": to_webvtt(programme.captions, raised),
        ".srt": to_subrip(programme.captions),
        ".chapters.txt": chapter_list(programme),
        ".description.txt": description(b, programme, kept),
    }
    return tuple(gate.write(video.with_suffix(ending), texts[ending].encode()) for ending in SIDECARS)
