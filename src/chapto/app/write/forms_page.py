"""What a new breakdown can be: shown while nothing is written."""

from __future__ import annotations

from functools import partial

from PyQt6.QtWidgets import QMenu, QWidget

from chapto.app import layouts
from chapto.app.menus import choice
from chapto.app.studio import Studio
from chapto.app.widgets import button, ground, label
from chapto.app.write.drafting import Drafting
from chapto.document.forms import forms, lay_out
from chapto.drafting.draft import choices

DRAFT_KEY = "Ctrl+Shift+D"


class FormsPage(QWidget):
    """A sentence on what this stage is for; a draft where something is logged; and the forms, each one press away."""

    def __init__(self, studio: Studio, drafting: Drafting) -> None:
        super().__init__()
        ground(self, "paper")
        column = layouts.column(self, margins=(16, 18, 16, 8), spacing=2)
        b = studio.breakdown
        if b.exchanges:
            column.addWidget(label("Told from the log", size="title"))
            logged = f"{len(b.exchanges)} exchanges and {len(b.moments)} moments are logged"
            told = f"{logged}: a first draft tells them, tied. How are the two spoken of?"
            column.addWidget(label(told, soft=True, wrap=True))
            column.addSpacing(4)
            row = layouts.row(spacing=6)
            for spoken_of, text in choices(b):
                key = DRAFT_KEY if spoken_of is b.naming.spoken_of else ""
                kind = "main" if key else ""
                row.addWidget(button(text, partial(drafting.draft, spoken_of), tip="Draft it so", key=key, kind=kind))
            row.addStretch(1)
            column.addLayout(row)
            column.addSpacing(14)
        column.addWidget(label("What will it be?", size="title"))
        about = "A form lays out chapters and beats for what is logged; you fill them."
        column.addWidget(label(about, soft=True, wrap=True))
        column.addSpacing(8)
        for name, form in forms().items():
            made = button(form.title, partial(put_in_form, studio, name), tip=form.about, sign="forward", kind="quiet")
            made.setStyleSheet("text-align: left; font-weight: 600; padding: 3px 0;")
            column.addWidget(made)
            words = label(form.about, soft=True, wrap=True)
            words.setContentsMargins(22, 0, 0, 5)
            column.addWidget(words)


def forms_menu(parent: QWidget, studio: Studio, drafting: Drafting) -> QMenu:
    """A draft and the forms as a menu, for a script that has words already: they stay."""
    menu = QMenu(parent)
    b = studio.breakdown
    menu.addAction(f"Draft what is not told yet from the log\t{DRAFT_KEY}", drafting.draft)
    for spoken_of, text in choices(b):
        choice(menu, f"    {text}", partial(drafting.draft, spoken_of), checked=spoken_of is b.naming.spoken_of)
    menu.addSeparator()
    for name, form in forms().items():
        menu.addAction(form.title, partial(put_in_form, studio, name))
    return menu


def put_in_form(studio: Studio, name: str, *_: object) -> None:
    """Lay the document out in a form; one step of undo."""
    studio.edit(f"lay out as {forms()[name].title.lower()}", lambda b: lay_out(b, name))
