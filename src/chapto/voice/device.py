"""A real output device through Qt."""

from __future__ import annotations

from typing import Any

import numpy as np
from PyQt6.QtCore import QIODevice
from PyQt6.QtMultimedia import QAudioFormat, QAudioSink, QMediaDevices

from chapto.voice.speaker import RATE, Source, Speaker


class _Stream(QIODevice):
    """What the device pulls its 16-bit stereo samples from."""

    def __init__(self, source: Source, first: int) -> None:
        super().__init__()
        self._source, self._next = source, first
        self.open(QIODevice.OpenModeFlag.ReadOnly)

    def readData(self, size: int) -> bytes:
        count = size // 4
        block = self._source(self._next, count)
        self._next += count
        return np.round(block * 32767).astype("<i2").tobytes()

    def writeData(self, data: Any) -> int:
        return 0

    def bytesAvailable(self) -> int:
        return 4 * RATE


class DeviceSpeaker:
    """Plays through a `QAudioSink`; its own clock says what has been heard."""

    def __init__(self, wanted: QAudioFormat) -> None:
        self._sink = QAudioSink(QMediaDevices.defaultAudioOutput(), wanted)
        self._sink.setBufferSize(RATE // 10 * 4)
        self._stream: _Stream | None = None

    def start(self, source: Source, first: int) -> None:
        """Begin with sample `first`."""
        self.stop()
        self._stream = _Stream(source, first)
        self._sink.start(self._stream)

    def played(self) -> float:
        """Seconds heard since `start`: processed less what still waits in the buffer."""
        waiting = max(self._sink.bufferSize() - self._sink.bytesFree(), 0) / 4 / RATE
        return max(self._sink.processedUSecs() / 1e6 - waiting, 0.0)

    def stop(self) -> None:
        """Fall silent."""
        self._sink.stop()
        if self._stream is not None:
            self._stream.close()
            self._stream = None


def open_device() -> Speaker | None:
    """The default output if there is one that takes 16-bit stereo at 48 kHz."""
    device = QMediaDevices.defaultAudioOutput()
    wanted = QAudioFormat()
    wanted.setSampleRate(RATE)
    wanted.setChannelCount(2)
    wanted.setSampleFormat(QAudioFormat.SampleFormat.Int16)
    if device.isNull() or not device.isFormatSupported(wanted):
        return None
    return DeviceSpeaker(wanted)
