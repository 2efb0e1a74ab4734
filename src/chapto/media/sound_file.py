"""The cache file of a sound: blocks of one second, each with its checksum, only where there is sound.

`HEAD`, then blocks of 16-bit stereo, then the index: for each block its number (the second it belongs to) and its
CRC-32, then `TAIL`. Block `i` of the index is the `i`th in the file. Read with `pread`: a file that is cut while it is
open gives an error, not the end of the process.
"""

from __future__ import annotations

import contextlib
import os
import struct
import threading
import zlib
from collections import OrderedDict
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from chapto.store.atomic import write_whole

RATE = 48_000
BLOCK = RATE
"""Samples of a block."""
BLOCK_BYTES = BLOCK * 4
HEAD = b"chapto sound 2\n\0"
TAIL = struct.Struct("<QQI4s")
"""Blocks, samples of the whole sound, CRC-32 of the index, mark."""
MARK = b"done"
_ROW = np.dtype([("number", "<u4"), ("crc", "<u4")])

Block = NDArray[np.int16]


class DamagedSound(Exception):
    """The cache file is not, or no longer, what was written."""


class SoundWriter:
    """Takes samples at any place, in rising order but for small steps back, and keeps a few blocks in memory."""

    OPEN = 6

    def __init__(self, place: Path) -> None:
        self._handle = os.open(place, os.O_RDWR | os.O_CREAT | os.O_TRUNC, 0o666)
        self._written: dict[int, int] = {}
        self._crc: dict[int, int] = {}
        self._open: OrderedDict[int, Block] = OrderedDict()
        self._length = 0
        os.pwrite(self._handle, HEAD, 0)

    def put(self, at: int, samples: Block) -> None:
        """Lay (n, 2) samples at sample `at`; what lies before 0 is left out."""
        if at < 0:
            at, samples = 0, samples[-at:]
        while len(samples):
            number, inside = divmod(at, BLOCK)
            count = min(BLOCK - inside, len(samples))
            self._block(number)[inside : inside + count] = samples[:count]
            self._length = max(self._length, at + count)
            at, samples = at + count, samples[count:]

    def finish(self) -> None:
        """Write the index; the file is whole after this."""
        while self._open:
            self._flush_oldest()
        rows = np.zeros(len(self._written), _ROW)
        for number, slot in self._written.items():
            rows[slot] = number, self._crc[number]
        index = rows.tobytes()
        tail = TAIL.pack(len(rows), self._length, zlib.crc32(index), MARK)
        write_whole(self._handle, index + tail, len(HEAD) + len(rows) * BLOCK_BYTES)
        os.fsync(self._handle)

    def close(self) -> None:
        """Give the file back."""
        os.close(self._handle)

    def _block(self, number: int) -> Block:
        if number not in self._open:
            slot = self._written.get(number)
            if slot is None:
                made = np.zeros((BLOCK, 2), np.int16)
            else:
                data = os.pread(self._handle, BLOCK_BYTES, len(HEAD) + slot * BLOCK_BYTES)
                made = np.frombuffer(data, np.int16).reshape(-1, 2).copy()
            self._open[number] = made
            while len(self._open) > self.OPEN:
                self._flush_oldest()
        return self._open[number]

    def _flush_oldest(self) -> None:
        number, block = self._open.popitem(last=False)
        slot = self._written.setdefault(number, len(self._written))
        data = block.tobytes()
        self._crc[number] = zlib.crc32(data)
        write_whole(self._handle, data, len(HEAD) + slot * BLOCK_BYTES)


class SoundReader:
    """Gives the blocks of a whole file. Safe from several threads."""

    KEPT = 4

    def __init__(self, place: Path) -> None:
        """Open the file at `place`; `DamagedSound` where it is not whole, `OSError` where it can't be read."""
        self._handle = os.open(place, os.O_RDONLY)
        try:
            self._slots, self._crc, self.length = _index(self._handle)
        except DamagedSound:
            os.close(self._handle)
            raise
        self._kept: OrderedDict[int, Block] = OrderedDict()
        self._lock = threading.Lock()

    def __del__(self) -> None:
        with contextlib.suppress(OSError, AttributeError):
            os.close(self._handle)

    def block(self, number: int) -> Block | None:
        """Second `number`, (`BLOCK`, 2); None where there is silence. `DamagedSound` where its checksum is wrong."""
        slot = self._slots.get(number)
        if slot is None:
            return None
        with self._lock:
            if number not in self._kept:
                try:
                    data = os.pread(self._handle, BLOCK_BYTES, len(HEAD) + slot * BLOCK_BYTES)
                except OSError:
                    data = b""
                if len(data) != BLOCK_BYTES or zlib.crc32(data) != self._crc[slot]:
                    raise DamagedSound
                self._kept[number] = np.frombuffer(data, np.int16).reshape(-1, 2)
                while len(self._kept) > self.KEPT:
                    self._kept.popitem(last=False)
            return self._kept[number]


def _index(handle: int) -> tuple[dict[int, int], list[int], int]:
    size = os.fstat(handle).st_size
    if size < len(HEAD) + TAIL.size or os.pread(handle, len(HEAD), 0) != HEAD:
        raise DamagedSound
    count, length, crc, mark = TAIL.unpack(os.pread(handle, TAIL.size, size - TAIL.size))
    if mark != MARK or size != len(HEAD) + count * (BLOCK_BYTES + _ROW.itemsize) + TAIL.size:
        raise DamagedSound
    index = os.pread(handle, count * _ROW.itemsize, len(HEAD) + count * BLOCK_BYTES)
    if zlib.crc32(index) != crc:
        raise DamagedSound
    rows = np.frombuffer(index, _ROW)
    return {int(n): i for i, n in enumerate(rows["number"])}, [int(c) for c in rows["crc"]], length
