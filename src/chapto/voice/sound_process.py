"""The process that gives sound to the device: `python -m chapto.voice.sound_process`.

It is apart from the window because the system's sound library ends the process it runs in when its service goes away.
Nothing the window does can make gaps either. `sound_messages` come in on standard input, reports go out.
"""

from __future__ import annotations

import contextlib
import json
import os
import sys
import time

from PyQt6 import sip
from PyQt6.QtCore import QCoreApplication, QIODevice, QObject, QSocketNotifier, QTimer
from PyQt6.QtMultimedia import QAudio, QAudioFormat, QAudioSink, QMediaDevices

from chapto.voice.sound_messages import HEADER, Message
from chapto.voice.speaker import RATE

BUFFER = RATE * 4 // 2
"""Bytes the device is given ahead: half a second, which a busy machine needs. Stopping throws it away at once."""
FEED_EVERY, REPORT_EVERY = 8, 20
"""Milliseconds."""


class SoundProcess(QObject):
    """One stream at a time, 16-bit stereo at 48 kHz."""

    def __init__(self) -> None:
        super().__init__()
        self._format = QAudioFormat()
        self._format.setSampleRate(RATE)
        self._format.setChannelCount(2)
        self._format.setSampleFormat(QAudioFormat.SampleFormat.Int16)
        self._sink: QAudioSink | None = None
        self._into: QIODevice | None = None
        self._stream = 0
        self._incoming, self._waiting = bytearray(), bytearray()
        self._device = b""
        self._devices = QMediaDevices(self)
        self._devices.audioOutputsChanged.connect(self._tell_device)
        os.set_blocking(0, False)
        self._notifier = QSocketNotifier(sip.voidptr(0), QSocketNotifier.Type.Read, self)
        self._notifier.activated.connect(lambda *_: self._read())
        self._feeding, self._reporting = QTimer(self), QTimer(self)
        self._feeding.timeout.connect(self._feed)
        self._reporting.timeout.connect(self._report)
        self._tell_device()

    def _tell_device(self) -> None:
        device = QMediaDevices.defaultAudioOutput()
        usable = not device.isNull() and device.isFormatSupported(self._format)
        self._device = device.id().data() if usable else b""
        _tell({"device": device.description() or "sound" if usable else ""})

    def _read(self) -> None:
        try:
            more = os.read(0, 1 << 18)
        except BlockingIOError:
            return
        if not more:
            QCoreApplication.quit()
            return
        self._incoming += more
        while len(self._incoming) >= HEADER.size:
            kind, stream, size = HEADER.unpack_from(self._incoming)
            if len(self._incoming) < HEADER.size + size:
                break
            data = bytes(self._incoming[HEADER.size : HEADER.size + size])
            del self._incoming[: HEADER.size + size]
            self._take(kind, stream, data)
        self._feed()

    def _take(self, kind: int, stream: int, data: bytes) -> None:
        if kind == Message.DATA:
            if stream == self._stream:
                self._waiting += data
            return
        if self._sink is not None:
            self._sink.reset()
            self._sink.stop()
            self._sink, self._into = None, None
        self._waiting.clear()
        self._feeding.stop()
        self._reporting.stop()
        self._stream = stream
        if kind == Message.START and self._device:
            self._sink = QAudioSink(QMediaDevices.defaultAudioOutput(), self._format, self)
            self._sink.setBufferSize(BUFFER)
            self._into = self._sink.start()
            self._feeding.start(FEED_EVERY)
            self._reporting.start(REPORT_EVERY)

    def _feed(self) -> None:
        if self._sink is None or self._into is None or not self._waiting:
            return
        room = min(self._sink.bytesFree(), len(self._waiting)) // 4 * 4
        if room > 0:
            done = self._into.write(bytes(self._waiting[:room]))
            del self._waiting[: max(done, 0)]

    def _report(self) -> None:
        if self._sink is not None:
            dead = self._sink.error() not in (QAudio.Error.NoError, QAudio.Error.UnderrunError)
            played = self._sink.processedUSecs() / 1e6
            _tell({"stream": self._stream, "played": played, "at": time.monotonic(), "dead": dead})


def _tell(what: dict[str, object]) -> None:
    try:
        print(json.dumps(what), flush=True)
    except OSError:
        QCoreApplication.quit()


def main() -> int:
    """Play until standard input ends."""
    with contextlib.suppress(OSError):
        # Where that is allowed: sound goes before everything else.
        os.nice(-5)
    app = QCoreApplication(["chapto-sound"])
    process = SoundProcess()
    status = app.exec()
    del process
    return status


if __name__ == "__main__":
    sys.exit(main())
