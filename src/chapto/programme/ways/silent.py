"""Ways out of silences."""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction
from functools import partial

from chapto.document import edit_pacing, edit_script, edit_turns
from chapto.document.breakdown import Breakdown
from chapto.document.script import words_of
from chapto.document.treatments import Pace
from chapto.pacing.spoken import phrase_starts
from chapto.programme.sections import span_of
from chapto.programme.ways.way import MOVED, Trouble, Try, rounded_up


def silent(t: Trouble) -> Iterator[Try]:
    """More silence allowed, less picture, the picture at full speed, or something said."""
    yield _longer_silence(t)
    yield from _less_picture(t)
    yield from _at_full_speed(t)
    say = partial(edit_script.add_beat, section_id=t.section.id, after=t.beat.id)
    yield Try("talk", "Say something more here: a new beat", say, asks=True)


def _longer_silence(t: Trouble) -> Try:
    seconds = rounded_up(t.lack.granted)
    change = partial(edit_pacing.allow_more, section_id=t.section.id, silence=seconds)
    heard = t.style.base_rate == 1
    more = f"{float(seconds):g} s more"
    text = f"Let the gym be heard for {more}" if heard else f"Allow {more} without words"
    return Try("silence", text, change, t.weights.pause * float(seconds))


def _at_full_speed(t: Trouble) -> Iterator[Try]:
    """What is slow throughout run at full speed where nothing is said."""
    if t.style.base_rate >= 1:
        return
    tied = [tie.word for tie in t.beat.ties if tie.word < t.lack.word]
    starts = [w for w in phrase_starts(t.beat.text) if w <= t.lack.word and w > max(tied, default=-1)]
    first = min(starts, default=t.lack.word)
    end = next((w for w in phrase_starts(t.beat.text) if w > t.lack.word), len(words_of(t.beat.text)))

    def run(b: Breakdown) -> Breakdown:
        b = edit_turns.turn_at(b, t.beat.id, first, Pace(Fraction(1)))
        return b if end >= len(words_of(t.beat.text)) else edit_turns.turn_at(b, t.beat.id, end, Pace(Fraction(0)))

    yield Try("1×", "Run it at 1× here, with the sound of the gym", run, MOVED)


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
