"""The loudspeaker of the window: mixes ahead for the process that plays, and goes on silently where there is none."""

from __future__ import annotations

import contextlib
import fcntl
import json
import subprocess
import sys
import threading
import time
from collections.abc import Callable, Mapping
from dataclasses import dataclass

import numpy as np

from chapto.store.fault_log import record_fault
from chapto.voice.sound_messages import HEADER, Message
from chapto.voice.speaker import RATE, Source

AHEAD = 1.0
"""Seconds of sound mixed before they are needed."""
BLOCK = RATE // 20
FIRST_PATIENCE, PATIENCE = 4.0, 1.2
"""Seconds without a sound taken, at the beginning and later, after which the device counts as gone."""
TRY_AGAIN, ASK_AGAIN = 3.0, 30.0
"""Seconds between two attempts to find a device: where the process ended, and where it only knows of none."""


@dataclass
class _Report:
    """What the process said last of the stream: seconds `played` at monotonic second `at`."""

    played: float = 0.0
    at: float = 0.0


class Loudspeaker:
    """A `Speaker`. `say` hears, in the thread that asks for `played`, when sound is lost and when it is back.

    `played` is the clock of the picture: what the device has played, or real time while there is no device.
    """

    def __init__(
        self,
        say: Callable[[str], object] = lambda sentence: None,
        *,
        environment: Mapping[str, str] | None = None,
        clock: Callable[[], float] = time.monotonic,
    ) -> None:
        self._say, self._environment, self._clock = say, environment, clock
        self._change = threading.Condition()
        self._process: subprocess.Popen[bytes] | None = None
        self._listener: threading.Thread | None = None
        self._device: str | None = None
        self._tried = -ASK_AGAIN
        self._source: Source | None = None
        self._first = 0
        self._stream = 0
        self._on_device = False
        self._base, self._since = 0.0, 0.0
        self._sent = 0
        self._report = _Report()
        self._last, self._last_moved = 0.0, 0.0
        self._was_lost = False
        self._fault = ""
        self._open = True
        self._mixer = threading.Thread(target=self._mix, name="mixing", daemon=True)
        self._mixer.start()
        self._begin_process()

    # ── as a speaker ─────────────────────────────────────────────────────────────────────────────────────
    def start(self, source: Source, first: int) -> None:
        """Begin with sample `first`."""
        with self._change:
            self._source, self._first = source, first
            self._base = self._last = 0.0
            self._begin_stream()

    def played(self) -> float:
        """Seconds heard since `start`."""
        sentence = ""
        with self._change:
            if self._source is None:
                return 0.0
            now = self._clock()
            if self._on_device:
                sentence = self._follow_device(now)
            else:
                self._last = self._base + now - self._since
                sentence = self._look_for_device(now)
            last = self._last
            sentence, self._fault = self._fault or sentence, ""
        if sentence:
            self._say(sentence)
        return last

    @property
    def has_device(self) -> bool:
        """Whether there is a device to play on."""
        with self._change:
            return bool(self._device)

    def stop(self) -> None:
        """Fall silent."""
        with self._change:
            self._source = None
            self._stream += 1
            self._send(Message.STOP, b"")
            self._change.notify_all()

    def close(self) -> None:
        """End the process and the threads."""
        with self._change:
            self._open, self._source = False, None
            self._end_process()
            self._change.notify_all()
        self._mixer.join()
        if self._listener is not None:
            self._listener.join()

    # ── the stream ───────────────────────────────────────────────────────────────────────────────────────
    def _begin_stream(self) -> None:
        """From where we are, on the device if there is one."""
        now = self._clock()
        self._stream += 1
        self._sent, self._report = 0, _Report(at=now)
        self._base, self._since, self._last_moved = self._last, now, now
        self._on_device = bool(self._device) and self._send(Message.START, b"")
        self._change.notify_all()

    def _follow_device(self, now: float) -> str:
        heard = self._report.played
        # Between two reports real time goes on, as far as there is sound.
        running = heard + min(max(now - self._report.at, 0.0), 0.1) if heard > 0 else 0.0
        reached = self._base + min(running, self._sent / RATE)
        if heard > 0 and reached > self._last:
            self._last, self._last_moved = reached, now
        started = self._last > self._base
        if not self._device or now - self._last_moved > (PATIENCE if started else FIRST_PATIENCE):
            self._end_process()
            self._on_device, self._was_lost = False, True
            self._base, self._since = self._last, now
            return "The sound device is gone; the picture goes on without sound until it is back."
        return ""

    def _look_for_device(self, now: float) -> str:
        if self._device:
            back = self._was_lost
            self._was_lost = False
            self._begin_stream()
            return "The sound is back." if back and self._on_device else ""
        missed = self._was_lost or self._process is None
        if now - self._tried > (TRY_AGAIN if missed else ASK_AGAIN):
            self._end_process()
            self._begin_process()
        return ""

    def _mix(self) -> None:
        while True:
            with self._change:
                while self._open and not self._has_room():
                    # While nothing plays there is nothing to wake up for.
                    self._change.wait(0.05 if self._source is not None else None)
                if not self._open:
                    return
                source, stream = self._source, self._stream
                first = self._first + round(self._base * RATE) + self._sent
            assert source is not None
            try:
                block = np.round(np.clip(source(first, BLOCK), -1, 1) * 32767).astype("<i2").tobytes()
            except Exception as error:
                with self._change:
                    self._fault = record_fault(error, "Mixing the sound")
                    self._on_device, self._since, self._base = False, self._clock(), self._last
                    self._device, self._tried = None, self._clock() + ASK_AGAIN
                continue
            with self._change:
                if stream == self._stream and self._on_device and self._send(Message.DATA, block):
                    self._sent += BLOCK

    def _has_room(self) -> bool:
        if self._source is None or not self._on_device:
            return False
        return self._sent / RATE - self._report.played < AHEAD

    # ── the process ──────────────────────────────────────────────────────────────────────────────────────
    def _begin_process(self) -> None:
        self._tried = self._clock()
        try:
            self._process = subprocess.Popen(
                [sys.executable, "-m", "chapto.voice.sound_process"],
                stdin=subprocess.PIPE, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL,
                env=self._environment, bufsize=0,
            )  # fmt: skip
        except OSError:
            self._process = None
            return
        assert self._process.stdin is not None
        with contextlib.suppress(OSError):
            # Room for all that is mixed ahead, so that writing never waits for a process that hangs.
            fcntl.fcntl(self._process.stdin, fcntl.F_SETPIPE_SZ, 1 << 20)
        self._listener = threading.Thread(target=self._listen, args=(self._process,), name="sound", daemon=True)
        self._listener.start()

    def _end_process(self) -> None:
        process, self._process, self._device = self._process, None, None
        if process is not None:
            process.kill()
            assert process.stdin is not None
            with contextlib.suppress(OSError):
                process.stdin.close()

    def _listen(self, process: subprocess.Popen[bytes]) -> None:
        assert process.stdout is not None
        for line in process.stdout:
            with contextlib.suppress(ValueError), self._change:
                if process is self._process:
                    self._hear(json.loads(line))
        process.stdout.close()
        process.wait()
        with self._change:
            if process is self._process:
                self._process, self._device = None, None

    def _hear(self, told: dict[str, object]) -> None:
        if "device" in told:
            changed = self._device is not None and told["device"] != self._device
            self._device = str(told["device"])
            if changed and self._on_device and self._device:
                # Headphones went in or out: on from here on the other device.
                self._begin_stream()
        elif told.get("stream") == self._stream:
            if told.get("dead"):
                self._device = None
            self._report = _Report(float(str(told["played"])), float(str(told["at"])))
            self._change.notify_all()

    def _send(self, kind: Message, data: bytes) -> bool:
        process = self._process
        if process is None or process.stdin is None:
            return False
        try:
            process.stdin.write(HEADER.pack(kind, self._stream, len(data)) + data)
        except OSError:
            return False
        return True
