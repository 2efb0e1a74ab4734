"""The stand-in microphone: it reads what the prompter shows, at the true pace, for machines without a microphone."""

from __future__ import annotations

import threading
import time
import zlib
from collections import Counter
from collections.abc import Sequence

import numpy as np

# What the guide voice is made with takes a while to load: here, and not in the first second of a recording.
import scipy.signal  # noqa: F401

from chapto.store.fault_log import record_fault
from chapto.voice.recording.microphone import RATE, Block, Hear, Lost, MicrophoneName, Prompt
from chapto.voice.recording.stand_in_speech import read_line, room

STAND_IN = MicrophoneName("stand-in", "Stand-in (a made voice reads)", is_stand_in=True)
VOICES = ("en-us+f2", "en-us+m1")
"""eSpeak's voices of the stand-in, in the order of the narrators; none is a guide voice."""
BLOCK = RATE // 50
READY = 2 * RATE
"""Samples that are made ahead of what is read."""
BETWEEN = RATE // 3
"""Samples of silence before the next line, at least."""


class StandInMicrophone:
    """A `Microphone` that speaks `speed` times as fast as time passes. A line that is read again has no slip."""

    channels = 1

    def __init__(self, *, voice: str = VOICES[0], speed: float = 1.0) -> None:
        self._voice, self._speed = voice, speed
        self._read: Counter[str] = Counter()
        self._line = np.zeros(0, np.float32)
        self._waiting: list[Prompt] = []
        self._spoken = 0
        self._chance = np.random.default_rng(11)
        self._stop = threading.Event()
        self._thread: threading.Thread | None = None

    def prompt(self, lines: Sequence[Prompt]) -> None:
        """What is read next."""
        self._waiting = list(lines)
        self._line = np.zeros(0, np.float32)
        self._chance = np.random.default_rng(zlib.crc32(lines[0].text.encode("utf-8", "surrogatepass")))

    def _make_next(self) -> None:
        """Make the next line ready; it takes a tenth of a second, so it is done in the reading thread."""
        line = self._waiting[0]
        read = read_line(line.text, voice=self._voice, attempt=self._read[line.text])
        self._read[line.text] += 1
        wait = max(round(line.after * RATE) - len(self._line), BETWEEN if len(self._line) else 0)
        self._line = np.concatenate([self._line, np.zeros(wait, np.float32), read.samples])
        del self._waiting[0]

    @property
    def is_done(self) -> bool:
        """Whether everything has been read."""
        return self._thread is not None and not self._waiting and self._spoken >= len(self._line)

    def start(self, hear: Hear, lost: Lost) -> None:
        """Begin to read."""
        self._stop.clear()
        self._spoken = 0
        self._thread = threading.Thread(target=self._run, args=(hear, lost), name="stand-in microphone", daemon=True)
        self._thread.start()

    def stop(self) -> None:
        """Fall silent."""
        self._stop.set()
        if self._thread is not None:
            self._thread.join()
            self._thread = None

    def _run(self, hear: Hear, lost: Lost) -> None:
        began = time.monotonic()
        try:
            while not self._stop.is_set():
                due = int((time.monotonic() - began) * RATE * self._speed)
                while self._waiting and len(self._line) < due + READY:
                    self._make_next()
                while self._spoken + BLOCK <= due and not self._stop.is_set():
                    hear(self._block())
                self._stop.wait(BLOCK / RATE / self._speed)
        except Exception as error:
            lost(record_fault(error, "The stand-in microphone"))

    def _block(self) -> Block:
        said = self._line[self._spoken : self._spoken + BLOCK]
        self._spoken += BLOCK
        heard = room(BLOCK, self._chance)
        heard[: len(said)] += said
        return np.asarray(np.clip(heard, -1, 1) * 32767, dtype=np.int16)[:, None]
