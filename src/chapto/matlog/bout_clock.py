"""The bout's own clock: running from the start of a round, standing at stops."""

from __future__ import annotations

from fractions import Fraction

from chapto.document.bout import Round
from chapto.document.breakdown import Breakdown


class BoutClock:
    """Mat time to time gone and time left in the round there."""

    def __init__(self, b: Breakdown) -> None:
        self._rounds, self._stops, self.length = b.rounds, b.ruling.stops, b.ruling.length

    def round_at(self, mat: Fraction) -> Round | None:
        """The round at a mat time; its very end belongs to it."""
        return next((r for r in self._rounds if r.start <= mat <= r.end), None)

    def gone(self, mat: Fraction) -> Fraction:
        """Seconds the clock has run since the round's start; from mat 0 where no round is logged."""
        here = self.round_at(mat)
        start = here.start if here else Fraction(0)
        stood = sum((max(min(s.end, mat) - max(s.start, start), Fraction(0)) for s in self._stops), Fraction(0))
        return max(mat - start - stood, Fraction(0))

    def left(self, mat: Fraction) -> Fraction:
        """Seconds still to run, never below 0."""
        return max(self.length - self.gone(mat), Fraction(0))

    def is_second_half(self, mat: Fraction) -> bool:
        """Whether half of the bout's length has run."""
        return self.gone(mat) >= self.length / 2
