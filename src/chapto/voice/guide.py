"""The guide voice: stands in for the narrator until a recording exists. Cached by text, voice and pace."""

from __future__ import annotations

import contextlib
import hashlib
import os
import threading
import zipfile
from collections import OrderedDict
from collections.abc import Callable
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path

import numpy as np
from numpy.typing import NDArray
from platformdirs import user_cache_path
from scipy.signal import resample_poly

from chapto.document.breakdown import Breakdown
from chapto.document.script import word_spans
from chapto.errors import Cancelled
from chapto.pacing.spoken import SpokenLine
from chapto.voice.espeak import RawSpeech, say

RATE = 48_000
SILENT = 0.012
"""Below this level (of full scale) the guide voice counts as silent."""
LEVEL = 0.16
"""Loudness of the guide voice: root mean square of its sounding parts, of full scale."""


@dataclass(frozen=True)
class Speech:
    """A spoken line and its sound: `samples` (n,) float32 in −1…1 at 48 kHz."""

    line: SpokenLine
    samples: NDArray[np.float32]


class GuideVoice:
    """Speaks lines; keeps them in memory and under the XDG cache folder."""

    def __init__(self, folder: Path | None = None, *, keep: int = 600) -> None:
        self._folder = folder if folder is not None else user_cache_path("chapto") / "guide-voice"
        self._keep = keep
        self._kept: OrderedDict[str, Speech] = OrderedDict()
        self._lock = threading.Lock()

    def speak(self, text: str, *, voice: str = "en", pace: int = 190) -> Speech:
        """The line spoken. Word ranges follow the words of `text` split at white space."""
        key = hashlib.sha256(f"3|{voice}|{pace}|{text}".encode()).hexdigest()[:32]
        with self._lock:
            found = self._kept.get(key) or self._load(key)
            if found is None:
                found = _speech(text, say(text, voice, pace)) if text.strip() else _nothing()
                self._store(key, found)
            self._kept[key] = found
            self._kept.move_to_end(key)
            while len(self._kept) > self._keep:
                self._kept.popitem(last=False)
        return found

    def of_breakdown(self, b: Breakdown, *, cancelled: Callable[[], bool] = lambda: False) -> dict[str, Speech]:
        """Every beat of `b` spoken by its narrator, by beat id; `Cancelled` when stopped, between two beats."""
        found = {}
        for _, beat in b.beats():
            if cancelled():
                raise Cancelled
            narrator = b.narrator(beat)
            found[beat.id] = self.speak(beat.text, voice=narrator.guide_voice, pace=narrator.pace)
        return found

    def _load(self, key: str) -> Speech | None:
        try:
            with np.load(self._folder / f"{key}.npz") as data:
                samples = data["samples"].astype(np.float32) / 32767
                words = tuple((Fraction(int(a), RATE), Fraction(int(b), RATE)) for a, b in data["words"])
                return Speech(SpokenLine(words, Fraction(len(samples), RATE)), samples)
        except (OSError, ValueError, KeyError, EOFError, zipfile.BadZipFile):
            return None

    def _store(self, key: str, speech: Speech) -> None:
        """Keep on disk if that works; a full or read-only cache only costs time."""
        words = np.array([[int(a * RATE), int(b * RATE)] for a, b in speech.line.words], dtype=np.int64)
        with contextlib.suppress(OSError):
            self._folder.mkdir(parents=True, exist_ok=True)
            part = self._folder / f".{key}.{os.getpid()}.npz"
            np.savez(part, samples=(speech.samples * 32767).astype(np.int16), words=words.reshape(-1, 2))
            os.replace(part, self._folder / f"{key}.npz")


def _nothing() -> Speech:
    return Speech(SpokenLine((), Fraction(0)), np.zeros(0, np.float32))


def _speech(text: str, raw: RawSpeech) -> Speech:
    """Word ranges from the library's word events, sound at 48 kHz at the guide voice's level."""
    samples = resample_poly(raw.samples.astype(np.float64) / 32768, RATE, raw.rate)
    loud = np.abs(samples) > SILENT
    last = int(np.flatnonzero(loud)[-1]) + RATE // 50 if loud.any() else len(samples)
    samples = samples[:last]
    level = float(np.sqrt(np.mean(samples[loud[:last]] ** 2))) if loud.any() else 1.0
    samples = np.clip(samples * (LEVEL / level), -0.97, 0.97).astype(np.float32)
    starts = _word_starts(text, raw, len(samples))
    ends = [_sounding_end(loud, a, b) for a, b in zip(starts, [*starts[1:], len(samples)], strict=True)]
    words = tuple((Fraction(a, RATE), Fraction(b, RATE)) for a, b in zip(starts, ends, strict=True))
    return Speech(SpokenLine(words, Fraction(len(samples), RATE)), samples)


def _word_starts(text: str, raw: RawSpeech, total: int) -> list[int]:
    """First sample of every word. A word without an event of its own is put between its neighbours."""
    spans = word_spans(text)
    known: dict[int, int] = {}
    for position, milliseconds in raw.words:
        word = next((i for i, (a, b) in enumerate(spans) if a <= position < b), None)
        if word is not None and word not in known:
            known[word] = min(milliseconds * RATE // 1000, total)
    known.setdefault(0, 0)
    places = sorted(known)
    return [int(v) for v in np.interp(range(len(spans)), [*places, len(spans)], [*(known[p] for p in places), total])]


def _sounding_end(loud: NDArray[np.bool_], start: int, end: int) -> int:
    """Where the sound of a word that starts at `start` ends, before the next begins at `end`."""
    sounding = np.flatnonzero(loud[start:end])
    return min(start + int(sounding[-1]) + 1, end) if len(sounding) else end
