"""The picture that stands for the video: proposals to press, the frame on the screen, and its title."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from msgspec.structs import replace
from PyQt6.QtCore import QSize, Qt
from PyQt6.QtGui import QIcon, QImage, QPixmap
from PyQt6.QtWidgets import QLineEdit, QListWidget, QListWidgetItem, QWidget

from chapto.app import layouts
from chapto.app.screen.player import Player
from chapto.app.studio import Studio
from chapto.app.widgets import button, label, show_begin
from chapto.document.edit_publishing import set_thumbnail
from chapto.document.publishing import Thumbnail
from chapto.publish.thumbnail_choice import Candidate

SMALL = QSize(118, 66)
Proposal = tuple[Candidate, QImage]


class ThumbnailPane(QWidget):
    """Choosing one is an edit; `fits` says whether a title can be read small."""

    def __init__(self, studio: Studio, player: Player, fits: Callable[[str], bool]) -> None:
        super().__init__()
        self._studio, self._player, self._fits = studio, player, fits
        self._proposals: tuple[Proposal, ...] = ()
        column = layouts.column(self, margins=(2, 4, 2, 0))
        self.title = QLineEdit()
        self.title.setAccessibleName("Title on the thumbnail")
        self.title.setToolTip("The title on the picture; left empty it is the video's")
        self.title.editingFinished.connect(self._titled)
        column.addWidget(self.title)
        self._told = label("", soft=True, wrap=True)
        column.addWidget(self._told)
        self.proposals = QListWidget()
        self.proposals.setProperty("kind", "pictures")
        self.proposals.setViewMode(QListWidget.ViewMode.IconMode)
        self.proposals.setIconSize(SMALL)
        self.proposals.setResizeMode(QListWidget.ResizeMode.Adjust)
        self.proposals.setMovement(QListWidget.Movement.Static)
        self.proposals.setSpacing(3)
        self.proposals.setFrameShape(QListWidget.Shape.NoFrame)
        self.proposals.setAccessibleName("Proposed frames")
        self.proposals.setToolTip("Press a frame to take it")
        self.proposals.itemClicked.connect(self._taken)
        self.proposals.itemActivated.connect(self._taken)
        column.addWidget(self.proposals, 1)
        acts = layouts.row()
        acts.addWidget(button("This frame", self.take_shown, tip="Take the frame on the screen"))
        self._own = button("Chapto's choice", self._let_go, tip="Let Chapto choose the frame again")
        acts.addWidget(self._own)
        acts.addStretch(1)
        column.addLayout(acts)
        self.follow()

    def follow(self) -> None:
        """The document is another."""
        b = self._studio.breakdown
        chosen = b.publishing.thumbnail
        self.title.setPlaceholderText(b.title)
        show_begin(self.title, chosen.title)
        self._own.setEnabled(bool(chosen.footage))
        fits = self._fits(chosen.title or b.title)
        self._told.setText("" if fits else "Too long to be read where it is small: a few words do more.")
        self._told.setVisible(not fits)
        self._mark()

    def show_proposals(self, proposals: tuple[Proposal, ...]) -> None:
        """Show what was found."""
        self._proposals = proposals
        self.proposals.clear()
        for candidate, image in proposals:
            small = image.scaled(SMALL, Qt.AspectRatioMode.KeepAspectRatio, Qt.TransformationMode.SmoothTransformation)
            picture, icon = QPixmap.fromImage(small), QIcon()
            for mode in (QIcon.Mode.Normal, QIcon.Mode.Selected):
                icon.addPixmap(picture, mode)
            item = QListWidgetItem(icon, "")
            item.setSizeHint(SMALL + QSize(10, 10))
            name = self._studio.breakdown.camera(candidate.footage).name
            item.setToolTip(f"{name}, {float(candidate.at):.1f} s on the mat clock")
            item.setData(Qt.ItemDataRole.AccessibleTextRole, item.toolTip())
            self.proposals.addItem(item)
        self._mark()

    def take_shown(self) -> None:
        """The frame on the screen stands for the video."""
        programme, head = self._studio.programme, self._player.head
        if not programme.frames:
            return
        passage = programme.time_map.passage_at(min(head.frame, programme.frames - 1))
        if not passage.footage:
            self._studio.message.emit("A card can't stand for the video; go to a picture of the footage.")
            return
        self._take(passage.footage, passage.mat_at(min(head.frame, programme.frames - 1)))

    def _taken(self, item: QListWidgetItem) -> None:
        candidate = self._proposals[self.proposals.row(item)][0]
        self._take(candidate.footage, candidate.at)

    def _take(self, footage: str, at: object) -> None:
        chosen = replace(self._studio.breakdown.publishing.thumbnail, footage=footage, at=at)
        self._edit(chosen)

    def _let_go(self) -> None:
        self._edit(Thumbnail(title=self._studio.breakdown.publishing.thumbnail.title))

    def _titled(self) -> None:
        chosen = self._studio.breakdown.publishing.thumbnail
        if self.title.text().strip() != chosen.title:
            self._edit(replace(chosen, title=self.title.text().strip()))

    def _edit(self, chosen: Thumbnail) -> None:
        self._studio.edit("choose the thumbnail", partial(set_thumbnail, thumbnail=chosen))
        self.follow()

    def _mark(self) -> None:
        """The row of what is chosen stands out."""
        chosen = self._studio.breakdown.publishing.thumbnail
        for i, (candidate, _) in enumerate(self._proposals):
            if (candidate.footage, candidate.at) == (chosen.footage, chosen.at) or (not chosen.footage and i == 0):
                self.proposals.setCurrentRow(i)
                return
        self.proposals.clearSelection()
