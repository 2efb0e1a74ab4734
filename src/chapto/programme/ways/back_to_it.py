"""Ways out where the picture is past a moment, or elsewhere."""

from __future__ import annotations

import math
from collections.abc import Iterator
from fractions import Fraction
from functools import partial

from chapto.document import edit_script
from chapto.document.treatments import Again, Hold
from chapto.programme.ways.let_go import let_go
from chapto.programme.ways.way import MOVED, Trouble, Try


def back_to_it(t: Trouble) -> Iterator[Try]:
    """The picture goes again from before the moment, holds on it, or the beat comes before the one above."""
    back = Fraction(math.ceil(t.lack.seconds) + 1)
    treat = partial(edit_script.treat, beat_id=t.beat.id)
    for rate in (Fraction(1, 2), Fraction(1)):
        again = Again(back, rate)
        text = f"Let it go again from {back} s back at {float(rate):g}×"
        yield Try("again", text, partial(treat, treatment=again), MOVED)
    moment = next((tie.moment for tie in t.beat.ties if tie.word == t.lack.word), "")
    if moment:
        yield Try("hold on", "Hold on that moment", partial(treat, treatment=Hold(moment)), MOVED)
    if t.section.beats[0] is not t.beat:
        yield Try(
            "order", "Say it before the beat above", partial(edit_script.move_beat, beat_id=t.beat.id, by=-1), MOVED
        )
    yield from let_go(t)
