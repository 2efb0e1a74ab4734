"""Listening to the finished sound: its loudness and peaks, speech over the rest, and the recordings in it."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from fractions import Fraction
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from chapto.document.takes import Take
from chapto.errors import Cancelled
from chapto.media.loudness import QUIETEST, LoudnessMeter, true_peak
from chapto.media.recording_flaws import (
    clicks,
    clipped_ms,
    decibels,
    hum_over_room,
    longest_gap_ms,
    pauses_of,
    room_level,
)
from chapto.media.sound import RATE, FootageSound, load_sound
from chapto.render.known_gain import known_gain
from chapto.render.mix import Mix
from chapto.render.production import Production
from chapto.render.sounds import Sounds
from chapto.review.measured import Flaw, Heard, HeardFlaw, Room, UnderSpeech
from chapto.store.fingerprint import find_media
from chapto.voice.guide import SpeechSounds
from chapto.voice.taken_line import TakenLine

BLOCK = 10 * RATE
ROUND = 128
"""Samples round a block that its peaks depend on."""
SHORTEST = 1.0
"""Seconds of speech that are compared with the rest."""
TOGETHER = 0.8
"""Seconds of silence within one stretch of speech."""
HEARD = -60.0
"""dB of full scale from which the voice counts as speaking."""
LOOKED = 0.15
"""Seconds to both sides in which the place of a line is looked for."""
LIKE = 0.6
"""Likeness from which a line was found where it lies."""
STEP = RATE // 100
Samples = NDArray[np.float32]


def listen(
    made: Production,
    project: Path | None,
    sounds: Mapping[str, FootageSound],
    *,
    progress: Callable[[float], None] = lambda share: None,
    cancelled: Callable[[], bool] = lambda: False,
) -> Heard:
    """Listen to a whole production; `sounds` are those of footage and music, by id. Raises `MediaError` or `StoreError`
    where a recording can't be read and `Cancelled` when stopped."""
    b, programme = made.breakdown, made.programme
    if not programme.frames:
        return Heard(float(b.format.loudness), QUIETEST)
    for later in made.sounds:
        later.get(cancelled=cancelled)
    voices = SpeechSounds(made.speeches)
    gain = known_gain(b, programme, Sounds(voices, sounds), cancelled=cancelled)
    progress(0.5)
    loudness, peak = _measured(Mix(b, programme, voices, sounds, gain=gain), cancelled)
    progress(0.6)
    voice = Mix(b, programme, voices, {}, gain=gain)
    rest = Mix(b, programme, {}, sounds, gain=gain)
    under = tuple(_under(made, voice, rest, cancelled))
    progress(0.8)
    flaws, rooms = _recordings(made, project, cancelled)
    progress(0.9)
    late = tuple(_places(made, voices, voice, cancelled))
    return Heard(loudness, peak, under, flaws, rooms, late)


def _measured(mix: Mix, cancelled: Callable[[], bool]) -> tuple[float, float]:
    """Integrated loudness in LUFS and true peak in dBTP."""
    meter, peak = LoudnessMeter(2), QUIETEST
    for first in range(0, mix.length, BLOCK):
        if cancelled():
            raise Cancelled
        count = min(BLOCK, mix.length - first)
        block = mix.read(first - ROUND, count + 2 * ROUND)
        meter.take(block[ROUND:-ROUND])
        peak = max(peak, true_peak(block))
    return meter.integrated, peak


def _under(made: Production, voice: Mix, rest: Mix, cancelled: Callable[[], bool]) -> Iterator[UnderSpeech]:
    """How every stretch of speech stands over all else that is heard meanwhile."""
    for start, end in _stretches(made):
        if cancelled():
            raise Cancelled
        first, count = round(start * RATE), round((end - start) * RATE)
        said = _powers(voice.read(first, count))
        other = _powers(rest.read(first, count))
        speaks = said > 10 ** (HEARD / 10)
        if speaks.any():
            over = decibels(float(said[speaks].mean())) - decibels(float(other[speaks].mean()))
            yield UnderSpeech(Fraction(first, RATE), Fraction(first + count, RATE), over)


def _stretches(made: Production) -> Iterator[tuple[float, float]]:
    merged: list[list[float]] = []
    for p in sorted((p for p in made.programme.voice if p.heard), key=lambda p: p.at):
        if merged and float(p.at) - merged[-1][1] <= TOGETHER:
            merged[-1][1] = max(merged[-1][1], float(p.until))
        else:
            merged.append([float(p.at), float(p.until)])
    for start, end in merged:
        if end - start >= SHORTEST:
            yield start, end


