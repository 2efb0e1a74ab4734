"""The house style of a section: its own, else the breakdown's."""

from __future__ import annotations

from collections.abc import Mapping

from chapto.document.breakdown import Breakdown
from chapto.document.script import Section
from chapto.pacing.styles import HouseStyle

DEFAULT = "stop-and-talk"
Styles = Mapping[str, HouseStyle]


def style_of(b: Breakdown, section: Section, styles: Styles) -> HouseStyle:
    """The style of a section; `DEFAULT` for one that is not on this machine."""
    return styles.get(section.style) or styles.get(b.style) or styles[DEFAULT]


def unknown_styles(b: Breakdown, styles: Styles) -> tuple[str, ...]:
    """Names of styles asked for that are not on this machine, in the order of the script."""
    asked = (b.style, *(s.style for s in b.script if s.style))
    return tuple(dict.fromkeys(name for name in asked if name not in styles))
