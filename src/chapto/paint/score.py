"""Names, points and the bout's clock on the picture, from the log."""

from __future__ import annotations

from fractions import Fraction
from math import ceil

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QFont, QFontMetricsF, QImage

from chapto.clock.timecode import clock_text
from chapto.document.bout import Round
from chapto.document.breakdown import Breakdown
from chapto.document.people import Side
from chapto.document.placeholders import shown_name
from chapto.matlog.bout_clock import BoutClock
from chapto.matlog.ledger import Ledger, ledger
from chapto.matlog.rules import MatlogError, rule_set
from chapto.paint.colours import DEEP, ON_DARK, ON_DARK_SOFT
from chapto.paint.fonts import NUMBERS
from chapto.paint.lettering import cut, letters, tell
from chapto.paint.plates import blank, painter_on
from chapto.paint.signs import side_sign
from chapto.programme.knowledge import Knowledge

HIGH = 0.062
"""Share of the picture's height."""


class ScoreStrip:
    """The strip for any mat time of a breakdown; equal strips are painted once."""

    def __init__(self, b: Breakdown, picture: tuple[int, int], known: Knowledge) -> None:
        self._b, self._picture, self._known = b, picture, known
        self._clock = BoutClock(b)
        self._ledgers: dict[str, Ledger | None] = {}
        self._made: dict[tuple[str, int, int, str], QImage] = {}

    def at(self, mat: Fraction) -> tuple[str, QImage] | None:
        """A key and the strip at a mat time; None where no round is."""
        here = self._clock.round_at(mat)
        if here is None:
            return None
        if here.id not in self._ledgers:
            self._ledgers[here.id] = self._ledger(here.id)
        found = self._ledgers[here.id]
        first, second = found.score(mat) if found else (0, 0)
        key = here.id, first, second, clock_text(ceil(self._clock.left(mat)))
        if key not in self._made:
            self._made[key] = self._paint(here, *key[1:])
        return "score/{}/{}/{}/{}".format(*key), self._made[key]

    def _ledger(self, round_id: str) -> Ledger | None:
        within = next(r for r in self._b.rounds if r.id == round_id)
        try:
            return ledger(self._b, self._known.lexicon, rule_set(self._b.ruling.rules, self._known.rules), within)
        except MatlogError:
            return None

    def _paint(self, within: Round, first: int, second: int, clock: str) -> QImage:
        """Mark, name and points of one, the clock, points, name and mark of the other, on one thread."""
        unit = self._picture[1] * HIGH
        font, number = letters(unit * 0.54), letters(unit * 0.62, family=NUMBERS)
        small = letters(unit * 0.54, QFont.Weight.Medium, NUMBERS)
        both = self._b.athlete(Side.FIRST, within.start), self._b.athlete(Side.SECOND, within.start)
        names = [QFontMetricsF(font).horizontalAdvance(shown_name(a.name)) for a in both]
        side = min(max(names), self._picture[0] * 0.2)
        points, middle, mark = unit * 1.1, unit * 1.7, unit * 0.75
        width = int(2 * (mark + side + points) + middle + unit * 0.4) // 2 * 2
        height = int(unit) // 2 * 2
        image = blank(width, height)
        p = painter_on(image)
        plate = QColor(DEEP)
        plate.setAlpha(225)
        p.setPen(Qt.PenStyle.NoPen)
        p.setBrush(plate)
        p.drawRoundedRect(QRectF(0, 0, width, height), height * 0.12, height * 0.12)
        centre = Qt.AlignmentFlag.AlignCenter
        for who, is_first, score in ((both[0], True, first), (both[1], False, second)):
            at = mark * 0.55 if is_first else width - mark * 0.55
            kind = Side.FIRST if is_first else Side.SECOND
            side_sign(p, QPointF(at, height / 2), height * 0.16, kind, who.kit_colour)
            p.setFont(font)
            p.setPen(QColor(ON_DARK))
            left = mark if is_first else width - mark - side
            align = Qt.AlignmentFlag.AlignLeft if is_first else Qt.AlignmentFlag.AlignRight
            name = cut(shown_name(who.name), font, side)
            p.drawText(QRectF(left, 0, side, height), Qt.AlignmentFlag.AlignVCenter | align, name)
            p.setFont(number)
            x = mark + side if is_first else width - mark - side - points
            p.drawText(QRectF(x, 0, points, height), centre, str(score))
        p.setFont(small)
        p.setPen(QColor(ON_DARK_SOFT))
        p.drawText(QRectF((width - middle) / 2, 0, middle, height), centre, clock)
        p.end()
        tell(image, f"{first}–{second}", font, number, small)
        return image
