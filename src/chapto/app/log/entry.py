"""One logged exchange, moment or round in the running list."""

from __future__ import annotations

from fractions import Fraction
from functools import partial

from PyQt6.QtCore import QPoint, QPointF, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QContextMenuEvent, QMouseEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QLineEdit, QMenu, QWidget

from chapto.app import layouts
from chapto.app.ask import ask
from chapto.app.log.log_controller import LogController
from chapto.app.log.row_menu import row_menu
from chapto.app.log.time_grip import TimeGrip
from chapto.app.menus import choice
from chapto.app.studio import Studio
from chapto.app.widgets import button, ground, show_begin
from chapto.clock.timecode import clock_text
from chapto.document import edit_log, edit_script
from chapto.document.bout import NO_RISK, Exchange, Moment, MomentKind, Outcome, Round
from chapto.document.breakdown import Breakdown
from chapto.document.people import Side
from chapto.document.script import words_of
from chapto.lexicon.trade_words import trade_word
from chapto.paint.colours import FIRST, PAPER, PAPER_BRIGHT, PAPER_DEEP, PAPER_LINE
from chapto.paint.signs import side_sign

SIDES = (None, Side.FIRST, Side.SECOND)
OUTCOMES = (None, Outcome.LANDED, Outcome.STOPPED, Outcome.HALF)
Logged = Round | Exchange | Moment


class SideSign(QWidget):
    """Who began it: a disc for the first, a square for the second, a ring for nobody yet. A press goes on."""

    pressed = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self.setFixedSize(22, 22)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self._side: Side | None = None
        self._colour = ""

    def show_side(self, side: Side | None, b: Breakdown, mat: Fraction) -> None:
        """Shape and kit colour."""
        self._side = side
        athlete = b.athlete(side, mat) if side else None
        self._colour = athlete.kit_colour if athlete else ""
        self.setToolTip(f"{athlete.name} began it" if athlete else "Press to say who began it")
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """The shape."""
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        side_sign(p, QPointF(11, 11), 6.5, self._side, self._colour)
        p.end()

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        """The next side."""
        self.pressed.emit()


