"""A line of care on the picture, once for each class of risk, when a technique of that class is first explained."""

from __future__ import annotations

from collections.abc import Iterable
from fractions import Fraction

from chapto.clock.rates import frames_from_seconds
from chapto.document.bout import Exchange
from chapto.document.breakdown import Breakdown
from chapto.document.script import BeatKind, Part
from chapto.lexicon.lexicon import Lexicon
from chapto.programme.labels import reading_seconds
from chapto.programme.placed import PlacedCaution, PlacedName, PlacedSection, PlacedWord

ADVERTISEMENT = "Advertisement"
ALWAYS = "always"
"""In the place of a class of risk: the line that belongs to all of them."""


def risks_shown(b: Breakdown, lexicon: Lexicon) -> tuple[tuple[str, str], ...]:
    """(section id, class of risk) for the first section that explains each class, in the order of the script."""
    found: dict[str, str] = {}
    for s in b.script:
        for risk in risks_of(b.exchange(s.exchange), lexicon) if s.exchange and s.part is not Part.OPENING else ():
            found.setdefault(risk, s.id)
    return tuple((section, risk) for risk, section in found.items())


def risks_of(x: Exchange, lexicon: Lexicon) -> tuple[str, ...]:
    """The classes of risk of what was done: by the lexicon, else as the creator said."""
    technique = lexicon.technique_named(x.technique)
    if technique is not None:
        return technique.risk
    return (x.risk,) if lexicon.caution(x.risk) else ()


def place_cautions(
    b: Breakdown,
    lexicon: Lexicon,
    sections: tuple[PlacedSection, ...],
    frames: int,
    spoken: Iterable[PlacedWord] = (),
    names: Iterable[PlacedName] = (),
) -> tuple[PlacedCaution, ...]:
    """Each class's sentence from the start of its section for as long as it takes to read, one after another. None
    stands beside a name tag of `names`, as two things at once are not read. The general line, which defers to coach,
    event and law, comes once: in the credits, else at the end.

    While a sponsor's notice is `spoken`, a line says that it is an advertisement, whether cautions are wanted or not.
    """
    if not sections:
        return ()
    fps = b.format.fps
    sold = _advertisements(b, spoken, fps)
    if not b.cautions:
        return sold
    starts = {s.section: s.start for s in sections}
    placed: list[PlacedCaution] = []
    lines = [
        (starts[section], risk, lexicon.caution(risk))
        for section, risk in sorted(risks_shown(b, lexicon), key=lambda row: starts[row[0]])
    ]
    if lines:
        length = frames_from_seconds(reading_seconds(lexicon.always), fps)
        closing = next((starts[s.id] for s in b.script if s.part is Part.CREDITS), max(frames - length, 0))
        lines.append((closing, ALWAYS, lexicon.always))
    for wanted, risk, text in lines:
        start, long = max(wanted, placed[-1].end if placed else 0), frames_from_seconds(reading_seconds(text), fps)
        for tag in sorted(names, key=lambda n: n.start):
            if start < tag.end and start + long > tag.start:
                start = tag.end
        end = min(start + frames_from_seconds(reading_seconds(text), fps), frames)
        if end > start:
            placed.append(PlacedCaution(start, end, risk, text))
    return tuple(sorted((*placed, *sold), key=lambda c: c.start))


def _advertisements(b: Breakdown, spoken: Iterable[PlacedWord], fps: Fraction) -> tuple[PlacedCaution, ...]:
    """From the first word of each sponsor's notice to its last (a paid part has to be told from the rest: common
    practice; the law where you are decides)."""
    sponsored = {beat.id for _, beat in b.beats() if beat.kind is BeatKind.SPONSOR}
    spans: dict[str, tuple[Fraction, Fraction]] = {}
    for word in spoken if sponsored else ():
        if word.beat in sponsored:
            first, _ = spans.get(word.beat, (word.start, word.end))
            spans[word.beat] = first, word.end
    return tuple(
        PlacedCaution(frames_from_seconds(start, fps), frames_from_seconds(end, fps), "advertisement", ADVERTISEMENT)
        for start, end in spans.values()
    )
