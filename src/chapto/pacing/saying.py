"""One line while it is being said: where the voice waits, and where it hurries or lingers."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from fractions import Fraction

from chapto.pacing.fitted import FitBeat, Phrase
from chapto.pacing.spoken import SpokenLine

ONE = Fraction(1)
TRIFLE = Fraction(1, 1000)
"""Seconds that are made up by the tempo rather than by a pause nobody hears."""


@dataclass(frozen=True, slots=True)
class _Part:
    """From word `first` and line second `cut` on, `tempo` times as fast as measured, from watch second `at` on."""

    first: int
    cut: Fraction
    at: Fraction
    tempo: Fraction


class Saying:
    """The line of `beat` from watch second `at` on, at `tempo`; words are looked at in order."""

    def __init__(self, beat: FitBeat, line: SpokenLine, at: Fraction, tempo: Fraction = ONE) -> None:
        self._beat, self._line = beat, line
        self._parts = [_Part(0, Fraction(0), at, tempo)]

    def due(self, word: int) -> Fraction:
        """The watch second at which `word`, not before the last change, begins."""
        last = self._parts[-1]
        return last.at + (self._line.words[word][0] - last.cut) / last.tempo

    @property
    def out(self) -> Fraction:
        """The watch second at which the line is out."""
        last = self._parts[-1]
        return last.at + (self._line.seconds - last.cut) / last.tempo

    def wait(self, word: int, seconds: Fraction) -> None:
        """Be silent for so long before `word`."""
        last = self._parts[-1]
        if word <= last.first:
            self._parts[-1] = replace(last, at=last.at + seconds)
            return
        cut = self._line.cut_before(word)
        at = last.at + (cut - last.cut) / last.tempo
        self._parts.append(_Part(word, cut, at + seconds, last.tempo))

    def meet(self, word: int, at: Fraction) -> bool:
        """Say `word` at watch second `at` by a change of tempo nobody hears; whether that is possible."""
        last = self._parts[-1]
        way = self._line.words[word][0] - last.cut
        if way <= 0 or at <= last.at or abs(self.due(word) - at) > min(TRIFLE, way / 100):
            return False
        self._parts[-1] = replace(last, tempo=way / (at - last.at))
        return True

    def go_on_at(self, word: int, tempo: Fraction) -> None:
        """Say what follows from `word` on at `tempo`."""
        if tempo == self._parts[-1].tempo:
            return
        made = _Part(word, self._line.words[word][0], self.due(word), tempo)
        if made.cut == self._parts[-1].cut:
            self._parts[-1] = made
        else:
            self._parts.append(made)

    def phrases(self) -> Iterator[Phrase]:
        """What is said in one go, in order; each has a word or is what is heard round one."""
        ends = [(p.first, p.cut) for p in self._parts[1:]] + [(len(self._line.words), self._line.seconds)]
        for part, (end, until) in zip(self._parts, ends, strict=True):
            if until > part.cut:
                yield Phrase(self._beat.id, part.first, end, part.cut, until, part.at, part.tempo)


def tempo_of(speech: Fraction, hurried: float, lingered: float) -> Fraction:
    """How many times as fast `speech` seconds are said so that they are quicker or slower by so many seconds."""
    spoken = speech - Fraction(round((hurried - lingered) * 10**6), 10**6)
    return ONE if spoken <= 0 or spoken == speech else speech / spoken
