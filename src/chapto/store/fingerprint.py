"""Knowing a media file again after it was moved or renamed."""

from __future__ import annotations

import hashlib
from pathlib import Path

from chapto.store.errors import StoreError, plain_reason

SAMPLE = 65_536


def fingerprint(path: Path) -> str:
    """`size-hash`: the size in bytes and a SHA-256 over the first, middle and last 64 KiB, 16 hex digits.

    A file up to 192 KiB long is hashed whole.
    """
    try:
        size = path.stat().st_size
        digest = hashlib.sha256()
        with open(path, "rb") as source:
            if size <= 3 * SAMPLE:
                digest.update(source.read())
            else:
                for at in (0, (size - SAMPLE) // 2, size - SAMPLE):
                    source.seek(at)
                    digest.update(source.read(SAMPLE))
    except OSError as error:
        raise StoreError(f"“{path}” can't be read: {error.strerror or error}.") from None
    return f"{size}-{digest.hexdigest()[:16]}"


def find_media(stored: str, wanted: str, project: Path | None, *, what: str = "footage") -> Path:
    """The file that a project means by the path `stored` and the fingerprint `wanted`.

    Looks at the path itself (relative to the project's folder), then through the files beside it and beside the
    project. `StoreError` when it is nowhere, or when only a different file stands at its place; `what` it calls it.
    """
    try:
        return _found(stored, wanted, project, what)
    except OSError as error:
        raise StoreError(f"“{stored}” can't be looked for: {plain_reason(error)}.") from None


def _found(stored: str, wanted: str, project: Path | None, what: str) -> Path:
    base = project.parent if project else Path.cwd()
    direct = Path(stored) if Path(stored).is_absolute() else base / stored
    if direct.is_file() and fingerprint(direct) == wanted:
        return direct
    size = wanted.partition("-")[0]
    for folder in dict.fromkeys((direct.parent, base)):
        if folder.is_dir():
            for candidate in sorted(p for p in folder.iterdir() if p.is_file() and str(p.stat().st_size) == size):
                if fingerprint(candidate) == wanted:
                    return candidate
    if direct.is_file():
        raise StoreError(f"“{direct}” is not the {what} this breakdown was made with; put the right file there.")
    raise StoreError(f"The {what} “{direct}” is missing; put it back or beside the project file.")
