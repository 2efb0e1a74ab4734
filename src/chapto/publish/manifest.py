"""The list of what stands in a package, with a digest of every file: how a package is known again, and whether it is
still as it was made."""

from __future__ import annotations

import hashlib
import json
from pathlib import Path

import msgspec

FORMAT, VERSION = "chapto package", 1
NAME = "manifest.json"
_BLOCK = 1 << 20


class PackedFile(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """A file by its `path` within the package, what it is (`role`), its `bytes` and SHA-256."""

    path: str
    role: str
    bytes: int
    sha256: str


class Manifest(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """A package: of which `title`, made when (UTC, ISO 8601), by which version, and its files in order of path."""

    format: str = FORMAT
    version: int = VERSION
    title: str
    made: str
    chapto: str
    seconds: float
    files: tuple[PackedFile, ...]


def packed_file(folder: Path, path: Path, role: str) -> PackedFile:
    """A file of a package as it is now."""
    return PackedFile(
        path=path.relative_to(folder).as_posix(), role=role, bytes=path.stat().st_size, sha256=sha256_of(path)
    )


def sha256_of(path: Path) -> str:
    """SHA-256 of a whole file."""
    made = hashlib.sha256()
    with open(path, "rb") as source:
        while block := source.read(_BLOCK):
            made.update(block)
    return made.hexdigest()


def encode(manifest: Manifest) -> bytes:
    """It as indented UTF-8 JSON."""
    return msgspec.json.format(msgspec.json.encode(manifest), indent=1) + b"\n"


def read_manifest(folder: Path) -> Manifest | None:
    """The manifest of a folder; None where it holds none that can be read."""
    try:
        found = msgspec.json.decode((folder / NAME).read_bytes(), type=Manifest)
    except (OSError, msgspec.DecodeError, UnicodeDecodeError):
        return None
    return found if found.format == FORMAT and found.version <= VERSION else None


def strangers(folder: Path, manifest: Manifest, *, thorough: bool = True) -> tuple[str, ...]:
    """Names of what stands in the folder and is not as the manifest says: other files, and those that changed. Without
    being `thorough` it reads none of them: what was written to after the manifest counts as changed."""
    known = {f.path: f for f in manifest.files}
    made = (folder / NAME).stat().st_mtime_ns
    found = []
    for place in sorted(p for p in folder.rglob("*") if not p.is_dir()):
        name = place.relative_to(folder).as_posix()
        if name == NAME:
            continue
        file = known.get(name)
        if file is None or place.stat().st_size != file.bytes or _changed(place, file, made, thorough=thorough):
            found.append(name)
    return tuple(found)


def _changed(place: Path, file: PackedFile, made: int, *, thorough: bool) -> bool:
    return sha256_of(place) != file.sha256 if thorough else place.stat().st_mtime_ns > made


def manifest_schema() -> str:
    """The JSON Schema (draft 2020-12) of a manifest."""
    (root,), parts = msgspec.json.schema_components([Manifest], ref_template="#/$defs/{name}")
    whole = {"$schema": "https://json-schema.org/draft/2020-12/schema", "title": "Chapto package", **root}
    return json.dumps({**whole, "$defs": parts}, indent=1) + "\n"
