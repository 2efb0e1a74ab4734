"""A WAV file that is whole after every block: a kill loses only what was not handed over yet."""

from __future__ import annotations

import os
import struct
from pathlib import Path

import numpy as np

from chapto.voice.recording.microphone import RATE, Block

_HEADER = struct.Struct("<4sI4s4sIHHIIHH4sI")
LONGEST = 2**32 - 64 - _HEADER.size
"""Bytes of sound that the format's 32-bit lengths can name (RIFF, Microsoft and IBM 1991)."""
SYNC_EVERY = RATE // 2
"""Samples after which the system is asked to bring them to the disk."""


def read_since(path: Path, first: int, end: int) -> Block:
    """Samples `first … end` (n, channels) int16 of a file that `WavFile` writes, or has written; fewer where it has not
    got so far. `OSError` where it can't be read."""
    with path.open("rb") as file:
        head = file.read(_HEADER.size)
        if len(head) < _HEADER.size:
            return np.zeros((0, 1), np.int16)
        channels = int(_HEADER.unpack(head)[6])
        frame = 2 * channels
        file.seek(_HEADER.size + first * frame)
        data = file.read(max(end - first, 0) * frame)
    return np.frombuffer(data[: len(data) // frame * frame], "<i2").reshape(-1, channels).astype(np.int16)


def channels_of(path: Path) -> int:
    """Channels of such a file, 0 where that can't be read."""
    try:
        with path.open("rb") as file:
            return int(_HEADER.unpack(file.read(_HEADER.size))[6])
    except (OSError, struct.error):
        return 0


class WavFile:
    """16-bit PCM at 48 kHz, appended block by block. Opening and writing raise `OSError`; a file is never replaced."""

    def __init__(self, path: Path, channels: int) -> None:
        self.path, self._channels = path, channels
        self._bytes = self._unsynced = 0
        self._file = os.open(path, os.O_WRONLY | os.O_CREAT | os.O_EXCL | os.O_CLOEXEC, 0o600)
        self._write_at(0, self._header())

    @property
    def samples(self) -> int:
        """How many samples of each channel it holds."""
        return self._bytes // (2 * self._channels)

    @property
    def is_full(self) -> bool:
        """Whether the format can hold no more than another second."""
        return self._bytes > LONGEST - RATE * 2 * self._channels

    def append(self, block: Block) -> None:
        """Add (n, channels) samples; the file says so at once."""
        data = block.astype("<i2").tobytes()
        self._write_at(_HEADER.size + self._bytes, data)
        self._bytes += len(data)
        self._write_at(0, self._header())
        self._unsynced += len(block)
        if self._unsynced >= SYNC_EVERY:
            os.fdatasync(self._file)
            self._unsynced = 0

    def close(self) -> None:
        """End the file."""
        if self._file >= 0:
            try:
                os.fsync(self._file)
            finally:
                os.close(self._file)
                self._file = -1

    def _header(self) -> bytes:
        frame = 2 * self._channels
        return _HEADER.pack(
            b"RIFF", self._bytes + _HEADER.size - 8, b"WAVE", b"fmt ", 16, 1, self._channels, RATE, RATE * frame,
            frame, 16, b"data", self._bytes,
        )  # fmt: skip

    def _write_at(self, place: int, data: bytes) -> None:
        while data:
            written = os.pwrite(self._file, data, place)
            place, data = place + written, data[written:]
