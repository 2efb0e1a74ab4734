"""The edit journal: what a kill at any byte leaves of the edits since the last save.

Each entry is one line, `crc32 length payload`. A torn line is recognised by its length and checksum and left out. An
entry holds the whole document, the digest of the saved file it builds on, and its number. Before a file is saved, the
digest of what is about to be written is a line of its own: all entries before it are older than that file.
"""

from __future__ import annotations

import contextlib
import os
import time
import zlib
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

import msgspec

from chapto.document.breakdown import Breakdown, DocumentError
from chapto.document.checks import checked
from chapto.document.mattime import decode_hook, encode_hook
from chapto.store.atomic import write_whole
from chapto.store.errors import StoreError, plain_reason
from chapto.store.schema import VERSION

JOURNAL = "journal"
COMPACT_ABOVE = 4_000_000


class _Entry(msgspec.Struct, frozen=True, kw_only=True):
    """One line: a document with what it builds on, or (`saving`) the digest of the file about to be written."""

    version: int
    number: int
    at: float
    base: str = ""
    saving: str = ""
    breakdown: Breakdown | None = None


@dataclass(frozen=True)
class KeptEdits:
    """The newest document of a journal: made at `at` (seconds since 1970), on the saved state with digest `base`
    (empty: on no file)."""

    breakdown: Breakdown
    base: str
    at: float


class Journal:
    """Appends documents to one file. Made lazily: without an edit there is no file."""

    def __init__(self, path: Path) -> None:
        self.path = path
        self._number = 0

    def append(self, breakdown: Breakdown, base: str = "") -> None:
        """Write `breakdown`, which builds on the saved state `base`, so that it survives the process being killed the
        moment this returns. `StoreError` leaves the entries before it whole."""
        line = self._line(
            _Entry(version=VERSION, number=self._number + 1, at=time.time(), base=base, breakdown=breakdown)
        )
        try:
            if self._size() > COMPACT_ABOVE:
                self._begin_anew(line)
            else:
                self._append(line)
        except OSError as error:
            raise StoreError(f"Edits can't be kept safe: {plain_reason(error)} ({self.path}).") from None
        self._number += 1

    def saving(self, coming: str) -> None:
        """Note that a file with the digest `coming` is about to be written: once it is there, all entries so far are
        older than it. Does nothing where there are none; `StoreError` as for `append`."""
        if not self._size():
            return
        line = self._line(_Entry(version=VERSION, number=self._number, at=time.time(), saving=coming))
        try:
            self._append(line)
        except OSError as error:
            raise StoreError(f"Edits can't be kept safe: {plain_reason(error)} ({self.path}).") from None

    def newest(self, saved: str = "") -> KeptEdits | None:
        """The newest whole document that is not older than the file with the digest `saved`; None without one."""
        for entry in self._newest_first():
            if entry.saving and entry.saving == saved:
                return None
            if entry.breakdown is not None:
                return KeptEdits(entry.breakdown, entry.base, entry.at)
        return None

    def clear(self) -> None:
        """Forget everything; the project file has it."""
        with contextlib.suppress(OSError):
            self.path.unlink(missing_ok=True)
        self._number = 0

    def _size(self) -> int:
        try:
            return self.path.stat().st_size
        except OSError:
            return 0

    def _line(self, entry: _Entry) -> bytes:
        try:
            payload = msgspec.json.encode(entry, enc_hook=encode_hook)
        except UnicodeEncodeError:
            raise StoreError("A text of this breakdown holds half a letter and can't be kept.") from None
        return b"%08x %d %s\n" % (zlib.crc32(payload), len(payload), payload)

    def _append(self, line: bytes) -> None:
        """At the end; after a torn line on a new one. What could not be written whole is cut off again."""
        self.path.parent.mkdir(parents=True, exist_ok=True)
        handle = os.open(self.path, os.O_CREAT | os.O_RDWR, 0o600)
        try:
            size = os.fstat(handle).st_size
            torn = size > 0 and os.pread(handle, 1, size - 1) != b"\n"
            try:
                write_whole(handle, b"\n" + line if torn else line, size)
                os.fsync(handle)
            except OSError:
                with contextlib.suppress(OSError):
                    os.ftruncate(handle, size)
                raise
        finally:
            os.close(handle)

    def _begin_anew(self, line: bytes) -> None:
        fresh = self.path.with_suffix(".fresh")
        with open(fresh, "wb") as out:
            out.write(line)
            out.flush()
            os.fsync(out.fileno())
        os.replace(fresh, self.path)
        folder = os.open(self.path.parent, os.O_RDONLY)
        try:
            os.fsync(folder)
        finally:
            os.close(folder)

    def _newest_first(self) -> Iterator[_Entry]:
        try:
            lines = self.path.read_bytes().split(b"\n")
        except OSError:
            return
        for line in reversed(lines):
            if (entry := _entry(line)) is not None:
                yield entry


def _entry(line: bytes) -> _Entry | None:
    """The checked content of one journal line."""
    parts = line.split(b" ", 2)
    if len(parts) != 3 or not parts[1].isdigit():
        return None
    crc, length, payload = parts
    if int(length) != len(payload) or b"%08x" % zlib.crc32(payload) != crc:
        return None
    try:
        entry = msgspec.json.decode(payload, type=_Entry, dec_hook=decode_hook)
        if entry.breakdown is not None:
            checked(entry.breakdown)
    except (msgspec.DecodeError, DocumentError, UnicodeDecodeError, RecursionError):
        return None
    return entry
