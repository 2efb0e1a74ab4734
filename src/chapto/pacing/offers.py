"""Words that point ("here", "right there", "watch this") and the moment each likeliest means."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from fractions import Fraction
from functools import lru_cache

from chapto.document.bout import Exchange, Moment
from chapto.document.breakdown import Breakdown
from chapto.document.script import MARKS, Beat, Section, words_of
from chapto.pacing.spoken import STOP_PAUSE, pause_after

POINTERS = frozenset({"here", "there", "now", "boom"})
"""Single words that point (common practice of narrators, 1 to 7 a minute)."""
CALLS = frozenset({"watch", "look", "see", "notice"})
"""Words that call for attention: they point only where nothing later in their sentence does."""
POINTED_AT = frozenset(
    {"hand", "foot", "knee", "arm", "grip", "hip", "hips", "frame", "elbow", "shoulder", "head", "leg"}
)
APART = Fraction(1, 2)
"""Mat seconds between what is tied and a place where most happens."""


Peak = Callable[[Fraction, Fraction], "Fraction | None"]
"""Gives the mat second between two others at which most happens; None where that is not known."""


@dataclass(frozen=True)
class Offer:
    """Word `word` of a beat points and is not tied; `at` is the mat second it likeliest means, at `moment`, or where
    most happens when no moment is logged for it (None)."""

    beat: str
    word: int
    text: str
    at: Fraction
    moment: Moment | None


@lru_cache(maxsize=4096)
def pointing_words(text: str) -> tuple[int, ...]:
    """Numbers of the words that point: `POINTERS`, a part of the body after "this" or "that", and `CALLS` in sentences
    that have neither. Of two in a row the last counts."""
    found: list[int] = []
    calls: list[int] = []
    points = False
    words = words_of(text)
    plain = [w.strip(MARKS).casefold() for w in words]
    for i, word in enumerate(plain):
        if _only_leads_in(plain, words, i):
            pass
        elif word in POINTERS or (word in POINTED_AT and i > 0 and plain[i - 1] in ("this", "that")):
            if found and i - found[-1] == 1:
                found.pop()
            found.append(i)
            points = True
        elif word in CALLS:
            calls.append(i)
        if pause_after(words[i]) == STOP_PAUSE or i == len(words) - 1:
            found += [] if points else calls[-1:]
            calls, points = [], False
    return tuple(sorted(found))


def _only_leads_in(plain: list[str], words: tuple[str, ...], i: int) -> bool:
    """“Now this …” at the start of a sentence, “there is”, “there are”, “there we go”: manners of speaking that point
    at nothing (common practice)."""
    following = plain[i + 1 : i + 3]
    first = i == 0 or pause_after(words[i - 1]) == STOP_PAUSE
    if plain[i] == "now":
        return first and following[:1] == ["this"]
    if plain[i] == "there":
        stands = following[:1] in (["is"], ["are"]) and (i == 0 or plain[i - 1] != "right")
        return stands or following == ["we", "go"]
    return False


def offers(b: Breakdown, peak: Peak | None = None) -> tuple[Offer, ...]:
    """An offer for every pointing word that is not tied: the next moment logged in its exchange after the one tied
    before it and before the one tied after it; where there is none left, where most happens in between."""
    return tuple(o for section in b.script for o in section_offers(b, section, peak))


def section_offers(b: Breakdown, section: Section, peak: Peak | None = None) -> tuple[Offer, ...]:
    """The offers of one section."""
    return tuple(_of_section(b, section.exchange, section.beats, peak)) if section.exchange else ()


def _of_section(b: Breakdown, exchange_id: str, beats: tuple[Beat, ...], peak: Peak | None) -> Iterator[Offer]:
    exchange: Exchange = b.exchange(exchange_id)
    inside = [m for m in b.moments if exchange.start <= m.at <= exchange.end]
    tied = {t.moment for beat in beats for t in beat.ties}
    free = [m for m in inside if m.id not in tied]
    after = exchange.start - Fraction(1)
    for i, beat in enumerate(beats):
        by_word = {t.word: t.moment for t in beat.ties}
        pointing = set(pointing_words(beat.text)) - set(by_word)
        for word, text in enumerate(words_of(beat.text)):
            if word in by_word:
                after = b.moment(by_word[word]).at
            elif word in pointing:
                limit = _next_tied(b, beats, i, word)
                likely = next((m for m in free if after < m.at and (limit is None or m.at < limit)), None)
                at = likely.at if likely else _busiest(peak, max(after, exchange.start), limit or exchange.end)
                if at is None:
                    continue
                if likely is not None:
                    free.remove(likely)
                after = at
                yield Offer(beat.id, word, text.strip(MARKS), at, likely)


def _busiest(peak: Peak | None, start: Fraction, end: Fraction) -> Fraction | None:
    """Where most happens between two mat seconds, kept a little away from both."""
    start, end = start + APART, end - APART
    return peak(start, end) if peak is not None and start < end else None


def _next_tied(b: Breakdown, beats: tuple[Beat, ...], i: int, word: int) -> Fraction | None:
    """Mat time of the next tie after a word of beat number `i`."""
    later = [t for t in beats[i].ties if t.word > word]
    for beat in beats[i + 1 :]:
        later += beat.ties
    return b.moment(later[0].moment).at if later else None
