"""Heads of sections and cards of beats down the page: a short script at once, a long one bit by bit."""

from __future__ import annotations

import time
from collections.abc import Callable, Sequence

from PyQt6.QtCore import QObject, QTimer, pyqtSignal
from PyQt6.QtWidgets import QWidget

from chapto.app import layouts
from chapto.app.write.card import BeatCard
from chapto.app.write.section_head import SectionHead
from chapto.document.script import Beat, Section

AT_ONCE = 10
"""Cards built at once: they fill a high window."""
SLICE = 0.02
"""Seconds of building at a stretch."""


class CardColumn(QObject):
    """`grown` says that there are more of them."""

    grown = pyqtSignal()

    def __init__(self, page: QWidget, head: Callable[[Section], SectionHead], card: Callable[[Beat], BeatCard]) -> None:
        super().__init__(page)
        self._page, self._head, self._card = page, head, card
        self._column = layouts.column(page, margins=(0, 0, 0, 24), spacing=0)
        self.cards: dict[str, BeatCard] = {}
        self.heads: dict[str, SectionHead] = {}
        self._unbuilt: list[Section] = []
        self._spare: dict[str, BeatCard] = {}
        # A timer of its own ends with the page.
        self._more = QTimer(self)
        self._more.setInterval(0)
        self._more.timeout.connect(self._build_more)

    @property
    def is_whole(self) -> bool:
        """Whether nothing of the script is left to be built."""
        return not self._unbuilt

    def rebuild(self, script: Sequence[Section], below: Sequence[QWidget], focus: str) -> None:
        """Build another script, with what stands `below` it; cards of beats that stay are kept. What has the `focus`
        (by beat) is built at once."""
        while item := self._column.takeAt(0):
            widget = item.widget()
            if widget is not None and not isinstance(widget, BeatCard):
                widget.deleteLater()
        self._spare, self.cards, self.heads = {**self._spare, **self.cards}, {}, {}
        self._unbuilt = list(script)
        for widget in below:
            self._column.addWidget(widget)
        self._column.addStretch(1)
        while self._unbuilt and (len(self.cards) < AT_ONCE or focus in self._spare):
            self._build_section()
        self._more.start()

    def build_to(self, wanted: str) -> None:
        """Build as far as a beat or a section (by id), if it is still to come."""
        ahead = [i for i, s in enumerate(self._unbuilt) if wanted in (s.id, *(x.id for x in s.beats))]
        for _ in range(ahead[0] + 1 if ahead else 0):
            self._build_section()
        if ahead:
            self.grown.emit()

    def settle(self, card: BeatCard) -> None:
        """Lay out what has just been put into a card, which counts only then."""
        for layout in (card.layout(), self._column):
            if layout is not None:
                layout.activate()
        self._page.adjustSize()

    def _build_section(self) -> None:
        section = self._unbuilt.pop(0)
        at = len(self.heads) + len(self.cards)
        self.heads[section.id] = self._head(section)
        self._column.insertWidget(at, self.heads[section.id])
        for n, beat in enumerate(section.beats, 1):
            kept = beat.id in self._spare
            self.cards[beat.id] = self._spare.pop(beat.id) if kept else self._card(beat)
            self._column.insertWidget(at + n, self.cards[beat.id])

    def _build_more(self) -> None:
        """Some more, less than the hand notices at a time; at the end what is left over goes."""
        end, grows = time.monotonic() + SLICE, bool(self._unbuilt)
        while self._unbuilt and time.monotonic() < end:
            self._build_section()
        if grows:
            self.grown.emit()
        if not self._unbuilt:
            self._more.stop()
            for card in self._spare.values():
                card.deleteLater()
            self._spare = {}
