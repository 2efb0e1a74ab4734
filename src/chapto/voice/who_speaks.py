"""Whose voice says each line of a recording in which several people talk: a proposal from pitch and timbre."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np
from numpy.typing import NDArray

from chapto.document.breakdown import Breakdown
from chapto.media.sound import RATE, FootageSound
from chapto.voice.taken_line import TakenLine

SLOWER = 3
HEARD_RATE = RATE // SLOWER
FRAME, HOP = HEARD_RATE // 25, HEARD_RATE // 50
LOWEST, HIGHEST = 70.0, 350.0
"""Hertz between which voices lie (common practice)."""
BANDS = 18
VOICED = 0.45
"""Likeness of a frame to itself one period later from which on it is a voice."""
CLEARER = 0.7
"""A line is another's whose voice is nearer by so much: the ratio of the two distances."""
APART = 2.2
"""How many times as far as its own members two groups must lie apart to be two people."""
PITCH_WEIGHT = 3.0
Vector = NDArray[np.float64]


def proposed_narrators(b: Breakdown, lines: Mapping[str, TakenLine | None], sound: FootageSound) -> dict[str, str]:
    """Beats (by id) of a take that another narrator (by id) seems to say than the one the script names.

    Lines are compared with what each narrator says in the same take. Where all are one narrator's so far, and there is
    one more, they are parted in two groups. Empty where the voices can't be told apart.
    """
    features = {k: v for k, line in lines.items() if line is not None and (v := voice_of(line, sound)) is not None}
    if len(features) < 3 or len(b.narrators) < 2:
        return {}
    says = {k: b.narrator(b.find_beat(k)[1]).id for k in features}
    scaled = _scaled(features)
    groups: dict[str, list[str]] = {}
    for beat, narrator in says.items():
        groups.setdefault(narrator, []).append(beat)
    if len(groups) == 1:
        return _parted(b, scaled, next(iter(groups)))
    found = {}
    for beat, vector in scaled.items():
        near = {
            narrator: float(np.linalg.norm(vector - np.mean([scaled[x] for x in own if x != beat], axis=0)))
            for narrator, own in groups.items()
            if [x for x in own if x != beat]
        }
        best = min(near, key=lambda n: near[n])
        if best != says[beat] and near[best] < CLEARER * near.get(says[beat], np.inf):
            found[beat] = best
    return found


def voice_of(line: TakenLine, sound: FootageSound) -> Vector | None:
    """Pitch (octaves) and timbre (levels of bands, less their mean) of what is said in a line; None where nobody is."""
    first, count = round(line.start * RATE), round((line.end - line.start) * RATE)
    mono = sound.read(first, count).mean(1)[::SLOWER].astype(np.float64)
    frames = (
        np.lib.stride_tricks.sliding_window_view(mono, FRAME)[::HOP] if len(mono) >= FRAME else np.zeros((0, FRAME))
    )
    power = (frames**2).mean(1)
    loud = frames[power > 0.1 * np.percentile(power, 95)] if len(power) else frames
    if len(loud) < 5:
        return None
    pitch, voiced = _pitch(loud)
    if voiced.sum() < 5:
        return None
    spectrum = np.abs(np.fft.rfft(loud[voiced] * np.hanning(FRAME))) ** 2
    edges = np.unique(np.geomspace(4, spectrum.shape[1] - 1, BANDS + 1).astype(int))
    bands = np.log10(np.add.reduceat(spectrum, edges[:-1], axis=1) + 1e-12).mean(0)
    return np.concatenate([[np.log2(np.median(pitch[voiced]))], bands - bands.mean()])


def _pitch(frames: Vector) -> tuple[Vector, NDArray[np.bool_]]:
    """Hertz of each frame by autocorrelation, and whether it is voiced."""
    spectrum = np.abs(np.fft.rfft(frames, 2 * FRAME)) ** 2
    likeness = np.fft.irfft(spectrum)[:, :FRAME]
    likeness = likeness / np.maximum(likeness[:, :1], 1e-12)
    low, high = int(HEARD_RATE / HIGHEST), int(HEARD_RATE / LOWEST)
    at = np.argmax(likeness[:, low:high], axis=1) + low
    return HEARD_RATE / at, likeness[np.arange(len(at)), at] > VOICED


def _scaled(features: Mapping[str, Vector]) -> dict[str, Vector]:
    """Each feature by how much it differs between lines; pitch tells people apart best."""
    every = np.array(list(features.values()))
    spread = every.std(0) + 1e-6
    weight = np.full(every.shape[1], 1 / np.sqrt(every.shape[1]))
    weight[0] = PITCH_WEIGHT / np.sqrt(every.shape[1])
    return {k: (v - every.mean(0)) / spread * weight for k, v in features.items()}


def _parted(b: Breakdown, scaled: Mapping[str, Vector], narrator: str) -> dict[str, str]:
    """The smaller of two groups of lines is the next narrator's, if the groups lie apart."""
    names, points = list(scaled), np.array(list(scaled.values()))
    order = np.argsort(points[:, 0])
    centres = points[[order[0], order[-1]]].copy()
    group = np.zeros(len(points), int)
    for _ in range(20):
        group = np.argmin(np.linalg.norm(points[:, None] - centres[None], axis=2), axis=1)
        if group.min() == group.max():
            return {}
        centres = np.array([points[group == g].mean(0) for g in (0, 1)])
    inside = np.mean(np.linalg.norm(points - centres[group], axis=1))
    if np.linalg.norm(centres[0] - centres[1]) < APART * inside:
        return {}
    smaller = int((group == 1).sum() < (group == 0).sum())
    other = next(n.id for n in b.narrators if n.id != narrator)
    return {name: other for name, g in zip(names, group, strict=True) if g == smaller}
