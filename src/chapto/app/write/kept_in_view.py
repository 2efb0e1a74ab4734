"""The beat that is written stays in view: it is brought there, and what comes under its words later comes along."""

from __future__ import annotations

from PyQt6.QtCore import QObject, QTimer
from PyQt6.QtWidgets import QScrollArea

from chapto.app.write.card_column import CardColumn

BESIDE = 40
"""Pixels that are seen above and below it where there is room."""


class KeptInView(QObject):
    """Of the cards of a `column` that `area` scrolls."""

    def __init__(self, area: QScrollArea, column: CardColumn) -> None:
        super().__init__(area)
        self._area, self._column, self._beat = area, column, ""
        # A timer of its own ends with the script, and what waits for it as well.
        self._soon = QTimer(self)
        self._soon.setSingleShot(True)
        self._soon.timeout.connect(self._reveal)

    def reveal(self, beat: str) -> None:
        """Bring a beat into view, once what is put into its card now has its place."""
        self._beat = beat
        self._soon.start()

    def grew(self, beat: str, before: int) -> None:
        """A card was `before` pixels high and is higher: if it was brought into view last, who saw the whole of it goes
        on seeing it. Who had scrolled elsewhere stays there, and what was pressed stays under the pointer."""
        card, bar, page = self._column.cards.get(beat), self._area.verticalScrollBar(), self._area.viewport()
        if beat != self._beat or card is None or bar is None or page is None:
            return
        if bar.value() <= card.y() and card.y() + before <= bar.value() + page.height():
            self.reveal(beat)

    def _reveal(self) -> None:
        if (card := self._column.cards.get(self._beat)) is not None:
            self._column.settle(card)
            self._area.ensureWidgetVisible(card, 0, BESIDE)
