"""What is painted over (or instead of) the footage at each frame: one answer for preview and render."""

from __future__ import annotations

from dataclasses import dataclass

from PyQt6.QtCore import QRect
from PyQt6.QtGui import QImage, QPainter

from chapto.clock.passage import Kind
from chapto.document.breakdown import Breakdown
from chapto.paint.card import card_image
from chapto.paint.control_box import control_image, marker_image, marker_place
from chapto.paint.label import label_height, label_image
from chapto.programme.programme import Programme

SAFE = 0.05
"""Lettering stays inside the middle 90 % of width and height (EBU R 95, SMPTE ST 2046-1)."""


@dataclass(frozen=True)
class Box:
    """A small picture laid over the frame; `x` and `y` are even. `key` tells equal boxes."""

    key: str
    x: int
    y: int
    image: QImage


class Overlay:
    """The painted parts of one programme at one picture size."""

    def __init__(self, breakdown: Breakdown, programme: Programme, size: tuple[int, int]) -> None:
        self._b, self._programme, self.size = breakdown, programme, size
        self._labels: dict[str, QImage] = {}
        self._cards: dict[str, QImage] = {}
        self._strips: dict[str, QImage] = {}

    def boxes(self, frame: int) -> tuple[Box, ...]:
        """The control strip if it is wanted, and the labels over frame number `frame`, lowest row first."""
        width, height = self.size
        row_height = label_height(height) + max(height // 90, 4)
        found = [*self._control(frame)] if self._b.control_strip else []
        for label in self._programme.labels:
            if label.start <= frame < label.end:
                if label.label not in self._labels:
                    accent = self._b.first.kit_colour
                    self._labels[label.label] = label_image(label.text, picture=self.size, accent=accent)
                image = self._labels[label.label]
                x = round(width * SAFE) // 2 * 2 + 2
                y = (round(height * (1 - SAFE)) - image.height() - label.row * row_height) // 2 * 2
                found.append(Box(f"{label.label}/{label.row}", x, y, image))
        return tuple(found)

    def _control(self, frame: int) -> tuple[Box, ...]:
        """The strip of the round on the screen, at the upper left of the safe area, and the marker in it."""
        passage = self._programme.time_map.passage_at(frame)
        mat = passage.mat_at(frame)
        here = next((r for r in self._b.rounds if r.start <= mat < r.end), None) if passage.footage else None
        if here is None:
            return ()
        if here.id not in self._strips:
            self._strips[here.id] = control_image(self._b, here, self.size)
        strip = self._strips[here.id]
        width, height = self.size
        x, y = round(width * SAFE) // 2 * 2 + 2, round(height * SAFE) // 2 * 2 + 2
        at = marker_place(here, mat, self.size)
        return (
            Box(f"control/{here.id}", x, y, strip),
            Box("control/marker", x + at, y, marker_image(self.size)),
        )

    def card(self, frame: int) -> tuple[str, QImage] | None:
        """The title card in the place of the footage at `frame`, with its key; None where footage is shown."""
        passage = self._programme.time_map.passage_at(frame)
        if passage.kind is not Kind.CARD:
            return None
        section = self._programme.section_at(frame)
        title = section.title if section and section.title else self._b.title
        if title not in self._cards:
            under = self._b.part if title != self._b.title else f"{self._b.first.name} and {self._b.second.name}"
            if self._b.part and title == self._b.title:
                under = f"{under}  ·  {self._b.part}"
            threads = (self._b.first.kit_colour, self._b.second.kit_colour)
            self._cards[title] = card_image(title, under, picture=self.size, threads=threads)
        return title, self._cards[title]


def paint_boxes(painter: QPainter, boxes: tuple[Box, ...], area: QRect, size: tuple[int, int]) -> None:
    """Paint `boxes`, made for a picture of `size`, over a picture that fills `area`."""
    for box in boxes:
        sx, sy = area.width() / size[0], area.height() / size[1]
        target = QRect(
            round(area.x() + box.x * sx), round(area.y() + box.y * sy),
            round(box.image.width() * sx), round(box.image.height() * sy),
        )  # fmt: skip
        painter.drawImage(target, box.image)
