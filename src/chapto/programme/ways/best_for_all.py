"""The best way out of everything of one kind that does not fit."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass

from chapto.document.breakdown import Breakdown
from chapto.pacing.fitted import Lack
from chapto.pacing.offers import Peak
from chapto.pacing.styles import house_styles
from chapto.programme.compile import Voices
from chapto.programme.section_styles import Styles
from chapto.programme.ways.find import Finder, lines_of
from chapto.programme.ways.way import WayOut

LOOKED_AT = 3
"""Ways that are tried for one of another kind than the last."""


@dataclass(frozen=True)
class AllTaken:
    """A document after the best ways out: how many were `taken`, and how many shortfalls are `left` without one."""

    breakdown: Breakdown
    taken: int
    left: int


def best_for_all(
    b: Breakdown,
    voices: Voices,
    *,
    lack: Lack = Lack.STILL,
    styles: Styles | None = None,
    peak: Peak | None = None,
    progress: Callable[[float], object] = lambda share: None,
    stopped: Callable[[], bool] = lambda: False,
) -> AllTaken:
    """`b` after the best way out of every shortfall of one kind, in order: the first that leads out. One of another
    kind than the last is preferred, so that the same is not done twice in a row. What was stopped keeps what was done.
    """
    finder = Finder(b, lines_of(b, voices), styles or house_styles(), peak)
    hopeless: set[tuple[str, int]] = set()
    taken, last, begun = 0, "", 0
    while not stopped():
        lacks = finder.lacks(finder.b, finder.fitted(finder.b, finder.lines), finder.lines)
        still_open = [s for part in lacks for s in part if s.lack is lack and (s.beat, s.word) not in hopeless]
        begun = max(begun, len(still_open))
        progress(1 - len(still_open) / begun if begun else 1.0)
        if not still_open:
            break
        way = _first(finder.ways(still_open[0]), last)
        if way is None:
            hopeless.add((still_open[0].beat, still_open[0].word))
            continue
        changed = way.change(finder.b)
        finder = Finder(changed, lines_of(changed, finder.lines), finder.styles, peak)
        taken, last = taken + 1, way.family
    return AllTaken(finder.b, taken, len(hopeless))


def _first(ways: Iterator[WayOut], last: str) -> WayOut | None:
    first = None
    for number, way in enumerate((w for w in ways if not w.asks), 1):
        if way.family != last:
            return way
        first = first or way
        if number == LOOKED_AT:
            break
    return first
