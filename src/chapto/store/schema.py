"""The `.chapto` file format: JSON with a version, and its JSON Schema."""

from __future__ import annotations

import json
from fractions import Fraction
from typing import Any

import msgspec

from chapto.document.breakdown import Breakdown, DocumentError
from chapto.document.checks import checked
from chapto.document.mattime import decode_hook, encode_hook
from chapto.errors import ChaptoError

FORMAT, VERSION = "chapto breakdown", 3


class StoreError(ChaptoError):
    """A file that can't be read or written as it should."""


class ProjectFile(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """What stands in a `.chapto` file."""

    format: str
    version: int
    breakdown: Breakdown


class _Head(msgspec.Struct, frozen=True):
    format: str
    version: int


def encode(breakdown: Breakdown) -> bytes:
    """`breakdown` as the bytes of a `.chapto` file: indented UTF-8 JSON with a final newline."""
    body = msgspec.json.encode(
        ProjectFile(format=FORMAT, version=VERSION, breakdown=breakdown), enc_hook=encode_hook, order="deterministic"
    )
    return msgspec.json.format(body, indent=1) + b"\n"


def decode(data: bytes, name: str) -> Breakdown:
    """The document in `data`; `StoreError` says in a sentence what is wrong with the file called `name`."""
    if not data.strip():
        raise StoreError(f"“{name}” is empty.")
    try:
        head = msgspec.json.decode(data, type=_Head)
    except msgspec.DecodeError as error:
        if isinstance(error, msgspec.ValidationError):
            raise StoreError(f"“{name}” is not a Chapto breakdown.") from None
        damaged = data.lstrip()[:1] == b"{" and FORMAT.encode() in data[:400]
        cut = "is damaged or cut off; an earlier copy may be whole" if damaged else "is not a Chapto breakdown"
        raise StoreError(f"“{name}” {cut}.") from None
    except UnicodeDecodeError:
        raise StoreError(f"“{name}” is not a Chapto breakdown.") from None
    if head.format != FORMAT:
        raise StoreError(f"“{name}” is not a Chapto breakdown.")
    if head.version > VERSION:
        raise StoreError(
            f"“{name}” was saved by a newer Chapto (format {head.version}; this one reads up to {VERSION}). "
            "Open it there; the file was left as it is."
        )
    try:
        found = msgspec.json.decode(data, type=ProjectFile, dec_hook=decode_hook).breakdown
        return checked(found)
    except (msgspec.DecodeError, DocumentError, UnicodeDecodeError, RecursionError) as error:
        raise StoreError(f"“{name}” is damaged: {_plain(str(error))}") from None


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
