"""Where the files of a document are."""

from __future__ import annotations

from pathlib import Path

from chapto.document.breakdown import Breakdown
from chapto.store.errors import StoreError
from chapto.store.fingerprint import find_media


def media_places(b: Breakdown, project: Path | None) -> tuple[dict[str, Path], tuple[str, ...]]:
    """Where each footage file is, by id, and a sentence for each that is missing."""
    places, missing = {}, []
    for footage in b.footage:
        try:
            places[footage.id] = find_media(footage.path, footage.fingerprint, project)
        except StoreError as error:
            missing.append(str(error))
    return places, tuple(missing)
