"""Ways out where words come after the picture."""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction
from functools import partial

from chapto.document import edit_pacing
from chapto.pacing.fitted import Lack
from chapto.pacing.styles import allowing
from chapto.programme.angles import AngleTrack
from chapto.programme.sections import slowest_camera, span_of
from chapto.programme.ways.fewer_words import fewer_words
from chapto.programme.ways.let_go import let_go
from chapto.programme.ways.way import Trouble, Try, rounded_up

RATES = (Fraction(3, 4), Fraction(1, 2), Fraction(3, 8), Fraction(1, 4))
STEPS = 1.0
"""Points for each new picture a second that a slower rate lacks to the style's smoothest."""


def late(t: Trouble) -> Iterator[Try]:
    """Slower, a longer hold, fewer words, or the word untied."""
    yield from slower(t)
    yield _longer_hold(t)
    yield from fewer_words(t, float(t.lack.seconds), until=t.lack.word)
    yield from let_go(t)


def slower(t: Trouble) -> Iterator[Try]:
    """A rate the style does not use, or that the footage is not smooth enough for."""
    span = span_of(t.b, t.section)
    fps = slowest_camera(AngleTrack(t.b), *span) if span else None
    used = allowing(t.style, t.section.allow, fps).rates
    for rate in RATES:
        if rate < t.style.base_rate and rate not in used:
            new = None if fps is None else rate * fps
            steps = new is not None and new < t.style.smoothest
            note = f", though it steps at {float(new):.3g} new pictures a second" if steps and new is not None else ""
            price = STEPS * float(t.style.smoothest - new) if steps and new is not None else 0.0
            yield Try(
                "slower",
                f"Let it run at {float(rate):g}× here{note}",
                partial(edit_pacing.allow_more, section_id=t.section.id, rate=rate),
                price,
            )


def _longer_hold(t: Trouble) -> Try:
    """All that has come about up to the late word."""
    places = [(x.id, s.word) for x in t.section.beats for s in t.others if s.beat == x.id]
    until = places.index((t.lack.beat, t.lack.word)) if (t.lack.beat, t.lack.word) in places else len(places)
    so_far = [s.granted for s in t.others if s.lack is Lack.LATE and (s.beat, s.word) in places[: until + 1]]
    seconds = rounded_up(max(sum(so_far, Fraction(0)), t.lack.granted))
    change = partial(edit_pacing.allow_more, section_id=t.section.id, hold=seconds)
    return Try("hold", f"Hold up to {float(seconds):g} s longer here", change)
