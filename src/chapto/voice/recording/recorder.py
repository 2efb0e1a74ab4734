"""One recording: from the microphone through a thread of its own into a file."""

from __future__ import annotations

import queue
import threading
import time
from collections.abc import Callable
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path

from chapto.store.errors import plain_reason
from chapto.store.fault_log import record_fault
from chapto.voice.recording.meter import Meter
from chapto.voice.recording.microphone import RATE, Block, Microphone
from chapto.voice.recording.wav_file import WavFile

LATE = 0.25
"""Seconds by which blocks may come late, and early afterwards, before samples count as lost."""


@dataclass(frozen=True)
class Recording:
    """A finished one: its file and seconds, runs of samples that `clipped`, and seconds that the device `lost`.

    `trouble` is a sentence on what ended it early, if anything did.
    """

    path: Path
    seconds: Fraction
    clipped: int
    lost: float
    trouble: str = ""


class Recorder:
    """Records from `microphone` into a new WAV file at `path` as soon as it is made. Opening raises `OSError`.

    `ended_early` is called, in another thread, when the device goes or the disk is full; what was recorded stays. While
    it is `paused` nothing is kept, and no time passes.
    """

    def __init__(
        self,
        microphone: Microphone,
        path: Path,
        *,
        ended_early: Callable[[], object] = lambda: None,
        clock: Callable[[], float] = time.monotonic,
    ) -> None:
        self._microphone, self._clock, self._ended_early = microphone, clock, ended_early
        self._file = WavFile(path, microphone.channels)
        self.meter = Meter(microphone.channels)
        self._blocks: queue.SimpleQueue[Block | None] = queue.SimpleQueue()
        self._began = self._latest = 0.0
        self._delivered = 0
        self._trouble = ""
        self.paused = False
        self._writer = threading.Thread(target=self._write, name="recording", daemon=True)
        self._writer.start()
        microphone.start(self._hear, self._lose)

    @property
    def seconds(self) -> float:
        """Seconds in the file by now."""
        return self._file.samples / RATE

    @property
    def elapsed(self) -> float:
        """Seconds since the first sample was heard, by the clock: what is in the file comes a moment later."""
        if not self._delivered:
            return 0.0
        return max((self._latest if self.paused else self._clock()) - self._began, 0.0)

    @property
    def lost(self) -> float:
        """Seconds that the clock has passed and the device did not deliver."""
        missing = self._latest - self._began - self._delivered / RATE
        return missing if missing > LATE else 0.0

    def stop(self) -> Recording:
        """End the recording; waits until everything heard is in the file."""
        self._microphone.stop()
        self._blocks.put(None)
        self._writer.join()
        try:
            self._file.close()
        except OSError as error:
            self._trouble = self._trouble or f"The recording could not be brought to the disk: {plain_reason(error)}."
        return Recording(
            self._file.path, Fraction(self._file.samples, RATE), self.meter.clipped, self.lost, self._trouble
        )

    def _hear(self, block: Block) -> None:
        now = self._clock()
        if not self._delivered:
            self._began = now - len(block) / RATE
        if self.paused:
            self._began += now - self._latest
            self._latest = now
            return
        self._latest = now
        self._delivered += len(block)
        self._blocks.put(block)

    def _lose(self, sentence: str) -> None:
        self._trouble = self._trouble or sentence
        self._ended_early()

    def _write(self) -> None:
        while (block := self._blocks.get()) is not None:
            if self._trouble and self._file.is_full:
                continue
            try:
                self.meter.take(block)
                self._file.append(block)
                if self._file.is_full:
                    self._fail("A WAV file holds no more than this; what was recorded stays.")
            except OSError as error:
                self._fail(f"Recording has ended: {plain_reason(error)}. What was recorded until then stays.")
                return
            except Exception as error:
                self._fail(record_fault(error, "Recording"))
                return

    def _fail(self, sentence: str) -> None:
        self._trouble = self._trouble or sentence
        self._ended_early()
