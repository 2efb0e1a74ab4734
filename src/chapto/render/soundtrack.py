"""The sound of a programme, encoded once and kept in the cache by what goes into it."""

from __future__ import annotations

import os
from collections.abc import Callable
from fractions import Fraction
from pathlib import Path
from typing import cast

import av

from chapto.document.breakdown import Breakdown
from chapto.errors import Cancelled
from chapto.media.cache import cache_file, is_whole, part_of, seal, used_now
from chapto.media.opening import file_url
from chapto.media.sound import RATE
from chapto.programme.programme import Programme
from chapto.render.encodings import Box, Encoding, SoundCode
from chapto.render.known_gain import known_gain
from chapto.render.mix import Mix
from chapto.render.pieces import versions
from chapto.render.sound_pieces import joins, packets_in_pieces, sound_frame
from chapto.render.sounds import Sounds, mixed, sound_digest

KIND = "soundtracks"
_TOGETHER = 190
"""Frames of the encoder mixed at once: about four seconds."""


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
    place = cache_file(KIND, sound_digest(b, programme, sounds, versions(), encoding.sound), suffix)
    if is_whole(place):
        used_now(place)
        return place
    mix = mixed(b, programme, sounds, known_gain(b, programme, sounds, cancelled=cancelled))
    place.parent.mkdir(parents=True, exist_ok=True)
    part = part_of(place)
    try:
        _write(part, mix, encoding.sound, cancelled)
        os.replace(part, place)
        seal(place)
    finally:
        part.unlink(missing_ok=True)
    return place


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
