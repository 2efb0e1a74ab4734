"""Chapters as containers hold them: flat in milliseconds, or nested with what is named in them."""

from __future__ import annotations

from fractions import Fraction
from typing import TYPE_CHECKING

from chapto.programme.programme import Programme
from chapto.render.matroska import Atom

if TYPE_CHECKING:
    from av.container.core import Chapter

SECOND = 10**9
"""Nanoseconds."""


def flat_chapters(programme: Programme) -> tuple[Chapter, ...]:
    """Chapter marks in milliseconds; the last ends with the programme."""
    return tuple(
        {
            "id": i,
            "start": round(chapter.start / programme.fps * 1000),
            "end": round(end / programme.fps * 1000),
            "time_base": Fraction(1, 1000),
            "metadata": {"title": chapter.title},
        }
        for i, (chapter, end) in enumerate(programme.chapter_spans())
    )


def nested_chapters(programme: Programme) -> tuple[Atom, ...]:
    """Chapters with the techniques named in each of them as chapters inside."""
    found = []
    for chapter, end in programme.chapter_spans():
        labels = sorted((x for x in programme.labels if chapter.start <= x.start < end), key=lambda x: x.start)
        inner = tuple(
            Atom(x.text, _at(programme, x.start), _at(programme, min(x.end, end)))
            for x in labels
            if x.text != chapter.title
        )
        found.append(Atom(chapter.title, _at(programme, chapter.start), _at(programme, end), inner))
    return tuple(found)


def _at(programme: Programme, frame: int) -> int:
    return round(frame / programme.fps * SECOND)