class Entry(QWidget):
    """Time, who, what and outcome of one thing in the log; every part can be changed in place."""

    chosen = pyqtSignal(str)

    def __init__(self, studio: Studio, pen: LogController, item: Logged) -> None:
        super().__init__()
        self._studio, self._pen, self.item = studio, pen, item
        self.is_chosen = False
        ground(self, "paper")
        indent = 34 if isinstance(item, Moment) else 14
        row = layouts.row(self, margins=(indent, 3, 8, 3), spacing=7)
        self._time = TimeGrip()
        self._time.setProperty("soft", "true" if isinstance(item, Moment) else "false")
        self._time.pressed.connect(lambda: self.chosen.emit(self.item.id))
        self._time.pulled.connect(self._show_pulled)
        self._time.put_down.connect(self._shift)
        self._time.setFixedWidth(94 if not isinstance(item, Moment) else 52)
        row.addWidget(self._time)
        self._side = SideSign()
        self._side.pressed.connect(self._next_side)
        row.addWidget(self._side)
        # Only in its place: a widget shown before it has one is a window of its own, and takes the keys with it.
        self._side.setVisible(isinstance(item, Exchange))
        self._tag = button("", self._next_kind, tip="Kind or outcome", kind="quiet")
        self.words = QLineEdit()
        self.words.setStyleSheet("QLineEdit { background: transparent; border-bottom-color: transparent; }")
        self.words.editingFinished.connect(self._rename)
        row.addWidget(self.words, 1)
        self.risk = button("", self._ask_risk, tip="Not in the lexicon: what could it hurt?", kind="quiet")
        row.addWidget(self.risk)
        row.addWidget(self._tag)
        self._tag.setVisible(not isinstance(item, Round))
        row.addWidget(button("", self.remove, tip="Take out", key="Delete", sign="cross", kind="quiet"))
        self.show_item(item)

    def show_item(self, item: Logged) -> None:
        """Take it as the document has it."""
        self.item = item
        b = self._studio.breakdown
        lexicon = self._studio.known.lexicon
        unknown = isinstance(item, Exchange) and item.technique and lexicon.technique_named(item.technique) is None
        self.risk.setVisible(bool(unknown))
        if isinstance(item, Exchange) and unknown:
            self.risk.setText("no risk" if item.risk == NO_RISK else item.risk or "what could it hurt?")
        match item:
            case Moment():
                self._time.setText(clock_text(item.at, tenths=True))
                self._words(item.note, "what to see here")
                self._tag.setText(trade_word(item.kind))
            case Exchange():
                self._time.setText(f"{clock_text(item.start, tenths=True)}–{clock_text(item.end, tenths=True)}")
                self._words(item.technique, "which technique")
                self._tag.setText(trade_word(item.outcome) if item.outcome else "how did it end?")
                self._side.show_side(item.by, b, item.start)
            case Round():
                self._time.setText(f"{clock_text(item.start)}–{clock_text(item.end)}")
                self._words(item.name, "name of the round")

    def told(self) -> str:
        """Everything the row says, in words, for those who look for something."""
        item = self.item
        by = self._studio.breakdown.athlete(item.by, item.start).name if isinstance(item, Exchange) and item.by else ""
        return " ".join((self._time.text(), self.words.text(), self._tag.text(), by))

    def contextMenuEvent(self, event: QContextMenuEvent | None) -> None:
        """What can be done with it."""
        assert event is not None
        self.chosen.emit(self.item.id)
        self.open_menu(event.globalPos())

    def open_menu(self, at: QPoint) -> None:
        """The same at another place."""
        menu = row_menu(self, self._studio, self._pen, self.item)
        if menu.actions():
            menu.addSeparator()
        menu.addAction("Take it out  (Delete)", lambda: self.remove())
        menu.exec(at)
        menu.deleteLater()

    def show_chosen(self, chosen: bool) -> None:
        """Whether this is the one being looked at."""
        if chosen != self.is_chosen:
            self.is_chosen = chosen
            self.update()

    def _show_pulled(self, by: float) -> None:
        """Its picture and its time, as they would be."""
        at = self.item.at if isinstance(self.item, Moment) else self.item.start
        there = max(at + Fraction(round(by * 10), 10), Fraction(0))
        self._time.setText(f"{clock_text(there, tenths=True)}  {by:+.1f} s".replace("-", "−"))
        self._pen.show(there)

    def _shift(self, by: float) -> None:
        seconds, item = Fraction(round(by * 10), 10), self.item.id
        self._studio.edit("move it in time", lambda b: edit_log.shift_logged(b, item, seconds))
        self.show_item(self.item)

    def remove(self) -> None:
        """Take it out of the log."""
        item = self.item.id
        change = partial(edit_log.remove_logged, item_id=item)
        if told := edit_script.said_of(self._studio.breakdown, item):
            words = sum(len(words_of(beat.text)) for section in told for beat in section.beats)
            question = f"{words} words of the script are about this exchange. What becomes of them?"
            answer = ask(self, question, ("Keep them, over a card", "Take them out too", "Go back"))
            if answer == 2:
                return
            if answer == 1:
                change = partial(edit_script.remove_with_words, exchange_id=item)
        self._studio.edit("take it out of the log", change)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paper; rounds on a deeper shade."""
        p = QPainter(self)
        shade = PAPER_DEEP if isinstance(self.item, Round) else (PAPER_BRIGHT if self.is_chosen else PAPER)
        p.fillRect(self.rect(), QColor(shade))
        if not isinstance(self.item, Moment):
            p.fillRect(0, 0, self.width(), 1, QColor(PAPER_LINE).lighter(110))
        if self.is_chosen:
            p.fillRect(0, 2, 4, self.height() - 4, QColor(FIRST))
        p.end()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Look at it."""
        self.chosen.emit(self.item.id)

    def _words(self, text: str, hint: str) -> None:
        self.words.setPlaceholderText(hint)
        self.words.setAccessibleName(hint)
        show_begin(self.words, text)

    def _rename(self) -> None:
        text, item = self.words.text().strip(), self.item
        match item:
            case Moment():
                self._studio.edit("note the moment", lambda b: edit_log.change_moment(b, item.id, note=text))
            case Exchange():
                self._studio.edit("name the technique", lambda b: edit_log.change_exchange(b, item.id, technique=text))
            case Round():
                self._studio.edit("name the round", lambda b: edit_log.change_round(b, item.id, name=text))

    def _ask_risk(self) -> None:
        """The classes of risk as a menu, with each one's sentence of care."""
        menu, item, risks = QMenu(self), self.item, self._studio.known.lexicon.risks
        for risk, text in (
            (NO_RISK, "It can hurt nobody"),
            *((risk, f"{risk}: {text}") for risk, text in risks.items()),
        ):
            checked = isinstance(item, Exchange) and item.risk == risk
            choice(menu, text, partial(self.say_risk, risk), checked=checked)
        menu.exec(self.risk.mapToGlobal(self.risk.rect().bottomLeft()))

    def say_risk(self, risk: str) -> None:
        """Note what a technique could hurt that the lexicon does not know."""
        item = self.item.id
        self._studio.edit("say what it could hurt", lambda b: edit_log.change_exchange(b, item, risk=risk))

    def _next_side(self) -> None:
        item = self.item
        if isinstance(item, Exchange):
            side = SIDES[(SIDES.index(item.by) + 1) % len(SIDES)]
            self._studio.edit("say who began it", lambda b: edit_log.change_exchange(b, item.id, by=side))

    def _next_kind(self) -> None:
        item = self.item
        if isinstance(item, Exchange):
            outcome = OUTCOMES[(OUTCOMES.index(item.outcome) + 1) % len(OUTCOMES)]
            self._studio.edit("say how it ended", lambda b: edit_log.change_exchange(b, item.id, outcome=outcome))
        elif isinstance(item, Moment):
            kinds = list(MomentKind)
            kind = kinds[(kinds.index(item.kind) + 1) % len(kinds)]
            self._studio.edit("change the kind", lambda b: edit_log.change_moment(b, item.id, kind=kind))
