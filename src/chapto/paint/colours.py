"""Every colour of Chapto, on the screen and in the picture."""

from __future__ import annotations

from functools import lru_cache

from PyQt6.QtGui import QColor

from chapto.clock.passage import Kind
from chapto.programme.programme import TieState

DEEP, SPRUCE, SPRUCE_LINE = "#101715", "#1B2622", "#3A4D46"
ON_DARK, ON_DARK_SOFT = "#EDF1EC", "#A3B4AC"
PAPER, PAPER_DEEP, PAPER_LINE = "#FAF6EC", "#EEE7D8", "#CFC4AE"
INK, INK_SOFT = "#1D2623", "#57635D"
FIRST, SECOND = "#E3A33A", "#3AA6B5"

PASSAGES: dict[Kind, str] = {
    Kind.RUN: "#8FB09C",
    Kind.SLOW: "#6F8FC7",
    Kind.HOLD: "#B07AB8",
    Kind.AGAIN: "#C8764E",
    Kind.CUTAWAY: "#9A958A",
    Kind.CARD: PAPER_LINE,
}
TIES: dict[TieState, str] = {TieState.MET: "#6E9440", TieState.LATE: "#D08B1F", TieState.BROKEN: "#C0472C"}


def luminance(colour: str) -> float:
    """Relative luminance, 0…1, of an sRGB colour (W3C WCAG 2.x)."""

    def linear(v: float) -> float:
        return v / 12.92 if v <= 0.04045 else ((v + 0.055) / 1.055) ** 2.4

    q = QColor(colour)
    return 0.2126 * linear(q.redF()) + 0.7152 * linear(q.greenF()) + 0.0722 * linear(q.blueF())


def contrast(a: str, b: str) -> float:
    """Contrast ratio of two colours, 1…21 (W3C WCAG 2.x)."""
    high, low = sorted((luminance(a), luminance(b)), reverse=True)
    return (high + 0.05) / (low + 0.05)


@lru_cache(maxsize=256)
def readable_on(ground: str) -> str:
    """Ink or light letters, whichever reads better on `ground`."""
    return INK if contrast(INK, ground) >= contrast(ON_DARK, ground) else ON_DARK
