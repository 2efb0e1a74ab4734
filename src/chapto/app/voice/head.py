"""Over the list of beats: how much is recorded, the narrators' own pace, microphone and headphones."""

from __future__ import annotations

from functools import partial

from PyQt6.QtCore import QPoint, QRectF, pyqtSignal
from PyQt6.QtGui import QColor, QPainter, QPaintEvent
from PyQt6.QtWidgets import QMenu, QWidget

from chapto.app import layouts
from chapto.app.menus import choice, deeper
from chapto.app.studio import Studio
from chapto.app.voice.microphones import Microphones
from chapto.app.widgets import Pressable, button, ground, label
from chapto.document import edit_breakdown
from chapto.document.edit_takes import use_guide_voice
from chapto.paint.colours import INK, PAPER_LINE
from chapto.voice.recorded import Recorded, recorded

SMALLEST_STEP = 6
"""Words a minute by which a measured pace must differ before it is offered."""


class _Share(QWidget):
    """A thread that is drawn as far as the script has been recorded."""

    def __init__(self) -> None:
        super().__init__()
        self.share = 0.0
        self.setFixedHeight(8)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        p = QPainter(self)
        p.fillRect(QRectF(0, 3, self.width(), 2), QColor(PAPER_LINE))
        p.fillRect(QRectF(0, 2, self.width() * self.share, 4), QColor(INK))
        p.end()


class VoiceHead(QWidget):
    """Follows the programme; `measure` asks for the delay of the microphone."""

    measure = pyqtSignal()

    def __init__(self, studio: Studio, microphones: Microphones) -> None:
        super().__init__()
        self._studio, self._microphones, self._preferences = studio, microphones, studio.preferences
        ground(self, "paper")
        column = layouts.column(self, margins=(18, 12, 14, 6), spacing=4)
        self.minutes = label("", size="head")
        self._guide = button(
            "", self.switch_takes, tip="Hear takes, or the guide voice alone", key="Ctrl+G", kind="quiet"
        )
        top = layouts.row(None, self.minutes)
        top.addStretch(1)
        top.addWidget(self._guide)
        column.addLayout(top)
        self._share = _Share()
        column.addWidget(self._share)
        self.pace = Pressable(self.take_pace)
        self.pace.setWordWrap(True)
        column.addWidget(self.pace)
        self._microphone = button("", self.open_menu, tip="Microphone and headphones", key="Ctrl+M", kind="quiet")
        self._microphone.setStyleSheet("text-align: left; padding: 3px 0px")
        column.addWidget(self._microphone)
        self._offered: tuple[str, int] | None = None
        studio.compiled.connect(self.follow)
        microphones.changed.connect(self.follow)
        self._preferences.changed.connect(self.follow)
        self.follow()

    @property
    def so_far(self) -> Recorded:
        """How much is recorded."""
        made = self._studio.production
        return recorded(made.breakdown, {k: s.line for k, s in made.speeches.items()}, frozenset(made.taken))

    def follow(self) -> None:
        """Show how things stand now."""
        if not self.isVisible() and self.minutes.text():
            return
        b, so_far = self._studio.breakdown, self.so_far
        if b.guide_only:
            self.minutes.setText("The guide voice says everything")
        elif so_far.beats:
            self.minutes.setText(
                f"{float(so_far.seconds) / 60:.1f} of {float(so_far.of_seconds) / 60:.1f} minutes recorded"
            )
        else:
            self.minutes.setText(f"{float(so_far.of_seconds) / 60:.1f} minutes to record")
        self._share.share = float(so_far.seconds / so_far.of_seconds) if so_far.of_seconds else 0.0
        self._share.update()
        self._guide.setText("Use takes" if b.guide_only else "Guide voice only")
        self._guide.setVisible(bool(b.takes))
        self._offer_pace(so_far)
        name = self._microphones.name_for(b.narrators[0].id)
        heard = "gym in the headphones" if self._preferences.now.gym_heard else "silent headphones"
        self._microphone.setText(f"{name.title}, {heard}")

    def _offer_pace(self, so_far: Recorded) -> None:
        """The first narrator whose own pace is another than the script assumes."""
        b = self._studio.breakdown
        self._offered = (
            None
            if so_far.beats == so_far.of_beats
            else next(
                (
                    (n.id, so_far.paces[n.id])
                    for n in b.narrators
                    if n.id in so_far.paces and abs(so_far.paces[n.id] - n.pace) >= SMALLEST_STEP
                ),
                None,
            )
        )
        if self._offered is None:
            self.pace.hide()
            return
        narrator = next(n for n in b.narrators if n.id == self._offered[0])
        self.pace.setText(
            f"{narrator.name} really talks at {self._offered[1]} words a minute, not {narrator.pace}: press to use it "
            "for what is not recorded yet."
        )
        self.pace.show()

    def take_pace(self) -> None:
        """The measured pace becomes the narrator's."""
        if self._offered is not None:
            narrator, pace = self._offered
            self._studio.edit("use the measured pace", lambda b: edit_breakdown.change_narrator(b, narrator, pace=pace))

    def switch_takes(self) -> None:
        """Hear the guide voice alone, or takes again."""
        only = not self._studio.breakdown.guide_only
        what = "hear the guide voice only" if only else "hear the takes"
        self._studio.edit(what, lambda b: use_guide_voice(b, only))

    def open_menu(self) -> None:
        """Microphones and headphones."""
        self.menu().exec(self.mapToGlobal(QPoint(16, self.height())))

    def menu(self) -> QMenu:
        """What can be chosen."""
        menu, microphones, b = QMenu(self), self._microphones, self._studio.breakdown
        for name in microphones.names:
            chosen = microphones.name_for(b.narrators[0].id) == name
            choice(menu, name.title, partial(microphones.choose, name), checked=chosen)
        if len(b.narrators) > 1:
            for narrator in b.narrators:
                own = deeper(menu, f"{narrator.name} talks into")
                for name in microphones.names:
                    chosen = microphones.name_for(narrator.id) == name
                    choice(own, name.title, partial(microphones.choose, name, narrator.id), checked=chosen)
        if len(b.narrators) == 2:
            left, right = (n.name for n in b.narrators)
            parted = microphones.two_channels
            text = f"{left} on its left channel, {right} on its right"
            choice(menu, text, lambda: microphones.part_channels(not parted), checked=parted)
        menu.addSeparator()
        preferences = self._preferences
        choice(
            menu, "Gym in the headphones while recording",
            lambda: preferences.set(gym_heard=not preferences.now.gym_heard), checked=preferences.now.gym_heard,
        )  # fmt: skip
        menu.addAction("Measure how late the microphone hears", self.measure.emit)
        menu.addAction("Look for microphones again", microphones.look)
        return menu
