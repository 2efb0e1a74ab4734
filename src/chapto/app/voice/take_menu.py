"""What can be done with the recording that is looked at, at the pointer."""

from __future__ import annotations

from PyQt6.QtWidgets import QMenu, QWidget

from chapto.app.menus import choice
from chapto.app.voice.acts import TakeActs
from chapto.app.voice.hearing import Hearing
from chapto.document.takes import Take


def take_menu(parent: QWidget, acts: TakeActs, hearing: Hearing, take: Take) -> QMenu:
    """Hearing it, using it, how it is heard, what is cut out, taking it away."""
    menu = QMenu(parent)
    menu.addAction("Hear it  (L)", lambda: hearing.toggle())
    choice(menu, "Use it  (U)", acts.use_or_not, checked=take.chosen)
    choice(menu, "Clean it  (C)", acts.clean_or_not, checked=take.cleaned)
    choice(menu, "Read it again later  (M)", acts.mark, checked=take.again)
    menu.addSeparator()
    menu.addAction("Louder  (+)", lambda: acts.louder(1))
    menu.addAction("Quieter  (−)", lambda: acts.louder(-1))
    menu.addAction("Hurry  (H)", lambda: acts.hurry(1))
    menu.addAction("Linger  (Shift+H)", lambda: acts.hurry(-1))
    menu.addSeparator()
    menu.addAction("Cut the fillers  (F)", lambda: acts.cut_fillers())
    menu.addAction("Write what was said  (T)", lambda: acts.take_text(-1))
    menu.addSeparator()
    menu.addAction("Take it out; its file stays  (Del)", lambda: acts.remove())
    return menu
