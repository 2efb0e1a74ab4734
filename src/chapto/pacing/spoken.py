"""When each word of a line is said: measured from a voice, or estimated from a pace."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction
from functools import lru_cache

from chapto.document.script import words_of
from chapto.pacing.breaks import PHRASE, phrases_inside

COMMA_PAUSE, STOP_PAUSE = Fraction(18, 100), Fraction(38, 100)
"""Seconds of silence after a comma or dash and after a sentence (common practice)."""
MOST_PAUSES = Fraction(3, 10)
"""Share of a line that its pauses take at most."""
_CLAUSE, _SENTENCE = (",", ";", ":", "–", "—"), (".", "!", "?", "…")


@dataclass(frozen=True, slots=True)
class SpokenLine:
    """`words[i]` is the half-open range, in seconds from the line's start, in which word i is said. A recording may be
    heard `tempo` times as fast as it was read already."""

    words: tuple[tuple[Fraction, Fraction], ...]
    seconds: Fraction
    tempo: Fraction = Fraction(1)

    def __hash__(self) -> int:
        # Lines are keys of what was fitted; working through all their fractions would cost as much as a small fit.
        return hash((len(self.words), self.seconds))

    def cut_before(self, word: int) -> Fraction:
        """Where the line can be parted before `word`: in the middle of the gap that precedes it."""
        if word <= 0:
            return Fraction(0)
        if word >= len(self.words):
            return self.seconds
        return (self.words[word - 1][1] + self.words[word][0]) / 2


def without(line: SpokenLine, first: int, end: int) -> SpokenLine:
    """The line as it is when its words `first … end` (half-open) are left out; what follows is said so much sooner."""
    if end >= len(line.words):
        kept = line.words[:first]
        return SpokenLine(kept, kept[-1][1] if kept else Fraction(0), line.tempo)
    sooner = line.words[end][0] - line.words[first][0]
    after = tuple((a - sooner, z - sooner) for a, z in line.words[end:])
    return SpokenLine((*line.words[:first], *after), line.seconds - sooner, line.tempo)


def pause_after(word: str) -> Fraction:
    """Seconds of silence that follow `word`, by its last mark."""
    bare = word.rstrip("\"'”’)]")
    if bare.endswith(_SENTENCE):
        return STOP_PAUSE
    return COMMA_PAUSE if bare.endswith(_CLAUSE) or bare in ("-", "–", "—") else Fraction(0)


@lru_cache(maxsize=4096)
def estimate(text: str, pace: int) -> SpokenLine:
    """Word times of `text` at `pace` words a minute, long words taking their share, pauses at punctuation.

    A pace is measured over speech with its pauses: n words take `60 · n / pace` seconds in all. Pauses take at most
    `MOST_PAUSES` of that.
    """
    words = words_of(text)
    if not words:
        return SpokenLine((), Fraction(0))
    weights = [len(w) + 2 for w in words]
    pauses = [pause_after(w) for w in words[:-1]] + [Fraction(0)]
    total = Fraction(60 * len(words), pace)
    shorter = min(Fraction(1), MOST_PAUSES * total / sum(pauses)) if sum(pauses) else Fraction(1)
    second = (total - shorter * sum(pauses)) / sum(weights)
    at, times = Fraction(0), []
    for pause, weight in zip(pauses, weights, strict=True):
        end = at + weight * second
        times.append((at, end))
        at = end + shorter * pause
    return SpokenLine(tuple(times), times[-1][1])


@lru_cache(maxsize=4096)
def phrase_starts(text: str) -> tuple[int, ...]:
    """Word numbers at which a phrase begins: the first word, and each after a comma or stop; where no mark stands
    in the text, each with which something new begins."""
    words = words_of(text)
    if len(words) >= 2 * PHRASE and all(pause_after(w) == 0 for w in words):
        return phrases_inside(words)
    return tuple(i for i in range(len(words)) if i == 0 or pause_after(words[i - 1]) > 0)
