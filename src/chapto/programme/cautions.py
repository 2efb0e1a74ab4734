"""A line of care on the picture, once for each class of risk, when a technique of that class is first explained."""

from __future__ import annotations

from chapto.clock.rates import frames_from_seconds
from chapto.document.breakdown import Breakdown
from chapto.document.script import Part
from chapto.lexicon.lexicon import Lexicon
from chapto.programme.labels import reading_seconds
from chapto.programme.placed import PlacedCaution, PlacedSection

ALWAYS = "always"
"""In the place of a class of risk: the line that belongs to all of them."""


def risks_shown(b: Breakdown, lexicon: Lexicon) -> tuple[tuple[str, str], ...]:
    """(section id, class of risk) for the first section that explains each class, in the order of the script."""
    found: dict[str, str] = {}
    for s in b.script:
        technique = lexicon.technique_named(b.exchange(s.exchange).technique) if s.exchange else None
        for risk in technique.risk if technique is not None and s.part is not Part.OPENING else ():
            found.setdefault(risk, s.id)
    return tuple((section, risk) for risk, section in found.items())


def place_cautions(
    b: Breakdown, lexicon: Lexicon, sections: tuple[PlacedSection, ...], frames: int
) -> tuple[PlacedCaution, ...]:
    """Each class's sentence from the start of its section for as long as it takes to read, one after another. The
    general line, which defers to coach, event and law, comes once: in the credits, else at the end."""
    if not b.cautions or not sections:
        return ()
    fps = b.format.fps
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
        start = max(wanted, placed[-1].end if placed else 0)
        end = min(start + frames_from_seconds(reading_seconds(text), fps), frames)
        if end > start:
            placed.append(PlacedCaution(start, end, risk, text))
    return tuple(placed)
