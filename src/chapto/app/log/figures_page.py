"""Figures of the bout on paper: control, tries, answers, stalls, what is worth explaining. Each leads to its place."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from fractions import Fraction

from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QMouseEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from chapto.app.log.flow_paint import HEIGHT, paint_flow
from chapto.app.log.log_controller import LogController
from chapto.app.screen.player import Player
from chapto.app.studio import Studio
from chapto.app.theme import number_font, text_font
from chapto.clock.timecode import clock_text
from chapto.document import edit_script
from chapto.document.bout import Outcome, Round
from chapto.document.people import Side
from chapto.lexicon.trade_words import trade_word
from chapto.matlog.attempts import answers, stalls, trend, tries
from chapto.matlog.bout_clock import BoutClock
from chapto.matlog.control import control_times
from chapto.matlog.exchange_ranking import WEIGHTS, worth_explaining
from chapto.matlog.flow import steps
from chapto.paint.colours import INK, INK_SOFT, PAPER, PAPER_DEEP, PAPER_LINE
from chapto.paint.lettering import write
from chapto.paint.plates import plate
from chapto.paint.signs import side_sign

LEFT, ROW = 16.0, 23.0
WEIGHT_WORDS = {"come back": "revisit", "lively": "much movement"}
"""Where a weight is called otherwise in files."""
ENDS = (*((outcome, trade_word(outcome)) for outcome in Outcome), (None, "open"))


@dataclass(frozen=True)
class Spot:
    """A place on the page that can be pressed: go to `mat`, write about exchange `write`, begin a `chapter`, compare
    two exchanges, or change a `weight`."""

    box: QRectF
    mat: Fraction
    write: str = ""
    compare: tuple[str, str] = ("", "")
    weight: str = ""
    chapter: str = ""


class FiguresPage(QWidget):
    """Paints the figures of the round at the picture. `compare` carries two exchange ids."""

    compare = pyqtSignal(str, str)

    def __init__(
        self, studio: Studio, player: Player, pen: LogController, lively: Callable[[], dict[str, float]] = dict
    ) -> None:
        super().__init__()
        self._studio, self._player, self._pen, self._lively = studio, player, pen, lively
        self.weights = dict(WEIGHTS)
        self.spots: list[Spot] = []
        self._y = 0.0
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.MinimumExpanding)
        self.setMinimumHeight(760)
        self.setAccessibleName("Stats of the bout")
        self.setMouseTracking(True)
        studio.changed.connect(self.update)
        player.moved.connect(self._moved)
        self._round: Round | None = None

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """One block under another."""
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        p.fillRect(self.rect(), QColor(PAPER))
        self.spots, self._y = [], 12.0
        self._round = self._here()
        if self._round is None:
            p.setPen(QColor(INK_SOFT))
            p.setFont(text_font(14))
            p.drawText(
                QRectF(LEFT, 12, self.width() - 32, 40), 0, "Log a round first: R where it starts, R where it ends."
            )
        else:
            self._worth(p)
            self._control(p, self._round)
            self._tries(p, self._round)
            self._answers(p, self._round)
            self._stalls(p, self._round)
            self._flow(p, self._round)
        p.end()
        if abs(self.minimumHeight() - int(self._y + 16)) > 2:
            self.setMinimumHeight(int(self._y + 16))

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Go to what a figure is about, or write about an exchange."""
        assert event is not None
        spot = next((s for s in self.spots if s.box.contains(event.position())), None)
        if spot is None:
            return
        if spot.weight:
            steps_up = {0.0: 1.0, 1.0: 2.0, 2.0: 4.0}
            self.weights[spot.weight] = steps_up.get(self.weights[spot.weight], 0.0)
            self.update()
        elif spot.chapter:
            title = spot.chapter
            self._studio.edit(f"a chapter “{title}”", lambda b: edit_script.add_section(b, title=title))
        elif spot.compare[0]:
            self.compare.emit(*spot.compare)
        elif spot.write:
            exchange = spot.write
            name = self._studio.breakdown.exchange(exchange).technique.capitalize()
            self._studio.edit(
                "write about it", lambda b: edit_script.add_section(b, title=name, exchange=exchange)
            )  # fmt: skip
        else:
            self._player.show_mat(spot.mat)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        """Show what can be pressed."""
        assert event is not None
        over = any(s.box.contains(event.position()) for s in self.spots)
        self.setCursor(Qt.CursorShape.PointingHandCursor if over else Qt.CursorShape.ArrowCursor)

    # ── blocks ───────────────────────────────────────────────────────────────────────────────────────────
    def _worth(self, p: QPainter) -> None:
        b = self._studio.breakdown
        _, found = self._pen.ledger(self._round)
        every = worth_explaining(b, self._pen.lexicon, found, weights=self.weights, activity=self._lively())
        rows = [
            w for w in every if w.score > 0 and self._round and self._round.start <= w.exchange.start < self._round.end
        ]
        told = {s.exchange for s in b.script}
        titles = {s.title for s in b.script}
        self._head(p, "Worth explaining")
        self._weights(p)
        for w in rows[:7]:
            x = w.exchange
            self._side(p, x.by)
            box = self._line(p, x.technique or "exchange", "; ".join(w.reasons), clock_text(x.start))
            self.spots.append(Spot(box, x.start))
            if x.id in told:
                self._right(p, "in the script", soft=True)
            else:
                self.spots.insert(0, Spot(self._right(p, "write"), x.start, write=x.id))
            self._y += ROW + 16
        for r in b.rounds if len(b.rounds) > 1 else ():
            self._line(p, f"{r.name}: a chapter of its own", "", clock_text(r.start))
            if r.name in titles:
                self._right(p, "in the script", soft=True)
            else:
                self.spots.insert(0, Spot(self._right(p, "title card"), r.start, chapter=r.name))
            self._y += ROW
        self._y += 6

    def _weights(self, p: QPainter) -> None:
        """What counts how much; a press goes through 0, 1, 2 and 4."""
        x, p_font = LEFT, number_font(14, 500)
        for key, weight in self.weights.items():
            p.setFont(p_font)
            text = f"{WEIGHT_WORDS.get(key, key)} " + (f"×{weight:g}" if weight else "off")
            wide = p.fontMetrics().horizontalAdvance(text) + 14
            if x + wide > self.width() - 14:
                x, self._y = LEFT, self._y + 25
            box = QRectF(x, self._y, wide, 21)
            plate(p, box, 4, PAPER_DEEP if weight else PAPER)
            p.setPen(QColor(INK if weight else INK_SOFT))
            p.drawText(box, Qt.AlignmentFlag.AlignCenter, text)
            self.spots.append(Spot(box, Fraction(0), weight=key))
            x += wide + 5
        self._y += 31

    def _flow(self, p: QPainter, within: Round) -> None:
        found = steps(self._studio.breakdown, self._pen.lexicon, within)
        if found:
            self._y += 8
            self._head(p, "The way it went")
            box = QRectF(LEFT, self._y, self.width() - 2 * LEFT, HEIGHT)
            self.spots += [Spot(place, at) for place, at in paint_flow(p, found, box, self._kit)]
            self._y += HEIGHT

    def _control(self, p: QPainter, within: Round) -> None:
        b = self._studio.breakdown
        times = control_times(b, self._pen.lexicon, within)
        length = float(within.end - within.start)
        self._head(p, "Control")
        for side in Side:
            self._side(p, side)
            total = times.total(side)
            self._bar(p, float(total) / length, self._kit(side), f"{clock_text(total)}  {float(total) / length:.0%}")
            for position, seconds in sorted(times.held[side].items(), key=lambda kv: -kv[1])[:5]:
                known = self._pen.lexicon.position(position)
                start = next(x.start for x in b.positions if x.position == position and x.start < within.end)
                self.spots.append(Spot(QRectF(LEFT, self._y, self.width() - 32, ROW - 4), start))
                self._bar(
                    p, float(seconds) / length, self._kit(side), clock_text(seconds), known.en if known else position
                )
        self._bar(p, float(times.neutral) / length, PAPER_LINE, clock_text(times.neutral), "nobody")
        if times.unsure > 0:
            self._bar(p, float(times.unsure) / length, PAPER_DEEP, clock_text(times.unsure), "not logged")
        self._y += 8

    def _tries(self, p: QPainter, within: Round) -> None:
        self._head(p, "Attempts")
        for t in tries(self._studio.breakdown, self._pen.lexicon, within)[:8]:
            self._side(p, t.side)
            ends = ", ".join(f"{len(t.by_outcome[o])} {name}" for o, name in ENDS if o in t.by_outcome)
            first = next(iter(t.by_outcome.values()))[0]
            at = self._studio.breakdown.exchange(first).start
            self.spots.append(Spot(self._line(p, t.technique, "", ""), at))
            self._right(p, ends, soft=True)
            self._y += ROW
            if t.count > 1:
                ids = [i for o, _ in ENDS for i in t.by_outcome.get(o, ())]
                pair = sorted(ids[:2], key=lambda i: self._studio.breakdown.exchange(i).start)
                self.spots.append(Spot(self._right(p, "compare"), at, compare=(pair[0], pair[1])))
                self._y += ROW
        self._y += 8

    def _answers(self, p: QPainter, within: Round) -> None:
        b = self._studio.breakdown
        found = answers(b, within)
        if not found:
            return
        self._head(p, "From attempt to reaction")
        slope = trend(found)
        if slope is not None:
            text = f"{abs(slope):.1f} s {'slower' if slope > 0 else 'quicker'} a minute over the bout"
            self._line(p, text, "", "")
            self._y += ROW
        for a in found:
            x = b.exchange(a.exchange)
            self.spots.append(Spot(self._line(p, x.technique or "exchange", "", clock_text(a.at)), a.at))
            self._right(p, f"{float(a.seconds):.1f} s", soft=True)
            self._y += ROW
        self._y += 8

    def _stalls(self, p: QPainter, within: Round) -> None:
        self._head(p, "Longest quiet stretches")
        for s in stalls(self._studio.breakdown, within):
            box = self._line(p, f"{clock_text(s.start)}–{clock_text(s.end)}", "", "")
            self.spots.append(Spot(box, s.start))
            self._right(p, f"{float(s.end - s.start):.0f} s", soft=True)
            self._y += ROW

    # ── pieces ───────────────────────────────────────────────────────────────────────────────────────────
    def _head(self, p: QPainter, text: str) -> None:
        p.setPen(QColor(INK))
        p.setFont(text_font(15, 600))
        p.drawText(QRectF(LEFT, self._y, self.width() - 32, 22), Qt.AlignmentFlag.AlignVCenter, text)
        self._y += 27

    def _line(self, p: QPainter, text: str, under: str, when: str) -> QRectF:
        box = QRectF(LEFT + 20, self._y, self.width() - LEFT - 110, ROW + (16 if under else 0) - 2)
        p.setFont(text_font(14, 500))
        write(p, QRectF(box.left(), box.top(), box.width(), ROW - 3), f"{text}   {when}" if when else text, INK)
        if under:
            p.setFont(text_font(13))
            write(p, QRectF(box.left(), box.top() + ROW - 6, box.width() + 60, 18), under, INK_SOFT)
        return box

    def _right(self, p: QPainter, text: str, *, soft: bool = False) -> QRectF:
        p.setFont(text_font(13, 400 if soft else 600))
        wide = p.fontMetrics().horizontalAdvance(text) + 16
        box = QRectF(self.width() - 14 - wide, self._y, wide, ROW - 2)
        if not soft:
            plate(p, box, 4, PAPER_DEEP)
        p.setPen(QColor(INK_SOFT if soft else INK))
        p.drawText(box, Qt.AlignmentFlag.AlignCenter, text)
        return box

    def _bar(self, p: QPainter, share: float, colour: str, text: str, name: str = "") -> None:
        left = LEFT + 130 if name else LEFT + 20
        if name:
            p.setFont(text_font(13))
            write(p, QRectF(LEFT + 20, self._y, 106, ROW - 4), name, INK_SOFT)
        room = self.width() - left - 110
        box = QRectF(left, self._y + 4, max(room * share, 2), ROW - 12 if name else ROW - 8)
        plate(p, box, 2, colour, "")
        p.setPen(QColor(INK))
        p.setFont(number_font(15))
        p.drawText(QRectF(box.right() + 8, self._y, 100, ROW - 4), Qt.AlignmentFlag.AlignVCenter, text)
        self._y += ROW - 2

    def _side(self, p: QPainter, side: Side | None) -> None:
        if side is not None:
            side_sign(p, QPointF(LEFT + 7, self._y + 10), 5.5, side, self._kit(side))

    def _kit(self, side: Side | None) -> str:
        b = self._studio.breakdown
        return b.athlete(side, self._player.head.seen_mat(self._studio.programme)).kit_colour if side else PAPER_LINE

    def _here(self) -> Round | None:
        b = self._studio.breakdown
        mat = self._player.head.seen_mat(self._studio.programme)
        return BoutClock(b).round_at(mat) or (b.rounds[0] if b.rounds else None)

    def _moved(self) -> None:
        if self.isVisible() and self._here() is not self._round:
            self.update()
