"""Ways out where the words outlast their exchange."""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction
from functools import partial

from chapto.document import edit_pacing
from chapto.document.bounds import LONGEST_WAIT
from chapto.programme.ways.fewer_words import fewer_words
from chapto.programme.ways.late import slower
from chapto.programme.ways.let_go import let_go
from chapto.programme.ways.still import after_the_word, shown_again
from chapto.programme.ways.way import Trouble, Try, rounded_up

AGAIN, HOLD = 1.0, 3.0
"""Points for showing something again, and for a longer hold."""


def beyond(t: Trouble) -> Iterator[Try]:
    """Run again or looped under the last words, held longer, slower, or fewer words."""
    for words in after_the_word(t):
        yield from shown_again(t, words, AGAIN)
    yield from slower(t)
    hold = min(rounded_up(t.lack.granted), Fraction(LONGEST_WAIT))
    yield Try(
        "hold",
        f"Hold up to {float(hold):g} s longer here",
        partial(edit_pacing.allow_more, section_id=t.section.id, hold=hold),
        HOLD + t.weights.hold * float(hold),
    )
    yield from fewer_words(t, float(t.lack.seconds), until=None)
    yield from let_go(t)
