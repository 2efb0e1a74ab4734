"""Bringing two recordings of the same event onto one clock by their sound.

A coarse place is found by cross-correlating onset envelopes (how suddenly each band grows louder, which survives
other microphones and levels) with phase weighting. Each of the best places is then examined in windows along the
overlap. There the sounds themselves, band-limited, are correlated the same way: generalised cross-correlation with
phase transform (Knapp and Carter 1976). A robust line through the windows gives offset and drift.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray
from scipy.fft import irfft, next_fast_len, rfft
from scipy.signal import resample_poly
from scipy.stats import theilslopes

from chapto.errors import Cancelled
from chapto.media.sound import RATE, FootageSound

Signal = NDArray[np.float32]
SYNC_RATE = 8_000
HOP = 80
"""Samples a step of the envelopes: 100 steps a second."""
BAND_EDGES = (100, 220, 400, 700, 1_150, 1_900, 3_000)
"""Hz. Nothing above 3 kHz is used: cheap and distant microphones do not carry it."""
CANDIDATES = 8
APART = 0.25
"""Seconds between two places that count as different."""
SHORTEST_OVERLAP = 6.0
LONGEST_DRIFT = 400e-6
"""Clocks of phones and cameras differ by less (common practice); windows that say more disagree."""
CHANCE_HEIGHT = 3.3
"""Standard deviations that the highest of some hundred values of noise reaches by chance, or less."""
TRUSTED = 0.6
"""Confidence from which a place is taken without asking."""


@dataclass(frozen=True)
class Window:
    """A stretch examined at second `at` of the second recording: `lag` there, how far its peak stands above what is
    round it (in standard deviations), and whether it fits the line."""

    at: float
    lag: float
    height: float
    agrees: bool = False


@dataclass(frozen=True)
class Synced:
    """`t_first = offset + (1 + drift) · t_second` in seconds.

    `confidence`, 0…1, is the share of windows that agree, times how clear their peaks are, times how far the best
    place stands above the next. `distinct` is the ratio of the merits of these two; from 1.5 on it counts in full.
    """

    offset: float
    drift: float
    confidence: float
    distinct: float
    windows: tuple[Window, ...]

    @property
    def is_trusted(self) -> bool:
        """Whether it may be used without asking."""
        return self.confidence >= TRUSTED


NOT_FOUND = Synced(0.0, 0.0, 0.0, 0.0, ())


def listening(sound: FootageSound) -> Signal:
    """The whole sound in mono at `SYNC_RATE`, (n,) float32."""
    blocks = [sound.read(i, min(60 * RATE, len(sound) - i)).mean(axis=1) for i in range(0, len(sound), 60 * RATE)]
    whole = np.concatenate(blocks) if blocks else np.zeros(0, np.float32)
    return np.asarray(resample_poly(whole, SYNC_RATE, RATE), dtype=np.float32)


def onset_envelopes(signal: Signal) -> NDArray[np.float32]:
    """Onset strength in each band, (bands, steps) at `SYNC_RATE / HOP` steps a second, each of unit variance."""
    size = 256
    if len(signal) < size:
        return np.zeros((len(BAND_EDGES) - 1, 0), np.float32)
    frames = np.lib.stride_tricks.sliding_window_view(signal, size)[::HOP]
    bins = np.fft.rfftfreq(size, 1 / SYNC_RATE)
    low, high = np.searchsorted(bins, BAND_EDGES[:-1]), np.searchsorted(bins, BAND_EDGES[1:])
    power = np.empty((len(low), len(frames)), np.float32)
    for i in range(0, len(frames), 4096):
        spectrum = np.abs(rfft(frames[i : i + 4096] * np.hanning(size).astype(np.float32), axis=1)) ** 2
        power[:, i : i + 4096] = [spectrum[:, a:b].sum(axis=1) for a, b in zip(low, high, strict=True)]
    floor = np.maximum(np.percentile(power, 5, axis=1, keepdims=True), 1e-12)
    rise = np.maximum(np.diff(np.log(power + floor), axis=1, prepend=np.log(power[:, :1] + floor)), 0)
    rise -= rise.mean(axis=1, keepdims=True)
    spread = rise.std(axis=1, keepdims=True)
    return np.asarray(rise / np.where(spread > 0, spread, 1), dtype=np.float32)


def weighted_correlation(
    first: NDArray[np.float32], second: NDArray[np.float32], *, weight: float
) -> NDArray[np.float64]:
    """Circular correlation over the last axis, summed over the others: index k holds lag k, negative ones at the
    end. Each frequency counts by its magnitude to the power `1 − weight` (1: phase alone)."""
    size = next_fast_len(first.shape[-1] + second.shape[-1], real=True)
    cross = rfft(first, size, axis=-1) * np.conj(rfft(second, size, axis=-1))
    magnitude = np.abs(cross)
    cross /= np.maximum(magnitude, 1e-9 * magnitude.max() + 1e-30) ** weight
    total = cross.reshape(-1, cross.shape[-1]).sum(axis=0)
    return np.asarray(irfft(total, size))


def refined_peak(values: NDArray[np.float64], index: int) -> float:
    """The place of the top of the parabola through `index` and its (circular) neighbours."""
    a, b, c = (float(values[(index + i) % len(values)]) for i in (-1, 0, 1))
    bend = a - 2 * b + c
    return index + (0.5 * (a - c) / bend if bend < 0 else 0.0)


def sync_sounds(first: Signal, second: Signal, *, cancelled: Callable[[], bool] = lambda: False) -> Synced:
    """Where `second` lies on the clock of `first` (both mono at `SYNC_RATE`); confidence 0 where nothing fits.

    Raises `Cancelled` when stopped.
    """
    if min(len(first), len(second)) < SHORTEST_OVERLAP * SYNC_RATE or not (np.any(first) and np.any(second)):
        return NOT_FOUND
    tried = []
    places = coarse_places(onset_envelopes(first), onset_envelopes(second), SYNC_RATE / HOP)
    for strength, lag in places:
        if cancelled():
            raise Cancelled
        windows = _windows(first, second, lag)
        if windows:
            tried.append((_on_a_line(windows), strength))
            if _is_beyond_doubt(tried[-1][0]):
                break
    return _best_of(tried, [strength for strength, _ in places[len(tried) :]])


def _is_beyond_doubt(found: Synced) -> bool:
    """Whether nearly all windows agree with clear peaks, so that other places need no looking into."""
    clear = [w for w in found.windows if w.agrees and w.height > CHANCE_HEIGHT + 1.2]
    return len(clear) >= max(3, 0.8 * len(found.windows))


def _best_of(tried: list[tuple[Synced, float]], untried: list[float]) -> Synced:
    """The place whose windows agree best, with the confidence it has earned against the next best. Places not looked
    into count by their strength, as if one of their windows agreed."""
    if not tried:
        return NOT_FOUND

    def merit(pair: tuple[Synced, float]) -> float:
        return sum(w.agrees for w in pair[0].windows) * pair[1]

    found, strength = max(tried, key=merit)
    others = [merit(pair) for pair in tried if pair[0] is not found]
    agreeing = sum(w.agrees for w in found.windows)
    distinct = merit((found, strength)) / max([*others, *untried, 1e-9])
    confidence = 0.0
    if agreeing >= 3:
        share = agreeing / len(found.windows)
        clear = np.mean([w.height for w in found.windows if w.agrees]) - CHANCE_HEIGHT
        confidence = share * float(np.clip(clear / 1.2, 0, 1)) * float(np.clip((distinct - 1) / 0.5, 0, 1))
    return Synced(found.offset, found.drift, confidence, min(distinct, 99.0), found.windows)


def coarse_places(
    first: NDArray[np.float32], second: NDArray[np.float32], rate: float, *, weight: float = 0.6
) -> list[tuple[float, float]]:  # fmt: skip
    """The best lags of two envelopes (bands, steps) at `rate` steps a second: (height, lag in seconds), best first.

    Heights are in standard deviations of the correlation, so that a short overlap counts as what it is.
    """
    values = weighted_correlation(first, second, weight=weight)
    size, n, m = len(values), first.shape[-1], second.shape[-1]
    shortest = round(SHORTEST_OVERLAP * rate)
    lags = np.arange(size)
    lags[lags > n] -= size
    possible = (np.minimum(n, lags + m) - np.maximum(0, lags)) >= shortest
    heights = np.where(possible, values / (values[possible].std() + 1e-12), -np.inf)
    found = []
    for _ in range(CANDIDATES):
        top = int(np.argmax(heights))
        if not np.isfinite(heights[top]) or heights[top] <= 0:
            break
        place = refined_peak(values, top)
        found.append((float(heights[top]), (place if place <= n else place - size) / rate))
        near = (np.arange(size) - top + size // 2) % size - size // 2
        heights[np.abs(near) <= APART * rate] = -np.inf
    return found


def _windows(first: Signal, second: Signal, lag: float) -> list[Window]:
    """Windows along the overlap at about `lag`."""
    start, end = max(0.0, -lag), min(len(second), len(first) - lag * SYNC_RATE) / SYNC_RATE
    overlap = end - start
    if overlap < SHORTEST_OVERLAP:
        return []
    length = min(max(overlap / 6, 3.0), 16.0)
    count = min(max(int(overlap / length * 1.5), 3), 24)
    search = 0.03 + LONGEST_DRIFT * overlap / 2
    found = []
    for at in np.linspace(start, end - length, count):
        a = _cut(first, at + lag, length)
        b = _cut(second, at, length)
        values = weighted_correlation(a, b, weight=0.85)
        reach = round(search * SYNC_RATE)
        near = np.concatenate([values[-reach:], values[: reach + 1]])
        top = int(np.argmax(near))
        started = round((at + lag) * SYNC_RATE) - round(at * SYNC_RATE)
        place = refined_peak(near.astype(np.float64), min(max(top, 1), len(near) - 2)) - reach
        height = float(near.max() / (near.std() + 1e-30))
        found.append(Window(float(at + length / 2), (started + place) / SYNC_RATE, height))
    return found


def _cut(signal: Signal, at: float, seconds: float) -> Signal:
    """A stretch with what lies under 100 Hz and over 3 kHz taken off, faded at both ends."""
    i = max(round(at * SYNC_RATE), 0)
    part = signal[i : i + round(seconds * SYNC_RATE)]
    spectrum = rfft(part)
    hertz = np.fft.rfftfreq(len(part), 1 / SYNC_RATE)
    spectrum[(hertz < BAND_EDGES[0]) | (hertz > BAND_EDGES[-1])] = 0
    return np.asarray(irfft(spectrum, len(part)) * np.hanning(len(part)), dtype=np.float32)


def _on_a_line(windows: list[Window], *, tolerance: float = 0.002) -> Synced:
    """Offset and drift from windows: the Theil–Sen line first, then least squares, weighted by height, over those
    within `tolerance` seconds of it, which are the ones that agree."""
    at, lags, heights = (np.array([getattr(w, name) for w in windows]) for name in ("at", "lag", "height"))
    centre = float(np.median(lags))
    near = np.abs(lags - centre) <= tolerance + LONGEST_DRIFT * np.ptp(at)
    slope, level = 0.0, centre
    if near.sum() >= 3:
        slope, level, *_ = (float(v) for v in theilslopes(lags[near], at[near]))
    agrees = np.abs(lags - level - slope * at) <= tolerance
    # Over too short a stretch, or from too few windows, a drift can't be told from scatter.
    if agrees.sum() >= 4 and np.ptp(at[agrees]) >= 5:
        kept = agrees
        for _ in range(2):
            slope, level = (float(v) for v in np.polyfit(at[kept], lags[kept], 1, w=heights[kept]))
            apart = np.abs(lags - level - slope * at)
            kept = agrees & (apart <= max(4 * float(np.median(apart[agrees])), 1e-4))
            if kept.sum() < 4:
                break
    if agrees.sum() < 4 or np.ptp(at[agrees]) < 5 or abs(slope) > LONGEST_DRIFT:
        slope, level = 0.0, float(np.median(lags[agrees])) if agrees.any() else centre
    agrees = np.abs(lags - level - slope * at) <= tolerance
    judged = tuple(replace(w, agrees=bool(g)) for w, g in zip(windows, agrees, strict=True))
    return Synced(level, slope, 0.0, 0.0, judged)
