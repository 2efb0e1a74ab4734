"""Which take speaks which beat."""

from __future__ import annotations

from collections.abc import Iterable
from fractions import Fraction

from chapto.document.breakdown import Breakdown
from chapto.document.script import Beat
from chapto.document.takes import Take, TakeOf

_NEARNESS = {TakeOf.BEAT: 3, TakeOf.SECTION: 2, TakeOf.WHOLE: 1, TakeOf.NOTHING: 0}

SLOWEST, FASTEST = Fraction(1, 2), Fraction(2)


def beats_of(b: Breakdown, take: Take) -> tuple[Beat, ...]:
    """The beats with words that `take` is a recording of, in the order of the script."""
    if take.of is TakeOf.NOTHING:
        return ()
    return tuple(
        beat
        for section in b.script
        if take.of is not TakeOf.SECTION or section.id == take.subject
        for beat in section.beats
        if take.of is not TakeOf.BEAT or beat.id == take.subject
        if _can_say(b, take, beat)
    )


def _can_say(b: Breakdown, take: Take, beat: Beat) -> bool:
    return bool(beat.text.strip()) and take.narrator in ("", b.narrator(beat).id)


def takes_by_beat(b: Breakdown) -> dict[str, Take]:
    """The take that counts for each beat that has one, by the beat's id. It goes through the script once, since it is
    asked after every edit."""
    if b.guide_only or not b.takes:
        return {}
    about: dict[tuple[TakeOf, str], list[Take]] = {}
    for take in b.takes:
        if take.chosen and take.of is not TakeOf.NOTHING:
            about.setdefault((take.of, "" if take.of is TakeOf.WHOLE else take.subject), []).append(take)
    found: dict[str, Take] = {}
    for section, beat in b.beats():
        for of, subject in ((TakeOf.BEAT, beat.id), (TakeOf.SECTION, section.id), (TakeOf.WHOLE, "")):
            counts = next((t for t in reversed(about.get((of, subject), ())) if _can_say(b, t, beat)), None)
            if counts is not None:
                found[beat.id] = counts
                break
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
    section, beat = b.find_beat(beat_id)
    subjects = {TakeOf.BEAT: beat_id, TakeOf.SECTION: section.id}
    holding = [
        t
        for t in reversed(b.takes)
        if t.of is not TakeOf.NOTHING and subjects.get(t.of, t.subject) == t.subject and _can_say(b, t, beat)
    ]
    counts = takes_by_beat(b).get(beat_id)
    return tuple(sorted(holding, key=lambda t: (t is not counts, -_NEARNESS[t.of])))
