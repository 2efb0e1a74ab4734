"""Edits of the footage list and of what the whole breakdown is made to."""

from __future__ import annotations

import os
from fractions import Fraction
from pathlib import Path
from typing import Any

from msgspec.structs import replace

from chapto.document.breakdown import Breakdown, DocumentError, by_id, new_id
from chapto.document.footage import Footage


def add_footage(
    b: Breakdown, *, name: str, path: str, fingerprint: str, duration: Fraction, fps: Fraction,
    offset: Fraction | None = None,
) -> Breakdown:  # fmt: skip
    """With one more file. Without an `offset` it starts where the footage so far ends on the mat clock."""
    if any(c.fingerprint == fingerprint for c in b.footage):
        raise DocumentError(f"“{name}” is in this breakdown already.")
    if offset is None:
        ends = [c.mat_out for c in b.footage]
        offset = Fraction(-(-max(ends) // 60) * 60) if ends else Fraction(0)
    made = Footage(
        id=new_id(b, "f"), name=name, path=path, fingerprint=fingerprint, duration=duration, fps=fps, offset=offset
    )
    return replace(b, footage=(*b.footage, made))


def change_footage(b: Breakdown, footage_id: str, **changes: Any) -> Breakdown:
    """With fields of one file changed."""
    by_id(b.footage, footage_id, "footage")
    return replace(b, footage=tuple(replace(c, **changes) if c.id == footage_id else c for c in b.footage))


def set_style(b: Breakdown, style: str) -> Breakdown:
    """With another house style."""
    return replace(b, style=style)


def set_title(b: Breakdown, title: str) -> Breakdown:
    """With another title; an empty one is refused."""
    if not title.strip():
        raise DocumentError("A breakdown needs a title.")
    return replace(b, title=title.strip())


def stored_path(video: Path, project_folder: Path | None) -> str:
    """How a media file is written into a document: relative to the project's folder, absolute when there is none."""
    whole = os.path.abspath(video)
    return whole if project_folder is None else os.path.relpath(whole, os.path.abspath(project_folder))


def moved_project(b: Breakdown, old: Path | None, new: Path) -> Breakdown:
    """The same document for a project file in folder `new` instead of `old`."""
    base = old or Path.cwd()
    return replace(b, footage=tuple(replace(c, path=stored_path(base / c.path, new)) for c in b.footage))
