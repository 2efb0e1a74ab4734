"""A take on its time axis: the curve of its sound, its words and their ties. Free of Qt."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction

import numpy as np
from numpy.typing import NDArray

from chapto.document.breakdown import Breakdown
from chapto.document.script import words_of
from chapto.document.takes import Take
from chapto.media.sound import RATE, FootageSound
from chapto.programme.programme import Programme, TieState
from chapto.voice.finding.comparing import AddedWord, Said
from chapto.voice.guide import Speech
from chapto.voice.taken_line import TakenLine

ROUND = 0.6
"""Seconds of the take shown before and after what is heard of it."""
COLUMNS = 1_200
"""Columns of the curve."""
SHORTEST_WORD = Fraction(2, 100)


@dataclass(frozen=True)
class StripWord:
    """A word: its number and text, what became of it, what was heard instead, and its half-open seconds of the take;
    `by_hand` says that its edges were put there."""

    number: int
    text: str
    said: Said
    heard: str
    start: float
    end: float
    by_hand: bool = False


@dataclass(frozen=True)
class StripTie:
    """A tied word: seconds of the take at which it is said, by how much that misses its moment, and what it is."""

    number: int
    at: float
    lag: float
    state: TieState
    moment: str


@dataclass(frozen=True)
class Strip:
    """What the strip of a take shows between `start` and `end` (seconds of the take). `curve` (n, 2) holds the lowest
    and highest sample of each column, −1…1; `kept` what is heard."""

    beat: str
    take: str
    start: float
    end: float
    curve: NDArray[np.float32]
    kept: tuple[tuple[float, float], ...]
    words: tuple[StripWord, ...]
    added: tuple[AddedWord, ...]
    ties: tuple[StripTie, ...]
    is_guide: bool = False


def strip_of(
    b: Breakdown, programme: Programme, beat_id: str, take: Take, line: TakenLine, sound: FootageSound
) -> Strip:
    """The strip of one beat in a take."""
    _, beat = b.find_beat(beat_id)
    start = max(line.start - ROUND, 0.0)
    end = min(line.end + ROUND, float(take.seconds))
    by_hand = {e.word for e in take.edges if e.beat == beat_id}
    words = tuple(
        StripWord(i, text, found.state, found.heard, span[0], span[1], i in by_hand)
        for i, (text, found, span) in enumerate(zip(words_of(beat.text), line.found, line.spans, strict=True))
    )
    ties = _ties(b, programme, beat_id, line.spans)
    curve = curve_of(sound, start, end, take.channel)
    return Strip(beat_id, take.id, start, end, curve, line.kept, words, line.added, ties)


def guide_strip(b: Breakdown, programme: Programme, beat_id: str, speech: Speech) -> Strip:
    """The strip of a beat that only the guide voice says."""
    samples, line = speech.samples, speech.line
    spans = tuple((float(a), float(z)) for a, z in line.words)
    texts = words_of(b.find_beat(beat_id)[1].text)
    words = tuple(
        StripWord(i, text, Said.AS_WRITTEN, "", *span) for i, (text, span) in enumerate(zip(texts, spans, strict=False))
    )
    ties = _ties(b, programme, beat_id, spans)
    end = float(line.seconds)
    return Strip(beat_id, "", 0.0, end, _columns(samples), ((0.0, end),), words, (), ties, is_guide=True)


def _ties(
    b: Breakdown, programme: Programme, beat_id: str, spans: tuple[tuple[float, float], ...]
) -> tuple[StripTie, ...]:
    known = {m.id: m.kind.value for m in b.moments}
    return tuple(
        StripTie(t.word, spans[t.word][0], float(t.lag or 0), t.state, known.get(t.moment, ""))
        for t in programme.ties
        if t.beat == beat_id and t.word < len(spans)
    )


def curve_of(sound: FootageSound, start: float, end: float, channel: int) -> NDArray[np.float32]:
    """Lowest and highest sample of each of `COLUMNS` columns between two seconds: (COLUMNS, 2)."""
    block = sound.read(round(start * RATE), round((end - start) * RATE))
    return _columns(block.mean(1) if channel == 0 else block[:, channel - 1])


def _columns(mono: NDArray[np.float32]) -> NDArray[np.float32]:
    mono = np.pad(mono, (0, max(COLUMNS - len(mono), 0)))
    edges = np.linspace(0, len(mono), COLUMNS + 1).astype(int)[:-1]
    return np.stack([np.minimum.reduceat(mono, edges), np.maximum.reduceat(mono, edges)], axis=1)


def word_at(words: Sequence[StripWord], second: float) -> int:
    """Number of the word that is said at a second, or the nearest to it; −1 where there are none."""
    if not words:
        return -1
    return min(words, key=lambda w: max(w.start - second, second - w.end, 0.0)).number


def pulled(words: Sequence[StripWord], number: int, start: float, end: float) -> tuple[Fraction, Fraction]:
    """Edges for a word near `start … end`, kept between its neighbours and not too short; whole milliseconds."""
    low = words[number - 1].start + float(SHORTEST_WORD) if number else 0.0
    high = words[number + 1].end - float(SHORTEST_WORD) if number + 1 < len(words) else end
    a = Fraction(round(max(start, low) * 1000), 1000)
    z = Fraction(round(min(end, high) * 1000), 1000)
    return a, max(z, a + SHORTEST_WORD)
