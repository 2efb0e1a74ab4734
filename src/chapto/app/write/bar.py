"""The bar over the lacing: house style, wished length, what is on the picture, tying, zoom."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from functools import partial

from PyQt6.QtCore import QPoint
from PyQt6.QtWidgets import QMenu, QPushButton, QWidget

from chapto.app import layouts
from chapto.app.lacing.widget import Lacing
from chapto.app.studio import Studio
from chapto.app.widgets import button, ground, label
from chapto.app.write.length_menu import length_menu, length_text
from chapto.app.write.own_styles import own_styles_menu
from chapto.app.write.picture_menu import picture_menu
from chapto.document import edit_breakdown
from chapto.pacing.styles import house_styles


class WriteBar(QWidget):
    """Follows the document; `tie` and `change_style` are what those buttons do; sheets `beside` open by name."""

    def __init__(
        self,
        studio: Studio,
        lacing: Lacing,
        tie: Callable[[], object],
        change_style: Callable[[], object],
        beside: Mapping[str, Callable[[], object]],
    ) -> None:
        super().__init__()
        self._studio = studio
        ground(self, "dark")
        row = layouts.row(self, margins=(12, 5, 12, 5))
        row.addWidget(label("House style", soft=True))
        self.styles: dict[str, QPushButton] = {}
        for name, style in house_styles().items():
            made = button(style.title, partial(self.set_style, name), tip=style.about, dark=True)
            made.setCheckable(True)
            self.styles[name] = made
            row.addWidget(made)
        self.own = self._opens(lambda: own_styles_menu(self, studio, change_style), "Styles of your own")
        self.own.setCheckable(True)
        row.addWidget(self.own)
        row.addSpacing(10)
        self.length = self._opens(lambda: length_menu(self, studio), "How long the video is to be", "Ctrl+L")
        row.addWidget(self.length)
        tip = "Names, score and cautions on the picture, music and photos"
        picture = self._opens(lambda: picture_menu(self, studio, beside), tip, "Ctrl+P")
        picture.setText("On the picture")
        self.picture = picture
        row.addWidget(picture)
        row.addStretch(1)
        tip = "Tie the word at the caret to the picture"
        row.addWidget(button("Tie", tie, tip=tip, key="Ctrl+T", sign="lace", dark=True))
        row.addSpacing(8)
        for text, factor, tip in (("−", 1 / 1.6, "Wider"), ("+", 1.6, "Closer")):
            row.addWidget(button(text, partial(lacing.zoom, factor), tip=tip, key=text, dark=True))
        row.addWidget(button("Whole", lacing.show_all, tip="The whole breakdown", key="0", dark=True))
        studio.changed.connect(self._follow)
        self._follow()

    def set_style(self, name: str) -> None:
        """Fit everything in another house style."""
        self._studio.edit("change the house style", lambda b: edit_breakdown.set_style(b, name))
        self._follow()

    def _opens(self, menu: Callable[[], QMenu], tip: str, key: str = "") -> QPushButton:
        def act() -> None:
            menu().exec(made.mapToGlobal(QPoint(0, made.height())))
            self._follow()

        made = button("", act, tip=tip, key=key, dark=True)
        return made

    def _follow(self) -> None:
        b = self._studio.breakdown
        for name, made in self.styles.items():
            made.setChecked(name == b.style)
        own = None if b.style in self.styles else self._studio.known.styles.get(b.style)
        self.own.setText(own.title if own else "Own")
        self.own.setChecked(own is not None)
        self.length.setText(length_text(b))
