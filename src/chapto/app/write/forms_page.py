"""What a new breakdown can be: shown while nothing is written."""

from __future__ import annotations

from functools import partial

from PyQt6.QtWidgets import QMenu, QWidget

from chapto.app import layouts
from chapto.app.studio import Studio
from chapto.app.widgets import button, ground, label
from chapto.document.forms import forms, lay_out


class FormsPage(QWidget):
    """A sentence on what this stage is for, and the forms, each one press away."""

    def __init__(self, studio: Studio) -> None:
        super().__init__()
        ground(self, "paper")
        column = layouts.column(self, margins=(16, 18, 16, 8), spacing=2)
        column.addWidget(label("What will it be?", size="title"))
        about = "Write here what you will say, or paste it. A form lays out chapters and beats for what is logged."
        column.addWidget(label(about, soft=True, wrap=True))
        column.addSpacing(8)
        for name, form in forms().items():
            made = button(form.title, partial(put_in_form, studio, name), tip=form.about, sign="forward", kind="quiet")
            made.setStyleSheet("text-align: left; font-weight: 600; padding: 3px 0;")
            column.addWidget(made)
            words = label(form.about, soft=True, wrap=True)
            words.setContentsMargins(22, 0, 0, 5)
            column.addWidget(words)


def forms_menu(parent: QWidget, studio: Studio) -> QMenu:
    """The forms as a menu, for a script that has words already: they stay."""
    menu = QMenu(parent)
    for name, form in forms().items():
        menu.addAction(form.title, partial(put_in_form, studio, name))
    return menu


def put_in_form(studio: Studio, name: str, *_: object) -> None:
    """Lay the document out in a form; one step of undo."""
    studio.edit(f"lay out as {forms()[name].title.lower()}", lambda b: lay_out(b, name))
