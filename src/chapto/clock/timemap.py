"""The map between mat time and watch time."""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from dataclasses import dataclass
from fractions import Fraction

import numpy as np
from numpy.typing import NDArray

from chapto.clock.passage import STILL, Passage
from chapto.clock.rates import ClockError


@dataclass(frozen=True, slots=True)
class Showing:
    """Watch frames `start ≤ f < end` during which a mat time is on the screen, in passage `passage`."""

    start: int
    end: int
    passage: int


class TimeMap:
    """`mat_at` has one answer for every frame; `watched_at` may have none (skipped) or several (again)."""

    def __init__(
        self, passages: tuple[Passage, ...], edges: tuple[NDArray[np.float64], NDArray[np.float64]] | None = None
    ) -> None:
        at = 0
        for p in passages:
            if p.watch_in != at:
                raise ClockError(f"Passages must follow one another: one starts at {p.watch_in}, not {at}.")
            at = p.watch_out
        self.passages = passages
        self.frames = at
        self._starts = [p.watch_in for p in passages]
        self._low, self._high = self.edges_of(passages) if edges is None else edges

    @staticmethod
    def edges_of(passages: tuple[Passage, ...]) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
        """The lowest and the highest mat seconds of each passage, (n,) each; handed in where they are known already."""
        ends = np.array([(float(p.mat_in), float(p.mat_out)) for p in passages]).reshape(-1, 2)
        return ends.min(axis=1), ends.max(axis=1)

    def index_at(self, frame: int) -> int:
        """Number of the passage that shows `frame`."""
        if not 0 <= frame < self.frames:
            raise ClockError(f"Frame {frame} lies outside the programme of {self.frames} frames.")
        return bisect_right(self._starts, frame) - 1

    def passage_at(self, frame: int) -> Passage:
        """The passage that shows `frame`."""
        return self.passages[self.index_at(frame)]

    def mat_at(self, frame: int) -> Fraction:
        """Mat time on the screen at `frame`."""
        return self.passage_at(frame).mat_at(frame)

    def watched_at(self, mat: Fraction, within: tuple[int, int] | None = None) -> tuple[Showing, ...]:
        """Every showing of `mat`, in watch order; `within` looks only into passages that begin in those frames
        (half-open).

        A moving passage shows it in the frame whose stretch of mat time contains it; a held one shows it for
        its whole length when it holds exactly there. Cards show no mat time.
        """
        near = float(mat)
        slack = 1e-6 + abs(near) * 1e-12
        found = []
        first, end = (bisect_left(self._starts, frame) for frame in within or (0, self.frames))
        inside = (self._low[first:end] <= near + slack) & (self._high[first:end] >= near - slack)
        for i in np.flatnonzero(inside) + first:
            p = self.passages[i]
            if p.kind in STILL:
                if p.footage and p.mat_in == mat:
                    found.append(Showing(p.watch_in, p.watch_out, int(i)))
            elif p.mat_in <= mat < p.mat_out if p.rate > 0 else p.mat_out < mat <= p.mat_in:
                frame = p.watch_in + int((mat - p.mat_in) * p.fps / p.rate)
                found.append(Showing(frame, frame + 1, int(i)))
        return tuple(found)
