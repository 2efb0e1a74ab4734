"""The menu of how long the video is to be."""

from __future__ import annotations

from functools import partial

from PyQt6.QtWidgets import QMenu, QWidget

from chapto.app.menus import choice
from chapto.app.studio import Studio
from chapto.clock.timecode import clock_text
from chapto.document import edit_breakdown
from chapto.document.breakdown import Breakdown

MINUTES = (1, 2, 3, 4, 5, 8, 10, 12, 15, 20)
NEARLY = (-30, -10, 10, 30)
"""Seconds by which the video may be wished shorter or longer than it is."""


def length_text(b: Breakdown) -> str:
    """The wish as the bar shows it."""
    if not b.target:
        return "Any length"
    return f"{'At most' if b.target_is_limit else 'About'} {clock_text(b.target)}"


def length_menu(parent: QWidget, studio: Studio) -> QMenu:
    """Lengths to wish for, near the present one and in whole minutes; and whether it is a limit."""
    menu = QMenu(parent)
    b = studio.breakdown
    now = round(studio.programme.seconds)

    def wish(text: str, seconds: int) -> None:
        change = partial(edit_breakdown.set_target, seconds=seconds, limit=b.target_is_limit)
        choice(menu, text, partial(studio.edit, "wish for a length", change), checked=b.target == seconds)

    wish("As long as it comes", 0)
    menu.addSeparator()
    for by in NEARLY:
        if now + by > 0:
            wish(f"{clock_text(now + by)}, {abs(by)} s {'shorter' if by < 0 else 'longer'} than now", now + by)
    menu.addSeparator()
    for minutes in MINUTES:
        wish(clock_text(minutes * 60), minutes * 60)
    if b.target:
        menu.addSeparator()
        change = partial(edit_breakdown.set_target, seconds=round(b.target), limit=not b.target_is_limit)
        text = "Never longer than that"
        choice(menu, text, partial(studio.edit, "change the limit", change), checked=b.target_is_limit)
    return menu
