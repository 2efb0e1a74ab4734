"""One place on the shelf, painted: its picture, what it is, and where it comes from."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import QLineF, QRectF, Qt
from PyQt6.QtGui import QColor, QImage, QPainter, QPen

from chapto.app.film_cells import paint_cell
from chapto.app.theme import number_font, text_font
from chapto.clock.timecode import clock_text
from chapto.lexicon.lexicon import Lexicon
from chapto.paint.colours import (
    AMBER,
    DEEP,
    FIRST,
    ON_DARK,
    ON_DARK_SOFT,
    SPRUCE_LIGHT,
    SPRUCE_LINE,
    TIES,
    see_through,
)
from chapto.paint.lettering import write
from chapto.programme.programme import TieState
from chapto.shelf.asking import SAID
from chapto.shelf.search import Found
from chapto.shelf.viewed import said

LEAST, SHAPE, WORDS = 208.0, 9 / 16, 64.0
"""Pixels that a picture is wide at least, its height by its width, and the pixels of the words beneath."""
GAP = 16.0
OUTCOME = {"landed": TIES[TieState.MET], "stopped": TIES[TieState.BROKEN], "half": AMBER}
"""The stroke before a place's name says how it ended."""


def title_of(place: Found, lexicon: Lexicon) -> str:
    """What a place is called: its technique, or as it was written; else when it was, or its breakdown's title."""
    known = lexicon.techniques.get(place.technique)
    name = known.en if known is not None else place.called
    if not name:
        return f"Exchange at {clock_text(place.start)}" if place.is_exchange else place.title
    return name[:1].upper() + name[1:]


def came_from(place: Found, lexicon: Lexicon) -> str:
    """Where it began, and how it ended."""
    begun = f"from {said(place.before, lexicon).lower()}" if place.before else ""
    ended = next((text for o, text in SAID.items() if o.value == place.outcome), "")
    return ", ".join(part for part in (begun, ended) if part)


def paint_place(
    p: QPainter,
    box: QRectF,
    place: Found,
    image: QImage | None,
    words: Sequence[str],
    *,
    chosen: bool,
    at: float | None,
) -> None:
    """A place in its box; `words` are its name and the lines beneath. `at` is the share of it that has been played."""
    picture = QRectF(box.left(), box.top(), box.width(), box.height() - WORDS)
    if image is not None:
        paint_cell(p, picture, image)
    else:
        p.fillRect(picture, QColor(SPRUCE_LIGHT))
        _path(p, picture, place)
    length = f"{place.seconds:.0f} s" if place.seconds else ""
    if image is not None and length:
        tag = QRectF(picture.right() - 40, picture.bottom() - 21, 36, 17)
        p.fillRect(tag, see_through(DEEP, 190))
        p.setFont(number_font(13, 500))
        write(p, tag, length, ON_DARK, Qt.AlignmentFlag.AlignCenter)
    if at is not None:
        p.fillRect(QRectF(picture.left(), picture.bottom() - 3, picture.width() * at, 3), QColor(FIRST))
    p.setPen(QPen(QColor(OUTCOME.get(place.outcome, SPRUCE_LINE)), 3))
    line = picture.bottom() + 8
    p.drawLine(QLineF(box.left() + 1.5, line, box.left() + 1.5, line + 13))
    p.setFont(text_font(14, 600))
    write(p, QRectF(box.left() + 9, picture.bottom() + 4, box.width() - 9, 21), words[0], ON_DARK)
    p.setFont(text_font(12))
    for i, text in enumerate(words[1:]):
        write(p, QRectF(box.left() + 9, picture.bottom() + 24 + 18 * i, box.width() - 9, 18), text, ON_DARK_SOFT)
    if chosen:
        p.setPen(QPen(QColor(FIRST), 2.5))
        p.setBrush(Qt.BrushStyle.NoBrush)
        p.drawRoundedRect(picture.adjusted(-3, -3, 3, 3), 4, 4)


def _path(p: QPainter, box: QRectF, place: Found) -> None:
    """Without a picture its time on the mat clock stands there, with its moments."""
    p.setFont(number_font(24, 500))
    at = clock_text(place.start) if place.is_exchange else "“ ”"
    write(p, QRectF(box.left(), box.top() + 18, box.width(), 32), at, ON_DARK_SOFT, Qt.AlignmentFlag.AlignCenter)
    p.setFont(text_font(12))
    why = "footage is not here" if place.footage else "no footage"
    write(p, QRectF(box.left(), box.top() + 48, box.width(), 18), why, ON_DARK_SOFT, Qt.AlignmentFlag.AlignCenter)
    if place.seconds and place.moments:
        p.setPen(QPen(QColor(SPRUCE_LINE), 2))
        y = box.bottom() - 26
        left, wide = box.left() + 22, box.width() - 44
        p.drawLine(QLineF(left, y, left + wide, y))
        p.setPen(QPen(QColor(ON_DARK_SOFT), 2))
        for _, second in place.moments:
            x = left + wide * min(second / place.seconds, 1.0)
            p.drawLine(QLineF(x, y - 5, x, y + 5))
