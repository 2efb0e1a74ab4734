"""What was done during a talk, as a file: a JSON object a line, so that one that was cut off still tells the rest."""

from __future__ import annotations

import json
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import msgspec

from chapto.document.mattime import decode_hook, encode_hook
from chapto.document.talks import Acted, Done, Moved, Pointed, done_problems
from chapto.errors import ChaptoError

FORMAT, VERSION = "chapto talk-through", 1
Row = Moved | Pointed | Acted
KINDS: dict[str, type[Row]] = {"mat": Moved, "x": Pointed, "act": Acted}
"""The key by which each kind of row is known."""
LARGEST = 50_000_000
"""Bytes: an hour of pointing has a tenth of that."""


class EventsFileError(ChaptoError):
    """A file that does not tell what was done during a talk."""


def head() -> bytes:
    """The first line of a file."""
    return json.dumps({"format": FORMAT, "version": VERSION}).encode() + b"\n"


def line_of(row: Row) -> bytes:
    """One thing that was done, as a line."""
    return msgspec.json.encode(row, enc_hook=encode_hook) + b"\n"


def written(done: Done) -> bytes:
    """A whole file, in the order of its seconds."""
    rows: list[Row] = [*done.picture, *done.pointer, *done.acts]
    return head() + b"".join(line_of(row) for row in sorted(rows, key=lambda row: row.at))


def read_events(path: Path) -> Done:
    """What a file tells. Of a last line that was cut off nothing is taken. `EventsFileError` says in a sentence what is
    wrong with it."""
    try:
        if path.stat().st_size > LARGEST:
            raise EventsFileError(f"“{path.name}” is too large to tell what was done during a talk.")
        lines = path.read_text("utf-8").splitlines(keepends=True)
    except UnicodeDecodeError:
        raise EventsFileError(f"“{path.name}” is no UTF-8 text.") from None
    except OSError as error:
        raise EventsFileError(f"“{path.name}” can't be read: {error.strerror or error}.") from None
    _check_head(path.name, lines[0] if lines else "")
    rows = list(_rows(path.name, lines[1:]))
    done = Done(
        picture=tuple(r for r in rows if isinstance(r, Moved)),
        pointer=tuple(r for r in rows if isinstance(r, Pointed)),
        acts=tuple(r for r in rows if isinstance(r, Acted)),
    )
    for problem in done_problems(done):
        raise EventsFileError(f"“{path.name}” makes no sense: {problem}")
    return done


def _check_head(name: str, line: str) -> None:
    try:
        found = json.loads(line)
        known, version = found["format"] == FORMAT, int(found["version"])
    except (ValueError, TypeError, KeyError):
        known, version = False, 0
    if not known:
        raise EventsFileError(f"“{name}” does not tell what was done during a talk; its first line should name that.")
    if version > VERSION:
        raise EventsFileError(f"“{name}” is of a newer Chapto (version {version}; this one reads up to {VERSION}).")


def _rows(name: str, lines: list[str]) -> Iterator[Row]:
    for number, line in enumerate(lines, 2):
        if not line.strip():
            continue
        try:
            # Numbers are taken as they are written, never through floating point.
            row: dict[str, Any] = json.loads(line, parse_float=str, parse_int=str)
            kind = next(kind for key, kind in KINDS.items() if key in row)
            yield msgspec.convert(row, kind, dec_hook=decode_hook, strict=False)
        except (ValueError, TypeError, StopIteration, RecursionError) as error:
            if number == len(lines) + 1 and not line.endswith("\n"):
                return
            reason = "it is none of the things that are kept" if isinstance(error, StopIteration) else str(error)
            raise EventsFileError(f"Line {number} of “{name}” can't be read: {reason.rstrip('.')}.") from None
