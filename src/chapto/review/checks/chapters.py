"""Chapters that a hosting site would not show, or that are too long to find something in."""

from __future__ import annotations

from collections.abc import Iterator

from chapto.publish.chapter_list import chapter_problems
from chapto.review.finding import Finding, Reviewed, Weight, Where


def find(r: Reviewed) -> Iterator[Finding]:
    """What keeps the list from being shown, and chapters over the limit."""
    if not r.programme.frames:
        return
    for problem in chapter_problems(r.programme):
        yield Finding(Weight.SHOULD, problem)
    limit = r.limits["chapter-longest"]
    for chapter, end in r.programme.chapter_spans():
        seconds = r.seconds(end - chapter.start)
        if seconds > limit.value:
            sentence = f"The chapter “{chapter.title}” lasts {limit.said(seconds)}; part it."
            yield Finding(Weight.MAY, sentence, Where(r.seconds(chapter.start)), limit.said(seconds), limit)
