"""The one place that numbers, times and texts from outside pass: files, captions, lists, the command line.

Far beyond anything a bout needs, and near enough that nothing they lead to can run for hours or fill a disk.
"""

from __future__ import annotations

import re
from fractions import Fraction

LATEST = 10_000_000
"""Seconds: no time lies farther from zero (116 days)."""
LONGEST_NUMBER = 40
"""Characters of a number."""
LONGEST_TEXT = 20_000
"""Characters of a beat or a note."""
LONGEST_NAME = 1_000
"""Characters of a name, a title or an id."""
SLOWEST, FASTEST = Fraction(1, 20), Fraction(4)
"""Rates a picture may run at."""
MOST_RATES = 12
"""Rates that one exchange may be allowed beyond its house style."""
LONGEST_WAIT = 3_600
"""Seconds that anything may be held, waited for or gone back."""
SHORTEST_LOOP = Fraction(1, 2)
"""Mat seconds that go round at least: fewer flicker."""
MOST_POINTS = 999
FINEST = 10**12
"""The largest denominator that is written: a billionth of a millisecond."""
_NUMBER = re.compile(r"[+-]?\d+(?:\.\d+|/\d+)?", re.ASCII)


def number(text: str) -> Fraction:
    """The exact number `12.5`, `-3` or `1001/30000`, at most `LATEST` from zero; `ValueError` says what is wrong."""
    text = text.strip()
    if len(text) > LONGEST_NUMBER:
        raise ValueError(f"“{text[:12]}…” is longer than the {LONGEST_NUMBER} characters of a number")
    if not _NUMBER.fullmatch(text):
        raise ValueError(f"“{text}” is no exact number")
    try:
        value = Fraction(text)
    except ZeroDivisionError:
        raise ValueError(f"“{text}” is no exact number") from None
    if abs(value) > LATEST:
        raise ValueError(f"“{text}” lies beyond what Chapto counts, {LATEST:,} s")
    return value


def clock_seconds(text: str) -> Fraction | None:
    """Seconds of `12.5`, `12,5`, `1001/30000`, `1:02`, `1:02.5` or `1:02:03`; None where it is no such time."""
    parts = text.strip().replace(",", ".").split(":")
    if len(parts) > 3:
        return None
    try:
        total = Fraction(0)
        for part in parts:
            total = total * 60 + number(part)
        return total if abs(total) <= LATEST else None
    except ValueError:
        return None


def points(text: str) -> int | None:
    """A whole number of points, up to `MOST_POINTS` either way; None where it is none."""
    if not re.fullmatch(r"[+-]?\d{1,6}", text.strip(), re.ASCII):
        return None
    found = int(text)
    return found if abs(found) <= MOST_POINTS else None


def is_time(value: Fraction) -> bool:
    """Whether a time is one that is counted."""
    return -LATEST <= value <= LATEST


def text_problem(text: str, longest: int = LONGEST_NAME) -> str:
    """What keeps a text out of a document, as the end of a sentence; nothing when it is fine."""
    if len(text) > longest:
        return f"is longer than {longest:,} characters"
    if not text.isascii():
        try:
            text.encode("utf-8")
        except UnicodeEncodeError:
            return "holds half a letter, which no file can keep"
    return ""
