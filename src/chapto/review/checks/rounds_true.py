"""Rounds, tries and times of the clock that are said and are not those of the log."""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction

from chapto.document.bout import Exchange
from chapto.document.breakdown import Breakdown
from chapto.drafting.said_numbers import duration, number
from chapto.lexicon.lexicon import Lexicon
from chapto.matlog.bout_clock import BoutClock
from chapto.publish.talks.named_in_talk import mat_at_word
from chapto.review.finding import Finding, Weight, Where
from chapto.review.mends import write_instead
from chapto.review.reviewed import Part
from chapto.review.texts import Text, read

ORDINALS = ("first", "second", "third", "fourth", "fifth", "sixth", "seventh", "eighth", "ninth", "tenth")
_NUMBERS = {number(n): n for n in range(1, 60)} | {str(n): n for n in range(1, 600)} | {"a": 1, "half": 0}
ROUGHLY, NEARLY = Fraction(15), Fraction(6)
"""Seconds by which a time may be off that is said in minutes, or in seconds."""
_LEFT = (("left",), ("to", "go"), ("remaining",), ("on", "the", "clock"))


def rounds(part: Part) -> Iterator[Finding]:
    """“In the second round” over a picture of the third."""
    b = part.b
    if len(b.rounds) < 2:
        return
    clock = BoutClock(b)
    order = sorted(b.rounds, key=lambda r: r.start)
    for beat in part.read():
        text = read(beat.text)
        for i, word in enumerate(text.plain[:-1]):
            said = ORDINALS.index(word) + 1 if word in ORDINALS and text.plain[i + 1] == "round" else 0
            said = said or (_NUMBERS.get(text.plain[i + 1], 0) if word == "round" else 0)
            at = mat_at_word(b, beat, i + 1) if said else None
            here = clock.round_at(at) if at is not None else None
            if here is None or order[said - 1 : said] == [here] or _numbered(here.name) in (said,):
                continue
            quote = text.quote(i, i + 2)
            where = Where(part.said_at(beat.id, i), beat.id, i)
            yield Finding(Weight.MUST, f"You say “{quote}”; the log has “{here.name}” there.", where, quote)


def tries(part: Part) -> Iterator[Finding]:
    """“The third try” that is the second of its kind."""
    b = part.b
    if not part.section.exchange:
        return
    x = b.exchange(part.section.exchange)
    now = _nth_try(b, part.lexicon, x)
    if not now:
        return
    for beat in part.read():
        text = read(beat.text)
        for i, word in enumerate(text.plain[:-1]):
            follows = text.plain[i + 1] in ("try", "attempt")
            this = set(text.plain[max(i - 3, 0) : i]) & {"this", "now", "here", "his", "her"}
            if word not in ORDINALS or not follows or not this or ORDINALS.index(word) + 1 == now:
                continue
            quote, right = text.quote(i, i + 2), ORDINALS[min(now, len(ORDINALS)) - 1]
            where = Where(part.said_at(beat.id, i), beat.id, i)
            sentence = f"You say “{quote}”; in the log it is the {right}."
            yield Finding(Weight.MUST, sentence, where, quote, mend=write_instead(beat.id, i, i + 1, right))


def time_left(part: Part) -> Iterator[Finding]:
    """“With thirty seconds left” at another time of the bout."""
    b = part.b
    clock = BoutClock(b)
    for beat in part.read() if b.rounds else ():
        text = read(beat.text)
        for first, end, seconds in times_left(text):
            at = mat_at_word(b, beat, end)
            if at is None or clock.round_at(at) is None:
                continue
            left = clock.left(at)
            if abs(left - seconds) <= (ROUGHLY if seconds >= 60 else NEARLY):
                continue
            quote = text.quote(first, end)
            where = Where(part.said_at(beat.id, first), beat.id, first)
            sentence = f"You say “{quote}” are left; the bout's clock has {duration(left)} there."
            mend = write_instead(beat.id, first, end, duration(left).removeprefix("about "))
            yield Finding(Weight.MUST, sentence, where, quote, mend=mend)


def times_left(text: Text) -> Iterator[tuple[int, int, Fraction]]:
    """Half-open ranges of words that say how long is left (“a minute and a half” of “… left”), with the seconds."""
    for i, word in enumerate(text.plain):
        unit = 60 if word in ("minute", "minutes") else 1 if word in ("second", "seconds") else 0
        count = _NUMBERS.get(text.plain[i - 1]) if unit and i else None
        if not unit or count is None:
            continue
        end = i + 1
        half = text.plain[end : end + 3] == ("and", "a", "half")
        end += 3 if half else 0
        if not any(text.plain[end : end + len(way)] == way for way in _LEFT):
            continue
        first = i - 1
        if count == 0:
            yield first, end, Fraction(unit, 2)
        else:
            yield first, end, Fraction(unit * count) + (Fraction(unit, 2) if half else 0)


def _nth_try(b: Breakdown, lexicon: Lexicon, x: Exchange) -> int:
    """Which try of this technique by this side it is, from 1; 0 where that is not logged."""
    if x.by is None or not x.technique:
        return 0
    here = BoutClock(b).round_at(x.start)
    known = lexicon.technique_named(x.technique)

    def same(o: Exchange) -> bool:
        other = lexicon.technique_named(o.technique)
        alike = o.technique.casefold() == x.technique.casefold() or (known is not None and other is known)
        return o.by is x.by and alike and (here is None or here.start <= o.start <= here.end)

    rows = sorted((o for o in b.exchanges if same(o)), key=lambda o: o.start)
    return rows.index(x) + 1 if x in rows else 0


def _numbered(name: str) -> int:
    plain = read(name).plain
    return next((n for w in plain if (n := _NUMBERS.get(w, 0)) > 0 and w != "a"), 0)
