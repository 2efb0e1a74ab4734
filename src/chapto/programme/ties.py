"""Do words and moments meet?"""

from __future__ import annotations

from fractions import Fraction

from chapto.clock.timemap import Showing, TimeMap
from chapto.programme.placed import TieState

EARLIEST = Fraction(4, 10)
"""A tie is met when its moment is on the screen from this long before its word to the end of the word."""
LATE_VOICE, EARLY_VOICE = Fraction(12, 10), Fraction(6, 10)
"""Beyond these lags the tie counts as broken; a voice before its picture is worse than one after it."""


def nearest_showing(time_map: TimeMap, mat: Fraction, said: Fraction, within: tuple[int, int]) -> Fraction | None:
    """The watch second, nearest to `said`, at which `mat` is on the screen in the frames `within` (half-open)."""
    fps = time_map.passages[0].fps
    times = [
        min(max(said, _instant(time_map, mat, s)), max(Fraction(s.end) / fps, _instant(time_map, mat, s)))
        if s.end - s.start > 1
        else _instant(time_map, mat, s)
        for s in time_map.watched_at(mat, within)
        if within[0] <= s.start < within[1]
    ]
    return min(times, key=lambda t: abs(t - said), default=None)


def _instant(time_map: TimeMap, mat: Fraction, showing: Showing) -> Fraction:
    """When a showing starts: for a moving picture the very instant, between frames, that falls on `mat`."""
    p = time_map.passages[showing.passage]
    inside = (mat - p.mat_in) / p.rate if p.rate else Fraction(0)
    return p.watch_in / p.fps + inside


def tie_state(said: Fraction, word_end: Fraction, shown: Fraction | None) -> TieState:
    """Met, late or broken, by the lag `said − shown` and the length of the word."""
    if shown is None:
        return TieState.BROKEN
    if said - EARLIEST <= shown <= word_end:
        return TieState.MET
    return TieState.LATE if -EARLY_VOICE <= said - shown <= LATE_VOICE else TieState.BROKEN
