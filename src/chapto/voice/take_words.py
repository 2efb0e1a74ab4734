"""The words of a take: found once, then kept in the cache by the file, the words asked for and the method."""

from __future__ import annotations

import contextlib
import hashlib
import os
from collections.abc import Callable, Sequence
from fractions import Fraction
from functools import lru_cache
from pathlib import Path

import msgspec
import numpy as np

from chapto.media.cache import cache_file, part_of, used_now
from chapto.media.sound import RATE as HEARD_RATE
from chapto.media.sound import load_sound
from chapto.voice.finding.changed_part import changed_part, later
from chapto.voice.finding.phrases import RATE, Sound
from chapto.voice.finding.words_found import VERSION, WordsFound, find_words

_SLOWER = HEARD_RATE // RATE
_REACH = 32
"""Samples at 48 kHz to either side that one sample at 16 kHz is made of."""


def take_words(
    path: Path,
    key: str,
    words: Sequence[str],
    *,
    start: Fraction = Fraction(0),
    end: Fraction | None = None,
    channel: int = 0,
    progress: Callable[[float], None] = lambda share: None,
    cancelled: Callable[[], bool] = lambda: False,
) -> WordsFound:
    """`words` in the file at `path` with fingerprint `key`: in its seconds `start … end` (to its end by default), and
    in one `channel` (1 or 2) or both (0). Times are seconds of the file. Raises `MediaError` when it can't be read and
    `Cancelled` when stopped."""
    cached = words_file(key, words, start=start, end=end, channel=channel)
    if (known := _kept(cached)) is not None:
        return known
    sound = sound_to_hear(path, key, start, end, channel=channel, cancelled=cancelled)
    asked = (key, start, end, channel)
    before = _latest.get(asked)
    changed = changed_part(before[0], words, before[1]) if before else None
    if changed is None:
        found = later(find_words(sound, words, progress=progress, cancelled=cancelled), float(start))
    else:
        found = changed.found_again(sound, words, float(start), cancelled)
    if len(_latest) > MOST_KNOWN:
        _latest.clear()
    _latest[asked] = (tuple(words), found)
    part = part_of(cached)
    with contextlib.suppress(OSError):
        cached.parent.mkdir(parents=True, exist_ok=True)
        try:
            part.write_bytes(msgspec.json.encode(found))
            os.replace(part, cached)
        finally:
            part.unlink(missing_ok=True)
    return found


MOST_KNOWN = 64
_latest: dict[tuple[str, Fraction, Fraction | None, int], tuple[tuple[str, ...], WordsFound]] = {}
"""Words and what was found of each part of a file in this process, so that a changed line is found alone."""


def known_words(
    key: str, words: Sequence[str], *, start: Fraction = Fraction(0), end: Fraction | None = None, channel: int = 0
) -> WordsFound | None:
    """What `take_words` found before; None where it has not been asked yet."""
    return _kept(words_file(key, words, start=start, end=end, channel=channel))


def words_file(
    key: str, words: Sequence[str], *, start: Fraction = Fraction(0), end: Fraction | None = None, channel: int = 0
) -> Path:
    """Where the cache keeps what is found."""
    asked = "|".join([str(VERSION), key, str(start), str(end), str(channel), *words])
    return cache_file("words", hashlib.sha256(asked.encode("utf-8", "surrogatepass")).hexdigest()[:32], ".json")


@lru_cache(maxsize=2000)
def _decoded(cached: Path, size: int) -> WordsFound:
    used_now(cached)
    return msgspec.json.decode(cached.read_bytes(), type=WordsFound)


def _kept(cached: Path) -> WordsFound | None:
    """What a file of the cache holds; read once for as long as it has its size."""
    try:
        found = _decoded(cached, cached.stat().st_size)
    except (OSError, msgspec.DecodeError, UnicodeDecodeError):
        return None
    return found


def sound_to_hear(
    path: Path,
    key: str,
    start: Fraction = Fraction(0),
    end: Fraction | None = None,
    *,
    channel: int = 0,
    cancelled: Callable[[], bool] = lambda: False,
) -> Sound:
    """A file's sound from `start` to `end` as the recogniser wants it: (n,) int16 mono at 16 kHz,
    of one channel (1 or 2) or of both (0)."""
    whole = load_sound(path, key, cancelled=cancelled)
    first = round(start * HEARD_RATE)
    count = (len(whole) if end is None else min(round(end * HEARD_RATE), len(whole))) - first
    kernel = _low_pass()
    pieces = []
    step = 60 * HEARD_RATE
    for at in range(0, max(count, 0), step):
        n = min(step, count - at)
        heard = whole.read(first + at - _REACH, n + 2 * _REACH)
        mono = heard[:, channel - 1] if channel else heard.mean(1)
        pieces.append(np.convolve(mono, kernel, "valid")[:n:_SLOWER])
    return np.asarray(np.clip(np.concatenate(pieces or [np.zeros(0)]) * 32767, -32768, 32767), dtype=np.int16)


def _low_pass() -> np.ndarray:
    """A windowed sinc that lets through what 16 kHz can hold (Smith, The Scientist and Engineer's Guide to DSP, 16)."""
    n = np.arange(-_REACH, _REACH + 1)
    kernel = np.sinc(n * 0.94 / _SLOWER) * np.blackman(len(n))
    return np.asarray(kernel / kernel.sum())
