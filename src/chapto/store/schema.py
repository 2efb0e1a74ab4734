"""The `.chapto` file format: JSON with a version, and its JSON Schema."""

from __future__ import annotations

import hashlib
import json
import re
from fractions import Fraction
from typing import Any

import msgspec

from chapto.document.breakdown import Breakdown, DocumentError
from chapto.document.checks import checked
from chapto.document.mattime import decode_hook, encode_hook
from chapto.store.errors import DamagedFile, StoreError

FORMAT, VERSION = "chapto breakdown", 13
_NO_SUM = "0" * 64
_SUM = re.compile(rb'"checksum": ?"([0-9a-f]{64})"')


class ProjectFile(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """What stands in a `.chapto` file. `checksum` is the SHA-256 of the whole file with 64 zeros in its place; empty
    in a file of an earlier version or written by hand."""

    format: str
    version: int
    checksum: str = ""
    breakdown: Breakdown


class _Head(msgspec.Struct, frozen=True):
    format: str
    version: int


def encode(breakdown: Breakdown) -> bytes:
    """`breakdown` as the bytes of a `.chapto` file: indented UTF-8 JSON with a final newline and its checksum.
    `StoreError` where it holds a text that no file can hold."""
    file = ProjectFile(format=FORMAT, version=VERSION, checksum=_NO_SUM, breakdown=breakdown)
    try:
        body = msgspec.json.encode(file, enc_hook=encode_hook, order="deterministic")
    except UnicodeEncodeError:
        raise StoreError("A text of this breakdown holds half a letter and can't be written down.") from None
    data = msgspec.json.format(body, indent=1) + b"\n"
    return data.replace(_NO_SUM.encode(), digest(data).encode(), 1)


def digest(data: bytes) -> str:
    """SHA-256 of the bytes of a file as 64 hex digits; names a saved state."""
    return hashlib.sha256(data).hexdigest()


def _sum_is_right(data: bytes) -> bool:
    """Whether the checksum in the file, where there is one, is that of its content."""
    found = _SUM.search(data, 0, 400)
    if found is None:
        return b'"checksum"' not in data[:400]
    return digest(data[: found.start(1)] + _NO_SUM.encode() + data[found.end(1) :]) == found[1].decode()


def decode(data: bytes, name: str) -> Breakdown:
    """The document in `data`; `StoreError` says in a sentence what is wrong with the file called `name`."""
    if not data.strip():
        raise DamagedFile(f"“{name}” is empty.")
    ours = data.lstrip()[:1] == b"{" and FORMAT.encode() in data[:400]
    try:
        head = msgspec.json.decode(data, type=_Head)
    except (msgspec.DecodeError, UnicodeDecodeError, RecursionError) as error:
        if ours and not isinstance(error, msgspec.ValidationError):
            raise DamagedFile(f"“{name}” is damaged or cut off; an earlier copy may be whole.") from None
        raise StoreError(f"“{name}” is not a Chapto breakdown.") from None
    if head.format != FORMAT:
        raise StoreError(f"“{name}” is not a Chapto breakdown.")
    if head.version > VERSION:
        raise StoreError(
            f"“{name}” was saved by a newer Chapto (format {head.version}; this one reads up to {VERSION}). "
            "Open it there; the file was left as it is."
        )
    if not _sum_is_right(data):
        raise DamagedFile(
            f"“{name}” was damaged, or changed by another program, since it was saved: its checksum does not fit. "
            "Whoever changed it by hand on purpose takes the line “checksum” out of it."
        )
    try:
        found = msgspec.json.decode(data, type=ProjectFile, dec_hook=decode_hook).breakdown
        return checked(found)
    except (msgspec.DecodeError, DocumentError, UnicodeDecodeError, RecursionError) as error:
        raise DamagedFile(f"“{name}” is damaged: {_plain(str(error))}") from None


def _plain(reason: str) -> str:
    return reason if reason.endswith(".") else reason + "."


def json_schema() -> str:
    """The JSON Schema (draft 2020-12) of a `.chapto` file."""

    def schema_hook(kind: type) -> dict[str, Any]:
        if kind is Fraction:
            pattern = r"^-?\d+(\.\d+|/[1-9]\d*)?$"
            return {"type": "string", "pattern": pattern, "description": "exact number, like 12.5 or 1001/30000"}
        raise NotImplementedError

    (root,), parts = msgspec.json.schema_components(
        [ProjectFile], schema_hook=schema_hook, ref_template="#/$defs/{name}"
    )
    whole = {"$schema": "https://json-schema.org/draft/2020-12/schema", "title": "Chapto breakdown", **root}
    whole["$defs"] = parts
    return json.dumps(whole, indent=1, ensure_ascii=False) + "\n"
