"""Three seconds of nobody speaking: is the room quiet enough, and how close to sit."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from chapto.media.loudness import QUIETEST, integrated
from chapto.voice.recording.microphone import RATE, Block

SECONDS = 3.0
SPEECH_AT = -27.0
"""LUFS of ordinary speech at `REFERENCE` metres from a microphone turned up as usual (common practice)."""
REFERENCE = 0.2
DISTANCES = (0.4, 0.2, 0.1)
"""Metres that are tried, the most comfortable first."""
CLEAR = 30.0
"""Decibels of speech over the room that listeners do not notice (WCAG 1.4.7 asks for 20)."""


@dataclass(frozen=True)
class Room:
    """Loudness of the empty room in LUFS, and the distance in metres to try; None where no distance is enough. It
    `hums` where there is more at 50 or 60 Hz, or twice that, than elsewhere."""

    loudness: float
    hums: bool
    distance: float | None

    @property
    def sentence(self) -> str:
        """What is to be said of it."""
        hum = " Something hums: a lamp, a charger or a loose plug." if self.hums else ""
        if self.loudness <= QUIETEST + 1:
            return "The microphone gives no sound at all; is it switched on?"
        if self.distance is None:
            return f"The room is too loud ({self.loudness:.0f} LUFS): close the window, or try another room.{hum}"
        close = f"{round(self.distance * 100)} cm from the microphone"
        quiet = "The room is quiet" if self.distance == DISTANCES[0] else "The room is not quite quiet"
        return f"{quiet} ({self.loudness:.0f} LUFS); sit about {close}.{hum}"


def judged(heard: Block, *, speech: float = SPEECH_AT) -> Room:
    """What (n, channels) samples of the empty room say; `speech` is how loud the narrator is at 20 cm."""
    sound = heard[:, :1].astype(np.float64) / 32768
    loudness = integrated_or_floor(sound)
    distance = next((d for d in DISTANCES if _at(speech, d) - loudness >= CLEAR), None)
    return Room(loudness, _hums(sound[:, 0]), distance)


def integrated_or_floor(sound: np.ndarray) -> float:
    """Loudness also of what the gate of a programme would leave out."""
    louder = 30.0
    found = integrated(sound * 10 ** (louder / 20))
    return max(found - louder, QUIETEST)


def _at(speech: float, metres: float) -> float:
    """Half the distance is 6 dB more (inverse square law)."""
    return float(speech - 20 * np.log10(metres / REFERENCE))


def _hums(sound: np.ndarray) -> bool:
    if len(sound) < RATE:
        return False
    power = np.abs(np.fft.rfft(sound * np.hanning(len(sound)))) ** 2
    hertz = np.fft.rfftfreq(len(sound), 1 / RATE)
    near = (hertz > 40) & (hertz < 260)
    floor = float(np.median(power[near])) + 1e-12
    for mains in (50, 60):
        peaks = [float(power[np.abs(hertz - mains * k) < 1.5].max()) for k in (1, 2)]
        if min(peaks) > 300 * floor or peaks[0] > 3000 * floor:
            return True
    return False
