"""Where the phrase before a second begins, in a recording that is still being written."""

from __future__ import annotations

from pathlib import Path

import numpy as np
from scipy.signal import resample_poly

from chapto.voice.finding.phrases import RATE, phrases
from chapto.voice.recording.microphone import RATE as RECORDED
from chapto.voice.recording.wav_file import read_since

REACH = 30.0
"""Seconds in which a phrase is looked for; where nobody spoke for so long, going back ends there."""
JUST_SAID = 0.35
"""Seconds that a phrase has to begin before, so that going back twice leads to the one before."""


def phrase_before(recording: Path, second: float) -> float:
    """The second at which the last phrase that began before another one began, 0 where there is none before it.
    `OSError` where the file can't be read."""
    first = max(second - REACH, 0.0)
    sound = read_since(recording, round(first * RECORDED), round(second * RECORDED))
    if not len(sound):
        return first
    heard = resample_poly(sound.astype(np.float32).mean(1), 1, RECORDED // RATE)
    found = phrases(np.asarray(np.clip(heard, -32768, 32767), dtype=np.int16))
    begun = [first + p.start for p in found if first + p.start <= second - JUST_SAID]
    return begun[-1] if begun else first
