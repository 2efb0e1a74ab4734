"""Edits of the footage list and of the place of files on the mat clock."""

from __future__ import annotations

import os
from collections.abc import Mapping
from fractions import Fraction
from functools import partial
from pathlib import Path
from typing import Any

from msgspec.structs import replace

from chapto.document.breakdown import Breakdown, DocumentError, by_id, new_id
from chapto.document.edit_marks import move_keys, without_footage
from chapto.document.file_rounds import with_rounds_of
from chapto.document.footage import Footage, cameras_of
from chapto.document.named_cameras import cameras_along


def add_footage(
    b: Breakdown, *, name: str, path: str, fingerprint: str, duration: Fraction, fps: Fraction,
    offset: Fraction | None = None, aspect: Fraction = Fraction(0), lines: int = 0,
) -> Breakdown:  # fmt: skip
    """With one more file. Without an `offset` it starts where the footage so far ends on the mat clock. `aspect` is the
    width of its upright picture by the height, `lines` the height in pixels; 0 where that is not known."""
    if any(c.fingerprint == fingerprint for c in b.footage):
        raise DocumentError(f"“{name}” is in this breakdown already.")
    if offset is None:
        offset = _after_all(b.footage)
    made = Footage(
        id=new_id(b, "f"), name=name, path=path, fingerprint=fingerprint, duration=duration, fps=fps, offset=offset,
        aspect=aspect, lines=lines,
    )  # fmt: skip
    return replace(b, footage=(*b.footage, made))


def _after_all(footage: tuple[Footage, ...]) -> Fraction:
    """The next full minute of the mat clock on which nothing was filmed yet."""
    ends = [c.mat_out for c in footage]
    return Fraction(-(-max(ends) // 60) * 60) if ends else Fraction(0)


def lies_as_brought_in(footage: tuple[Footage, ...]) -> bool:
    """Whether several files stand one after another as they came in: nobody has said yet how they lie to one
    another."""
    return len(footage) > 1 and all(
        c.offset == _after_all(footage[:i]) and not c.drift for i, c in enumerate(footage)
    )  # fmt: skip


def change_footage(b: Breakdown, footage_id: str, **changes: Any) -> Breakdown:
    """With fields of one file changed. A camera that is no more takes its choices on the angle track along; what is
    drawn on the picture stays on it wherever the file lies on the clock."""
    before = by_id(b.footage, footage_id, "footage")
    after = replace(before, **changes)
    footage = tuple(after if c.id == footage_id else c for c in b.footage)
    left, angles = cameras_of(footage), []
    for a in b.angles:
        renamed = after.camera_name if a.camera == before.camera_name and a.camera not in left else a.camera
        if renamed in left:
            angles.append(replace(a, camera=renamed))
    made = _drawn_along(b, replace(b, footage=footage, angles=tuple(angles)))
    return cameras_along(made, before.camera_name, after.camera_name)


def _drawn_along(before: Breakdown, after: Breakdown) -> Breakdown:
    """`after`, with what is drawn on files that were moved on the mat clock moved along."""
    places = {c.id: c for c in before.footage}
    for c in after.footage:
        was = places.get(c.id, c)
        if (was.offset, was.drift) != (c.offset, c.drift):
            after = move_keys(after, c.id, partial(_moved, was, c))
    return after


def _moved(was: Footage, now: Footage, mat: Fraction) -> Fraction:
    return now.mat_at(was.media_time(mat))


def change_clearance(b: Breakdown, footage_id: str, **changes: Any) -> Breakdown:
    """With fields of one file's clearance changed."""
    c = by_id(b.footage, footage_id, "footage")
    return change_footage(b, footage_id, clearance=replace(c.clearance, **changes))


def remove_footage(b: Breakdown, footage_id: str) -> Breakdown:
    """Without one file, what was decided about its picture and what was drawn on it. The log stays, it is on the mat
    clock."""
    gone = by_id(b.footage, footage_id, "footage").camera_name
    b = without_footage(b, footage_id)
    footage = tuple(c for c in b.footage if c.id != footage_id)
    left = cameras_of(footage)
    made = replace(
        b,
        footage=footage,
        conditions=tuple(x for x in b.conditions if x.footage != footage_id),
        angles=tuple(a for a in b.angles if a.camera in left),
    )
    return cameras_along(made, gone, "")


def make_main(b: Breakdown, footage_id: str) -> Breakdown:
    """With the camera of a file first: it is used wherever its picture is good and nothing else was chosen."""
    camera = by_id(b.footage, footage_id, "footage").camera_name
    first = tuple(c for c in b.footage if c.camera_name == camera)
    return replace(b, footage=first + tuple(c for c in b.footage if c.camera_name != camera))


def place_footage(b: Breakdown, places: Mapping[str, tuple[Fraction, Fraction]]) -> Breakdown:
    """With files (by id) put at an offset and drift on the mat clock; rounds that stand for a whole file move along."""
    for footage_id in places:
        by_id(b.footage, footage_id, "footage")
    placed = replace(
        b,
        footage=tuple(
            replace(c, offset=places[c.id][0], drift=places[c.id][1]) if c.id in places else c for c in b.footage
        ),
    )
    return with_rounds_of(b, _drawn_along(b, placed))


def stored_path(video: Path, project_folder: Path | None) -> str:
    """How a media file is written into a document: relative to the project's folder, absolute when there is none."""
    whole = os.path.abspath(video)
    return whole if project_folder is None else os.path.relpath(whole, os.path.abspath(project_folder))


def moved_project(b: Breakdown, old: Path | None, new: Path) -> Breakdown:
    """The same document for a project file in folder `new` instead of `old`."""
    base = old or Path.cwd()
    return replace(
        b,
        footage=tuple(replace(c, path=stored_path(base / c.path, new)) for c in b.footage),
        takes=tuple(replace(t, path=stored_path(base / t.path, new)) for t in b.takes),
    )
