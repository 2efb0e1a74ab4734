"""How much of a script has been recorded, and how fast its narrators really talk."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from fractions import Fraction

from chapto.document.breakdown import Breakdown
from chapto.document.script import words_of
from chapto.pacing.spoken import SpokenLine

ENOUGH_WORDS = 40
"""Words from which on a pace is more than chance."""


@dataclass(frozen=True)
class Recorded:
    """Beats and seconds spoken by takes, of all that have words; `paces` are words a minute by narrator id, with
    the pauses between phrases, as far as enough was said."""

    beats: int
    of_beats: int
    seconds: Fraction
    of_seconds: Fraction
    paces: Mapping[str, int]


def recorded(b: Breakdown, lines: Mapping[str, SpokenLine], taken: frozenset[str]) -> Recorded:
    """Of the lines of `b` by beat id, those `taken` are recorded."""
    beats = [beat for _, beat in b.read_beats() if words_of(beat.text) and beat.id in lines]
    own = [beat for beat in beats if beat.id in taken]
    said: dict[str, tuple[int, Fraction]] = {}
    for beat in own:
        narrator = b.narrator(beat).id
        count, seconds = said.get(narrator, (0, Fraction(0)))
        line = lines[beat.id]
        said[narrator] = (count + len(line.words), seconds + max(line.words[-1][1] - line.words[0][0], Fraction(1, 10)))
    paces = {n: round(60 * c / s) for n, (c, s) in said.items() if c >= ENOUGH_WORDS and s > 0}
    return Recorded(
        len(own),
        len(beats),
        sum((lines[x.id].seconds for x in own), Fraction(0)),
        sum((lines[x.id].seconds for x in beats), Fraction(0)),
        paces,
    )
