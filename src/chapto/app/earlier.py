"""Earlier saved states of a breakdown, by when they were saved."""

from __future__ import annotations

from datetime import datetime
from functools import partial

from PyQt6.QtWidgets import QMenu, QWidget

from chapto.app.studio import Studio
from chapto.document.script import words_of
from chapto.errors import ChaptoError
from chapto.store.states import State


def day_of(at: float, now: datetime | None = None) -> str:
    """When something was (seconds since 1970): the time today, yesterday, the day before that."""
    there, today = datetime.fromtimestamp(at), (now or datetime.now()).date()
    days = (today - there.date()).days
    return f"today, {there:%H:%M}" if days <= 0 else "yesterday" if days == 1 else f"{there.day} {there:%B %Y}"


def when(state: State, now: datetime | None = None) -> str:
    """When a state was saved: the time today, the day and the time before."""
    at = datetime.fromtimestamp(state.at)
    today = (now or datetime.now()).date()
    return f"today, {at:%H:%M:%S}" if at.date() == today else f"{at:%d %B %Y, %H:%M}"


def about(state: State) -> str:
    """What a state holds, in a few words, to tell it from others."""
    try:
        b = state.read()
    except ChaptoError as error:
        return str(error)
    beats = [beat for _, beat in b.beats()]
    counts = [(len(b.exchanges), "exchange"), (len(beats), "beat"), (sum(len(words_of(x.text)) for x in beats), "word")]
    told = ", ".join(f"{n:,} {what}{'' if n == 1 else 's'}" for n, what in counts)
    return f"{b.title}{f', {b.part}' if b.part else ''}: {told}"


def earlier_menu(parent: QWidget, studio: Studio) -> QMenu:
    """The states to go back to; going back is a step that can be undone."""
    menu = QMenu("Earlier states", parent)
    for state in studio.session.states:
        menu.addAction(f"{when(state)}   {about(state)}".replace("&", "&&"), partial(_go_back, studio, state))
    if menu.isEmpty():
        nothing = menu.addAction("Nothing was saved before")
        assert nothing is not None
        nothing.setEnabled(False)
    return menu


def _go_back(studio: Studio, state: State) -> None:
    try:
        found = state.read()
    except ChaptoError as error:
        studio.message.emit(str(error))
        return
    studio.edit(f"go back to the state of {when(state)}", lambda _: found)
