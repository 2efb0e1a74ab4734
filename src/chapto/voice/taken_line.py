"""How a take says a beat: where each word lies in it, and what of it is heard."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

import numpy as np

from chapto.document.script import Beat
from chapto.document.takes import Take
from chapto.media.sound import RATE, FootageSound
from chapto.media.stretch import stretched
from chapto.pacing.spoken import SpokenLine
from chapto.voice.finding.comparing import AddedWord, FoundWord, Said
from chapto.voice.guide import Samples

LEAD, TAIL = 0.08, 0.15
"""Seconds of a take kept before a beat's first word and after its last, as far as no other word is said there."""
ENOUGH = 0.5
"""A take in which fewer of a beat's words are said as they are written does not hold that beat."""
FADE = 0.010
"""Seconds in which two sides of a cut go over into one another."""
Span = tuple[float, float]


@dataclass(frozen=True)
class TakenLine:
    """A beat in the take with id `take`. `found` and `spans` have one entry a word, `added` is said besides (its
    `before` counts in the beat); spans, `start`, `end` and `kept` are half-open seconds of the take. It is heard
    `tempo` times as fast."""

    take: str
    found: tuple[FoundWord, ...]
    added: tuple[AddedWord, ...]
    spans: tuple[Span, ...]
    kept: tuple[Span, ...]
    tempo: float = 1.0

    @property
    def start(self) -> float:
        """Where it begins to be heard."""
        return self.kept[0][0]

    @property
    def end(self) -> float:
        """Where it is heard no more."""
        return self.kept[-1][1]

    @property
    def differences(self) -> int:
        """How many words were said otherwise, left out or added, what was cut out not counted."""
        besides = sum(any(a <= (x.span[0] + x.span[1]) / 2 < z for a, z in self.kept) for x in self.added)
        return besides + sum(w.state is not Said.AS_WRITTEN for w in self.found)

    @property
    def line(self) -> SpokenLine:
        """When each word is heard, in seconds from the line's start."""
        total = Fraction(round(sum(_samples(z - a) for a, z in self.kept) / self.tempo), RATE)
        words = tuple((self._heard(a), self._heard(z)) for a, z in self.spans)
        return SpokenLine(words, max(total, words[-1][1]), Fraction(self.tempo).limit_denominator(1000))

    def _heard(self, second: float) -> Fraction:
        before = sum(max(min(second, z) - a, 0.0) for a, z in self.kept)
        return Fraction(_samples(before / self.tempo), RATE)

    def sound(self, take: FootageSound, *, gain: float = 0.0, channel: int = 0) -> Samples:
        """What is heard, (n,) float32 at 48 kHz: of one channel or both, `gain` decibels louder, cuts joined softly."""
        pieces = []
        for i, (a, z) in enumerate(self.kept):
            piece = _mono(take.read(_samples(a), _samples(z - a)), channel)
            n = min(round(FADE * RATE), len(piece) // 2)
            ramp = np.linspace(0, 1, n, dtype=np.float32)
            if i and n:
                piece[:n] *= ramp
            if i + 1 < len(self.kept) and n:
                piece[-n:] *= ramp[::-1]
            pieces.append(piece)
        whole = stretched(np.concatenate(pieces), self.tempo) * np.float32(10 ** (gain / 20))
        return np.asarray(np.clip(whole, -1, 1), dtype=np.float32)


def taken_line(
    beat: Beat, take: Take, found: tuple[FoundWord, ...], added: tuple[AddedWord, ...], room: Span
) -> TakenLine | None:
    """How `take` says `beat`, whose words were `found` in it; None where too few of them were said.

    `room` are the seconds between the words of the beats before and after. Edges put right by hand count before those
    found; words that were left out lie between their neighbours.
    """
    own = {e.word: (float(e.start), float(e.end)) for e in take.edges if e.beat == beat.id}
    spans = [own.get(i, word.span) for i, word in enumerate(found)]
    sure = sum(i in own or word.state is Said.AS_WRITTEN for i, word in enumerate(found))
    if sure < max(ENOUGH * len(spans), 1):
        return None
    whole = _filled(spans)
    first, last = whole[0][0], whole[-1][1]
    start = max(first - LEAD, (room[0] + first) / 2 if room[0] else 0.0, 0.0)
    end = min(last + TAIL, (last + room[1]) / 2)
    kept = _without(take.cuts, start, max(end, last))
    return TakenLine(take.id, found, added, tuple(whole), kept, float(take.tempo)) if kept else None


def _samples(seconds: float) -> int:
    return round(seconds * RATE)


def _mono(block: Samples, channel: int) -> Samples:
    return (block[:, 0] + block[:, 1]) * np.float32(0.5) if channel == 0 else block[:, channel - 1].copy()


def _without(cuts: tuple[tuple[Fraction, Fraction], ...], start: float, end: float) -> tuple[Span, ...]:
    """`start … end` less what is cut out, on whole samples."""
    kept: list[Span] = []
    at = round(start * RATE) / RATE
    for a, z in cuts:
        if float(z) > at and float(a) < end:
            if float(a) > at:
                kept.append((at, float(a)))
            at = max(at, float(z))
    if at < end:
        kept.append((at, end))
    return tuple(kept)


def _filled(spans: list[Span | None]) -> list[Span]:
    """`spans` in order and without overlaps; words without one share the gap between their neighbours."""
    known = [i for i, s in enumerate(spans) if s is not None]
    starts = np.interp(range(len(spans)), known, [spans[i][0] for i in known])  # type: ignore[index]
    ends = np.interp(range(len(spans)), known, [spans[i][1] for i in known])  # type: ignore[index]
    starts = np.maximum.accumulate(starts)
    ends = np.minimum(np.maximum(ends, starts), [*starts[1:], np.inf])
    return [(float(a), float(max(a, z))) for a, z in zip(starts, ends, strict=True)]
