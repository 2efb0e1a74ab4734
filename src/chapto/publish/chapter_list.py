"""The chapter list for a video's description, and what hosting sites want of one."""

from __future__ import annotations

from fractions import Fraction
from functools import lru_cache
from math import ceil

from chapto.clock.timecode import clock_text
from chapto.programme.placed import Chapter
from chapto.programme.programme import Programme

FEWEST, SHORTEST = 3, 10
"""Hosting sites show chapters from three on, each at least 10 s long (from memory)."""


def chapter_list(programme: Programme) -> str:
    """`m:ss Title` a line, as hosting sites read it."""
    return "".join(f"{clock_text(c.start / programme.fps)} {c.title}\n" for c in programme.chapters)


def chapter_problems(programme: Programme) -> tuple[str, ...]:
    """What would keep a hosting site from showing the chapters, a sentence each."""
    return _problems(programme.chapters, programme.frames, programme.fps)


@lru_cache(maxsize=4)
def _problems(chapters: tuple[Chapter, ...], frames: int, fps: Fraction) -> tuple[str, ...]:
    found, least = [], ceil(SHORTEST * fps)
    if chapters and chapters[0].start > 0:
        found.append("The first chapter has to begin at 0:00; give the first section a title.")
    if len(chapters) < FEWEST:
        found.append(f"Hosting sites want at least {FEWEST} chapters; there are {len(chapters)}.")
    for chapter, end in zip(chapters, [*(c.start for c in chapters[1:]), frames], strict=False):
        if end - chapter.start < least:
            seconds = float((end - chapter.start) / fps)
            found.append(f"“{chapter.title}” lasts {seconds:.1f} s; sites want at least {SHORTEST} s.")
    return tuple(found)
