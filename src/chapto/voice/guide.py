"""The guide voice: stands in for the narrator until a recording exists. Cached by text, voice and pace."""

from __future__ import annotations

import contextlib
import hashlib
import os
import threading
import zipfile
import zlib
from collections import OrderedDict
from collections.abc import Callable, Container, Iterator, Mapping
from dataclasses import dataclass, field
from fractions import Fraction
from functools import partial
from pathlib import Path

import numpy as np
from numpy.typing import NDArray
from platformdirs import user_cache_path

from chapto.document.breakdown import Breakdown
from chapto.document.script import word_spans
from chapto.errors import Cancelled
from chapto.pacing.spoken import SpokenLine
from chapto.voice.espeak import RawSpeech, say

RATE = 48_000
SILENT = 0.012
"""Below this level (of full scale) the guide voice counts as silent."""
MOST_LINES = 20_000
"""Lines whose times stay in memory."""
LEVEL = 0.135
"""Root mean square of its sounding parts, of full scale: −19 LUFS, as loud as a take that was cleaned."""


Samples = NDArray[np.float32]
Wanted = tuple[str, str, int]
"""Text, voice and pace."""


@dataclass(frozen=True)
class Speech:
    """A spoken line; its sound is fetched when it is asked for, since hours of it fill the memory."""

    line: SpokenLine
    fetch: Callable[[], Samples] = field(compare=False, repr=False)

    @property
    def samples(self) -> Samples:
        """The sound, (n,) float32 in −1…1 at 48 kHz."""
        return self.fetch()


class SpeechSounds(Mapping[str, Samples]):
    """The sound of each beat by its id, fetched when it is asked for."""

    def __init__(self, speeches: Mapping[str, Speech]) -> None:
        self._speeches = speeches

    def __getitem__(self, beat: str) -> Samples:
        return self._speeches[beat].samples

    def __contains__(self, beat: object) -> bool:
        return beat in self._speeches

    def __iter__(self) -> Iterator[str]:
        return iter(self._speeches)

    def __len__(self) -> int:
        return len(self._speeches)


