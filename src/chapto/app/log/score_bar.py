"""Score and bout clock over the picture, where a creator looks while logging; the referee's points are given here."""

from __future__ import annotations

from functools import partial
from math import ceil

from PyQt6.QtCore import QPoint, QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QColor, QMouseEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from chapto.app import layouts
from chapto.app.log.log_controller import LogController
from chapto.app.log.who import WhoSheet
from chapto.app.screen.player import Player
from chapto.app.studio import Studio
from chapto.app.theme import number_font, text_font
from chapto.app.widgets import button, ground
from chapto.clock.timecode import clock_text
from chapto.document.edit_positions import position_at
from chapto.document.people import Athlete, Side
from chapto.matlog.bout_clock import BoutClock
from chapto.paint.colours import ON_DARK, ON_DARK_SOFT, TIES
from chapto.paint.lettering import LEFT, MIDDLE, RIGHT, write
from chapto.paint.signs import side_sign
from chapto.programme.programme import TieState

GIVEN = (2, 3, 4, -1)
HIGH = 46
LEAST_NAME = 44
"""Pixels under which a name is left out."""


class Standing(QWidget):
    """The middle: both names with their points, the clock, and what they are in."""

    def __init__(self, studio: Studio, player: Player, pen: LogController) -> None:
        super().__init__()
        self._studio, self._player, self._pen = studio, player, pen
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setFixedHeight(HIGH)
        self.setAccessibleName("Score and bout clock")
        self._painted: object = None
        player.moved.connect(self._follow)
        studio.changed.connect(self.update)

    def sizeHint(self) -> QSize:
        """As wide as there is room."""
        return QSize(300, HIGH)

    def shown(self) -> tuple[tuple[int, int], str, str, bool]:
        """(points, clock, position, whether log and referee differ) at the picture."""
        b = self._studio.breakdown
        mat = self._player.head.seen_mat(self._studio.programme)
        clock = BoutClock(b)
        here = clock.round_at(mat)
        _, found = self._pen.ledger(here)
        span = position_at(b, mat)
        known = self._pen.lexicon.position(span.position) if span else None
        differs = any(d.at <= mat for d in found.differences)
        return (
            found.score(mat),
            clock_text(ceil(clock.left(mat))),
            known.en if known else "position not logged",
            differs,
        )

    def _follow(self) -> None:
        """While it plays, most pictures change nothing here."""
        if self.isVisible() and self._painted != (self.shown(), *self._on_the_mat()):
            self.update()

    def _on_the_mat(self) -> tuple[Athlete, Athlete]:
        b, mat = self._studio.breakdown, self._player.head.seen_mat(self._studio.programme)
        return b.athlete(Side.FIRST, mat), b.athlete(Side.SECOND, mat)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """A press says who is on the mat."""
        self.say_who()

    def say_who(self) -> None:
        """Names and kits of those on the mat at the picture."""
        b = self._studio.breakdown
        here = BoutClock(b).round_at(self._player.head.seen_mat(self._studio.programme))
        sheet = WhoSheet(self._studio, here, self.window() or self)
        sheet.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        sheet.open_at(self.mapToGlobal(QPoint(max(self.width() // 2 - 220, 0), self.height() + 2)))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Disc, name, points; clock over position; points, name, square."""
        shown, (one, other) = self.shown(), self._on_the_mat()
        self._painted = shown, one, other
        (first, second), clock, position, differs = shown
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        middle = self.width() / 2
        p.setFont(number_font(22, 500))
        p.setPen(QColor(ON_DARK))
        p.drawText(QRectF(middle - 60, 0, 120, 24), Qt.AlignmentFlag.AlignCenter, clock)
        p.setFont(text_font(12))
        write(p, QRectF(4, 27, self.width() - 8, 17), position, ON_DARK_SOFT, MIDDLE)
        for side, points, name, kit in (
            (Side.FIRST, first, one.name, one.kit_colour),
            (Side.SECOND, second, other.name, other.kit_colour),
        ):
            left = side is Side.FIRST
            p.setFont(number_font(26, 600))
            p.setPen(QColor(TIES[TieState.LATE] if differs else ON_DARK))
            box = QRectF(middle - 78 if left else middle + 40, 0, 38, 28)
            p.drawText(box, Qt.AlignmentFlag.AlignCenter, str(points))
            p.setFont(text_font(14, 500))
            room = QRectF(20, 0, middle - 102, 28) if left else QRectF(middle + 82, 0, middle - 102, 28)
            # A few letters of a name tell less than the sign alone.
            wide = write(p, room, name, ON_DARK, RIGHT if left else LEFT) if room.width() > LEAST_NAME else 0.0
            x = room.right() - wide - 12 if left else room.left() + wide + 12
            side_sign(p, QPointF(x, 14), 6, side, kit)
        p.end()


class ScoreBar(QWidget):
    """Standing between the referee's points for each."""

    def __init__(self, studio: Studio, player: Player, pen: LogController) -> None:
        super().__init__()
        ground(self, "dark")
        row = layouts.row(self, margins=(10, 2, 10, 2), spacing=4)
        for points in GIVEN:
            row.addWidget(self._give(pen, Side.FIRST, points))
        self.standing = Standing(studio, player, pen)
        row.addWidget(self.standing, 1)
        for points in GIVEN:
            row.addWidget(self._give(pen, Side.SECOND, points))

    @staticmethod
    def _give(pen: LogController, side: Side, points: int) -> QWidget:
        who, letter = ("first", "A") if side is Side.FIRST else ("second", "D")
        text = f"+{points}" if points > 0 else f"−{-points}"
        made = button(
            text, partial(pen.points, side, points), tip=f"The referee gave the {who} {points}",
            key=f"P {letter} {abs(points)}", dark=True,
        )  # fmt: skip
        made.setFixedWidth(28)
        made.setStyleSheet("padding: 4px 0;")
        return made
