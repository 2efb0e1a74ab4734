"""Which take speaks which beat."""

from __future__ import annotations

from collections.abc import Iterable
from fractions import Fraction

from chapto.document.breakdown import Breakdown
from chapto.document.script import Beat, Section, words_of
from chapto.document.takes import Take, TakeOf

_NEARNESS = {TakeOf.BEAT: 3, TakeOf.SECTION: 2, TakeOf.WHOLE: 1, TakeOf.NOTHING: 0}

SLOWEST, FASTEST = Fraction(1, 2), Fraction(2)


def beats_of(b: Breakdown, take: Take) -> tuple[Beat, ...]:
    """The beats with words that `take` is a recording of, in the order of the script."""
    return tuple(
        beat
        for section, beat in b.beats()
        if _holds(take, section, beat) and words_of(beat.text) and take.narrator in ("", b.narrator(beat).id)
    )


def _holds(take: Take, section: Section, beat: Beat) -> bool:
    if take.of is TakeOf.NOTHING:
        return False
    return take.of is TakeOf.WHOLE or take.subject == (section.id if take.of is TakeOf.SECTION else beat.id)


def takes_by_beat(b: Breakdown) -> dict[str, Take]:
    """The take that counts for each beat that has one, by the beat's id."""
    found: dict[str, Take] = {}
    if b.guide_only:
        return found
    for take in sorted((t for t in b.takes if t.chosen), key=lambda t: _NEARNESS[t.of]):
        found.update({beat.id: take for beat in beats_of(b, take)})
    return found


def take_problems(b: Breakdown) -> Iterable[str]:
    """Every contradiction in the takes, a sentence each."""
    for take in b.takes:
        if not 0 <= take.start < take.until <= take.seconds:
            yield f"The part of the take “{take.path}” that is used ends before it starts, or lies outside it."
        if not -60 <= take.gain <= 60:
            yield f"The take “{take.path}” can't be made {float(take.gain):g} dB louder."
        if not SLOWEST <= take.tempo <= FASTEST:
            yield f"The take “{take.path}” can't be heard {float(take.tempo):g} times as fast."
        if take.channel not in (0, 1, 2):
            yield f"The take “{take.path}” has no channel {take.channel}."
        after = take.start
        for start, end in take.cuts:
            if not after <= start < end <= take.until:
                yield f"A stretch that is left out of the take “{take.path}” lies outside it, or over another."
            after = end
        for edge in take.edges:
            if not 0 <= edge.start < edge.end <= take.seconds:
                yield f"A word in the take “{take.path}” would end before it starts, or lies outside it."


def takes_of(b: Breakdown, beat_id: str) -> tuple[Take, ...]:
    """Every take that holds a beat, the one that counts first, and then the newest of the nearest."""
    counts = takes_by_beat(b).get(beat_id)
    holding = [t for t in reversed(b.takes) if any(x.id == beat_id for x in beats_of(b, t))]
    return tuple(sorted(holding, key=lambda t: (t is not counts, -_NEARNESS[t.of])))
