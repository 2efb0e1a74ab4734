"""Writing a file so that it is either the old one or the new one, whole.

What is not finished yet stands beside its target as `.chapto-….part`, locked by the kernel for as long as its maker
lives: what can be locked was left behind by a process that died, and is swept away at the next write in that folder.
"""

from __future__ import annotations

import contextlib
import fcntl
import os
import re
import secrets
import stat
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from chapto.store.errors import StoreError, plain_reason

_PART = re.compile(r"\.chapto-[0-9a-f]{12}\.part(\.\w+)?")
OLD_ENOUGH = 3600.0
"""Seconds after which a temporary file of Chapto 0.1, which took no locks, counts as left behind."""


@contextmanager
def unfinished(target: Path) -> Iterator[Path]:
    """A new empty file in the folder of `target`, with its ending, to write into; gone at the end of the block unless
    `put_in_place` moved it. Made with the user's umask. Raises `OSError` where the folder can't be written to."""
    sweep(target)
    part = target.parent / f".chapto-{secrets.token_hex(6)}.part{target.suffix[:16]}"
    handle = os.open(part, os.O_CREAT | os.O_EXCL | os.O_RDWR, 0o666)
    try:
        _lock(handle)
        yield part
    finally:
        with contextlib.suppress(OSError):
            part.unlink(missing_ok=True)
        os.close(handle)


def put_in_place(part: Path, target: Path, *, replacing: bool) -> None:
    """Move a finished file to its final name, surviving a loss of power; `FileExistsError` when something stands there
    and must not be replaced. A file that is replaced hands its permissions on; a link is followed."""
    target = Path(os.path.realpath(target))
    with open(part, "rb") as done:
        os.fsync(done.fileno())
    if replacing:
        with contextlib.suppress(OSError):
            os.chmod(part, stat.S_IMODE(target.stat().st_mode))
        os.replace(part, target)
    else:
        # Whoever makes the name first owns it: nothing that came meanwhile is replaced.
        os.close(os.open(target, os.O_CREAT | os.O_EXCL | os.O_WRONLY, 0o666))
        try:
            os.replace(part, target)
        except OSError:
            target.unlink()
            raise
    folder = os.open(target.parent, os.O_RDONLY)
    try:
        os.fsync(folder)
    finally:
        os.close(folder)


def write_atomically(path: Path, data: bytes, *, replacing: bool = True) -> None:
    """Put `data` at `path`, following links; `StoreError` leaves what was there in place."""
    try:
        target = Path(os.path.realpath(path))
        with unfinished(target) as part:
            part.write_bytes(data)
            put_in_place(part, target, replacing=replacing)
    except OSError as error:
        raise StoreError(f"“{path}” could not be saved: {plain_reason(error)}. Nothing was changed.") from None


def write_whole(handle: int, data: bytes, at: int) -> None:
    """Write all of `data` at byte `at` of an open file; `OSError` as the system gives it."""
    while data:
        done = os.pwrite(handle, data, at)
        data, at = data[done:], at + done


def sweep(target: Path) -> None:
    """Delete what processes that died left unfinished in the folder of `target`."""
    with contextlib.suppress(OSError):
        for place in target.parent.iterdir():
            with contextlib.suppress(OSError):
                if _is_left_behind(place, target):
                    place.unlink()


def _is_left_behind(place: Path, target: Path) -> bool:
    if _PART.fullmatch(place.name):
        handle = os.open(place, os.O_RDWR)
        try:
            return _lock(handle)
        finally:
            os.close(handle)
    return _is_of_the_first_release(place, target)


def _is_of_the_first_release(place: Path, target: Path) -> bool:
    """Temporary files as they were named before they were locked: `.NAME.xxxxxxxx` and `.STEM.PID.part.SUFFIX`."""
    if re.fullmatch(rf"\.{re.escape(target.name)}\.[a-z0-9_]{{8}}", place.name):
        return time.time() - place.stat().st_mtime > OLD_ENOUGH
    rendering = re.fullmatch(rf"\.{re.escape(target.stem)}\.(\d+)\.part{re.escape(target.suffix)}", place.name)
    return rendering is not None and not Path("/proc", rendering[1]).exists()


def _lock(handle: int) -> bool:
    """Whether the lock could be had. On a disk without locks nothing counts as left behind."""
    try:
        fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except OSError:
        return False
    return True
