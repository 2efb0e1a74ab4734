"""The files that stand beside the rendered video."""

from __future__ import annotations

from pathlib import Path

from chapto.programme.programme import Programme
from chapto.publish.captions import to_subrip, to_webvtt
from chapto.publish.chapter_list import chapter_list
from chapto.store.atomic import write_atomically


def write_beside(video: Path, programme: Programme) -> tuple[Path, ...]:
    """Write captions (.vtt, .srt) and the chapter list (.chapters.txt) beside `video`; returns their places."""
    texts = {
        ".vtt": to_webvtt(programme.captions),
        ".srt": to_subrip(programme.captions),
        ".chapters.txt": chapter_list(programme),
    }
    written = []
    for ending, text in texts.items():
        place = video.with_suffix(ending)
        write_atomically(place, text.encode())
        written.append(place)
    return tuple(written)
