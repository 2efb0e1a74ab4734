"""The one gate through which every file written for the creator goes: video, captions, chapters, log, picture.

Nothing passes onto footage, onto a breakdown, or onto anything a breakdown refers to, however it is reached; onto any
other file only when replacing it was asked for.
"""

from __future__ import annotations

import contextlib
import os
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import msgspec

from chapto.document.breakdown import Breakdown
from chapto.store.atomic import put_in_place, unfinished
from chapto.store.errors import AlreadyThere, StoreError, plain_reason
from chapto.store.fingerprint import find_media
from chapto.store.schema import FORMAT

BREAKDOWN_SUFFIX = "-breakdown"


class OutputGate:
    """What may be written for one breakdown. `project` is its file, if it has one; `replacing` says that the creator
    agreed to replace files that are in the way and are not protected."""

    def __init__(self, b: Breakdown, project: Path | None, *, replacing: bool = False) -> None:
        self._b, self._project, self.replacing = b, project, replacing

    def check(self, *targets: Path) -> None:
        """Raise `StoreError` for a target that must never be written to, `AlreadyThere` for those to be asked about."""
        for target in targets:
            try:
                self._refuse(target)
            except OSError as error:
                raise StoreError(f"“{target}” can't be written: {plain_reason(error)}.") from None
        there = tuple(t for t in targets if os.path.lexists(t))
        if there and not self.replacing:
            names = ", ".join(f"“{t}”" for t in there)
            raise AlreadyThere(f"{names} is there already.", there)

    @contextmanager
    def making(self, target: Path) -> Iterator[Path]:
        """A file to write into, which takes the name `target` when the block ends well. `OSError` passes through."""
        self.check(target)
        final = Path(os.path.realpath(target))
        with unfinished(final) as part:
            yield part
            self._refuse(target)
            put_in_place(part, final, replacing=self.replacing)

    def write(self, target: Path, data: bytes) -> Path:
        """Write `data` to `target`, which is returned; `StoreError` leaves what was there as it was."""
        try:
            with self.making(target) as part:
                part.write_bytes(data)
        except OSError as error:
            raise StoreError(f"“{target}” could not be written: {plain_reason(error)}.") from None
        return target

    def _refuse(self, target: Path) -> None:
        if not target.parent.is_dir():
            raise StoreError(f"The folder “{target.parent}” is not there; choose another place.")
        if target.is_dir():
            raise StoreError(f"“{target}” is a folder; give the file a name.")
        if not target.exists():
            return
        if _is_breakdown(target):
            raise StoreError(f"“{target}” is a breakdown and is never written over; choose another name.")
        for kept in self._kept(target):
            if _same(kept, target):
                raise StoreError(f"“{target}” is footage or a take and is never written over; choose another name.")

    def _kept(self, target: Path) -> Iterator[Path]:
        """Footage and takes of this breakdown, and of every breakdown that lies beside it or beside the target."""
        media = [(c.path, c.fingerprint) for c in self._b.footage]
        media += [(c.path, c.fingerprint) for c in self._b.photos]
        media += [(c.path, c.fingerprint) for c in self._b.music]
        media += [(t.path, t.fingerprint) for t in self._b.takes]
        for path, mark in media:
            yield _joined(self._project.parent if self._project else Path.cwd(), path)
            with contextlib.suppress(StoreError):
                yield find_media(path, mark, self._project)
        folders = {target.parent, Path(os.path.realpath(target)).parent}
        folders |= {self._project.parent} if self._project else set()
        for folder in folders:
            for beside in sorted(folder.glob("*.chapto")):
                yield from (_joined(folder, path) for path in _media_paths(beside))


def free_name(wanted: Path, *, also: tuple[str, ...] = ()) -> Path:
    """`wanted`, or `NAME-2`, `NAME-3`, … where it, or the same name with one of the endings `also`, is taken."""
    number, name = 1, wanted
    while any(os.path.lexists(p) for p in (name, *(name.with_suffix(ending) for ending in also))):
        number += 1
        name = wanted.with_name(f"{wanted.stem}-{number}{wanted.suffix}")
    return name


class _Named(msgspec.Struct):
    path: str


class _Files(msgspec.Struct):
    footage: list[_Named] = []
    photos: list[_Named] = []
    music: list[_Named] = []
    takes: list[_Named] = []


class _Refers(msgspec.Struct):
    breakdown: _Files


def _media_paths(project: Path) -> list[str]:
    """The footage, photos and takes a breakdown beside refers to; none where it can't be read."""
    try:
        files = msgspec.json.decode(project.read_bytes(), type=_Refers).breakdown
        return [c.path for c in (*files.footage, *files.photos, *files.music, *files.takes)]
    except (OSError, msgspec.DecodeError, UnicodeDecodeError, RecursionError):
        return []


def _is_breakdown(target: Path) -> bool:
    """By its content or by its name, so that a damaged one is not written over either."""
    if target.suffix.lower() == ".chapto":
        return True
    try:
        with open(target, "rb") as source:
            return f'"{FORMAT}"'.encode() in source.read(400)
    except OSError:
        return False


def _joined(folder: Path, stored: str) -> Path:
    return Path(stored) if os.path.isabs(stored) else folder / stored


def _same(one: Path, other: Path) -> bool:
    try:
        return one.samefile(other)
    except (OSError, ValueError):
        return False
