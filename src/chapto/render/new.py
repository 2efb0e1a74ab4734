"""A new breakdown from videos."""

from __future__ import annotations

from fractions import Fraction
from pathlib import Path

from chapto.clock.rates import nearest_rate
from chapto.document import edit_footage, edit_log, edit_script
from chapto.document.breakdown import Breakdown, Format
from chapto.document.checks import checked
from chapto.media.probe import MediaInfo, probe
from chapto.store.fingerprint import fingerprint

HD, FULL_HD = (1280, 720), (1920, 1080)


def new_breakdown(videos: list[Path], project_folder: Path) -> Breakdown:
    """A breakdown of `videos`: each file gets its place on the mat clock and a round of its own; the first is one
    exchange with a section to write under. Raises `MediaError` for a file that is no video."""
    infos = [probe(v) for v in videos]
    b = Breakdown(title=videos[0].stem, format=programme_format(infos[0]))
    for video, info in zip(videos, infos, strict=True):
        b = with_footage(b, video, info, project_folder)
    first = b.footage[0]
    b = edit_log.add_exchange(b, first.mat_in, first.mat_out)
    b = edit_script.add_section(b, title=b.title, exchange=b.exchanges[0].id)
    return checked(edit_script.add_beat(b, b.script[0].id))


def with_footage(
    b: Breakdown, video: Path, info: MediaInfo, project_folder: Path | None, *, mark: str = ""
) -> Breakdown:
    """`b` with one more file and a round over it; `DocumentError` when it is there already. `mark` is its fingerprint
    if that is known."""
    made = edit_footage.add_footage(
        b,
        name=video.stem,
        path=edit_footage.stored_path(video, project_folder),
        fingerprint=mark or fingerprint(video),
        duration=info.duration,
        fps=info.fps,
        aspect=Fraction(info.width, info.height),
        lines=info.height,
    )
    added = made.footage[-1]
    return edit_log.add_round(made, added.mat_in, added.mat_out)


def programme_format(info: MediaInfo) -> Format:
    """Picture and rate of a programme made from such footage: upright stays upright, at most full HD, and the
    nearest rate of those a programme may have, no faster than 60."""
    long_side, short_side = FULL_HD if min(info.width, info.height) >= FULL_HD[1] else HD
    upright = info.height > info.width
    fps: Fraction = nearest_rate(info.fps)
    if upright:
        return Format(width=short_side, height=long_side, fps=fps)
    return Format(width=long_side, height=short_side, fps=fps)
