"""What one press can do: the ways out that are tried before they are offered, and edits of words."""

from __future__ import annotations

from collections.abc import Collection, Mapping
from functools import partial

from chapto.document import edit_script
from chapto.document.breakdown import Breakdown
from chapto.pacing.fitted import Lack
from chapto.pacing.spoken import SpokenLine
from chapto.programme.section_styles import Styles
from chapto.programme.ways.find import Finder, lines_of, ways_out
from chapto.review.finding import Mend, Mended, mend_by
from chapto.review.limits import ReviewError
from chapto.review.reviewed import Reviewed

NO_WAY = "Nothing Chapto can do by itself helps here: change the words, or what the picture does under them."


def best_way(r: Reviewed, beat: str, lacks: Collection[Lack], *, word: int | None = None) -> Mend:
    """The cheapest way out of what does not fit at a beat, as Write offers it."""
    known = r.programme.known
    make = partial(_out, r.voices, known.styles, beat, frozenset(lacks), word)
    return Mend("Take the best way out", make, slow=True)


def write_instead(beat: str, first: int, end: int, text: str) -> Mend:
    """The words `first … end` (half-open) of a beat written as `text`."""
    change = partial(edit_script.replace_words, beat_id=beat, first=first, end=end, text=text)
    return mend_by(f"Write “{text}”", change)


def _out(
    voices: Mapping[str, SpokenLine],
    styles: Styles,
    beat: str,
    lacks: frozenset[Lack],
    word: int | None,
    b: Breakdown,
) -> Mended:
    finder = Finder(b, lines_of(b, voices), styles)
    found = finder.lacks(b, finder.fitted(b, finder.lines), finder.lines)
    here = [s for part in found for s in part if s.beat == beat and s.lack in lacks]
    # The word may have moved since it was found; the beat is the same.
    here.sort(key=lambda s: s.word != word)
    for shortfall in here:
        for way in ways_out(b, shortfall, voices, styles=styles):
            if not way.asks:
                return Mended(way.change(b), way.text)
    raise ReviewError(NO_WAY)
