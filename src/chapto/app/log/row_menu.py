"""What can be done with one row of the log, at the pointer."""

from __future__ import annotations

from functools import partial

from PyQt6.QtWidgets import QMenu, QWidget

from chapto.app.log.log_controller import LogController
from chapto.app.menus import choice, deeper
from chapto.app.studio import Studio
from chapto.document import edit_log
from chapto.document.bout import Exchange, Moment, MomentKind, Outcome, Round
from chapto.document.people import Side
from chapto.lexicon.trade_words import trade_word

Logged = Round | Exchange | Moment


def row_menu(parent: QWidget, studio: Studio, pen: LogController, item: Logged) -> QMenu:
    """Entries for an exchange, a moment or a round; what takes it out is put there by the row."""
    menu = QMenu(parent)
    if isinstance(item, Exchange):
        _exchange(menu, studio, pen, item)
    elif isinstance(item, Moment):
        kinds = deeper(menu, "It is a")
        for kind in MomentKind:
            change = partial(edit_log.change_moment, moment_id=item.id, kind=kind)
            edit = partial(studio.edit, "change the kind", change)
            choice(kinds, trade_word(kind), edit, checked=item.kind is kind)
    return menu


def _exchange(menu: QMenu, studio: Studio, pen: LogController, x: Exchange) -> None:
    pen.chosen = x.id
    menu.addAction("Play it  (L)", lambda: pen.play_last())
    over = "End playing it over and over" if pen.is_looping else "Play it over and over"
    menu.addAction(f"{over}  (Shift+L)", lambda: pen.loop_last())
    menu.addSeparator()
    began = deeper(menu, "Who began it")
    for side in (*Side, None):
        name = studio.breakdown.athlete(side, x.start).name if side is not None else "nobody yet"
        edit = partial(
            studio.edit, "say who began it", partial(edit_log.change_exchange, exchange_id=x.id, by=side)
        )  # fmt: skip
        choice(began, name, edit, checked=x.by is side)
    ended = deeper(menu, "How it ended")
    for outcome in Outcome:
        change = partial(edit_log.change_exchange, exchange_id=x.id, outcome=outcome)
        edit = partial(studio.edit, "say how it ended", change)
        choice(ended, trade_word(outcome), edit, checked=x.outcome is outcome)
    menu.addAction("Split it at the picture  (I)", lambda: pen.split())
    menu.addAction("Join it with the next  (U)", lambda: pen.join())
