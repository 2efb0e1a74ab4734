"""Photos on the paper of the script: what is there, whose they are, and who agreed."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import Any

from msgspec.structs import replace
from PyQt6.QtCore import Qt
from PyQt6.QtGui import QPixmap
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QLineEdit

from chapto.app import layouts
from chapto.app.choosing import Choosing
from chapto.app.studio import Studio
from chapto.app.widgets import button, label
from chapto.app.write.paper_sheet import PaperSheet
from chapto.document import edit_photos
from chapto.document.clearance import Agreement
from chapto.document.photos import Photo

PICTURES = "Photos (*.png *.jpg *.jpeg *.webp);;All (*)"
ABOUT = "Shown under a beat, or from a word on, with Ctrl+E. Whoever can be seen has to agree, as in footage."
WIDE, HIGH = 132, 88


class PhotoSheet(PaperSheet):
    """Follows the document while it is open; `bring_in` takes files."""

    def __init__(self, studio: Studio, bring_in: Callable[[list[Path]], object]) -> None:
        super().__init__("Bring in photos…", "Choose pictures", "Back to the script")
        self._studio, self._bring_in = studio, bring_in
        self._shown: tuple[Photo, ...] | None = None
        self.about.setText(ABOUT)
        studio.changed.connect(self._follow)
        files = studio.files
        files.moved.connect(self._anew)

    def open(self) -> None:
        """Show what is there."""
        self._anew()
        self.main.setFocus()

    def act(self) -> None:
        """Choose files."""
        paths = Choosing(self, self._studio.preferences, "photo").files("Bring in photos", PICTURES)
        if paths:
            self._bring_in(paths)

    def _anew(self) -> None:
        self._shown = None
        self._follow()

    def _follow(self) -> None:
        photos = self._studio.breakdown.photos
        if photos == self._shown or (self._shown is not None and not self.isVisible()):
            return
        typing = isinstance(self.focusWidget(), QLineEdit)
        same = self._shown is not None and [p.id for p in photos] == [p.id for p in self._shown]
        self._shown = photos
        if same and typing:
            return
        self.empty()
        self.title.setText("Photos" if photos else "No photo yet")
        for photo in photos:
            self.lines.addLayout(self._row(photo))
        self.lines.addStretch(1)

    def _row(self, photo: Photo) -> QHBoxLayout:
        row = layouts.row(spacing=12)
        row.addWidget(self._picture(photo), 0, Qt.AlignmentFlag.AlignTop)
        words = layouts.column(spacing=3)
        words.addWidget(self._line(photo.name, "What is it called?", lambda text: self._change(photo, name=text)))
        owner = self._line(photo.clearance.owner, "Whose picture is it?", partial(self._right, photo, "owner"))
        words.addWidget(owner)
        credit = self._line(
            photo.clearance.credit, "As it stands in the credits", partial(self._right, photo, "credit")
        )
        words.addWidget(credit)
        acts = layouts.row()
        agreed = photo.clearance.agreement is Agreement.AGREED
        other = Agreement.NOT_ASKED if agreed else Agreement.AGREED
        made = button("They agreed", lambda: self._right(photo, "agreement", other), tip="Whose it is has said yes")
        made.setCheckable(True)
        made.setChecked(agreed)
        acts.addWidget(made)
        take_out = partial(edit_photos.remove_photo, photo_id=photo.id)
        acts.addWidget(button("Take out", partial(self._studio.edit, "take out the photo", take_out), kind="quiet"))
        acts.addStretch(1)
        words.addLayout(acts)
        row.addLayout(words, 1)
        return row

    def _picture(self, photo: Photo) -> QLabel:
        made = label("")
        made.setFixedSize(WIDE, HIGH)
        image = self._studio.files.photos.image(photo.id)
        if image is None:
            made.setText("missing")
            return made
        keep, smooth = Qt.AspectRatioMode.KeepAspectRatio, Qt.TransformationMode.SmoothTransformation
        made.setPixmap(QPixmap.fromImage(image).scaled(WIDE, HIGH, keep, smooth))
        return made

    def _line(self, text: str, asked: str, done: Callable[[str], object]) -> QLineEdit:
        line = QLineEdit(text)
        line.setPlaceholderText(asked)
        line.setAccessibleName(asked)
        line.editingFinished.connect(lambda: done(line.text().strip()))
        return line

    def _right(self, photo: Photo, field: str, value: Any) -> None:
        now = next((p for p in self._studio.breakdown.photos if p.id == photo.id), None)
        if now is not None:
            self._change(now, clearance=replace(now.clearance, **{field: value}))

    def _change(self, photo: Photo, **changes: Any) -> None:
        now = next((p for p in self._studio.breakdown.photos if p.id == photo.id), None)
        if now is not None and replace(now, **changes) != now:
            change = partial(edit_photos.change_photo, photo_id=photo.id, **changes)
            self._studio.edit("change the photo", change)
