"""Where the files of a document are."""

from __future__ import annotations

from collections.abc import Iterable
from pathlib import Path

from chapto.document.breakdown import Breakdown
from chapto.document.footage import Footage
from chapto.document.music import Music
from chapto.document.photos import Photo
from chapto.store.errors import StoreError
from chapto.store.fingerprint import find_media


def media_places(b: Breakdown, project: Path | None) -> tuple[dict[str, Path], tuple[str, ...]]:
    """Where each footage file is, by id, and a sentence for each that is missing."""
    return _found(b.footage, project)


def photo_places(b: Breakdown, project: Path | None) -> tuple[dict[str, Path], tuple[str, ...]]:
    """Where each photo is, by id, and a sentence for each that is missing."""
    return _found(b.photos, project)


def music_places(b: Breakdown, project: Path | None) -> tuple[dict[str, Path], tuple[str, ...]]:
    """Where each piece of music is, by id, and a sentence for each that is missing."""
    return _found(b.music, project)


def _found(files: Iterable[Footage | Photo | Music], project: Path | None) -> tuple[dict[str, Path], tuple[str, ...]]:
    places, missing = {}, []
    for file in files:
        try:
            places[file.id] = find_media(file.path, file.fingerprint, project)
        except StoreError as error:
            missing.append(str(error))
    return places, tuple(missing)
