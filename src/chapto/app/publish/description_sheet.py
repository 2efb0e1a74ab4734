"""What stands under the video: the creator's own words, and the whole as viewers will read it."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QApplication, QPlainTextEdit, QWidget

from chapto.app import layouts
from chapto.app.frame.over_sheet import OverSheet
from chapto.app.own_keys import EscIsMine
from chapto.app.studio import Studio
from chapto.app.widgets import button, ground, label
from chapto.document.edit_breakdown import set_about
from chapto.errors import ChaptoError
from chapto.publish.description import description, template_file
from chapto.review.limits import shipped_limits

SIZE = (960, 620)
OWN = "What is it about? Viewers see the first two lines in lists. Links go here too."


class DescriptionSheet(EscIsMine, OverSheet):
    """Words are put into the document as they are typed; `left` is called when it closes."""

    def __init__(self, window: QWidget, studio: Studio, left: Callable[[], object]) -> None:
        super().__init__(window, "The description", SIZE)
        self._studio, self._left = studio, left
        column = layouts.column(self.sheet, margins=(24, 18, 24, 16), spacing=10)
        column.addWidget(label("Under the video", size="title"))
        column.addWidget(label(OWN, soft=True, wrap=True))
        self.own = QPlainTextEdit(studio.breakdown.about)
        self.own.setAccessibleName("What it is about")
        self.own.setTabChangesFocus(True)
        self.own.setFixedHeight(118)
        column.addWidget(self.own)
        rule = ground(QWidget(), "rule")
        rule.setFixedHeight(1)
        column.addWidget(rule)
        self.whole = label("", wrap=True)
        self.whole.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        self.whole.setAlignment(Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignLeft)
        inner = ground(QWidget(), "paper")
        layouts.column(inner, self.whole).addStretch(1)
        column.addWidget(layouts.scrolled(inner), 1)
        self.count = label("", soft=True, wrap=True)
        acts = layouts.row(None, button("Copy all of it", self.copy, tip="Copy the description"))
        acts.addWidget(self.count, 1)
        acts.addWidget(button("Done", self.leave, tip="Back to Publish", key="Esc", kind="main"))
        column.addLayout(acts)
        self.own.textChanged.connect(self._typed)
        studio.changed.connect(self._show)
        studio.compiled.connect(self._show)
        self._show()
        self.show_over()
        self.own.setFocus()

    def copy(self) -> None:
        """All of it, for a site."""
        clipboard = QApplication.clipboard()
        if clipboard is not None:
            clipboard.setText(self.whole.text())

    def leave(self) -> None:
        """What was typed is in the document already."""
        self._studio.changed.disconnect(self._show)
        self._studio.compiled.disconnect(self._show)
        super().leave()
        self._left()

    def _typed(self) -> None:
        text = self.own.toPlainText()
        if text.strip() != self._studio.breakdown.about:
            self._studio.edit("write the description", partial(set_about, text=text), merge="description")

    def _show(self) -> None:
        b = self._studio.breakdown
        if self.own.toPlainText().strip() != b.about:
            # An undo: what is being typed is what stands in the document, but for the space at its end.
            self.own.setPlainText(b.about)
        try:
            text = description(b, self._studio.programme, self._studio.production.kept)
        except ChaptoError as error:
            self.whole.setText("")
            self.count.setText(str(error))
            return
        most = int(shipped_limits()["description-longest"].value)
        self.whole.setText(text.strip())
        self.count.setText(f"{len(text.strip())} of {most} letters. Your own layout: {template_file()}")
