"""What a programme's sound is made from, and by what it is known again."""

from __future__ import annotations

import hashlib
from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from chapto.document.breakdown import Breakdown
from chapto.media.sound import FootageSound
from chapto.programme.programme import Programme
from chapto.render.mix import Mix


@dataclass(frozen=True)
class Sounds:
    """What a programme's sound is mixed from: `speeches` by beat id, (n,) float32 at 48 kHz, and `files` by footage or
    music id."""

    speeches: Mapping[str, NDArray[np.float32]]
    files: Mapping[str, FootageSound]


def mixed(b: Breakdown, programme: Programme, sounds: Sounds, gain: float) -> Mix:
    """All of it together, `gain` decibels louder."""
    return Mix(b, programme, sounds.speeches, sounds.files, gain=gain)


def sound_digest(b: Breakdown, programme: Programme, sounds: Sounds, *more: object) -> str:
    """Of all that the sound depends on: what is said when, which sound runs when, how loud it is wished; and of what
    `more` its use depends on."""
    made = hashlib.blake2b(repr((more, b.format.loudness, programme.seconds)).encode(), digest_size=20)
    for beat in sorted({p.beat for p in programme.voice if p.heard and p.beat in sounds.speeches}):
        made.update(beat.encode())
        made.update(np.ascontiguousarray(sounds.speeches[beat]).tobytes())
    made.update(repr(programme.voice).encode())
    shown = {p.footage for p in programme.passages if p.rate == 1}
    for c in b.footage:
        if c.id in shown:
            made.update(repr((c.id, c.fingerprint, c.offset, c.drift, c.id in sounds.files)).encode())
    for p in programme.passages:
        made.update(repr((p.footage, p.mat_in, p.rate, p.watch_in, p.frames)).encode())
    music = {m.id: m for m in b.music}
    for placed in programme.music:
        piece = music[placed.music]
        made.update(repr((placed, piece.fingerprint, piece.gain, placed.music in sounds.files)).encode())
    return made.hexdigest()
