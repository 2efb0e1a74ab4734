"""Small pictures of mat times, made in the background and kept."""

from __future__ import annotations

from fractions import Fraction

from PyQt6.QtCore import QObject, QTimer, pyqtSignal
from PyQt6.QtGui import QImage

from chapto.app.screen.feed import Key, PictureFeed, Want
from chapto.app.studio import Studio
from chapto.document.footage import Footage
from chapto.media.pictures import FootagePictures

WIDTH, HEIGHT = 160, 90
TOGETHER = 150
"""Milliseconds in which arriving pictures are told of together."""


class Filmstrip(QObject):
    """Asks for a picture the first time it is wanted; `arrived` says that there is a new one. A rough one is quick, and
    up to some seconds early; an `exact` one shows the very moment."""

    arrived = pyqtSignal()

    def __init__(self, studio: Studio, *, exact: bool = False) -> None:
        super().__init__()
        self._studio, self._rough = studio, not exact
        self._files = studio.files
        self._kept: dict[Key, QImage | None] = {}
        self._open: list[Want] = []
        self._pictures = FootagePictures(self._files.places, cache_bytes=4_000_000)
        self._feed = PictureFeed(self._pictures)
        self._feed.arrived.connect(self._take)
        self._feed.lost.connect(self._take)
        self._soon = QTimer(self)
        self._soon.setSingleShot(True)
        self._soon.setInterval(TOGETHER)
        self._soon.timeout.connect(self.arrived)
        self._files.moved.connect(self._look_again)

    def at(self, mat: Fraction) -> QImage | None:
        """The picture at a mat time; None while it is being made, or where nothing was filmed."""
        camera = self._studio.angles.at(mat)
        return None if camera is None else self.of(camera, mat)

    def of(self, footage: Footage, mat: Fraction) -> QImage | None:
        """The picture of one file at a mat time; None while it is being made or when the file is gone."""
        want = Want(footage, mat, WIDTH, HEIGHT, rough=self._rough)
        found = self._kept.get(want.key)
        if want.key not in self._kept and want not in self._open and footage.id in self._files.places:
            self._open.append(want)
            self._feed.ask(list(self._open))
        return found

    def is_settled(self) -> bool:
        """Whether nothing is being made."""
        return not self._open

    def close(self) -> None:
        """End the thread and give files back."""
        self._feed.close()
        self._pictures.close()

    def _look_again(self) -> None:
        """Other files, or files in other places."""
        self._pictures.close()
        self._pictures = FootagePictures(self._files.places, cache_bytes=4_000_000)
        self._feed.use(self._pictures)
        self._open.clear()
        self._kept = {key: image for key, image in self._kept.items() if image is not None}
        self.arrived.emit()

    def _take(self, key: object) -> None:
        for want in [w for w in self._open if w.key == key]:
            # None where it can't be had: it is not asked for again until the files are looked for again.
            self._kept[want.key] = self._feed.image(want)
            self._open.remove(want)
        if not self._open:
            self._soon.stop()
            self.arrived.emit()
        elif not self._soon.isActive():
            self._soon.start()
