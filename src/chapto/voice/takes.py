"""Takes as the narrators' voices: for every beat that a chosen take holds, its sound and when each word is said."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from fractions import Fraction
from functools import partial
from pathlib import Path

import numpy as np

from chapto.document.breakdown import Breakdown
from chapto.document.script import Beat, words_of
from chapto.document.takes import Take
from chapto.document.takes_by_beat import beats_of, takes_by_beat
from chapto.errors import ChaptoError
from chapto.media.sound import RATE, FootageSound, load_sound
from chapto.pacing.spoken import SpokenLine
from chapto.store.fingerprint import find_media
from chapto.voice.finding.comparing import FoundWord, Said
from chapto.voice.guide import Samples, Speech
from chapto.voice.take_words import take_words

LEAD, TAIL = 0.08, 0.15
"""Seconds of a take kept before a beat's first word and after its last, as far as no other word is said there."""
ENOUGH = 0.5
"""A take in which fewer of a beat's words are said as they are written does not hold that beat."""
Span = tuple[float, float]


@dataclass(frozen=True)
class Spoken:
    """What takes give: speeches by beat id, and a sentence for each beat or take that the guide voice has to speak."""

    speeches: Mapping[str, Speech]
    troubles: tuple[str, ...]


def speak_takes(b: Breakdown, project: Path | None, *, cancelled: Callable[[], bool] = lambda: False) -> Spoken:
    """Every beat of `b` that a chosen take holds, spoken by it. Raises `Cancelled` when stopped."""
    speeches: dict[str, Speech] = {}
    troubles: list[str] = []
    by_beat = takes_by_beat(b)
    for take in b.takes:
        wanted = {beat for beat, counts in by_beat.items() if counts is take}
        if not wanted:
            continue
        try:
            path = find_media(take.path, take.fingerprint, project, what="take")
            lines = _lines(b, take, path, cancelled)
            sound = load_sound(path, take.fingerprint, cancelled=cancelled)
        except ChaptoError as error:
            troubles.append(f"The guide voice speaks instead of a recording: {error}")
            continue
        for beat, spoken in lines.items():
            if beat not in wanted:
                continue
            if spoken is None:
                troubles.append(
                    f"“{_opening(b, beat)}” is not in the take “{Path(take.path).name}”; the guide voice speaks it."
                )
            else:
                line, start = spoken
                speeches[beat] = Speech(line, partial(_samples, sound, start, line.seconds, take.gain))
    return Spoken(speeches, tuple(troubles))


def _opening(b: Breakdown, beat_id: str) -> str:
    return " ".join(words_of(b.find_beat(beat_id)[1].text)[:5]) + "…"


def _lines(
    b: Breakdown, take: Take, path: Path, cancelled: Callable[[], bool]
) -> dict[str, tuple[SpokenLine, Fraction] | None]:
    beats = beats_of(b, take)
    words = [w for beat in beats for w in words_of(beat.text)]
    found = take_words(path, take.fingerprint, words, start=take.start, end=take.until, cancelled=cancelled).words
    lines: dict[str, tuple[SpokenLine, Fraction] | None] = {}
    at = 0
    for beat in beats:
        n = len(words_of(beat.text))
        before = max((w.span[1] for w in found[:at] if w.span), default=float(take.start))
        after = min((w.span[0] for w in found[at + n :] if w.span), default=float(take.until))
        lines[beat.id] = line_of(beat, take, found[at : at + n], (before, after))
        at += n
    return lines


def line_of(beat: Beat, take: Take, found: tuple[FoundWord, ...], room: Span) -> tuple[SpokenLine, Fraction] | None:
    """The line of a beat whose words were `found` in `take`, and the second of the take at which it begins.

    `room` are the seconds between the words of the beats before and after. Edges put right by hand count before those
    found; words that were left out lie between their neighbours. None where too few were found.
    """
    own = {e.word: (float(e.start), float(e.end)) for e in take.edges if e.beat == beat.id}
    spans = [own.get(i, word.span) for i, word in enumerate(found)]
    sure = sum(i in own or word.state is Said.AS_WRITTEN for i, word in enumerate(found))
    if sure < max(ENOUGH * len(spans), 1):
        return None
    whole = _filled(spans)
    start = max(whole[0][0] - LEAD, (room[0] + whole[0][0]) / 2 if room[0] else 0.0, 0.0)
    end = min(whole[-1][1] + TAIL, (whole[-1][1] + room[1]) / 2)
    begin = round(start * RATE)
    words = tuple((Fraction(round(a * RATE) - begin, RATE), Fraction(round(z * RATE) - begin, RATE)) for a, z in whole)
    length = Fraction(max(round(end * RATE) - begin, 1), RATE)
    return SpokenLine(words, max(length, words[-1][1])), Fraction(begin, RATE)


def _filled(spans: list[Span | None]) -> list[Span]:
    """`spans` in order and without overlaps; words without one share the gap between their neighbours."""
    known = [i for i, s in enumerate(spans) if s is not None]
    starts = np.interp(range(len(spans)), known, [spans[i][0] for i in known])  # type: ignore[index]
    ends = np.interp(range(len(spans)), known, [spans[i][1] for i in known])  # type: ignore[index]
    starts = np.maximum.accumulate(starts)
    ends = np.minimum(np.maximum(ends, starts), [*starts[1:], np.inf])
    return [(float(a), float(max(a, z))) for a, z in zip(starts, ends, strict=True)]


def _samples(sound: FootageSound, start: Fraction, seconds: Fraction, gain: Fraction) -> Samples:
    heard = sound.read(round(start * RATE), round(seconds * RATE)).mean(1)
    return np.asarray(np.clip(heard * 10 ** (float(gain) / 20), -1, 1), dtype=np.float32)
