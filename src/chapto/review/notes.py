"""Notes on what bothers while watching, at the words they are about."""

from __future__ import annotations

from bisect import bisect_right
from fractions import Fraction

from chapto.document.reviewing import WatchNote
from chapto.programme.programme import Programme

REACTION = Fraction(1)
"""Seconds after which a key is pressed for something that bothers (common practice)."""


def note_at(programme: Programme, seconds: Fraction) -> WatchNote:
    """A note made at a watch second, on what was there shortly before: it stays with its word, wherever that moves. Its
    id is still to be given."""
    at = max(seconds - REACTION, Fraction(0))
    words = programme.words
    i = bisect_right([w.start for w in words], at) - 1
    if i < 0:
        return WatchNote(id="", after=_thousandths(at))
    return WatchNote(id="", beat=words[i].beat, word=words[i].word, after=_thousandths(at - words[i].start))


def _thousandths(seconds: Fraction) -> Fraction:
    return Fraction(round(seconds * 1000), 1000)
