"""The figures of one person, drawn: shares with where they truly lie, and how soon they answered month by month."""

from __future__ import annotations

from PyQt6.QtCore import QLineF, QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QColor, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy, QWidget

from chapto.app.theme import number_font, text_font
from chapto.paint.colours import AMBER, INK, INK_SOFT, PAPER_DEEP, PAPER_LINE, SECOND, TIES, see_through
from chapto.paint.lettering import write
from chapto.programme.programme import TieState
from chapto.shelf.dates_said import MONTHS
from chapto.shelf.intervals import Share
from chapto.shelf.person_figures import PersonFigures

ROW, MOST, HIGH = 38.0, 5, 118.0


class FiguresChart(QWidget):
    """Nothing while nobody is chosen."""

    def __init__(self) -> None:
        super().__init__()
        self._figures: PersonFigures | None = None
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setAccessibleName("Figures of the one chosen")

    def show_figures(self, figures: PersonFigures | None) -> None:
        """Show somebody's."""
        self._figures = figures
        self.setFixedHeight(self.sizeHint().height())
        self.setAccessibleDescription(" ".join(figures.sentences()) if figures is not None else "")
        self.update()

    @property
    def _rows(self) -> list[tuple[str, Share]]:
        f = self._figures
        if f is None:
            return []
        rows = [(t.name, t.landed) for t in f.tries[:MOST]]
        return [*rows, ("stops what others try", f.stopped)] if f.stopped.tries else rows

    def sizeHint(self) -> QSize:
        """Rows, and the months under them."""
        f = self._figures
        months = HIGH if f is not None and f.months else 0
        return QSize(240, round(ROW * len(self._rows) + months + (20 if self._rows else 0)))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Both."""
        f = self._figures
        if f is None:
            return
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        for i, (name, s) in enumerate(self._rows):
            self._share(p, QRectF(0, i * ROW, self.width(), ROW), name, s)
        if f.months:
            self._answers(p, QRectF(0, self.height() - HIGH, self.width(), HIGH), f)
        p.end()

    def _share(self, p: QPainter, box: QRectF, name: str, s: Share) -> None:
        """What was counted as a stroke, where the true share lies as a band: wide from few tries."""
        p.setFont(text_font(13))
        write(p, QRectF(box.left(), box.top(), box.width() - 92, 18), name, INK)
        p.setFont(number_font(14, 500))
        write(
            p, QRectF(box.right() - 92, box.top(), 92, 18), f"{s.hits} of {s.tries}", INK, Qt.AlignmentFlag.AlignRight
        )
        bar = QRectF(box.left(), box.top() + 21, box.width(), 9)
        p.fillRect(bar, QColor(PAPER_DEEP))
        p.fillRect(
            QRectF(bar.left() + bar.width() * s.low, bar.top(), bar.width() * (s.high - s.low), bar.height()),
            see_through(TIES[TieState.MET] if s.is_telling else AMBER, 120),
        )
        x = bar.left() + bar.width() * s.hits / max(s.tries, 1)
        p.setPen(QPen(QColor(INK), 2.5))
        p.drawLine(QLineF(x, bar.top() - 2, x, bar.bottom() + 2))

    def _answers(self, p: QPainter, box: QRectF, f: PersonFigures) -> None:
        """Medians with the quarters round them."""
        p.setFont(text_font(12))
        write(
            p,
            QRectF(box.left(), box.top(), box.width(), 18),
            "Seconds to the answer, half of them inside the bar",
            INK_SOFT,
        )
        room = box.adjusted(24, 24, -6, -20)
        highest = max(max(m.high for m in f.months), 1.0)
        for level in (0.0, highest / 2, highest):
            y = room.bottom() - room.height() * level / highest
            p.setPen(QPen(QColor(PAPER_LINE), 1))
            p.drawLine(QLineF(room.left(), y, room.right(), y))
            p.setFont(number_font(12))
            write(p, QRectF(box.left(), y - 9, 22, 18), f"{level:.1f}", INK_SOFT, Qt.AlignmentFlag.AlignRight)
        first = _number(f.months[0].month)
        count = max(_number(f.months[-1].month) - first, 1)
        before: QPointF | None = None
        named = -100.0
        for m in f.months:
            x = room.left() + 10 + (room.width() - 20) * (_number(m.month) - first) / count
            low, mid, high = (room.bottom() - room.height() * v / highest for v in (m.low, m.median, m.high))
            p.setPen(QPen(see_through(SECOND, 110), 9, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
            p.drawLine(QLineF(x, low, x, high))
            if before is not None:
                p.setPen(QPen(QColor(SECOND), 1.6))
                p.drawLine(before, QPointF(x, mid))
            before = QPointF(x, mid)
            p.setPen(Qt.PenStyle.NoPen)
            p.setBrush(QColor(INK))
            p.drawEllipse(before, 3, 3)
            if x - named < 28:
                continue
            named = x
            p.setFont(text_font(11))
            name = MONTHS[int(m.month[5:]) - 1].title()[:3]
            write(p, QRectF(x - 18, room.bottom() + 3, 36, 16), name, INK_SOFT, Qt.AlignmentFlag.AlignHCenter)


def _number(month: str) -> int:
    return int(month[:4]) * 12 + int(month[5:])
