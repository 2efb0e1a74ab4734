"""Nested chapters in a Matroska file: what FFmpeg writes is flat.

The flat chapters become a Void element, and an edition with nested ones is put behind everything else. The two places
that have to know of it, the segment's size and the seek head, are put right. Source: RFC 9559 (Matroska) and RFC 8794
(EBML).
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import BinaryIO

SEGMENT, SEEK_HEAD, SEEK, SEEK_ID, SEEK_POSITION = 0x18538067, 0x114D9B74, 0x4DBB, 0x53AB, 0x53AC
CHAPTERS, EDITION, EDITION_UID, EDITION_DEFAULT = 0x1043A770, 0x45B9, 0x45BC, 0x45DB
ATOM, ATOM_UID, START, END, DISPLAY, TEXT, LANGUAGE = 0xB6, 0x73C4, 0x91, 0x92, 0x80, 0x85, 0x437C
VOID, CLUSTER = 0xEC, 0x1F43B675
LANGUAGE_OF_TITLES = b"eng"


class MatroskaError(Exception):
    """A file that is not laid out as FFmpeg lays them out."""


@dataclass(frozen=True)
class Atom:
    """A chapter from `start` to `end`, in nanoseconds, with what lies in it."""

    title: str
    start: int
    end: int
    inner: tuple[Atom, ...] = ()


@dataclass(frozen=True)
class _Element:
    id: int
    at: int
    data: int
    size: int

    @property
    def end(self) -> int:
        return self.data + self.size


def nest_chapters(path: Path, atoms: tuple[Atom, ...]) -> None:
    """Put nested chapters into the file in place of its flat ones. `MatroskaError` where it has none."""
    with open(path, "r+b") as file:
        segment = next((e for e in _elements(file, 0, path.stat().st_size) if e.id == SEGMENT), None)
        if segment is None:
            raise MatroskaError("no segment")
        inside = list(_elements(file, segment.data, segment.end))
        head = next((e for e in inside if e.id == SEEK_HEAD), None)
        flat = next((e for e in inside if e.id == CHAPTERS), None)
        if head is None or flat is None:
            raise MatroskaError("no flat chapters")
        _put(file, flat.at, _void(flat.end - flat.at))
        _put(file, segment.end, chapters_element(atoms))
        _put_size(file, segment, segment.size + len(chapters_element(atoms)))
        after = next((e for e in inside if e.at == head.end and e.id == VOID), None)
        _put(file, head.at, _sought(file, head, after, segment.end - segment.data))


def chapters_element(atoms: tuple[Atom, ...]) -> bytes:
    """A whole Chapters element: one edition, the default, with the atoms."""
    numbers = iter(range(1, 1 << 30))
    inner = b"".join(_atom(a, numbers) for a in atoms)
    edition = _element(EDITION_UID, _unsigned(1)) + _element(EDITION_DEFAULT, _unsigned(1)) + inner
    return _element(CHAPTERS, _element(EDITION, edition))


def _atom(atom: Atom, numbers: Iterator[int]) -> bytes:
    shown = _element(DISPLAY, _element(TEXT, atom.title.encode()) + _element(LANGUAGE, LANGUAGE_OF_TITLES))
    own = _element(ATOM_UID, _unsigned(next(numbers)))
    own += _element(START, _unsigned(atom.start)) + _element(END, _unsigned(atom.end))
    return _element(ATOM, own + shown + b"".join(_atom(a, numbers) for a in atom.inner))


def _sought(file: BinaryIO, head: _Element, after: _Element | None, place: int) -> bytes:
    """The seek head with the chapters at another place, and the Void behind it smaller or larger by the difference."""
    entries = b""
    for entry in _elements(file, head.data, head.end):
        if entry.id != SEEK:
            continue
        told = {e.id: _read(file, e.data, e.size) for e in _elements(file, entry.data, entry.end)}
        wanted = int.from_bytes(told[SEEK_ID], "big")
        at = place if wanted == CHAPTERS else int.from_bytes(told[SEEK_POSITION], "big")
        entries += _element(SEEK, _element(SEEK_ID, told[SEEK_ID]) + _element(SEEK_POSITION, _unsigned(at)))
    made = _element(SEEK_HEAD, entries)
    room = (after.end if after is not None else head.end) - head.at - len(made)
    if room < 0 or room == 1:
        raise MatroskaError("no room in the seek head")
    return made + (_void(room) if room else b"")


# ── elements ─────────────────────────────────────────────────────────────────────────────────────────────────
def _elements(file: BinaryIO, start: int, end: int) -> Iterator[_Element]:
    """The elements that stand one after another."""
    at = start
    while at < end:
        file.seek(at)
        id_length = _length(file.read(1))
        file.seek(at)
        number = int.from_bytes(file.read(id_length), "big")
        first = file.read(1)
        length = _length(first)
        size = int.from_bytes(bytes([first[0] & (0xFF >> length)]) + file.read(length - 1), "big")
        data = at + id_length + length
        if size == (1 << 7 * length) - 1:
            size = end - data
        yield _Element(number, at, data, size)
        at = data + size


def _length(first: bytes) -> int:
    if not first or not first[0]:
        raise MatroskaError("not EBML")
    return 9 - first[0].bit_length()


def _element(number: int, data: bytes) -> bytes:
    return number.to_bytes((number.bit_length() + 7) // 8, "big") + _size(len(data)) + data


def _size(size: int, length: int = 0) -> bytes:
    """A size as EBML writes it, as short as can be or of a given length."""
    length = length or next(n for n in range(1, 9) if size < (1 << 7 * n) - 1)
    return (size | 1 << 7 * length).to_bytes(length, "big")


def _unsigned(value: int) -> bytes:
    return value.to_bytes(max((value.bit_length() + 7) // 8, 1), "big")


def _void(size: int) -> bytes:
    """An element that fills `size` bytes, from two on."""
    length = 1 if size < 2 + 127 else 8
    return bytes([VOID]) + _size(size - 1 - length, length) + bytes(size - 1 - length)


def _put_size(file: BinaryIO, element: _Element, size: int) -> None:
    length = element.data - element.at - (element.id.bit_length() + 7) // 8
    _put(file, element.data - length, _size(size, length))


def _put(file: BinaryIO, at: int, data: bytes) -> None:
    file.seek(at)
    file.write(data)


def _read(file: BinaryIO, at: int, size: int) -> bytes:
    back = file.tell()
    file.seek(at)
    found = file.read(size)
    file.seek(back)
    return found
