"""Lining a file up by hand: pairs of the same moment, and what they say of offset and drift. Free of Qt."""

from __future__ import annotations

from dataclasses import dataclass, replace
from fractions import Fraction

from chapto.document.footage import Footage

FAR_ENOUGH = Fraction(10)
"""Seconds two pairs have to lie apart to tell a drift: nearer, a picture's length would be taken for one."""
Pair = tuple[Fraction, Fraction]


@dataclass(frozen=True)
class LineUp:
    """The reference shows `mat`; the file shows its second `seconds`. `pairs` are (mat, seconds) of one moment."""

    file: Footage
    mat: Fraction
    seconds: Fraction
    pairs: tuple[Pair, ...] = ()

    def at(self, mat: Fraction) -> LineUp:
        """Both moved along, so that the reference shows `mat`."""
        seconds = self.seconds + (mat - self.mat) / (1 + self.file.drift)
        return replace(self, mat=mat, seconds=self._inside(seconds))

    def slid(self, by: Fraction) -> LineUp:
        """The file alone moved by so many seconds."""
        return replace(self, seconds=self._inside(self.seconds + by))

    def same_moment(self) -> LineUp:
        """What both show is one moment. Of several pairs the first and the newest that lie far apart count."""
        first = next((p for p in self.pairs if abs(p[1] - self.seconds) >= FAR_ENOUGH), None)
        pair = (self.mat, self.seconds)
        return replace(self, pairs=(first, pair) if first else (pair,))

    def placement(self) -> tuple[Fraction, Fraction] | None:
        """(offset, drift) by the pairs: one sets the offset, two the drift as well; None without any."""
        if not self.pairs:
            return None
        drift = self.file.drift
        (mat, seconds), *_ = self.pairs
        if len(self.pairs) == 2:
            other = self.pairs[1]
            drift = (other[0] - mat) / (other[1] - seconds) - 1
        return (mat - (1 + drift) * seconds).limit_denominator(10**6), drift.limit_denominator(10**9)

    def _inside(self, seconds: Fraction) -> Fraction:
        last = max(self.file.duration - Fraction(1, 100), Fraction(0))
        return min(max(seconds, Fraction(0)), last).limit_denominator(10**6)
