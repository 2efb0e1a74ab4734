"""Where derived media lives, how much room it may take, and whether it is still what was put there."""

from __future__ import annotations

import contextlib
import os
import shutil
import threading
import time
import zlib
from collections.abc import Iterable
from pathlib import Path

from platformdirs import user_cache_path

FORGOTTEN = 7 * 86_400
"""Seconds after which half-made things of others are thrown away."""
KINDS = (
    "proxies",
    "sound",
    "cleaned",
    "words",
    "guide-voice",
    "readings",
    "tracks",
    "pieces",
    "soundtracks",
    "sound-pieces",
    "looked",
    "shades",
    "tables",
)
"""The folders of the cache; they share one limit."""
SEAL = ".sum"
_whole: dict[Path, tuple[int, int]] = {}


def cache_file(kind: str, key: str, suffix: str) -> Path:
    """The place of one derived file in the XDG cache folder; `key` is a fingerprint."""
    return user_cache_path("chapto") / kind / f"{key}{suffix}"


def cache_folders() -> tuple[Path, ...]:
    """The folders that share the limit."""
    return tuple(user_cache_path("chapto") / kind for kind in KINDS)


def used_now(place: Path) -> None:
    """Note that a derived file was used, so that it is among the last to go."""
    with contextlib.suppress(OSError):
        os.utime(place)


def part_of(place: Path) -> Path:
    """A name for a derived file that is not whole yet: no other process or thread uses it."""
    return place.with_name(f".{place.stem}.{os.getpid()}-{threading.get_ident()}{place.suffix}")


# ── whole or not ─────────────────────────────────────────────────────────────────────────────────────────────
def seal(place: Path) -> None:
    """Write length and CRC-32 of a finished file beside it. `OSError` where that can't be done."""
    _seal_of(place).write_text(f"{place.stat().st_size} {_crc(place):08x}\n", "ascii")
    _whole[place] = _mark(place)


def is_whole(place: Path) -> bool:
    """Whether a sealed file is there and is what was sealed. Reads it through the first time in a process."""
    if is_known_whole(place):
        return True
    try:
        size, crc = _seal_of(place).read_text("ascii").split()
        found = place.stat().st_size == int(size) and _crc(place) == int(crc, 16)
        if found:
            _whole[place] = _mark(place)
        return found
    except (OSError, ValueError):
        return False


def is_known_whole(place: Path) -> bool:
    """Whether that was found in this process already, and the file is the same and as long; never reads it."""
    try:
        return place in _whole and _whole[place] == _mark(place)
    except OSError:
        return False


def remove(place: Path) -> None:
    """Take a derived file out of the cache, with its seal."""
    for gone in (place, _seal_of(place)):
        with contextlib.suppress(OSError):
            gone.unlink(missing_ok=True)


def _seal_of(place: Path) -> Path:
    return place.with_name(place.name + SEAL)


def _mark(place: Path) -> tuple[int, int]:
    known = place.stat()
    return known.st_ino, known.st_size


def _crc(place: Path) -> int:
    crc = 0
    with open(place, "rb") as source:
        while block := source.read(1 << 22):
            crc = zlib.crc32(block, crc)
    return crc


# ── room ─────────────────────────────────────────────────────────────────────────────────────────────────────
def room_taken(*folders: Path) -> int:
    """Bytes of all files in `folders` and below."""
    return sum(size for _, size, _ in _aged(folders))


def make_room(*folders: Path, limit: int, keep: Path | None = None) -> tuple[Path, ...]:
    """Delete what was unused for longest until everything in `folders` takes at most `limit` bytes; `keep` stays.

    Half-made things count too, and go first once they are a week old. Returns what was deleted.
    """
    aged = sorted(_aged(folders))
    taken = sum(size for _, size, _ in aged)
    gone = []
    for when, size, place in aged:
        forgotten = place.is_dir() and time.time() - when > FORGOTTEN
        if (taken > limit or forgotten) and place != keep:
            if place.is_dir():
                shutil.rmtree(place, ignore_errors=True)
            else:
                remove(place)
            taken -= size
            gone.append(place)
    return tuple(gone)


def _aged(folders: Iterable[Path]) -> list[tuple[float, int, Path]]:
    """(last used, bytes, place) of everything directly in `folders`; a folder counts as one with what is in it."""
    found = []
    for folder in folders:
        with contextlib.suppress(OSError):
            for place in folder.iterdir():
                if place.suffix == SEAL:
                    continue
                with contextlib.suppress(OSError):
                    inside = [f.stat() for f in place.rglob("*")] if place.is_dir() else [place.stat()]
                    when = max((s.st_mtime for s in inside), default=place.stat().st_mtime)
                    found.append((when, sum(s.st_size for s in inside), place))
    return found
