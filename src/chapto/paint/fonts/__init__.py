"""The fonts that ship with Chapto (SIL Open Font Licence, see OFL.txt)."""

from __future__ import annotations

from functools import lru_cache
from pathlib import Path

from PyQt6.QtGui import QFontDatabase

TEXT, NUMBERS = "Barlow", "Barlow Condensed"


@lru_cache(maxsize=1)
def load_fonts() -> tuple[str, ...]:
    """Make the shipped fonts known to Qt; returns their family names. Needs a QGuiApplication."""
    families: list[str] = []
    for path in sorted(Path(__file__).parent.glob("*.ttf")):
        number = QFontDatabase.addApplicationFont(str(path))
        families += QFontDatabase.applicationFontFamilies(number)
    return tuple(sorted(set(families)))
