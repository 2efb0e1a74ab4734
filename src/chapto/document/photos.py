"""Still pictures that are shown beside the footage."""

from __future__ import annotations

import msgspec

from chapto.document.clearance import Clearance


class Photo(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """A still picture, `width` by `height` pixels when it stands upright, at `path` (relative to the project's folder)
    with its `fingerprint`. `seen` are ids of people."""

    id: str
    name: str
    path: str
    fingerprint: str
    width: int
    height: int
    clearance: Clearance = Clearance()
    seen: tuple[str, ...] = ()
