"""Every colour of Chapto, on the screen and in the picture."""

from __future__ import annotations

from functools import lru_cache

from PyQt6.QtGui import QColor

from chapto.clock.passage import Kind
from chapto.programme.programme import TieState

DEEP, SPRUCE, SPRUCE_LIGHT, SPRUCE_HOVER, SPRUCE_LINE = "#101715", "#1B2622", "#26342F", "#30413B", "#3A4D46"
ON_DARK, ON_DARK_SOFT, ON_DARK_OFF = "#EDF1EC", "#A3B4AC", "#71827A"
PAPER_BRIGHT, PAPER, PAPER_DEEP, PAPER_LINE = "#FFFDF6", "#FAF6EC", "#EEE7D8", "#CFC4AE"
PAPER_HOVER, PAPER_PRESSED = "#E5DCC8", "#DACFB6"
INK, INK_HOVER, INK_SOFT, INK_OFF = "#1D2623", "#33413C", "#57635D", "#A39C8C"
MAIN_OFF = "#8C958F"
"""The main button while it can't be pressed."""
FIRST, SECOND = "#E3A33A", "#3AA6B5"
CHOSEN, BEGUN = "#F3E2BC", "#F3DDB2"
"""The ground of what is chosen among words, and of a key whose stretch has begun."""
ALARM = "#E0745F"
"""On dark: something that is missing."""
HEARD = "#4A625A"
"""The curve of how loud it is."""
TAKEN = "#D7CDB8"
"""A stretch that was decided."""
GLASS = "#C9D8CC"
"""The tube of a level."""
AMBER, NEUTRAL = "#D08B1F", "#9A958A"
WHITE = "#FFFFFF"
KITS = (
    FIRST, SECOND, "#C8553D", "#6A8F3C", "#8E6BB0", "#D9D4C7", "#4A5A8C", "#2B2B2B",
    "#F4F2EC", "#D33F49", "#E8C547", "#2F8F6B", "#7FB2E5", "#D98BA8", "#8B6B4A", "#8C9299",
)  # fmt: skip
"""Kit colours that are offered."""

PASSAGES: dict[Kind, str] = {
    Kind.RUN: "#8FB09C",
    Kind.SLOW: "#6F8FC7",
    Kind.HOLD: "#B07AB8",
    Kind.AGAIN: "#C8764E",
    Kind.LOOP: "#C9A27C",
    Kind.CUTAWAY: NEUTRAL,
    Kind.CARD: PAPER_LINE,
}
TIES: dict[TieState, str] = {TieState.MET: "#6E9440", TieState.LATE: AMBER, TieState.BROKEN: "#C0472C"}


def see_through(colour: str, alpha: int) -> QColor:
    """A colour that lets through what is under it; `alpha` from 0 (all of it) to 255 (nothing)."""
    made = QColor(colour)
    made.setAlpha(alpha)
    return made


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
