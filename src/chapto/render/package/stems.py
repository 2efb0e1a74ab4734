"""Voice, gym and music apart, as loud as they are in the programme: WAV, 48 kHz, 24 bits."""

from __future__ import annotations

import wave
from functools import partial
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from chapto.errors import Cancelled
from chapto.media.sound import RATE, FootageSound
from chapto.publish.roles import Role
from chapto.render.known_gain import known_gain
from chapto.render.media_places import music_places
from chapto.render.mix import Mix
from chapto.render.package.making import Making
from chapto.render.production import footage_sounds
from chapto.render.sounds import Sounds
from chapto.voice.guide import SpeechSounds

BLOCK = 4 * RATE
FULL = 2**23 - 1


def write_stems(making: Making) -> list[tuple[Path, Role]]:
    """One file for each kind of sound that is heard; together they are the programme before its peaks are limited."""
    b, programme = making.b, making.programme
    for later in making.production.sounds:
        later.get(cancelled=making.cancelled)
    pieces = music_places(b, making.project)[0]
    sounds = footage_sounds(b, {**making.places, **pieces}, cancelled=making.cancelled)
    gym = {i: s for i, s in sounds.items() if i in making.places}
    music = {i: s for i, s in sounds.items() if i in pieces}
    voices = SpeechSounds(making.production.speeches)
    gain = known_gain(b, programme, Sounds(voices, sounds), cancelled=making.cancelled)
    silent: dict[str, FootageSound] = {}
    mixes = {
        "voice": Mix(b, programme, voices, silent, gain=gain),
        "gym": Mix(b, programme, {}, gym, gain=gain),
        "music": Mix(b, programme, {}, music, gain=gain),
    }
    heard = [k for k in mixes if k == "voice" or (k == "gym" and gym) or (k == "music" and programme.music)]
    made = []
    for number, kind in enumerate(heard):
        place = making.place(Role.STEM, f"{making.name}.{kind}.wav")
        _write(place, mixes[kind], partial(_told, making, number, len(heard)), making)
        made.append((place, Role.STEM))
    return made


def _told(making: Making, number: int, count: int, share: float) -> None:
    making.progress((number + share) / count)


def _write(place: Path, mix: Mix, told: partial[None], making: Making) -> None:
    with wave.open(str(place), "wb") as out:
        out.setnchannels(2)
        out.setsampwidth(3)
        out.setframerate(RATE)
        for first in range(0, mix.length, BLOCK):
            if making.cancelled():
                raise Cancelled
            out.writeframes(_packed(mix.unlimited(first, min(BLOCK, mix.length - first))))
            told(first / mix.length)


def _packed(samples: NDArray[np.float32]) -> bytes:
    """(n, 2) in −1…1 as 24-bit little-endian samples."""
    whole = np.round(np.clip(samples, -1, 1) * FULL).astype("<i4")
    return whole.reshape(-1, 1).view(np.uint8).reshape(-1, 4)[:, :3].tobytes()
