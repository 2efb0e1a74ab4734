"""What the prompter shows: the line that is read, the two after it, and how far it has been said. Free of Qt."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

from chapto.document.breakdown import Breakdown
from chapto.document.script import words_of
from chapto.lexicon.trade_words import trade_word
from chapto.programme.programme import Programme

AHEAD = 2


@dataclass(frozen=True)
class Reading:
    """The words of a line and who reads it; `now` is the word that is due, −1 before the first and the number of words
    after the last. `ahead` are the lines that follow. `odd` are words (by number) that the recording has otherwise,
    with whether they were left out."""

    beat: str
    who: str
    words: tuple[str, ...]
    ahead: tuple[str, ...]
    now: int = -1
    odd: tuple[tuple[int, bool], ...] = ()


def reading(b: Breakdown, beat_id: str) -> Reading:
    """The line of a beat, before it is read; an empty one where there is no such beat."""
    beats = [beat for _, beat in b.read_beats() if words_of(beat.text)]
    place = next((i for i, beat in enumerate(beats) if beat.id == beat_id), None)
    if place is None:
        return Reading("", "", (), ())
    beat = beats[place]
    ahead = tuple(x.text for x in beats[place + 1 : place + 1 + AHEAD])
    return Reading(beat.id, f"{b.narrator(beat).name}  ·  {trade_word(beat.kind)}", words_of(beat.text), ahead)


def beat_due(programme: Programme, at: Fraction, beats: frozenset[str]) -> str:
    """Of `beats`, the one that is said at watch second `at`, or the next to be said; empty where all are over."""
    return next((w.beat for w in programme.words if w.beat in beats and w.end > at), "")


def word_due(programme: Programme, at: Fraction, beat: str) -> int:
    """Number of the word of `beat` that is due at watch second `at`; −1 before the first, their number after all."""
    said = -1
    words = [w for w in programme.words if w.beat == beat]
    for w in words:
        if w.start <= at:
            said = w.word
    if words and at >= words[-1].end:
        return words[-1].word + 1
    return said
