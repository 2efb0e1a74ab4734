"""Everybody on the shelf on the line of months: what they said for each breakdown, and which videos they are in."""

from __future__ import annotations

from datetime import date

from PyQt6.QtCore import QLineF, QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPaintEvent, QPen

from chapto.app.shelf.rows import Rows
from chapto.app.theme import text_font
from chapto.document.clearance import Agreement
from chapto.paint.colours import AMBER, DEEP, FIRST, ON_DARK, ON_DARK_SOFT, SPRUCE, SPRUCE_LIGHT, SPRUCE_LINE, TIES
from chapto.paint.lettering import write
from chapto.programme.programme import TieState
from chapto.shelf.dates_said import MONTHS
from chapto.shelf.people import Agreed, Known

ROW, EDGE, NAMES, HEAD, FOOT = 54.0, 16.0, 178.0, 30.0, 32.0
COLOURS = {
    Agreement.AGREED: TIES[TieState.MET],
    Agreement.ASKED: AMBER,
    Agreement.NOT_ASKED: SPRUCE_LINE,
    Agreement.REFUSED: TIES[TieState.BROKEN],
    Agreement.WITHDRAWN: TIES[TieState.BROKEN],
}


class PeopleChart(Rows):
    """Somebody a row."""

    def __init__(self) -> None:
        super().__init__("People on the shelf", lambda k: k.name, row=ROW, head=HEAD, foot=FOOT)
        self._days: dict[str, date] = {}

    def show_people(self, people: tuple[Known, ...], days: dict[str, date]) -> None:
        """Show these; `days` say when each breakdown (by path) was."""
        self._days = days
        self.show_items(people)

    def x_of(self, day: date) -> float:
        """Where a day stands."""
        first, last = self._span
        room = self.width() - NAMES - 3 * EDGE
        return NAMES + EDGE + room * (day - first).days / max((last - first).days, 1)

    @property
    def _span(self) -> tuple[date, date]:
        days = sorted(self._days.values()) or [date.today()]
        return days[0].replace(day=1), date.fromordinal(days[-1].toordinal() + 20)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Months above, a line for each."""
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        p.fillRect(self.rect(), QColor(DEEP))
        self._months(p)
        for i, known in enumerate(self.items):
            self._row(p, QRectF(0, HEAD + i * ROW, self.width(), ROW), known, i == self.current)
        if not self.items:
            p.setFont(text_font(15))
            said = "Nobody yet. Who can be seen in a breakdown stands here."
            write(p, QRectF(self.rect()), said, ON_DARK_SOFT, Qt.AlignmentFlag.AlignCenter)
        self._legend(p)
        p.end()

    def _months(self, p: QPainter) -> None:
        first, last = self._span
        at, i, taken = first, 0, -100.0
        p.setFont(text_font(12))
        years = f"{first.year}" if first.year == last.year else f"{first.year} to {last.year}"
        write(p, QRectF(EDGE, 4, NAMES - EDGE, 22), years, ON_DARK_SOFT)
        while at <= last:
            following = date(at.year + at.month // 12, at.month % 12 + 1, 1)
            x, end = self.x_of(at), self.x_of(min(following, last))
            if i % 2 == 0:
                p.fillRect(QRectF(x, 0, end - x, self.height() - FOOT), QColor(SPRUCE))
            if x - taken > 38 and end - x > 20:
                name = MONTHS[at.month - 1].title()[:3]
                write(p, QRectF(x + 5, 4, 80, 22), name, ON_DARK_SOFT)
                taken = x
            at, i = following, i + 1

    def _row(self, p: QPainter, box: QRectF, known: Known, chosen: bool) -> None:
        if chosen:
            p.fillRect(QRectF(0, box.top() + 2, NAMES, box.height() - 4), QColor(SPRUCE_LIGHT))
            p.fillRect(QRectF(0, box.top() + 2, 3, box.height() - 4), QColor(FIRST))
        p.setFont(text_font(14, 600))
        write(p, QRectF(EDGE, box.top() + 7, NAMES - EDGE - 6, 22), known.name, ON_DARK)
        p.setFont(text_font(12))
        parts = dict.fromkeys(a.part for a in known.said if a.part)
        under = "ask again" if known.again else ", ".join(parts)
        write(p, QRectF(EDGE, box.top() + 28, NAMES - EDGE - 6, 18), under, AMBER if known.again else ON_DARK_SOFT)
        y = box.center().y()
        p.setPen(QPen(QColor(SPRUCE_LINE), 1))
        p.drawLine(QLineF(NAMES + EDGE, y, self.width() - EDGE, y))
        out = {v.path for v in known.videos}
        size = min(max((self.width() - NAMES) / max(len(known.said), 1) / 2, 2.0), 5.0)
        for one in known.said:
            if (day := self._days.get(one.path)) is not None:
                self._said(p, QPointF(self.x_of(day), y), one, one.path in out, size)

    def _said(self, p: QPainter, at: QPointF, one: Agreed, out: bool, size: float = 5.0) -> None:
        """A filled dot for a yes, a ring for who was asked, a cross for a no; a stroke beneath where it is out."""
        colour = QColor(COLOURS[one.agreement])
        p.setPen(QPen(colour, 0.48 * size))
        p.setBrush(colour if one.agreement is Agreement.AGREED else QColor(DEEP))
        if one.agreement in (Agreement.REFUSED, Agreement.WITHDRAWN):
            for dx in (-1, 1):
                p.drawLine(QLineF(at.x() - size * dx, at.y() - size, at.x() + size * dx, at.y() + size))
        else:
            p.drawEllipse(at, size, size)
        if out:
            p.setPen(QPen(QColor(ON_DARK), 2.4))
            p.drawLine(QLineF(at.x() - size - 1, at.y() + 11, at.x() + size + 1, at.y() + 11))

    def _legend(self, p: QPainter) -> None:
        y, x = self.height() - FOOT, EDGE
        p.fillRect(QRectF(0, y, self.width(), FOOT), QColor(SPRUCE))
        p.setFont(text_font(12))
        for agreement, text in (
            (Agreement.AGREED, "agreed"),
            (Agreement.ASKED, "asked"),
            (Agreement.WITHDRAWN, "said no"),
        ):
            self._said(p, QPointF(x + 6, y + FOOT / 2), _sample(agreement), False)
            x += 20 + write(p, QRectF(x + 18, y, 120, FOOT), text, ON_DARK_SOFT) + 24
        p.setPen(QPen(QColor(ON_DARK), 2.4))
        p.drawLine(QLineF(x, y + FOOT / 2, x + 12, y + FOOT / 2))
        write(p, QRectF(x + 20, y, 300, FOOT), "the video is out", ON_DARK_SOFT)


def _sample(agreement: Agreement) -> Agreed:
    return Agreed("", "", "", agreement, "", "", "", False, None, "")
