"""Chapters that a hosting site would not show, or that are too long to find something in."""

from __future__ import annotations

from collections.abc import Iterator

from chapto.publish.chapter_list import chapter_problems
from chapto.review.finding import Finding, Weight, Where
from chapto.review.reviewed import Reviewed


def find(r: Reviewed) -> Iterator[Finding]:
    """What keeps the list from being shown."""
    if r.programme.frames:
        for problem in chapter_problems(r.programme):
            yield Finding(Weight.SHOULD, problem, quote=problem)


def too_long(r: Reviewed) -> Iterator[Finding]:
    """Chapters over the limit."""
    limit = r.limits["chapter-longest"]
    for chapter, end in r.programme.chapter_spans():
        seconds = r.seconds(end - chapter.start)
        if seconds > limit.value:
            sentence = f"The chapter “{chapter.title}” lasts {limit.said(seconds)}; part it."
            first = r.word_at(r.seconds(chapter.start))
            beat = first.beat if first is not None else ""
            where = Where(r.seconds(chapter.start), beat)
            yield Finding(Weight.MAY, sentence, where, chapter.title, seconds, limit)
