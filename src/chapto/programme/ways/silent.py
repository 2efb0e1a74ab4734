"""Ways out of silences."""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction
from functools import partial

from chapto.document import edit_pacing
from chapto.document.script import words_of
from chapto.programme.sections import span_of
from chapto.programme.ways.way import Trouble, Try, rounded_up


def silent(t: Trouble) -> Iterator[Try]:
    """More silence allowed, or less picture."""
    yield _longer_silence(t)
    yield from _less_picture(t)


def _longer_silence(t: Trouble) -> Try:
    seconds = rounded_up(t.lack.granted)
    change = partial(edit_pacing.allow_more, section_id=t.section.id, silence=seconds)
    return Try("silence", f"Allow {float(seconds):g} s more without words", change, t.weights.pause * float(seconds))


def _less_picture(t: Trouble) -> Iterator[Try]:
    """Picture skipped just before the moment, or what is left after the last word."""
    span = span_of(t.b, t.section)
    if span is None:
        return
    seconds = rounded_up(t.lack.granted) * t.style.base_rate
    stops = [t.b.moment(tie.moment).at for beat in t.section.beats for tie in beat.ties]
    own = next((t.b.moment(tie.moment).at for tie in t.beat.ties if tie.word == t.lack.word), None)
    for end in [span[1]] if own is None or t.lack.word == len(words_of(t.beat.text)) - 1 else []:
        if end - seconds > max(stops, default=span[0]):
            yield Try(
                "end",
                f"End the picture {float(seconds):g} s sooner",
                partial(edit_pacing.skip_span, section_id=t.section.id, start=end - seconds, end=end),
                t.weights.skip * float(seconds),
            )
    if own is not None:
        before = max([s for s in stops if s < own], default=span[0])
        run_up = min(Fraction(1), (own - before) / 4)
        if own - run_up - seconds >= before:
            start = own - run_up - seconds
            skip = partial(edit_pacing.skip_span, section_id=t.section.id, start=start, end=start + seconds)
            price = t.weights.skip * float(seconds) + t.weights.change
            yield Try("skip", f"Skip {float(seconds):g} s of picture before it", skip, price)
