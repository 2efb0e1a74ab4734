"""One beat on paper: kind, words, what it needs and what the picture does."""

from __future__ import annotations

from PyQt6.QtCore import QPoint, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPaintEvent
from PyQt6.QtWidgets import QHBoxLayout, QMenu, QVBoxLayout, QWidget

from chapto.app.studio import Studio
from chapto.app.widgets import Pressable, button, ground, label
from chapto.app.write.editor import BeatEditor, TieStates
from chapto.app.write.treatments import CHOICES, treatment_text
from chapto.clock.passage import Kind
from chapto.clock.timecode import clock_text
from chapto.document import edit_script
from chapto.document.script import Beat, BeatKind
from chapto.pacing.pointing import Offer
from chapto.paint.colours import FIRST, PAPER, PAPER_LINE, PASSAGES, TIES
from chapto.programme.budget import Budget
from chapto.programme.programme import TieState


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
        painter.fillRect(QRectF(0, 1, float(self._budget.said) * unit, 3), QColor("#57635D"))
        run = float(self._budget.running) * unit
        painter.fillRect(QRectF(0, 6, run, 5), QColor(PASSAGES[Kind.RUN]))
        painter.fillRect(QRectF(run, 6, float(self._budget.held) * unit, 5), QColor(PASSAGES[Kind.HOLD]))
        painter.end()


class BeatCard(QWidget):
    """Shows a beat and turns what is done to it into edits."""

    def __init__(self, studio: Studio, beat: Beat) -> None:
        super().__init__()
        self._studio = studio
        self.beat = beat
        self.chosen = False
        self.broken = False
        ground(self, "paper")
        outer = QHBoxLayout(self)
        outer.setContentsMargins(16, 7, 12, 7)
        outer.setSpacing(12)
        self.editor = BeatEditor(beat.text)
        self.editor.typed.connect(self._typed)
        body = QVBoxLayout()
        body.setSpacing(3)
        body.addWidget(self.editor)
        line = QHBoxLayout()
        line.setSpacing(4)
        self._kind = button(beat.kind.value, self._kinds, tip="Kind of beat", kind="quiet")
        self._treatment = button("", self._treatments, tip="What the picture does under this beat", kind="quiet")
        for made in (self._kind, self._treatment):
            made.setStyleSheet("padding: 1px 4px; color: #57635D; font-size: 13px; font-weight: 400;")
            made.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        line.addWidget(self._kind)
        line.addWidget(label("·", soft=True))
        line.addWidget(self._treatment)
        line.addStretch(1)
        self._numbers = label("", size="time", soft=True)
        self._bar = BudgetBar()
        line.addWidget(self._numbers)
        line.addWidget(self._bar)
        body.addLayout(line)
        self._offer = Pressable(self._tie_offered)
        self._offer.setStyleSheet("color: #57635D; font-size: 13px; padding-left: 4px;")
        body.addWidget(self._offer)
        self._offered: Offer | None = None
        self._offer.hide()
        outer.addLayout(body, 1)
        self.show_beat(beat)

    def show_beat(self, beat: Beat) -> None:
        """Take the beat as the document has it."""
        self.beat = beat
        self.editor.show_text(beat.text)
        self._kind.setText(beat.kind.value)
        self._treatment.setText(treatment_text(beat.treatment))

    def show_programme(self, budget: Budget | None, ties: TieStates) -> None:
        """What the compiler made of it."""
        self.editor.show_ties(ties)
        self._bar.show_budget(budget)
        self._numbers.setText(f"{float(budget.said):.1f} s" if budget else "")
        self.broken = any(state is TieState.BROKEN for state in ties.values())
        self.update()

    def show_offer(self, offer: Offer | None) -> None:
        """A word that points and the moment it likeliest means, to be tied with one press."""
        if offer == self._offered:
            return
        self._offered = offer
        self._offer.setVisible(offer is not None)
        if offer is not None:
            m = offer.moment
            self._offer.setText(
                f"Tie “{offer.text}” to {clock_text(m.at, tenths=True)}, {m.note or m.kind.value}?   Ctrl+G"
            )

    def _tie_offered(self) -> None:
        offer = self._offered
        if offer is not None:
            what = f"tie “{offer.text}”"
            self._studio.edit(what, lambda b: edit_script.tie_word(b, offer.beat, offer.word, offer.moment.id))

    def show_chosen(self, chosen: bool) -> None:
        """Whether this is the beat being written."""
        if chosen != self.chosen:
            self.chosen = chosen
            self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paper, with a mark at the edge when chosen."""
        painter = QPainter(self)
        painter.fillRect(self.rect(), QColor("#FFFDF6" if self.chosen else PAPER))
        painter.fillRect(16, self.height() - 1, self.width() - 28, 1, QColor(PAPER_LINE).lighter(112))
        if self.chosen or self.broken:
            painter.fillRect(
                QRectF(0, 4, 4, self.height() - 8), QColor(TIES[TieState.BROKEN] if self.broken else FIRST)
            )
        painter.end()

    def _typed(self, text: str) -> None:
        beat = self.beat.id
        self._studio.edit("write", lambda b: edit_script.rewrite(b, beat, text), merge=f"write {beat}")

    def _kinds(self) -> None:
        menu = QMenu(self)
        for kind in BeatKind:
            menu.addAction(kind.value, lambda k=kind: self._set_kind(k))
        menu.exec(self._kind.mapToGlobal(QPoint(0, self._kind.height())))

    def _set_kind(self, kind: BeatKind) -> None:
        beat = self.beat.id
        self._studio.edit("change the kind", lambda b: edit_script.change_beat_kind(b, beat, kind))

    def _treatments(self) -> None:
        menu = QMenu(self)
        beat = self.beat.id
        for text, treatment in CHOICES:
            menu.addAction(
                text,
                lambda t=treatment: self._studio.edit("change the treatment", lambda b: edit_script.treat(b, beat, t)),
            )
        menu.exec(self._treatment.mapToGlobal(QPoint(0, self._treatment.height())))
