"""The process that hears a device: `python -m chapto.voice.recording.microphone_process [ID CHANNELS]`.

Without arguments it names the devices. It is apart from the window for the reason that `sound_process` gives.
"""

from __future__ import annotations

import contextlib
import json
import os
import sys
import time

from PyQt6 import sip
from PyQt6.QtCore import QCoreApplication, QObject, QSocketNotifier, QTimer
from PyQt6.QtMultimedia import QAudio, QAudioDevice, QAudioFormat, QAudioSource, QMediaDevices

from chapto.voice.recording.microphone import RATE
from chapto.voice.recording.microphone_messages import HEADER, Told

BUFFER_SECONDS = 0.5
"""What the device may hold back: under a quarter of a second, sound is lost on a busy machine (measured)."""
READ_EVERY = 20
"""Milliseconds."""
PATIENCE = 3.0
"""Seconds without a sample, not even a silent one, after which the device counts as gone."""
SAMPLES = {
    QAudioFormat.SampleFormat.UInt8: "u8",
    QAudioFormat.SampleFormat.Int16: "s16",
    QAudioFormat.SampleFormat.Int32: "s32",
    QAudioFormat.SampleFormat.Float: "flt",
}


class MicrophoneProcess(QObject):
    """Gives on what one device hears, in the format that it has."""

    def __init__(self, device: QAudioDevice, channels: int) -> None:
        super().__init__()
        self._id = device.id().data()
        format = _format_of(device, channels)
        known = {"samples": SAMPLES[format.sampleFormat()], "rate": format.sampleRate()}
        _tell(Told.FORMAT, json.dumps({**known, "channels": format.channelCount()}).encode())
        self._source = QAudioSource(device, format, self)
        self._source.setBufferSize(format.bytesForDuration(int(BUFFER_SECONDS * 1e6)))
        self._heard_at = time.monotonic()
        self._frame = format.bytesPerFrame()
        self._from = self._source.start()
        self._devices = QMediaDevices(self)
        self._devices.audioInputsChanged.connect(self._look_for_device)
        self._timer = QTimer(self)
        self._timer.timeout.connect(self._read)
        self._timer.start(READ_EVERY)
        if self._from is None:
            _end("The microphone does not open; another program may be using it.")

    def _read(self) -> None:
        if self._source.error() not in (QAudio.Error.NoError, QAudio.Error.UnderrunError):
            _end("The microphone has stopped.")
            return
        assert self._from is not None
        available = self._source.bytesAvailable() // self._frame * self._frame
        if available:
            _tell(Told.DATA, bytes(self._from.read(available)))
            self._heard_at = time.monotonic()
        elif time.monotonic() - self._heard_at > PATIENCE:
            # A service that dies takes its streams along without a word.
            _end("The microphone gives no sound any more; the system's sound service may have gone.")

    def _look_for_device(self) -> None:
        if all(d.id().data() != self._id for d in QMediaDevices.audioInputs()):
            _end("The microphone was unplugged.")


def _format_of(device: QAudioDevice, channels: int) -> QAudioFormat:
    """16 bits at 48 kHz where the device has that, else what it likes best."""
    wanted = QAudioFormat()
    wanted.setSampleRate(RATE)
    wanted.setChannelCount(channels)
    wanted.setSampleFormat(QAudioFormat.SampleFormat.Int16)
    return wanted if device.isFormatSupported(wanted) else device.preferredFormat()


def _end(sentence: str) -> None:
    _tell(Told.ENDED, sentence.encode())
    QCoreApplication.exit(1)


def _tell(kind: Told, data: bytes) -> None:
    message = HEADER.pack(kind, len(data)) + data
    try:
        while message:
            message = message[os.write(1, message) :]
    except OSError:
        QCoreApplication.exit(1)


def _names() -> bytes:
    first = QMediaDevices.defaultAudioInput().id()
    devices = sorted(QMediaDevices.audioInputs(), key=lambda d: d.id() != first)
    return json.dumps([{"id": d.id().data().hex(), "title": d.description()} for d in devices]).encode()


def main() -> int:
    """Name the devices, or hear one until standard input ends."""
    app = QCoreApplication(["chapto-microphone"])
    if len(sys.argv) < 3:
        _tell(Told.DEVICES, _names())
        return 0
    with contextlib.suppress(OSError):
        os.nice(-5)
    device = next((d for d in QMediaDevices.audioInputs() if d.id().data().hex() == sys.argv[1]), None)
    if device is None:
        _tell(Told.ENDED, b"The microphone is not there.")
        return 1
    ending = QSocketNotifier(sip.voidptr(0), QSocketNotifier.Type.Read, app)
    ending.activated.connect(lambda *_: QCoreApplication.quit())
    process = MicrophoneProcess(device, int(sys.argv[2]))
    status = app.exec()
    del process
    return status


if __name__ == "__main__":
    sys.exit(main())
