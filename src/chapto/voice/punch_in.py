"""A few words read again and put into an earlier take: a new file, joined at silences; the old one stays."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path

import numpy as np

from chapto.media.sound import RATE, FootageSound
from chapto.pacing.spoken import phrase_starts
from chapto.voice.espeak import VoiceError
from chapto.voice.finding.words_found import WordsFound
from chapto.voice.recording.wav_file import WavFile
from chapto.voice.taken_line import FADE, Span, TakenLine

AROUND = 0.12
"""Seconds of the new reading kept before its first word and after its last."""


@dataclass(frozen=True)
class Punch:
    """Words `first … end` (half-open) of a beat, to be put into the take with id `take`."""

    beat: str
    take: str
    first: int
    end: int


def to_next_pause(text: str, first: int, words: int) -> int:
    """Up to which word (not included) is read again, when it begins with word `first` of `words` in `text`."""
    return next((start for start in phrase_starts(text) if start > first), words)


def joined(
    old: FootageSound, line: TakenLine, new: FootageSound, found: WordsFound, punch: Punch, target: Path
) -> None:
    """Write the old take to `target` as WAV, the words of `punch` from the new reading, in which they were `found`.

    Raises `VoiceError` when too few of them are in it, and `OSError` where it can't be written.
    """
    spans = [w.span for w in found.words if w.span is not None]
    if len(spans) * 2 < punch.end - punch.first:
        raise VoiceError("The words that were to be read again are not in the new recording; the take stays as it was.")
    leaves, comes_back = _gap_before(line, punch.first), _gap_before(line, punch.end)
    first, last = max(spans[0][0] - AROUND, 0.0), spans[-1][1] + AROUND
    begin, end = max(line.start - 0.3, 0.0), line.end + 0.3
    parts = [
        _faded(_heard(old, line, (begin, leaves)), before=False),
        _faded(_read(new, (first, last)), before=True),
        _faded(_heard(old, line, (comes_back, end)), before=True, after=False),
    ]
    file = WavFile(target, 2)
    try:
        file.append(np.round(np.concatenate(parts) * 32767).astype(np.int16))
    finally:
        file.close()


def _gap_before(line: TakenLine, word: int) -> float:
    """The middle of the silence before a word."""
    if word <= 0:
        return line.start
    if word >= len(line.spans):
        return line.end
    return (line.spans[word - 1][1] + line.spans[word][0]) / 2


def _heard(sound: FootageSound, line: TakenLine, span: Span) -> np.ndarray:
    """What is heard of a line between two seconds of its take: what was cut out stays out."""
    edges = [edge for kept in line.kept for edge in kept]
    edges[0], edges[-1] = min(edges[0], span[0]), max(edges[-1], span[1])
    parts = [(max(a, span[0]), min(z, span[1])) for a, z in zip(edges[::2], edges[1::2], strict=True)]
    return np.concatenate([_read(sound, part) for part in parts if part[1] > part[0]] or [np.zeros((0, 2), np.float32)])


def _read(sound: FootageSound, span: Span) -> np.ndarray:
    first, end = round(span[0] * RATE), min(round(span[1] * RATE), len(sound))
    return sound.read(first, max(end - first, 0))


def _faded(part: np.ndarray, *, before: bool, after: bool = True) -> np.ndarray:
    n = min(round(FADE * RATE), len(part) // 2)
    ramp = np.linspace(0, 1, n, dtype=np.float32)[:, None]
    if before and n:
        part[:n] *= ramp
    if after and n:
        part[-n:] *= ramp[::-1]
    return part