class GuideVoice:
    """Speaks lines; keeps their times in memory, and their sound under the XDG cache folder and, as far as `room`
    bytes go, in memory."""

    def __init__(self, folder: Path | None = None, *, room: int = 64_000_000) -> None:
        self._folder = folder if folder is not None else user_cache_path("chapto") / "guide-voice"
        self._room = room
        self._known: OrderedDict[Wanted, Speech] = OrderedDict()
        self._sounds: OrderedDict[Wanted, Samples] = OrderedDict()
        self._held = 0
        self._lock = threading.Lock()

    def speak(self, text: str, *, voice: str = "en", pace: int = 190) -> Speech:
        """The line spoken. Word ranges follow the words of `text` split at white space."""
        wanted = (text, voice, pace)
        with self._lock:
            found = self._known.get(wanted)
            if found is None:
                line = self._load_line(_key(wanted)) or self._say(wanted)
                found = self._known[wanted] = Speech(line, partial(self._sound, wanted))
                while len(self._known) > MOST_LINES:
                    self._known.popitem(last=False)
        return found

    def of_breakdown(
        self, b: Breakdown, *, without: Container[str] = (), cancelled: Callable[[], bool] = lambda: False
    ) -> dict[str, Speech]:
        """Every beat of `b`, but those `without`, spoken by its narrator, by beat id; `Cancelled` when stopped, between
        two beats."""
        found = {}
        for _, beat in b.read_beats():
            if cancelled():
                raise Cancelled
            if beat.id in without:
                continue
            narrator = b.narrator(beat)
            found[beat.id] = self.speak(beat.text, voice=narrator.guide_voice, pace=narrator.pace)
        return found

    def _say(self, wanted: Wanted) -> SpokenLine:
        """Have it spoken and keep it; the lock is held."""
        text, voice, pace = wanted
        line, samples = spoken_line(text, say(text, voice, pace)) if text.strip() else _nothing()
        # As it is kept: spoken just now and read again later, it is the same to the last bit.
        whole = np.round(samples * 32767).astype(np.int16)
        self._store(_key(wanted), line, whole)
        self._keep(wanted, _as_float(whole))
        return line

    def _sound(self, wanted: Wanted) -> Samples:
        with self._lock:
            found = self._sounds.get(wanted)
            if found is None:
                found = self._load_samples(_key(wanted))
                if found is None:
                    self._say(wanted)
                    found = self._sounds[wanted]
                else:
                    self._keep(wanted, found)
            self._sounds.move_to_end(wanted)
            return found

    def _keep(self, wanted: Wanted, samples: Samples) -> None:
        self._sounds[wanted] = samples
        self._held += samples.nbytes
        while self._held > self._room and len(self._sounds) > 1:
            _, old = self._sounds.popitem(last=False)
            self._held -= old.nbytes

    def _load_line(self, key: str) -> SpokenLine | None:
        try:
            with np.load(self._folder / f"{key}.npz") as data:
                words = tuple((Fraction(int(a), RATE), Fraction(int(b), RATE)) for a, b in data["words"])
                return SpokenLine(words, Fraction(int(data["length"]), RATE))
        except (OSError, ValueError, KeyError, EOFError, zipfile.BadZipFile, zlib.error):
            return None

    def _load_samples(self, key: str) -> Samples | None:
        """The sound in a kept file, whose every part has a checksum; None where there is none, or a damaged one."""
        try:
            with np.load(self._folder / f"{key}.npz") as data:
                return _as_float(data["samples"])
        except (OSError, ValueError, KeyError, EOFError, zipfile.BadZipFile, zlib.error):
            return None

    def _store(self, key: str, line: SpokenLine, whole: NDArray[np.int16]) -> None:
        """Keep on disk if that works; a full or read-only cache only costs time."""
        words = np.array([[int(a * RATE), int(b * RATE)] for a, b in line.words], dtype=np.int64)
        part = self._folder / f".{key}.{os.getpid()}.npz"
        with contextlib.suppress(OSError):
            try:
                self._folder.mkdir(parents=True, exist_ok=True)
                np.savez(part, samples=whole, words=words.reshape(-1, 2), length=np.int64(len(whole)))
                os.replace(part, self._folder / f"{key}.npz")
            finally:
                part.unlink(missing_ok=True)


def _as_float(whole: NDArray[np.int16]) -> Samples:
    return np.asarray(whole.astype(np.float32) / 32767, dtype=np.float32)


def _key(wanted: Wanted) -> str:
    text, voice, pace = wanted
    return hashlib.sha256(f"5|{voice}|{pace}|{text}".encode("utf-8", "surrogatepass")).hexdigest()[:32]


def _nothing() -> tuple[SpokenLine, Samples]:
    return SpokenLine((), Fraction(0)), np.zeros(0, np.float32)


def spoken_line(text: str, raw: RawSpeech) -> tuple[SpokenLine, Samples]:
    """Word ranges from the library's word events, sound at 48 kHz at the guide voice's level: `text` is not empty."""
    from scipy.signal import resample_poly

    samples = resample_poly(raw.samples.astype(np.float64) / 32768, RATE, raw.rate)
    loud = np.abs(samples) > SILENT
    last = int(np.flatnonzero(loud)[-1]) + RATE // 50 if loud.any() else len(samples)
    samples = samples[:last]
    level = float(np.sqrt(np.mean(samples[loud[:last]] ** 2))) if loud.any() else 1.0
    samples = np.clip(samples * (LEVEL / level), -0.97, 0.97).astype(np.float32)
    starts = _word_starts(text, raw, len(samples))
    ends = [_sounding_end(loud, a, b) for a, b in zip(starts, [*starts[1:], len(samples)], strict=True)]
    words = tuple((Fraction(a, RATE), Fraction(b, RATE)) for a, b in zip(starts, ends, strict=True))
    return SpokenLine(words, Fraction(len(samples), RATE)), samples


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
