"""The edit journal: what a kill at any byte leaves of the edits since the last save.

Each entry is one line, `crc32 length payload`, holding the whole document. A torn last line is recognised by its
length and checksum and left out.
"""

from __future__ import annotations

import contextlib
import hashlib
import os
import zlib
from pathlib import Path

import msgspec
from platformdirs import user_state_path

from chapto.document.breakdown import Breakdown
from chapto.document.mattime import encode_hook
from chapto.store.schema import FORMAT, VERSION, ProjectFile, StoreError, decode

COMPACT_ABOVE = 4_000_000


def journal_path(project: Path) -> Path:
    """Where the journal of a project file lives: in the XDG state folder, by a hash of the file's full path."""
    key = hashlib.sha256(str(project.resolve()).encode()).hexdigest()[:24]
    return user_state_path("chapto") / "journals" / f"{key}.journal"


def untitled_journal_path() -> Path:
    """Where the journal of a document without a file lives."""
    return user_state_path("chapto") / "journals" / "untitled.journal"


class Journal:
    """Appends documents to one file. Made lazily: without an edit there is no file."""

    def __init__(self, path: Path) -> None:
        self.path = path

    def append(self, breakdown: Breakdown) -> None:
        """Write `breakdown` so that it survives the process being killed the moment this returns."""
        entry = ProjectFile(format=FORMAT, version=VERSION, breakdown=breakdown)
        payload = msgspec.json.encode(entry, enc_hook=encode_hook)
        line = b"%08x %d %s\n" % (zlib.crc32(payload), len(payload), payload)
        try:
            self.path.parent.mkdir(parents=True, exist_ok=True)
            if self.path.exists() and self.path.stat().st_size > COMPACT_ABOVE:
                fresh = self.path.with_suffix(".fresh")
                fresh.write_bytes(line)
                os.replace(fresh, self.path)
                return
            with open(self.path, "ab") as out:
                out.write(line)
                out.flush()
                os.fsync(out.fileno())
        except OSError as error:
            raise StoreError(f"Edits can't be kept safe: {error.strerror or error} ({self.path}).") from None

    def last(self) -> Breakdown | None:
        """The newest whole document in the journal; None when there is none."""
        try:
            lines = self.path.read_bytes().split(b"\n")
        except OSError:
            return None
        for line in reversed(lines):
            payload = _payload(line)
            if payload is not None:
                with contextlib.suppress(StoreError):
                    return decode(payload, self.path.name)
        return None

    def clear(self) -> None:
        """Forget everything; the project file has it."""
        self.path.unlink(missing_ok=True)


def _payload(line: bytes) -> bytes | None:
    """The checked payload of one journal line."""
    parts = line.split(b" ", 2)
    if len(parts) != 3 or not parts[1].isdigit():
        return None
    crc, length, payload = parts
    whole = int(length) == len(payload) and b"%08x" % zlib.crc32(payload) == crc
    return payload if whole else None