def _powers(block: Samples) -> NDArray[np.float64]:
    """Mean square of every 10 ms."""
    count = len(block) // STEP
    return np.asarray(np.square(block[: count * STEP].astype(np.float64)).reshape(count, -1).mean(1))


def _recordings(
    made: Production, project: Path | None, cancelled: Callable[[], bool]
) -> tuple[tuple[HeardFlaw, ...], tuple[Room, ...]]:
    """What is the matter with each recording that is used, as it was recorded, and the rooms behind them as heard."""
    flaws: list[HeardFlaw] = []
    rooms: list[Room] = []
    takes = {t.id: t for t in made.breakdown.takes}
    starts = {w.beat: w.start for w in reversed(made.programme.words)}
    raw: dict[str, FootageSound] = {}
    for beat, line in made.taken.items():
        if cancelled():
            raise Cancelled
        take = takes.get(line.take)
        if take is None or beat not in starts:
            continue
        if take.id not in raw:
            path = find_media(take.path, take.fingerprint, project, what="take")
            raw = {take.id: load_sound(path, take.fingerprint, cancelled=cancelled)}
        flaws += _flaws(line, take, raw[take.id], beat, starts[beat])
        sound, words = made.speeches[beat].samples, [(float(a), float(z)) for a, z in made.speeches[beat].line.words]
        level = room_level(sound, pauses_of(words, least=0.1))
        if level is not None and all(r.take != take.id for r in rooms):
            rooms.append(Room(take.id, beat, level))
    return tuple(flaws), tuple(rooms)


def _flaws(line: TakenLine, take: Take, raw: FootageSound, beat: str, at: Fraction) -> Iterator[HeardFlaw]:
    first = round(line.start * RATE)
    block = raw.read(first, max(round(line.end * RATE) - first, 0))
    sound = block.mean(1) if take.channel == 0 else block[:, take.channel - 1]
    words = [(a - line.start, z - line.start) for a, z in line.spans]
    seconds = max(line.end - line.start, 1e-3)
    # Stereo is looked at channel by channel: what is cut off in one may not be in their mean.
    cut = max(clipped_ms(block[:, i]) for i in ((0, 1) if take.channel == 0 else (take.channel - 1,)))
    values = {
        Flaw.CLIPPED: cut,
        Flaw.DROPPED: longest_gap_ms(sound, words),
        Flaw.HUM: hum_over_room(sound, pauses_of(words, least=0.5)),
        Flaw.CLICK: 60 * clicks(sound, pauses_of(words, least=0.15, edge=0.09)) / max(seconds, 10.0),
    }
    for kind, value in values.items():
        if value > 0:
            yield HeardFlaw(kind, at, beat, take.id, value)


def _places(
    made: Production, voices: Mapping[str, Samples], voice: Mix, cancelled: Callable[[], bool]
) -> Iterator[tuple[str, float]]:
    """By how many seconds each line is heard after its place, where it can be made out."""
    seen: set[str] = set()
    for p in made.programme.voice:
        if cancelled():
            raise Cancelled
        if p.beat in seen or not p.heard or p.tempo != 1 or p.beat not in voices:
            continue
        seen.add(p.beat)
        first = round(p.voice_in * RATE)
        own = np.asarray(voices[p.beat][first : min(first + RATE, round(p.voice_out * RATE))], dtype=np.float64)
        if len(own) < RATE // 4:
            continue
        reach = round(LOOKED * RATE)
        there = voice.read(round(p.at * RATE) - reach, len(own) + 2 * reach).mean(1).astype(np.float64)
        lag, like = _lag(own, there)
        if like >= LIKE:
            yield p.beat, (lag - reach) / RATE


def _lag(own: NDArray[np.float64], there: NDArray[np.float64]) -> tuple[int, float]:
    """At which sample of `there` it is most like `own`, and how like, 0…1."""
    size = 1 << (len(own) + len(there)).bit_length()
    both = np.fft.irfft(np.fft.rfft(there, size) * np.conj(np.fft.rfft(own, size)), size)[: len(there) - len(own) + 1]
    energy = np.concatenate([[0.0], np.cumsum(np.square(there))])
    local = energy[len(own) :][: len(both)] - energy[: len(both)]
    scaled = both / np.sqrt(np.maximum(local * float(np.square(own).sum()), 1e-12))
    best = int(np.argmax(scaled))
    return best, float(scaled[best])
