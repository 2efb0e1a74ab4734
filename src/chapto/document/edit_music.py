"""Edits of music."""

from __future__ import annotations

from fractions import Fraction
from typing import Any

from msgspec.structs import replace

from chapto.document.breakdown import Breakdown, DocumentError, by_id, new_id
from chapto.document.music import Music


def add_music(b: Breakdown, *, name: str, path: str, fingerprint: str, seconds: Fraction) -> Breakdown:
    """With one more piece of music; `DocumentError` when it is there already."""
    if any(m.fingerprint == fingerprint for m in b.music):
        raise DocumentError(f"“{name}” is in this breakdown already.")
    made = Music(id=new_id(b, "u"), name=name, path=path, fingerprint=fingerprint, seconds=seconds)
    return replace(b, music=(*b.music, made))


def change_music(b: Breakdown, music_id: str, **changes: Any) -> Breakdown:
    """With fields of a piece changed."""
    after = replace(by_id(b.music, music_id, "music"), **changes)
    return replace(b, music=tuple(after if m.id == music_id else m for m in b.music))


def remove_music(b: Breakdown, music_id: str) -> Breakdown:
    """Without a piece."""
    by_id(b.music, music_id, "music")
    return replace(b, music=tuple(m for m in b.music if m.id != music_id))
