"""Edits of what the picture does from a word of a beat on."""

from __future__ import annotations

from msgspec.structs import replace

from chapto.document.breakdown import Breakdown, DocumentError, by_id
from chapto.document.edit_script import change_section, treat
from chapto.document.script import Beat, Turn, words_of
from chapto.document.treatments import Treatment


def turn_at(b: Breakdown, beat_id: str, word: int, treatment: Treatment | None) -> Breakdown:
    """With the picture doing `treatment` from a word of a beat on, until it turns again or the beat is over.

    None leaves it to the fit. Raises `DocumentError` for a word that the beat does not have.
    """
    _, beat = b.find_beat(beat_id)
    if not 0 <= word < max(len(words_of(beat.text)), 1):
        raise DocumentError("The picture can only turn at a word of its beat.")
    if word == 0:
        return treat(b, beat_id, treatment)
    turns = (*(t for t in beat.turns if t.word != word), Turn(word=word, treatment=treatment))
    return _with(b, replace(beat, turns=tuple(sorted(turns, key=lambda t: t.word))))


def no_turn_at(b: Breakdown, beat_id: str, word: int) -> Breakdown:
    """Without the turn at a word: what the picture did before goes on."""
    _, beat = b.find_beat(beat_id)
    return _with(b, replace(beat, turns=tuple(t for t in beat.turns if t.word != word)))


def turn_between(b: Breakdown, beat_id: str, first: int, end: int, treatment: Treatment) -> Breakdown:
    """With the picture doing `treatment` under the words `first … end` (half-open) of a beat and then what it did
    before; turns in between are gone."""
    _, beat = b.find_beat(beat_id)
    if first >= end:
        raise DocumentError("The picture turns for one word at least.")
    after, count = beat.treated_at(end), len(words_of(beat.text))
    turns = tuple(t for t in beat.turns if not first <= t.word <= end)
    b = turn_at(_with(b, replace(beat, turns=turns)), beat_id, first, treatment)
    return b if end >= count else turn_at(b, beat_id, end, after)


def _with(b: Breakdown, beat: Beat) -> Breakdown:
    section, _ = b.find_beat(beat.id)
    own = by_id(b.script, section.id, "section")
    return change_section(b, section.id, beats=tuple(beat if x.id == beat.id else x for x in own.beats))
