"""The months of a shelf on one line: every breakdown stands on its day, those that fit what is looked for light up."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date

from PyQt6.QtCore import QLineF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QWidget

from chapto.app.theme import number_font, text_font
from chapto.paint.colours import FIRST, ON_DARK_SOFT, SPRUCE, SPRUCE_LIGHT, SPRUCE_LINE
from chapto.paint.lettering import write
from chapto.shelf.dates_said import MONTHS

EDGE, HIGH = 18.0, 66


@dataclass(frozen=True)
class Stood:
    """A breakdown on its day, with how many of its places were found."""

    day: date
    title: str
    found: int


class MonthsStrip(QWidget):
    """`pressed` carries a month as `2026-03`."""

    pressed = pyqtSignal(str)

    def __init__(self) -> None:
        super().__init__()
        self._stood: list[Stood] = []
        self.setFixedHeight(HIGH)
        self.setMouseTracking(True)
        self.setAccessibleName("The months of the shelf")

    def show_breakdowns(self, stood: list[Stood]) -> None:
        """Show these."""
        self._stood = sorted(stood, key=lambda s: s.day)
        self.update()

    @property
    def months(self) -> list[tuple[int, int]]:
        """Year and month from the first to the last, three at least."""
        if not self._stood:
            return []
        first, last = self._stood[0].day, self._stood[-1].day
        start, end = first.year * 12 + first.month - 1, last.year * 12 + last.month - 1
        start = min(start, end - 2)
        return [(m // 12, m % 12 + 1) for m in range(start, end + 1)]

    def x_of(self, day: date) -> float:
        """Where a day stands."""
        months = self.months
        at = day.year * 12 + day.month - 1 - (months[0][0] * 12 + months[0][1] - 1) + (day.day - 1) / 31
        return EDGE + at * self._unit

    @property
    def _unit(self) -> float:
        return (self.width() - 2 * EDGE) / max(len(self.months), 1)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Months, years where they begin, and a stroke for each breakdown."""
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        p.fillRect(self.rect(), QColor(SPRUCE))
        months, unit = self.months, self._unit
        every = max(int(-(-34 // unit)), 1) if months else 1
        for i, (year, month) in enumerate(months):
            x = EDGE + i * unit
            if i % 2 == 0:
                p.fillRect(QRectF(x, 0, unit, HIGH), QColor(SPRUCE_LIGHT))
            if i % every == 0:
                p.setFont(text_font(12))
                name = MONTHS[month - 1].title()
                said = f"{name[:3]} {year}" if (month == 1 or i == 0) and unit * every > 58 else name[:3]
                write(p, QRectF(x + 5, HIGH - 21, unit * every - 6, 18), said, ON_DARK_SOFT)
        base = HIGH - 25.0
        p.setPen(QPen(QColor(SPRUCE_LINE), 1))
        p.drawLine(QLineF(EDGE, base, self.width() - EDGE, base))
        highest = max((s.found for s in self._stood), default=1)
        p.setFont(number_font(12, 500))
        for s in self._stood:
            x = self.x_of(s.day)
            p.setPen(
                QPen(QColor(FIRST if s.found else SPRUCE_LINE), 3.5, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap)
            )
            p.drawLine(QLineF(x, base - 3, x, base - 8 - 22 * (s.found / highest if s.found else 0.12)))
        p.end()

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        """What stands under the pointer is named."""
        assert event is not None
        near = [s for s in self._stood if abs(self.x_of(s.day) - event.position().x()) < 5]
        names = [f"{s.day.isoformat()}  {s.title}" + (f": {s.found}" if s.found else "") for s in near]
        self.setToolTip("\n".join(names[:8]))

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Only that month."""
        assert event is not None
        number = int((event.position().x() - EDGE) // self._unit) if self._stood else -1
        if 0 <= number < len(self.months):
            year, month = self.months[number]
            self.pressed.emit(f"{year}-{month:02d}")
