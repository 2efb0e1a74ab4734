"""The plan as weeks: days with the hours that are free, and videos on the day they go out, moved by dragging."""

from __future__ import annotations

from datetime import date, timedelta

from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QWidget

from chapto.app.theme import number_font, text_font
from chapto.paint.colours import (
    AMBER,
    DEEP,
    FIRST,
    INK,
    ON_DARK_SOFT,
    PAPER,
    PAPER_DEEP,
    SPRUCE,
    SPRUCE_LIGHT,
    TIES,
)
from chapto.paint.lettering import write
from chapto.programme.programme import TieState
from chapto.shelf.book import Planned
from chapto.shelf.dates_said import MONTHS
from chapto.shelf.weeks import Day, Load

HEAD, SIDE, GAP = 30.0, 54.0, 4.0
DAYS = ("Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun")


class WeeksChart(QWidget):
    """`moved` carries the id of a planned video and its new day; `chosen` an id, empty for none. `asked` carries a day
    that was pressed twice, `freed` a weekday and by how many hours more are free on it."""

    moved = pyqtSignal(str, object)
    chosen = pyqtSignal(str)
    asked = pyqtSignal(object)
    freed = pyqtSignal(int, float)

    def __init__(self) -> None:
        super().__init__()
        self.weeks: tuple[tuple[Day, ...], ...] = ()
        self._loads: dict[str, Load] = {}
        self.current = ""
        self._today = date.today()
        self._held: tuple[str, QPointF] | None = None
        self._at = QPointF()
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setProperty("ownKeys", True)
        self.setMinimumSize(480, 360)
        self.setAccessibleName("The plan")

    def show_plan(self, weeks: tuple[tuple[Day, ...], ...], loads: tuple[Load, ...], today: date) -> None:
        """Show weeks, and whether the hours suffice."""
        self.weeks, self._loads, self._today = weeks, {x.planned.id: x for x in loads}, today
        ids = [p.id for w in weeks for d in w for p in d.planned]
        if self.current not in ids:
            self.current = ids[0] if ids else ""
        self.update()
        self.chosen.emit(self.current)

    def cell(self, week: int, day: int) -> QRectF:
        """Where a day stands."""
        wide = (self.width() - SIDE - GAP) / 7
        high = (self.height() - HEAD - GAP) / max(len(self.weeks), 1)
        return QRectF(SIDE + day * wide, HEAD + week * high, wide, high).adjusted(0, 0, -GAP, -GAP)

    def slip(self, planned: str) -> QRectF | None:
        """Where a planned video stands."""
        for w, week in enumerate(self.weeks):
            for d, day in enumerate(week):
                for i, one in enumerate(day.planned):
                    if one.id == planned:
                        return self._slip_in(self.cell(w, d), i, len(day.planned))
        return None

    # ── painting ─────────────────────────────────────────────────────────────────────────────────────────────
    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Days, and slips of paper on them; the one that is held follows the pointer."""
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        p.fillRect(self.rect(), QColor(DEEP))
        p.setFont(text_font(12, 600))
        for d, name in enumerate(DAYS):
            box = self.cell(0, d)
            write(p, QRectF(box.left(), 4, box.width(), HEAD - 6), name, ON_DARK_SOFT, Qt.AlignmentFlag.AlignCenter)
        for w, week in enumerate(self.weeks):
            self._week(p, w, week)
        if self._held is not None and (held := self.slip(self._held[0])) is not None:
            one = next(x for week in self.weeks for d in week for x in d.planned if x.id == self._held[0])
            self._slip(p, held.translated(self._at - self._held[1]), one)
        p.end()

    def _week(self, p: QPainter, w: int, week: tuple[Day, ...]) -> None:
        first = week[0].day
        box = self.cell(w, 0)
        p.setFont(number_font(13))
        text = f"{MONTHS[first.month - 1].title()[:3]} {first.day}"
        write(p, QRectF(8, box.top() + 4, SIDE - 12, 18), text, ON_DARK_SOFT)
        for d, day in enumerate(week):
            box = self.cell(w, d)
            past = day.day < self._today
            p.fillRect(box, QColor(DEEP if past else SPRUCE_LIGHT if day.free else SPRUCE))
            if day.day == self._today:
                p.setPen(QPen(QColor(FIRST), 2))
                p.setBrush(Qt.BrushStyle.NoBrush)
                p.drawRect(box.adjusted(1, 1, -1, -1))
            p.setFont(number_font(13))
            write(p, box.adjusted(7, 3, 0, 0).adjusted(0, 0, 0, -(box.height() - 20)), str(day.day.day), ON_DARK_SOFT)
            if day.free:
                free = QRectF(box.right() - 44, box.top() + 3, 38, 17)
                write(p, free, f"{day.free:g} h", ON_DARK_SOFT, Qt.AlignmentFlag.AlignRight)
            for i, one in enumerate(day.planned):
                if self._held is None or self._held[0] != one.id:
                    self._slip(p, self._slip_in(box, i, len(day.planned)), one)

    def _slip(self, p: QPainter, box: QRectF, one: Planned) -> None:
        load = self._loads.get(one.id)
        late = not one.done and date.fromisoformat(one.day) < self._today
        short = load is not None and load.missing > 0
        p.setPen(QPen(QColor(FIRST), 2.5) if one.id == self.current else Qt.PenStyle.NoPen)
        p.setBrush(QColor(PAPER_DEEP if one.done else PAPER))
        p.drawRoundedRect(box, 3, 3)
        p.setPen(Qt.PenStyle.NoPen)
        colour = (
            TIES[TieState.MET]
            if one.done
            else TIES[TieState.BROKEN]
            if late
            else AMBER
            if short
            else TIES[TieState.MET]
        )
        p.setBrush(QColor(colour))
        p.drawRect(QRectF(box.left(), box.top() + 3, 4, box.height() - 6))
        p.setFont(text_font(12, 600))
        p.setPen(QColor(INK))
        words = box.adjusted(10, 4, -5, -4)
        p.drawText(
            words, Qt.TextFlag.TextWordWrap | Qt.AlignmentFlag.AlignTop, ("✓ " if one.done else "") + one.subject
        )

    def _slip_in(self, cell: QRectF, number: int, count: int) -> QRectF:
        room = cell.adjusted(5, 21, -5, -5)
        high = room.height() / max(count, 1)
        return QRectF(room.left(), room.top() + number * high, room.width(), high - 2)

    # ── dragging ─────────────────────────────────────────────────────────────────────────────────────────────
    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Take hold of a slip."""
        assert event is not None
        self.setFocus()
        hit = self._slip_at(event.position())
        if hit:
            self.current, self._held, self._at = hit, (hit, event.position()), event.position()
            self.chosen.emit(hit)
        self.update()

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        """It follows."""
        assert event is not None
        if self._held is not None:
            self._at = event.position()
            self.update()

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        """It stays where it is let go, on a day that is still to come."""
        assert event is not None
        held, self._held = self._held, None
        day = self._day_at(event.position())
        if held is not None and day is not None and day >= self._today:
            self.moved.emit(held[0], day)
        self.update()

    def mouseDoubleClickEvent(self, event: QMouseEvent | None) -> None:
        """A day that is pressed twice asks for a video."""
        assert event is not None
        day = self._day_at(event.position())
        if day is not None and day >= self._today and not self._slip_at(event.position()):
            self.asked.emit(day)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Arrows go among slips; with Alt they move it by a day or a week; `+` and `−` free hours of its weekday."""
        assert event is not None
        step = {Qt.Key.Key_Right: 1, Qt.Key.Key_Left: -1, Qt.Key.Key_Down: 7, Qt.Key.Key_Up: -7}.get(
            Qt.Key(event.key())
        )
        one = next((p for w in self.weeks for d in w for p in d.planned if p.id == self.current), None)
        alt = event.modifiers() & Qt.KeyboardModifier.AltModifier
        if step is not None and alt and one is not None:
            day = date.fromisoformat(one.day) + timedelta(step)
            if day >= self._today:
                self.moved.emit(one.id, day)
        elif step is not None:
            ids = [p.id for w in self.weeks for d in w for p in d.planned]
            if ids:
                here = ids.index(self.current) if self.current in ids else -1
                self.current = ids[(here + (1 if step > 0 else -1)) % len(ids)]
                self.chosen.emit(self.current)
                self.update()
        elif event.text() in ("+", "-") and one is not None:
            self.freed.emit(date.fromisoformat(one.day).weekday(), 0.5 if event.text() == "+" else -0.5)
        else:
            super().keyPressEvent(event)

    def _slip_at(self, point: QPointF) -> str:
        for week in self.weeks:
            for day in week:
                for one in day.planned:
                    box = self.slip(one.id)
                    if box is not None and box.contains(point):
                        return one.id
        return ""

    def _day_at(self, point: QPointF) -> date | None:
        for w, week in enumerate(self.weeks):
            for d, day in enumerate(week):
                if self.cell(w, d).contains(point):
                    return day.day
        return None
