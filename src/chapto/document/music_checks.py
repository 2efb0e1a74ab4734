"""Whether music makes sense, and what is open about it."""

from __future__ import annotations

from collections.abc import Iterator

from chapto.document.bounds import LATEST, text_problem
from chapto.document.breakdown import Breakdown

QUIETEST, LOUDEST = -60, 20
"""Decibels by which music may be changed."""


def music_problems(b: Breakdown) -> Iterator[str]:
    """What is wrong with the music itself."""
    for m in b.music:
        if not 0 < m.seconds <= LATEST or not QUIETEST <= m.gain <= LOUDEST:
            yield f"The music “{m.name[:30]}” can't be that long, or that loud."
        for text in (m.name, m.path, m.fingerprint, m.licence, m.credit):
            if problem := text_problem(text):
                yield f"The music “{text[:30].encode('utf-8', 'replace').decode()}…” {problem}."


def music_open(b: Breakdown) -> tuple[str, ...]:
    """What is not settled about the music, a sentence each."""
    return tuple(f"Under which licence may “{m.name}” be used?" for m in b.music if not m.licence.strip())
