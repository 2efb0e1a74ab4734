"""One beat on paper: who says it, kind, words, what it needs and what the picture does."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PyQt6.QtCore import QPoint, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QMouseEvent, QPainter, QPaintEvent, QResizeEvent
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QLineEdit, QMenu, QPushButton, QWidget

from chapto.app import layouts
from chapto.app.studio import Studio
from chapto.app.widgets import Pressable, button, ground, label, show_begin
from chapto.app.write.beat_menu import kind_menu, narrator_menu
from chapto.app.write.budget_bar import BudgetBar
from chapto.app.write.editor import BeatEditor, TieStates
from chapto.app.write.offer_row import OfferRow
from chapto.app.write.tie_row import Shown, TieRow, shown_ties
from chapto.app.write.treatment_menu import treatment_menu
from chapto.app.write.treatments import beat_text, short_text
from chapto.app.write.viewer_context import ViewerContext
from chapto.app.write.ways import Ways
from chapto.document import edit_script
from chapto.document.breakdown import Breakdown
from chapto.document.script import Beat
from chapto.document.treatments import TextCard
from chapto.drafting.draft import untouched
from chapto.drafting.grammar import asked
from chapto.lexicon.spelling import Slip
from chapto.lexicon.trade_words import trade_word
from chapto.pacing.fitted import Shortfall
from chapto.pacing.offers import Offer
from chapto.paint.colours import FIRST, INK_SOFT, PAPER, PAPER_BRIGHT, PAPER_LINE, TIES
from chapto.programme.budget import Budget
from chapto.programme.programme import PlacedTie, TieState

SMALL = f"padding: 1px 4px; color: {INK_SOFT}; font-size: 13px; font-weight: 400;"


TREATMENT_LETTERS, TREATMENT_TIP = 30, "What the picture does under this beat"
DRAGGED = 6
"""Pixels a press beside the words has to move before it drags the beat."""


class BeatCard(QWidget):
    """Shows a beat and turns what is done to it into edits. `sight` is what the creator sees beside it."""

    dragged = pyqtSignal(QPoint)
    dropped = pyqtSignal(QPoint)
    grew = pyqtSignal(int)
    """It is higher than so many pixels that it was."""

    def __init__(self, studio: Studio, beat: Beat, sight: ViewerContext) -> None:
        super().__init__()
        self._pressed: QPoint | None = None
        self._dragging = False
        self._studio, self._sight = studio, sight
        self.beat = beat
        self.chosen = False
        self.broken = False
        ground(self, "paper")
        outer = layouts.row(self, margins=(16, 7, 12, 7), spacing=12)
        self.editor = BeatEditor(beat.text)
        self.editor.typed.connect(self._typed)
        body = layouts.column(None, self.editor, spacing=3)
        self._tie_row = TieRow(sight.film, lambda word, mat: sight.go(self.beat.id, word, mat))
        self._ties: tuple[Shown, ...] = ()
        body.addWidget(self._tie_row)
        body.addLayout(self._line())
        self.card_words = QLineEdit()
        self.card_words.setPlaceholderText("Words on the card")
        self.card_words.setAccessibleName("Words on the card")
        self.card_words.editingFinished.connect(self._card_rewritten)
        body.addWidget(self.card_words)
        self.offer = OfferRow(sight.film, self._tie_offered)
        body.addWidget(self.offer)
        self._offered: Offer | None = None
        self._slips: tuple[Slip, ...] = ()
        self._slip: Slip | None = None
        self._spelling = Pressable(self.put_right)
        self._spelling.setStyleSheet(f"color: {INK_SOFT}; font-size: 13px; padding-left: 4px;")
        self._spelling.hide()
        body.addWidget(self._spelling)
        self.ways = Ways(studio)
        body.addWidget(self.ways)
        outer.addLayout(body, 1)

    def _line(self) -> QHBoxLayout:
        """Who says it, what it is for, what the picture does, and what it all takes."""
        line = layouts.row(spacing=4)
        self._narrator = self._quiet(lambda: narrator_menu(self, self._studio, self.beat.id), "Who says this beat")
        self._kind = self._quiet(lambda: kind_menu(self, self._studio, self.beat.id), "Kind of beat")
        self._treatment = self._quiet(
            lambda: treatment_menu(
                self, self._studio, self.beat.id, self._sight.looked_at(), self.editor.word_at_caret() or 0
            ),
            TREATMENT_TIP,
            "Ctrl+E",
        )
        self._dot = label("·", soft=True)
        line.addWidget(self._narrator)
        line.addWidget(self._dot)
        line.addWidget(self._kind)
        line.addWidget(label("·", soft=True))
        line.addWidget(self._treatment)
        line.addStretch(1)
        self._numbers: QLabel = label("", size="time", soft=True)
        self._bar = BudgetBar()
        line.addWidget(self._numbers)
        line.addWidget(self._bar)
        return line

    def _quiet(self, menu: Callable[[], QMenu], tip: str, key: str = "") -> QPushButton:
        made = button(
            "", lambda: menu().exec(made.mapToGlobal(QPoint(0, made.height()))), tip=tip, key=key, kind="quiet"
        )
        made.setStyleSheet(SMALL)
        made.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        return made

    def open_treatments(self) -> None:
        """The menu of treatments, for the keyboard."""
        self._treatment.click()

    # ── showing ──────────────────────────────────────────────────────────────────────────────────────────
    def show_beat(self, b: Breakdown, beat: Beat) -> None:
        """Take the beat as the document has it."""
        self.beat = beat
        self.editor.show_text(beat.text)
        self.editor.show_drafted(untouched(beat))
        self.editor.setPlaceholderText(asked(beat.kind) or "Say what happened, or why it worked.")
        self._kind.setText(trade_word(beat.kind))
        self._treatment.setText(short_text(beat, TREATMENT_LETTERS))
        self._treatment.setToolTip(f"{TREATMENT_TIP}: {beat_text(beat)}  (Ctrl+E)")
        self.editor.show_turns(frozenset(t.word for t in beat.turns))
        several = len(b.narrators) > 1
        self._narrator.setText(b.narrator(beat).name)
        self._narrator.setVisible(several)
        self._dot.setVisible(several)
        card = beat.treatment if isinstance(beat.treatment, TextCard) else None
        self.card_words.setVisible(card is not None)
        if card is not None:
            show_begin(self.card_words, card.text)

    def show_slips(self, slips: tuple[Slip, ...]) -> None:
        """Names written wrong; the first can be put right with one press."""
        if slips == self._slips:
            return
        self._slips = slips
        self.editor.show_wrong(tuple((s.first, s.end) for s in slips))
        self._slip = slips[0] if slips else None
        self._spelling.setVisible(self._slip is not None)
        if self._slip is not None:
            self._spelling.setText(
                f"“{self._slip.written}”: write “{self._slip.right}”?   Ctrl+K, all of them Ctrl+Shift+K"
            )

    def put_right(self) -> bool:
        """Write the first name that is wrong as the lexicon has it; whether there was one."""
        slip, beat = self._slip, self.beat.id
        return slip is not None and self._studio.edit(
            f"write “{slip.right}”", lambda b: edit_script.replace_words(b, beat, slip.first, slip.end, slip.right)
        )

    def show_programme(
        self, budget: Budget | None, ties: Sequence[PlacedTie], shortfall: Shortfall | None
    ) -> None:  # fmt: skip
        """What the compiler made of it."""
        states: TieStates = {t.word: t.state for t in ties}
        self.editor.show_ties(states)
        self._ties = shown_ties(ties)
        self._tie_row.show_ties(self._ties, chosen=self.chosen)
        self._bar.show_budget(budget)
        self._numbers.setText(f"{float(budget.said):.1f} s" if budget else "")
        self.broken = any(state is TieState.BROKEN for state in states.values())
        self.ways.show_shortfall(shortfall)
        self.update()

    def show_offer(self, offer: Offer | None) -> None:
        """A word that points and the moment it likeliest means, to be tied with one press."""
        if offer != self._offered:
            self._offered = offer
            self.offer.show_offer(offer, chosen=self.chosen)

    def show_chosen(self, chosen: bool) -> None:
        """Whether this is the beat being written."""
        if chosen != self.chosen:
            self.chosen = chosen
            self._tie_row.show_ties(self._ties, chosen=chosen)
            self.offer.show_offer(self._offered, chosen=chosen)
            self.update()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """Tell when there is more of it."""
        super().resizeEvent(event)
        if event is not None and 0 < event.oldSize().height() < self.height():
            self.grew.emit(event.oldSize().height())

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paper, with a mark at the edge when chosen."""
        painter = QPainter(self)
        painter.fillRect(self.rect(), QColor(PAPER_BRIGHT if self.chosen else PAPER))
        painter.fillRect(16, self.height() - 1, self.width() - 28, 1, QColor(PAPER_LINE).lighter(112))
        if self.chosen or self.broken:
            colour = QColor(TIES[TieState.BROKEN] if self.broken else FIRST)
            painter.fillRect(QRectF(0, 4, 4, self.height() - 8), colour)
        painter.end()

    # ── dragging ─────────────────────────────────────────────────────────────────────────────────────────
    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Beside the words a beat can be taken hold of."""
        assert event is not None
        self._pressed, self._dragging = event.globalPosition().toPoint(), False
        self.editor.setFocus()

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        """Say where it is being dragged, in global pixels."""
        assert event is not None
        at = event.globalPosition().toPoint()
        if self._pressed is not None:
            self._dragging = self._dragging or abs(at.y() - self._pressed.y()) >= DRAGGED
            if self._dragging:
                self.setCursor(Qt.CursorShape.ClosedHandCursor)
                self.dragged.emit(at)

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        """Say where it is let go."""
        assert event is not None
        if self._dragging:
            self.dropped.emit(event.globalPosition().toPoint())
        self._pressed, self._dragging = None, False
        self.unsetCursor()

    # ── editing ──────────────────────────────────────────────────────────────────────────────────────────
    def _typed(self, text: str) -> None:
        beat = self.beat.id
        self._studio.edit("write", lambda b: edit_script.rewrite(b, beat, text), merge=f"write {beat}")

    def _card_rewritten(self) -> None:
        text, beat = self.card_words.text().strip(), self.beat
        if text and isinstance(beat.treatment, TextCard) and text != beat.treatment.text:
            self._studio.edit("write the card", lambda b: edit_script.treat(b, beat.id, TextCard(text)))

    def _tie_offered(self) -> None:
        offer = self._offered
        if offer is not None:
            what = f"tie “{offer.text}”"
            self._studio.edit(what, lambda b: edit_script.tie_at(b, offer.beat, offer.word, offer.at))
