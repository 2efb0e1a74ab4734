"""A mixed-integer linear programme while it is written down, and its solution."""

from __future__ import annotations

import warnings
from collections.abc import Sequence
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from chapto.pacing.styles import PacingError

if TYPE_CHECKING:
    from scipy.sparse import coo_array

QUICK = {"presolve": False, "mip_heuristic_run_feasibility_jump": False}
"""Measured: programmes of a few hundred variables take a third of the time without being simplified first. The search
for any solution at all is left out too, as there always is one. `milp` warns that it hands the second on unread."""
warnings.filterwarnings("ignore", "Unrecognized options detected", RuntimeWarning)


class MilpModel:
    """Variables and rows of a programme while it is written down."""

    def __init__(self) -> None:
        self.cost: list[float] = []
        self.low: list[float] = []
        self.high: list[float] = []
        self.whole: list[int] = []
        self._places: list[tuple[int, int, float]] = []
        self._from: list[float] = []
        self._to: list[float] = []
        self.constant = 0.0

    def variable(self, cost: float = 0.0, high: float = np.inf, *, whole: bool = False) -> int:
        """A new variable from 0 to `high`; its number."""
        self.cost.append(cost)
        self.low.append(0.0)
        self.high.append(high)
        self.whole.append(int(whole))
        return len(self.cost) - 1

    def row(self, terms: Sequence[tuple[int, float]], low: float = -np.inf, high: float = np.inf) -> None:
        """`low ≤ Σ factor·variable ≤ high`."""
        self._places += [(len(self._from), number, factor) for number, factor in terms]
        self._from.append(low)
        self._to.append(high)

    def matrix(self) -> coo_array:
        """All rows."""
        from scipy.sparse import coo_array

        rows, columns, factors = zip(*self._places, strict=True)
        return coo_array((factors, (rows, columns)), shape=(len(self._from), len(self.cost)))

    def solve(self) -> NDArray[np.float64]:
        """The values of the best solution; there is one, as every limit has a costly way round.

        With the quick options the solver gives up on a few very short programmes that it solves without them. Raises
        `PacingError` when it does so either way.
        """
        from scipy.optimize import Bounds, LinearConstraint, milp

        message = ""
        for options in (QUICK, {}):
            found = milp(
                np.array(self.cost),
                constraints=LinearConstraint(self.matrix(), np.array(self._from), np.array(self._to)),
                bounds=Bounds(np.array(self.low), np.array(self.high)),
                integrality=np.array(self.whole),
                options={"mip_rel_gap": 0.0, **options},
            )
            if found.x is not None:
                return np.asarray(found.x)
            message = str(found.message)
        raise PacingError(f"Voice and picture could not be fitted here; the solver says: {message}")
