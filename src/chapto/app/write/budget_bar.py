"""Words against picture, as two thin lines."""

from __future__ import annotations

from PyQt6.QtCore import QRectF
from PyQt6.QtGui import QColor, QPainter, QPaintEvent
from PyQt6.QtWidgets import QWidget

from chapto.clock.passage import Kind
from chapto.paint.colours import INK_SOFT, PASSAGES
from chapto.programme.budget import Budget


class BudgetBar(QWidget):
    """Words against picture: the upper line is speech, the lower what the picture does meanwhile."""

    FULL = 14.0

    def __init__(self) -> None:
        super().__init__()
        self._budget: Budget | None = None
        self.setFixedSize(92, 12)

    def show_budget(self, budget: Budget | None) -> None:
        """Seconds of this beat."""
        self._budget = budget
        if budget:
            self.setToolTip(
                f"{float(budget.said):.1f} s of words; the picture moves {float(budget.running):.1f} s "
                f"and stands {float(budget.held):.1f} s"
            )
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Two thin lines on one scale."""
        if self._budget is None:
            return
        painter = QPainter(self)
        most = max(self.FULL, float(self._budget.said), float(self._budget.running + self._budget.held))
        unit = self.width() / most
        painter.fillRect(QRectF(0, 1, float(self._budget.said) * unit, 3), QColor(INK_SOFT))
        run = float(self._budget.running) * unit
        painter.fillRect(QRectF(0, 6, run, 5), QColor(PASSAGES[Kind.RUN]))
        painter.fillRect(QRectF(run, 6, float(self._budget.held) * unit, 5), QColor(PASSAGES[Kind.HOLD]))
        painter.end()
