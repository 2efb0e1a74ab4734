"""Ties that offer themselves: of words that point, with the moment each likeliest means, and of words beside which a
time came with the script."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from fractions import Fraction

from chapto.document.bout import Exchange, Moment
from chapto.document.breakdown import Breakdown
from chapto.document.script import MARKS, Beat, Section, words_of
from chapto.drafting.draft import is_untouched
from chapto.pacing.meant_moment import named_by, sentence_round
from chapto.pacing.pointing_words import pointing_words

APART = Fraction(1, 2)
"""Mat seconds between what is tied and a place where most happens; also how far from a logged moment a time written in
whole seconds may mean it."""


Peak = Callable[[Fraction, Fraction], "Fraction | None"]
"""Gives the mat second between two others at which most happens; None where that is not known."""


@dataclass(frozen=True)
class Offer:
    """Word `word` of a beat is not tied, but points or came with a time (`stamped`). `at` is the mat second it
    likeliest means, at `moment`. Where no moment is logged for it (None) that is its time, or where most happens."""

    beat: str
    word: int
    text: str
    at: Fraction
    moment: Moment | None
    stamped: bool = False


@dataclass
class _Word:
    """A word of a section that is tied or may be: its place on the mat, once that is known."""

    beat: str
    word: int
    text: str
    tied: bool = False
    stamped: bool = False
    at: Fraction | None = None
    moment: Moment | None = None
    sentence: tuple[str, ...] = ()


def offers(b: Breakdown, peak: Peak | None = None) -> tuple[Offer, ...]:
    """Every offer of the script, in order."""
    return tuple(o for section in b.script for o in section_offers(b, section, peak))


def section_offers(b: Breakdown, section: Section, peak: Peak | None = None) -> tuple[Offer, ...]:
    """The offers of one section, each later on the mat than what is tied or offered before it.

    A word with a time is offered that time, if it lies in the section's exchange. A pointing word is offered the moment
    that its sentence names, wherever it stands among those of the exchange that are left; else the next one in order;
    where there is none, the place where most happens in between. Words of one tie or offer limit the others.
    """
    if not section.exchange or section.as_filmed:
        return ()
    exchange = b.exchange(section.exchange)
    words = [w for beat in section.beats for w in _words(b, beat)]
    taken = {w.moment.id for w in words if w.moment is not None}
    free = [m for m in b.moments if exchange.start <= m.at <= exchange.end and m.id not in taken]
    _place_stamped(words, exchange, free)
    _place_named(words, free)
    _place_in_order(words, exchange, free, peak)
    return tuple(
        Offer(w.beat, w.word, w.text, w.at, w.moment, w.stamped) for w in words if not w.tied and w.at is not None
    )


def _words(b: Breakdown, beat: Beat) -> Iterator[_Word]:
    by_word = {t.word: b.moment(t.moment) for t in beat.ties}
    stamps = {s.word: s.at for s in beat.stamps}
    # A draft is tied already where it points.
    pointing = set() if is_untouched(beat) else set(pointing_words(beat.text))
    if not by_word and not stamps and not pointing:
        return
    for word, text in enumerate(words_of(beat.text)):
        bare = text.strip(MARKS)
        if word in by_word:
            moment = by_word[word]
            yield _Word(beat.id, word, bare, tied=True, at=moment.at, moment=moment)
        elif word in stamps:
            yield _Word(beat.id, word, bare, stamped=True, at=stamps[word])
        elif word in pointing:
            yield _Word(beat.id, word, bare, sentence=sentence_round(beat.text, word))


def _place_stamped(words: list[_Word], exchange: Exchange, free: list[Moment]) -> None:
    """Times that lie outside the exchange, or before what stands before them, offer nothing."""
    for i, w in enumerate(words):
        if not w.stamped or w.at is None:
            continue
        after, limit = _limits(words, i)
        stands = exchange.start <= w.at < exchange.end and (after is None or after < w.at)
        if not stands or (limit is not None and w.at >= limit):
            w.at = None
            continue
        at = w.at
        near = [m for m in _between(free, after, limit) if abs(m.at - at) <= APART and at.denominator == 1]
        if near:
            w.moment = min(near, key=lambda m: abs(m.at - at))
            w.at = w.moment.at
            free.remove(w.moment)


def _place_named(words: list[_Word], free: list[Moment]) -> None:
    for i, w in enumerate(words):
        if w.at is None and w.sentence:
            named = named_by(w.sentence, _between(free, *_limits(words, i)))
            if named is not None:
                w.at, w.moment = named.at, named
                free.remove(named)


def _place_in_order(words: list[_Word], exchange: Exchange, free: list[Moment], peak: Peak | None) -> None:
    for i, w in enumerate(words):
        if w.at is not None or not w.sentence:
            continue
        after, limit = _limits(words, i)
        likely = next(iter(_between(free, after, limit)), None)
        if likely is not None:
            free.remove(likely)
            w.at, w.moment = likely.at, likely
        else:
            start = exchange.start if after is None else max(after, exchange.start)
            w.at = _busiest(peak, start, exchange.end if limit is None else limit)


def _limits(words: list[_Word], i: int) -> tuple[Fraction | None, Fraction | None]:
    """Mat seconds of what is placed last before word `i` and first after it. Times from the script that are not placed
    yet limit nothing that follows them."""
    before = next((w.at for w in reversed(words[:i]) if w.at is not None), None)
    after = next((w.at for w in words[i + 1 :] if w.at is not None and (w.tied or not words[i].stamped)), None)
    return before, after


def _between(free: list[Moment], after: Fraction | None, limit: Fraction | None) -> list[Moment]:
    return [m for m in free if (after is None or after < m.at) and (limit is None or m.at < limit)]


def _busiest(peak: Peak | None, start: Fraction, end: Fraction) -> Fraction | None:
    """Where most happens between two mat seconds, kept a little away from both."""
    start, end = start + APART, end - APART
    return peak(start, end) if peak is not None and start < end else None
