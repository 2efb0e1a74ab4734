"""Loudness and peaks against the published cases and another library."""

from __future__ import annotations

import numpy as np
import pyloudnorm
import pytest
from numpy.typing import NDArray

from chapto.media.limiter import MARGIN, limited
from chapto.media.loudness import LoudnessMeter, integrated, true_peak
from chapto.media.sound import RATE


def tone(*parts: tuple[float, float]) -> NDArray[np.float64]:
    """Stereo 1 kHz sine: (peak in dBFS, seconds) one after another."""
    level = np.concatenate([np.full(round(s * RATE), 10 ** (db / 20)) for db, s in parts])
    return np.repeat((level * np.sin(2 * np.pi * 1000 * np.arange(len(level)) / RATE))[:, None], 2, axis=1)


@pytest.mark.parametrize(
    ("parts", "lufs"),
    [
        (((-23, 20),), -23.0),
        (((-33, 20),), -33.0),
        (((-36, 10), (-23, 60), (-36, 10)), -23.0),
        (((-72, 10), (-36, 10), (-23, 60), (-36, 10), (-72, 10)), -23.0),
        (((-26, 20), (-20, 20.1), (-26, 20)), -23.0),
    ],
)
def test_the_cases_of_ebu_tech_3341_are_met(parts: tuple[tuple[float, float], ...], lufs: float) -> None:
    """EBU Tech 3341, table 1, cases 1 to 5: within 0.1 LU; fed in uneven pieces."""
    sound, meter = tone(*parts), LoudnessMeter(2)
    for at in range(0, len(sound), 31_337):
        meter.take(sound[at : at + 31_337])
    assert meter.integrated == pytest.approx(lufs, abs=0.1)


@pytest.mark.parametrize(("of", "phase", "peak", "dbtp"), [
    (4, 0, 0.5, -6.0), (4, 45, 0.5, -6.0), (6, 60, 0.5, -6.0), (8, 67.5, 0.5, -6.0), (4, 45, 1.41, 3.0),
])  # fmt: skip
def test_true_peaks_of_ebu_tech_3341_are_found(of: int, phase: float, peak: float, dbtp: float) -> None:
    """EBU Tech 3341, cases 15 to 19: +0.2 to −0.4 dB."""
    wave = peak * np.sin(2 * np.pi * np.arange(RATE * 2) / of + np.radians(phase))
    wave *= np.interp(np.arange(len(wave)), [0, 2400, len(wave) - 2400, len(wave)], [0, 1, 1, 0])
    assert -0.4 <= true_peak(wave[:, None]) - dbtp <= 0.2


def test_loudness_agrees_with_another_library_on_uneven_sound() -> None:
    rng = np.random.default_rng(4)
    sound = rng.normal(0, 0.1, (RATE * 12, 2)) * np.repeat(rng.uniform(0, 1, 24), RATE // 2)[:, None] ** 2
    assert integrated(sound) == pytest.approx(pyloudnorm.Meter(RATE).integrated_loudness(sound), abs=0.05)


def test_a_limited_sound_keeps_under_its_peak_and_its_quiet_parts_as_they_were() -> None:
    rng = np.random.default_rng(5)
    sound = (rng.normal(0, 0.02, (RATE, 2)) + 0).astype(np.float32)
    sound[20_000:20_400] *= 120
    whole = np.pad(sound, ((MARGIN, MARGIN), (0, 0)))
    done = limited(whole, limit=0.5)
    assert len(done) == len(sound) and true_peak(done) <= 20 * np.log10(0.5) + 0.1
    assert np.array_equal(done[:19_000], sound[:19_000])
    apart = [limited(whole[at : at + 4800 + 2 * MARGIN], limit=0.5) for at in range(0, RATE, 4800)]
    assert np.allclose(np.concatenate(apart), done, atol=1e-4)
