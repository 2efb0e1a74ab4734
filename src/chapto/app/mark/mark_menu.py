"""What can be done with one mark, at the pointer."""

from __future__ import annotations

from PyQt6.QtWidgets import QMenu, QWidget

from chapto.app.mark.acts import MarkActs
from chapto.document.mark_kinds import RULES
from chapto.document.marks import Mark


def mark_menu(parent: QWidget, acts: MarkActs, mark: Mark) -> QMenu:
    """Whose it is, how long it stays, how it stands, its size, taking it away."""
    menu, rule = QMenu(parent), RULES[mark.kind]
    menu.addAction("Somebody else's  (1)", lambda: acts.next_owner(mark))
    menu.addAction("Stays longer or shorter  (U)", lambda: acts.next_until(mark))
    if rule.states:
        menu.addAction("Stands otherwise  (R)", lambda: acts.next_state(mark))
    if rule.sized:
        menu.addAction("Larger  (+)", lambda: acts.larger(mark, 1))
        menu.addAction("Smaller  (−)", lambda: acts.larger(mark, -1))
    menu.addSeparator()
    menu.addAction("Take it away", lambda: acts.remove(mark))
    return menu
