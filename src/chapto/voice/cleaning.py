"""A take made ready to be heard: rumble, noise, breaths and clicks lowered, and one loudness for all voices.

The take itself stays as it is; what comes out is kept in the cache. Filters are libavfilter's.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from pathlib import Path

import av
import av.error
import numpy as np
from av.filter import Graph

from chapto.errors import Cancelled
from chapto.media.cache import cache_file, used_now
from chapto.media.limiter import MARGIN, Samples, limited
from chapto.media.loudness import QUIETEST, LoudnessMeter
from chapto.media.opening import MediaError
from chapto.media.sound import RATE, FootageSound, keep_sound, load_sound
from chapto.media.sound_file import DamagedSound, SoundReader, SoundWriter

VERSION = 1
LOUDNESS = -19.0
"""LUFS of one voice, measured as one channel; on two that is −16 (common practice for talk)."""
PEAK = 10 ** (-2 / 20)
MOST_GAIN = 40.0
CLEAN = 38.0
"""Decibels between speech and pauses from which on noise is left alone: taking it out would hurt more than help."""
RUMBLE = "highpass=f=80:p=2"
NOISE, NOISE_DELAY = "afftdn=nr=12:nf=-30:tn=1", 1200
"""Spectral noise reduction with tracking, and the samples by which it comes late (measured)."""
BREATHS = "agate=threshold={threshold:.5f}:ratio=2:range=0.35:attack=4:release=180:knee=4:detection=rms"
UNDER_SPEECH = 24.0
"""Decibels under the loudness of the speech from which on it is turned down: breaths and clicks lie there."""
BLOCK = RATE
Cancel = Callable[[], bool]


@dataclass(frozen=True)
class Levels:
    """Loudness of each channel (LUFS), and decibels between its speech and its pauses."""

    loudness: tuple[float, float]
    spread: float


def load_cleaned(path: Path, key: str, *, cancelled: Cancel = lambda: False) -> FootageSound:
    """The take at `path` with fingerprint `key`, cleaned; the same length. Raises `MediaError` when it can't be read or
    kept and `Cancelled` when stopped."""
    cached = cache_file("cleaned", f"{key}-{VERSION}", ".s16")
    try:
        found = FootageSound(blocks=SoundReader(cached))
        used_now(cached)
        return found
    except (OSError, DamagedSound):
        cached.unlink(missing_ok=True)
    source = load_sound(path, key, cancelled=cancelled)

    def fill(writer: SoundWriter) -> None:
        at = 0
        for block in cleaned(source, cancelled):
            writer.put(at, np.round(block * 32767).astype(np.int16))
            at += len(block)

    try:
        return keep_sound(cached, fill, f"The cleaned sound of “{path.name}”")
    except av.error.FFmpegError as error:
        raise MediaError(f"The sound of “{path.name}” can't be cleaned: {error}.") from None


def cleaned(source: FootageSound, cancelled: Cancel = lambda: False) -> Iterator[Samples]:
    """`source` cleaned and at `LOUDNESS`, in blocks of (n, 2) float32 that add up to its length."""
    before = levels(_filtered(source, RUMBLE, 0, cancelled))
    if max(before.loudness) <= QUIETEST + 20:
        yield from _filtered(source, RUMBLE, 0, cancelled)
        return
    noisy = before.spread < CLEAN
    filters, delay = (f"{RUMBLE},{NOISE}", NOISE_DELAY) if noisy else (RUMBLE, 0)
    measured = levels(_filtered(source, filters, delay, cancelled)) if noisy else before
    threshold = 10 ** ((max(measured.loudness) - UNDER_SPEECH) / 20)
    filters = f"{filters},{BREATHS.format(threshold=min(max(threshold, 1e-5), 1.0))}"
    gains = _gains(measured.loudness)
    # Turning breaths down and limiting peaks takes a little loudness, which is given back once.
    after = levels(_limited(_filtered(source, filters, delay, cancelled), gains))
    gains = tuple(g + LOUDNESS - a if a > QUIETEST + 20 else g for g, a in zip(gains, after.loudness, strict=True))
    yield from _limited(_filtered(source, filters, delay, cancelled), gains)


def levels(blocks: Iterator[Samples]) -> Levels:
    """Loudness and spread of (n, 2) blocks."""
    meters = (LoudnessMeter(1), LoudnessMeter(1))
    powers: list[Samples] = []
    step = RATE // 50
    for block in blocks:
        for channel, meter in enumerate(meters):
            meter.take(block[:, channel : channel + 1])
        mono = (block[:, 0] + block[:, 1]) / 2
        whole = mono[: len(block) // step * step].reshape(-1, step)
        powers.append((whole.astype(np.float64) ** 2).mean(1))
    steps = 10 * np.log10(np.concatenate([np.zeros(1), *powers]) + 1e-12)
    low, high = np.percentile(steps, [10, 90])
    return Levels((meters[0].integrated, meters[1].integrated), float(high - low))


def _gains(loudness: tuple[float, float]) -> tuple[float, ...]:
    """Decibels for each channel; a silent one is left silent."""
    return tuple(min(LOUDNESS - x, MOST_GAIN) if x > QUIETEST + 20 else 0.0 for x in loudness)


def _filtered(source: FootageSound, filters: str, delay: int, cancelled: Cancel) -> Iterator[Samples]:
    """`source` through libavfilter, `delay` samples taken out: blocks that add up to its length."""
    graph = Graph()
    node = graph.add_abuffer(sample_rate=RATE, format="fltp", layout="stereo", time_base=None)
    for text in filters.split(","):
        name, _, options = text.partition("=")
        after = graph.add(name, options)
        node.link_to(after)
        node = after
    form = graph.add("aformat", f"sample_fmts=fltp:sample_rates={RATE}:channel_layouts=stereo")
    node.link_to(form)
    sink = graph.add("abuffersink")
    form.link_to(sink)
    graph.configure()
    length = len(source)
    passed = 0
    for at in range(0, length + delay + BLOCK, BLOCK):
        if cancelled():
            raise Cancelled
        if at < length + delay:
            samples = np.ascontiguousarray(source.read(at, min(BLOCK, length + delay - at)).T)
            frame = av.AudioFrame.from_ndarray(samples, format="fltp", layout="stereo")
            frame.sample_rate, frame.pts = RATE, at
            graph.push(frame)
        else:
            graph.push(None)
        block = _pulled(graph)
        out = block[max(delay - passed, 0) : max(delay + length - passed, 0)]
        passed += len(block)
        if len(out):
            yield out
    if passed < length + delay:
        yield np.zeros((length + delay - max(passed, delay), 2), np.float32)


def _pulled(graph: Graph) -> Samples:
    """What the filters have ready, (n, 2)."""
    frames = [np.zeros((2, 0), np.float32)]
    while True:
        try:
            frames.append(np.asarray(graph.pull().to_ndarray(), dtype=np.float32))
        except (BlockingIOError, EOFError, av.error.BlockingIOError, av.error.EOFError):
            return np.asarray(np.concatenate(frames, axis=1).T, dtype=np.float32)


def _limited(blocks: Iterator[Samples], gains: tuple[float, ...]) -> Iterator[Samples]:
    """Each channel so many decibels louder, and no peak over `PEAK`."""
    factor = np.array([10 ** (g / 20) for g in gains], np.float32)
    held = np.zeros((MARGIN, 2), np.float32)
    for block in blocks:
        held = np.concatenate([held, block * factor])
        if len(held) > 2 * MARGIN:
            yield limited(held, limit=PEAK)
            held = held[-2 * MARGIN :]
    held = np.concatenate([held, np.zeros((MARGIN, 2), np.float32)])
    if len(held) > 2 * MARGIN:
        yield limited(held, limit=PEAK)
