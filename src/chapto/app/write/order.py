"""Where in the script a dragged beat would go: between which beats, and a line there."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from PyQt6.QtCore import QPoint
from PyQt6.QtWidgets import QFrame, QWidget

from chapto.document.breakdown import Breakdown
from chapto.paint.colours import FIRST


@dataclass(frozen=True)
class Slot:
    """A place in the order: in a section before a beat (at its end when empty), and its height on the page."""

    section: str
    before: str
    y: int


def slots(b: Breakdown, heads: Mapping[str, QWidget], cards: Mapping[str, QWidget]) -> list[Slot]:
    """Every place a beat can be put, from the top; `heads` and `cards` are the widgets of sections and beats, as far as
    they stand there."""
    found = []
    for section in (s for s in b.script if s.id in heads):
        foot = heads[section.id].geometry().bottom()
        for beat in section.beats:
            box = cards[beat.id].geometry()
            found.append(Slot(section.id, beat.id, box.top()))
            foot = box.bottom()
        found.append(Slot(section.id, "", foot))
    return found


class Marker(QFrame):
    """A line on the page where the beat would go."""

    def __init__(self, page: QWidget) -> None:
        super().__init__(page)
        self._page = page
        self.setStyleSheet(f"background: {FIRST}; border: none;")
        self.hide()

    def nearest(self, places: list[Slot], at: QPoint) -> Slot | None:
        """The slot nearest to a global pixel; the line is drawn there."""
        y = self._page.mapFromGlobal(at).y()
        slot = min(places, key=lambda s: abs(s.y - y), default=None)
        if slot is not None:
            self.setGeometry(12, slot.y - 1, self._page.width() - 24, 3)
            self.show()
            self.raise_()
        return slot
