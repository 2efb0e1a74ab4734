"""The sound of a programme, encoded once and kept in the cache by what goes into it."""

from __future__ import annotations

import hashlib
import os
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from fractions import Fraction
from functools import partial
from pathlib import Path
from typing import cast

import av
import numpy as np
from numpy.typing import NDArray

from chapto.document.breakdown import Breakdown
from chapto.errors import Cancelled
from chapto.media.cache import cache_file, is_whole, part_of, seal, used_now
from chapto.media.opening import file_url
from chapto.media.sound import RATE, FootageSound
from chapto.programme.programme import Programme
from chapto.render.encodings import Box, Encoding, SoundCode
from chapto.render.loudness import gain_for
from chapto.render.mix import Mix
from chapto.render.pieces import versions
from chapto.render.sound_pieces import joins, packets_in_pieces, sound_frame

KIND = "soundtracks"
_TOGETHER = 190
"""Frames of the encoder mixed at once: about four seconds."""


@dataclass(frozen=True)
class Sounds:
    """What a programme's sound is mixed from: `speeches` by beat id, (n,) float32 at 48 kHz, and `files` by footage or
    music id."""

    speeches: Mapping[str, NDArray[np.float32]]
    files: Mapping[str, FootageSound]


def soundtrack(
    b: Breakdown,
    programme: Programme,
    sounds: Sounds,
    encoding: Encoding,
    cancelled: Callable[[], bool] = lambda: False,
) -> Path:
    """An audio file with the whole programme at its loudness, from the cache where it is there. Raises `Cancelled` when
    stopped; `OSError` where nothing can be written.

    For MP4 it is one itself; else Matroska, which keeps what an encoder puts before the first sample apart from it.
    """
    suffix = ".mp4" if encoding.box is Box.MP4 else ".mka"
    place = cache_file(KIND, _digest(b, programme, sounds, encoding.sound), suffix)
    if is_whole(place):
        used_now(place)
        return place
    make = partial(_mix, b, programme, sounds)
    mix = make(gain_for(make, float(b.format.loudness), cancelled=cancelled))
    place.parent.mkdir(parents=True, exist_ok=True)
    part = part_of(place)
    try:
        _write(part, mix, encoding.sound, cancelled)
        os.replace(part, place)
        seal(place)
    finally:
        part.unlink(missing_ok=True)
    return place


def _mix(b: Breakdown, programme: Programme, sounds: Sounds, gain: float) -> Mix:
    return Mix(b, programme, sounds.speeches, sounds.files, gain=gain)


def _digest(b: Breakdown, programme: Programme, sounds: Sounds, code: SoundCode) -> str:
    """Of all that the sound depends on: what is said when, which sound runs when, and the code."""
    made = hashlib.blake2b(repr((versions(), code, b.format.loudness, programme.seconds)).encode(), digest_size=20)
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


def _write(part: Path, mix: Mix, code: SoundCode, cancelled: Callable[[], bool]) -> None:
    kind = "mp4" if part.suffix == ".mp4" else "matroska"
    with av.open(file_url(part), "w", format=kind) as out:
        stream = cast(av.AudioStream, out.add_stream(code.encoder, rate=RATE, layout="stereo"))
        stream.bit_rate = code.bits
        stream.options = dict(code.options)
        if joins(code):
            for number, data in enumerate(packets_in_pieces(mix, code, cancelled)):
                packet = av.Packet(data)
                # The first is what the encoder puts before the first sample.
                packet.stream, packet.time_base = stream, Fraction(1, RATE)
                packet.pts = packet.dts = (number - 1) * code.frame
                packet.duration = code.frame
                out.mux(packet)
            return
        for first in range(0, mix.length, _TOGETHER * code.frame):
            if cancelled():
                raise Cancelled
            block = mix.read(first, min(_TOGETHER * code.frame, mix.length - first))
            for at in range(0, len(block), code.frame):
                out.mux(stream.encode(sound_frame(block[at : at + code.frame], first + at, code)))
        out.mux(stream.encode(None))
