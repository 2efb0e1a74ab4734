"""Edits of photos."""

from __future__ import annotations

from typing import Any

from msgspec.structs import replace

from chapto.document.breakdown import Breakdown, DocumentError, by_id, new_id
from chapto.document.photos import Photo
from chapto.document.treatments import ShowPhoto, Treatment


def add_photo(b: Breakdown, *, name: str, path: str, fingerprint: str, width: int, height: int) -> Breakdown:
    """With one more photo; `DocumentError` when it is there already."""
    if any(p.fingerprint == fingerprint for p in b.photos):
        raise DocumentError(f"“{name}” is in this breakdown already.")
    made = Photo(id=new_id(b, "o"), name=name, path=path, fingerprint=fingerprint, width=width, height=height)
    return replace(b, photos=(*b.photos, made))


def change_photo(b: Breakdown, photo_id: str, **changes: Any) -> Breakdown:
    """With fields of one photo changed."""
    after = replace(by_id(b.photos, photo_id, "photo"), **changes)
    return replace(b, photos=tuple(after if p.id == photo_id else p for p in b.photos))


def remove_photo(b: Breakdown, photo_id: str) -> Breakdown:
    """Without a photo; where it was shown alone the picture is left to the fit."""
    by_id(b.photos, photo_id, "photo")

    def without(treatment: Treatment) -> Treatment | None:
        if not isinstance(treatment, ShowPhoto):
            return treatment
        if treatment.photo == photo_id:
            return replace(treatment, photo=treatment.beside, beside="") if treatment.beside else None
        return replace(treatment, beside="") if treatment.beside == photo_id else treatment

    script = tuple(
        replace(s, beats=tuple(x.with_treatments(without) if x.treatments() else x for x in s.beats)) for s in b.script
    )
    return replace(b, photos=tuple(p for p in b.photos if p.id != photo_id), script=script)
