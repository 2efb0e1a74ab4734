"""What did not fit, in the creator's words."""

from __future__ import annotations

from fractions import Fraction

from chapto.pacing.fitted import FitBeat, Lack, Shortfall
from chapto.pacing.spoken import SpokenLine

MICROSECONDS = 10**6
"""Choices of the solver are put on this many parts of a second; what depends on them is then exact."""


def past(beat: FitBeat, word: int, gap: Fraction) -> Shortfall:
    """The picture is `gap` seconds beyond the moment already."""
    sentence = f"The picture is already {float(gap):.1f} s past this moment; let it go again, or tie it earlier."
    return Shortfall(beat.id, word, gap, sentence, Lack.PAST)


def elsewhere(beat: FitBeat, word: int, gap: Fraction, *, card: bool) -> Shortfall:
    """The picture stands on something else, `gap` mat seconds away."""
    what = "A card stands" if card else "The picture holds on another moment"
    sentence = f"{what} under this word; give the beat another treatment, or untie it."
    return Shortfall(beat.id, word, gap, sentence, Lack.ELSEWHERE)


def outside(beat: FitBeat, word: int, gap: Fraction) -> Shortfall:
    """The moment lies `gap` mat seconds outside of what goes round."""
    sentence = f"What goes round ends {float(gap):.1f} s from this moment; let more of it go round, or untie the word."
    return Shortfall(beat.id, word, gap, sentence, Lack.ELSEWHERE)


def too_many_words(beat: FitBeat, line: SpokenLine, word: int, gap: Fraction, granted: Fraction) -> Shortfall:
    """The word is said `gap` seconds after its moment; `granted` of them came about since the stop before."""
    words = max(round(gap * len(line.words) / line.seconds), 1)
    sentence = (
        f"The words come {float(gap):.1f} s after the picture; cut about {words} "
        f"word{'s' if words != 1 else ''} before it, or allow a hold {float(gap):.1f} s longer."
    )
    return Shortfall(beat.id, word, gap, sentence, Lack.LATE, granted)


def too_silent(beat: FitBeat, word: int, wait: Fraction, over: float, where: str, style: str) -> Shortfall:
    """No word for `wait` seconds, `over` of them more than the style allows."""
    seconds = rounded_up(over)
    sentence = f"{float(wait):.1f} s without a word {where}; {style} allows {float(wait) - over:.1f} s."
    return Shortfall(beat.id, max(word, 0), seconds, sentence, Lack.SILENT, seconds)


def outlasted(beat: str, word: int, seconds: Fraction) -> Shortfall:
    """For `seconds` of watch time the picture shows what comes after the exchange."""
    more = rounded_up(float(seconds))
    sentence = f"The words outlast the exchange by {float(seconds):.1f} s; the picture runs on into what comes after."
    return Shortfall(beat, word, more, sentence, Lack.BEYOND, more)


def never_filmed(beat: str, word: int) -> Shortfall:
    """No camera ran at the tied moment."""
    sentence = "No camera saw this moment; tie the word to another one, or move the moment."
    return Shortfall(beat, word, Fraction(0), sentence, Lack.UNFILMED)


def stood_still(beat: str, word: int, seconds: Fraction, most: Fraction) -> Shortfall:
    """The picture stands for `seconds` with nothing drawn on it; beyond `most` it is dull."""
    sentence = f"The picture stands for {float(seconds):.1f} s with nothing drawn on it."
    return Shortfall(beat, word, seconds, sentence, Lack.STILL, seconds - most)


def too_long(beat: str, over: float) -> Shortfall:
    """The exchange passes its part of a length that is a limit."""
    seconds = rounded_up(over)
    sentence = f"This exchange is {float(over):.1f} s longer than its part of the wished length."
    return Shortfall(beat, 0, seconds, sentence, Lack.LENGTH, seconds)


def rounded_up(seconds: float) -> Fraction:
    """The next millionth of a second."""
    return Fraction(int(seconds * MICROSECONDS) + 1, MICROSECONDS)
