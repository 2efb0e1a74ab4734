"""A folder that appears under its name whole, or not at all, and takes the place of the one before in one step."""

from __future__ import annotations

import ctypes
import errno
import os
import shutil
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from pathlib import Path

from chapto.store.errors import StoreError, plain_reason

PART, BEFORE = ".part", ".before"
_EXCHANGE, _HERE = 2, -100
"""`RENAME_EXCHANGE` and `AT_FDCWD` of Linux (renameat2(2))."""


@contextmanager
def whole_folder(target: Path) -> Iterator[Path]:
    """A new folder beside `target`, which takes its name when the block ends well; a folder that was there goes then.
    At a kill the one or the other stands there. Raises `StoreError` where that can't be done."""
    recover(target)
    part = target.with_name(f".{target.name}.{os.getpid()}{PART}")
    shutil.rmtree(part, ignore_errors=True)
    try:
        part.mkdir(parents=True)
    except OSError as error:
        raise StoreError(f"“{target.parent}” can't be written to: {plain_reason(error)}.") from None
    try:
        yield part
        _sync(part)
        try:
            _put(part, target)
        except OSError as error:
            raise StoreError(f"“{target.name}” can't be put in place: {plain_reason(error)}.") from None
    finally:
        # After an exchange this is the earlier one.
        shutil.rmtree(part, ignore_errors=True)


def recover(target: Path) -> None:
    """Put right what a kill left: a folder moved out of the way comes back, half-made ones of dead processes go."""
    before = target.with_name(f".{target.name}{BEFORE}")
    if before.is_dir():
        if target.exists():
            shutil.rmtree(before, ignore_errors=True)
        else:
            with suppress(OSError):
                os.rename(before, target)
    for left in target.parent.glob(f".{target.name}.*{PART}"):
        owner = left.name.removeprefix(f".{target.name}.").removesuffix(PART)
        if owner.isdigit() and not Path(f"/proc/{owner}").exists():
            shutil.rmtree(left, ignore_errors=True)


def _put(part: Path, target: Path) -> None:
    if not target.exists():
        os.rename(part, target)
    elif not _exchanged(part, target):
        # A file system that can't exchange two names: a kill between the two steps is put right by `recover`.
        before = target.with_name(f".{target.name}{BEFORE}")
        os.rename(target, before)
        os.rename(part, target)
        shutil.rmtree(before, ignore_errors=True)
    _sync_one(target.parent)


def _exchanged(one: Path, other: Path) -> bool:
    """Whether the two folders were given one another's names in one step."""
    renameat2 = getattr(ctypes.CDLL(None, use_errno=True), "renameat2", None)
    if renameat2 is None:
        return False
    if renameat2(_HERE, os.fsencode(one), _HERE, os.fsencode(other), _EXCHANGE) == 0:
        return True
    number = ctypes.get_errno()
    if number in (errno.EINVAL, errno.ENOSYS, errno.ENOTSUP):
        return False
    raise OSError(number, os.strerror(number))


def _sync(folder: Path) -> None:
    for place in (*folder.rglob("*"), folder):
        _sync_one(place)


def _sync_one(place: Path) -> None:
    with suppress(OSError):
        handle = os.open(place, os.O_RDONLY)
        try:
            os.fsync(handle)
        finally:
            os.close(handle)
