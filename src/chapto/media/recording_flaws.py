"""What can be the matter with a recorded voice: peaks cut off, gaps, mains hum, mouth clicks, and how loud its room is.

Everything is measured on one channel, (n,) float in −1…1 at 48 kHz.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from chapto.media.sound_file import RATE

Mono = NDArray[np.floating]
Span = tuple[float, float]
"""Half-open seconds."""
QUIETEST = -120.0
AT_THE_TOP = 0.995
"""Share of the highest peak from which a sample counts as cut off there: a voice touches its peak once, for a few."""
LOUD = 0.25
"""A peak under that was not cut off by anything."""
SHORTEST_TOP = 3
"""Samples in a row at the top that are no mere peak."""
MAINS = (50, 60)
HARMONICS = 3
BESIDE = (4, 14)
"""Hz on both sides with which a line of the mains is compared."""
LONG_ENOUGH = 0.5
"""Seconds of a pause from which its hum can be told from its noise."""
CLICK, CLICK_APART = 20.0, 0.012
"""Decibels over the pause round it, and seconds that it lasts at most."""
CLICK_LEAST = -55.0
"""dB of full scale that a click has at least."""
BEFORE = 16
"""Frames of 2 ms on both sides of a click in which nothing goes on."""
FRAME = RATE // 500
"""Samples of 2 ms."""
ROOM_FRAME = RATE // 20


def decibels(power: float) -> float:
    """Of full scale, for a mean square."""
    return 10 * math.log10(power) if power > 1e-12 else QUIETEST


def clipped_ms(sound: Mono) -> float:
    """Milliseconds that the sound spends cut off at its highest peak."""
    level = np.abs(sound)
    top = float(level.max(initial=0.0))
    if top < LOUD:
        return 0.0
    return 1000 * sum(z - a for a, z in _runs(level >= AT_THE_TOP * top) if z - a >= SHORTEST_TOP) / RATE


def longest_gap_ms(sound: Mono, words: Iterable[Span]) -> float:
    """Milliseconds of the longest digital silence inside a word."""
    longest = 0
    for start, end in words:
        inside = sound[round(start * RATE) : round(end * RATE)]
        # A gap has sound on both sides; at its edges a word may be silent.
        gaps = [z - a for a, z in _runs(np.abs(inside) < 1e-7) if a > 0 and z < len(inside)]
        longest = max([longest, *gaps])
    return 1000 * longest / RATE


def hum_over_room(sound: Mono, pauses: Iterable[Span]) -> float:
    """Decibels by which the mains (50 or 60 Hz with two overtones) stand over what is beside them in the pauses; 0
    where no pause is long enough."""
    powers: list[NDArray[np.float64]] = []
    for start, end in pauses:
        for at in np.arange(start, end - LONG_ENOUGH, LONG_ENOUGH):
            piece = sound[round(at * RATE) : round((at + LONG_ENOUGH) * RATE)]
            if len(piece) == round(LONG_ENOUGH * RATE):
                powers.append(np.abs(np.fft.rfft(piece * np.hanning(len(piece)), RATE)) ** 2)
    if not powers:
        return 0.0
    mean = np.mean(powers, axis=0)
    if float(mean[: MAINS[-1] * (HARMONICS + 1)].max()) < 1e-6:
        return 0.0
    most = 0.0
    for mains in MAINS:
        over = []
        for n in range(1, HARMONICS + 1):
            line = mains * n
            beside = [*mean[line - BESIDE[1] : line - BESIDE[0]], *mean[line + BESIDE[0] + 1 : line + BESIDE[1] + 1]]
            over.append(float(mean[line - 1 : line + 2].max()) / max(float(np.median(beside)), 1e-9))
        most = max(most, 10 * math.log10(max(over)))
    return most


def clicks(sound: Mono, pauses: Iterable[Span]) -> int:
    """How many short, sharp sounds stand out of the pauses."""
    found = 0
    for start, end in pauses:
        piece = np.diff(np.asarray(sound[round(start * RATE) : round(end * RATE)], dtype=np.float64))
        count = len(piece) // FRAME
        if count < 8:
            continue
        level = np.sqrt(np.square(piece[: count * FRAME].reshape(count, FRAME)).mean(1))
        usual = max(float(np.median(level)), 1e-6)
        loud = level > max(usual * 10 ** (CLICK / 20), 10 ** (CLICK_LEAST / 20))
        longest = CLICK_APART * RATE / FRAME
        for a, z in _runs(loud):
            beside = np.concatenate([level[max(a - BEFORE, 0) : max(a - 2, 0)], level[z + 2 : z + BEFORE]])
            # What touches the edge of a pause is a word's, and what goes on beside it is a voice.
            alone = len(beside) and level[a:z].max() > float(np.median(beside)) * 10 ** (CLICK / 20)
            found += bool(alone and z - a <= longest and a > 0 and z < count)
    return found


def room_level(sound: Mono, pauses: Iterable[Span]) -> float | None:
    """How loud the room is in the pauses, in dB of full scale: the level that a tenth of them is under. None where
    there are none."""
    levels: list[float] = []
    for start, end in pauses:
        piece = np.asarray(sound[round(start * RATE) : round(end * RATE)], dtype=np.float64)
        count = len(piece) // ROOM_FRAME
        levels += np.square(piece[: count * ROOM_FRAME].reshape(count, ROOM_FRAME)).mean(1).tolist() if count else []
    return decibels(float(np.percentile(levels, 10))) if levels else None


def pauses_of(words: Sequence[Span], *, least: float, edge: float = 0.04) -> list[Span]:
    """The gaps between words that last at least so many seconds, each `edge` seconds away from the words."""
    gaps = [(a[1] + edge, b[0] - edge) for a, b in pairwise(words)]
    return [(a, b) for a, b in gaps if b - a >= least]


def _runs(flags: NDArray[np.bool_]) -> list[tuple[int, int]]:
    edges = np.flatnonzero(np.diff(np.concatenate([[False], flags, [False]]).astype(np.int8)))
    return [(int(a), int(z)) for a, z in edges.reshape(-1, 2)]
