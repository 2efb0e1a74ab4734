"""A real microphone, heard through a process of its own, and the names of all there are."""

from __future__ import annotations

import contextlib
import json
import subprocess
import sys
import threading
from collections.abc import Callable, Mapping, Sequence
from typing import IO

import av
import numpy as np

from chapto.store.fault_log import record_fault
from chapto.voice.recording.microphone import RATE, Block, Hear, Lost, MicrophoneName, Prompt
from chapto.voice.recording.microphone_messages import HEADER, Told

PATIENCE = 10.0
"""Seconds in which the system's sound service has to name its devices."""
_COMMAND = (sys.executable, "-m", "chapto.voice.recording.microphone_process")


def microphones(environment: Mapping[str, str] | None = None) -> tuple[MicrophoneName, ...]:
    """Every device that the system names, the one it likes best first; none where it does not answer."""
    try:
        done = subprocess.run(
            _COMMAND, stdin=subprocess.DEVNULL, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL,
            env=environment, timeout=PATIENCE, check=False,
        )  # fmt: skip
        listed = json.loads(done.stdout[HEADER.size :])
    except (OSError, ValueError, subprocess.TimeoutExpired):
        return ()
    return tuple(MicrophoneName(str(d["id"]), str(d["title"])) for d in listed)


class Device:
    """A `Microphone` of the system, by the id that `microphones` gives."""

    def __init__(self, name: MicrophoneName, channels: int = 1, *, environment: Mapping[str, str] | None = None):
        self.channels = channels
        self._name, self._environment = name, environment
        self._process: subprocess.Popen[bytes] | None = None
        self._thread: threading.Thread | None = None
        self._stopping = False

    def prompt(self, lines: Sequence[Prompt]) -> None:
        """A person reads it."""

    def start(self, hear: Hear, lost: Lost) -> None:
        """Begin to hear."""
        self._stopping = False
        try:
            self._process = subprocess.Popen(
                [*_COMMAND, self._name.id, str(self.channels)], stdin=subprocess.PIPE, stdout=subprocess.PIPE,
                stderr=subprocess.DEVNULL, env=self._environment,
            )  # fmt: skip
        except OSError as error:
            lost(f"The microphone can't be heard: {error.strerror}.")
            return
        self._thread = threading.Thread(target=self._listen, args=(hear, lost), name="microphone", daemon=True)
        self._thread.start()

    def stop(self) -> None:
        """Hear what the device still holds, and end."""
        self._stopping = True
        if self._process is not None and self._process.stdin is not None:
            with contextlib.suppress(OSError):
                self._process.stdin.close()
        if self._thread is not None:
            self._thread.join()
        self._process = self._thread = None

    def _listen(self, hear: Hear, lost: Lost) -> None:
        process = self._process
        assert process is not None
        assert process.stdout is not None
        reason = "The microphone has stopped: the system's sound service has gone."
        convert: Callable[[bytes], Block] | None = None
        try:
            while (message := _read(process.stdout)) is not None:
                kind, data = message
                if kind == Told.FORMAT:
                    convert = _converter(json.loads(data), self.channels)
                elif kind == Told.DATA and convert is not None:
                    block = convert(data)
                    if len(block):
                        hear(block)
                elif kind == Told.ENDED:
                    reason = data.decode(errors="replace")
        except Exception as error:
            reason = record_fault(error, "The microphone")
        finally:
            process.kill()
            process.stdout.close()
            process.wait()
        if not self._stopping:
            lost(reason)


def _read(stream: IO[bytes]) -> tuple[int, bytes] | None:
    header = stream.read(HEADER.size)
    if len(header) < HEADER.size:
        return None
    kind, size = HEADER.unpack(header)
    data = stream.read(size)
    return (kind, data) if len(data) == size else None


def _converter(known: Mapping[str, object], channels: int) -> Callable[[bytes], Block]:
    """From what a device gives to (n, channels) at 48 kHz; a device's first channels are taken."""
    samples, rate, own = str(known["samples"]), int(str(known["rate"])), int(str(known["channels"]))
    kind = {"u8": "u1", "s16": "<i2", "s32": "<i4", "flt": "<f4"}[samples]
    layout = "mono" if channels == 1 else "stereo"
    resampler = av.AudioResampler(format="s16", layout=layout, rate=RATE)

    def convert(data: bytes) -> Block:
        heard = np.frombuffer(data, dtype=kind).reshape(-1, own)
        picked = np.stack([heard[:, min(c, own - 1)] for c in range(channels)], axis=1)
        if samples == "s16" and rate == RATE:
            return np.ascontiguousarray(picked)
        frame = av.AudioFrame.from_ndarray(np.ascontiguousarray(picked).reshape(1, -1), format=samples, layout=layout)
        frame.sample_rate = rate
        done = [f.to_ndarray().reshape(-1, channels) for f in resampler.resample(frame)]
        return np.concatenate(done) if done else np.zeros((0, channels), np.int16)

    return convert
