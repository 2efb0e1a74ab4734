"""The photos of a document as pictures that can be painted."""

from __future__ import annotations

from collections.abc import Mapping
from pathlib import Path

from PyQt6.QtGui import QImage

from chapto.media.opening import MediaError
from chapto.media.photo_file import read_photo


class Photos:
    """Pictures by photo id, each read once from its file in `places`."""

    def __init__(self, places: Mapping[str, Path]) -> None:
        self.places = dict(places)
        self._read: dict[str, QImage | None] = {}

    def image(self, photo: str) -> QImage | None:
        """The photo, upright; None where its file is missing or can't be read."""
        if photo not in self._read:
            self._read[photo] = self._load(photo)
        return self._read[photo]

    def _load(self, photo: str) -> QImage | None:
        if photo not in self.places:
            return None
        try:
            rows = read_photo(self.places[photo])
        except MediaError:
            return None
        height, width = rows.shape[:2]
        return QImage(rows.tobytes(), width, height, 3 * width, QImage.Format.Format_RGB888).copy()
