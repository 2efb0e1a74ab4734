"""What the stand-in microphone hears: a made voice that reads a line as people do, with its word times."""

from __future__ import annotations

import hashlib
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from chapto.document.script import words_of
from chapto.pacing.spoken import phrase_starts
from chapto.voice.espeak import say
from chapto.voice.guide import spoken_line
from chapto.voice.recording.microphone import RATE

PACE = 176
UNEVEN = 0.16
"""Share by which the pace of a phrase differs at most."""
ROOM_LEVEL = -62.0
"""Noise of a quiet room, in dBFS."""
BREATH_LEVEL = -46.0
LOUDNESS = 0.6
"""Of the guide voice: a microphone is turned up so that nothing clips."""
SLIPS = 0.14
"""Share of lines in which something is said otherwise, on the first attempt."""
PAUSE = (0.22, 0.5)
"""Seconds between two phrases."""
Sound = NDArray[np.float32]


@dataclass(frozen=True)
class ReadLine:
    """The sound of a line, (n,) float32 in −1…1, half-open seconds of each of its words in it, and what was slipped:
    empty, or the words that were said besides."""

    samples: Sound
    words: tuple[tuple[float, float], ...]
    slip: str = ""


def read_line(text: str, *, voice: str, attempt: int = 0) -> ReadLine:
    """`text` read by the eSpeak voice `voice`; the same `attempt` always reads it the same way."""
    seed = hashlib.sha256(f"{voice}|{attempt}|{text}".encode("utf-8", "surrogatepass")).digest()
    chance = np.random.default_rng(int.from_bytes(seed[:8], "big"))
    words = words_of(text)
    starts = [*phrase_starts(text), len(words)]
    slips = attempt == 0 and len(words) > 6 and chance.random() < SLIPS
    slipping = int(chance.integers(0, len(starts) - 1)) if slips else -1
    parts: list[Sound] = []
    spans: list[tuple[float, float]] = []
    length, slip = 0, ""

    def add(sound: Sound) -> None:
        nonlocal length
        parts.append(sound)
        length += len(sound)

    for i, (first, end) in enumerate(pairwise(starts)):
        if i:
            add(_breath(chance, float(chance.uniform(*PAUSE))))
        if i == slipping:
            slip = words[first].strip(".,;:!?—–-") or "um"
            add(spoken_line(slip, say(slip, voice, PACE))[1] * np.float32(LOUDNESS))
            add(_silence(0.32))
        pace = round(PACE * (1 + UNEVEN * float(chance.uniform(-1, 1))))
        phrase = " ".join(words[first:end])
        line, samples = spoken_line(phrase, say(phrase, voice, pace))
        at = length / RATE
        spans += [(at + float(a), at + float(z)) for a, z in line.words]
        add(samples * np.float32(LOUDNESS * chance.uniform(0.85, 1.15)))
    return ReadLine(np.concatenate(parts) if parts else _silence(0.1), tuple(spans), slip)


def room(count: int, chance: np.random.Generator) -> Sound:
    """`count` samples of a quiet room: noise that falls towards the treble, and a little hum."""
    noise = chance.normal(0, 1, count)
    brown = np.zeros(count)
    if count:
        from scipy.signal import lfilter

        brown = lfilter([0.06], [1, -0.94], noise)
    level = 10 ** (ROOM_LEVEL / 20)
    hum = 0.3 * np.sin(2 * np.pi * 50 * np.arange(count) / RATE)
    return np.asarray(level * (brown / 0.18 * 0.9 + hum), dtype=np.float32)


def _silence(seconds: float) -> Sound:
    return np.zeros(round(seconds * RATE), np.float32)


def _breath(chance: np.random.Generator, seconds: float) -> Sound:
    """Silence with a breath in its middle."""
    from scipy.signal import lfilter

    n = round(seconds * RATE)
    air = lfilter([0.25, 0.0, -0.25], [1, -1.2, 0.55], chance.normal(0, 1, n))
    shape = np.sin(np.pi * np.linspace(0, 1, n)) ** 4
    return np.asarray(air * shape * 10 ** (BREATH_LEVEL / 20), dtype=np.float32)
