"""Ways out of a programme that is longer than it may be."""

from __future__ import annotations

import math
from collections.abc import Iterator
from functools import partial

from chapto.document import edit_breakdown, edit_script
from chapto.programme.angles import AngleTrack
from chapto.programme.section_styles import Styles
from chapto.programme.sections import fit_script, loads_of
from chapto.programme.ways.fewer_words import fewer_words
from chapto.programme.ways.way import MOVED, Trouble, Try


def too_long(t: Trouble, styles: Styles) -> Iterator[Try]:
    """A longer video, fewer words, or less round the talk."""
    yield from _longer_video(t, styles)
    yield from fewer_words(t, t.over, until=None)
    yield from without_round_it(t)


def _longer_video(t: Trouble, styles: Styles) -> Iterator[Try]:
    """The limit moved, or taken as a wish."""
    natural = fit_script(edit_breakdown.set_target(t.b, 0), t.lines, styles, AngleTrack(t.b))
    loads = loads_of(t.b, [part.seconds for part in natural])
    share = loads[t.script.index(t.section)] / sum(loads)
    more = math.ceil(t.lack.granted / share) + 1
    longer = partial(edit_breakdown.set_target, seconds=math.ceil(t.b.target) + more, limit=True)
    yield Try("longer", f"Let the whole be {more} s longer", longer, t.weights.length * more)
    wish = partial(edit_breakdown.set_target, seconds=math.ceil(t.b.target), limit=False)
    yield Try("wish", "Take the length as a wish, not as a limit", wish, MOVED)


def without_round_it(t: Trouble) -> Iterator[Try]:
    """Without what is shown before or after the talk."""
    change = partial(edit_script.change_section, section_id=t.section.id)
    if t.section.once_more:
        yield Try(
            "once more", "Leave out the exchange once more after the talk", partial(change, once_more=False), MOVED
        )
    if t.section.show_first:
        yield Try("first", "Leave out the exchange before the talk", partial(change, show_first=False), MOVED)
