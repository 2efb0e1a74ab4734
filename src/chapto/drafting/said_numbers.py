"""Numbers and times as they are said."""

from __future__ import annotations

from fractions import Fraction

_SMALL = (
    "no", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten", "eleven", "twelve", "thirteen",
    "fourteen", "fifteen", "sixteen", "seventeen", "eighteen", "nineteen", "twenty",
)  # fmt: skip
_TENS = {2: "twenty", 3: "thirty", 4: "forty", 5: "fifty"}
EXACT = 3
"""Seconds within which a rounded time is said without “about”."""


def number(n: int) -> str:
    """A whole number from 0 to 59 in words; more in figures."""
    if n <= 20:
        return _SMALL[n]
    if n >= 60:
        return str(n)
    tens, ones = divmod(n, 10)
    return _TENS[tens] + (f"-{_SMALL[ones]}" if ones else "")


def duration(seconds: Fraction) -> str:
    """Seconds as they are said, rounded to tens, to half minutes from a minute and a half on; “about” where more than
    `EXACT` seconds are rounded away."""
    if seconds < 7:
        return f"{number(max(round(seconds), 1))} second{'s' if round(seconds) > 1 else ''}"
    if seconds < 25:
        rounded = 5 * round(seconds / 5)
        text = f"{number(rounded)} seconds"
    elif seconds < 55:
        rounded = 10 * round(seconds / 10)
        text = f"{number(rounded)} seconds"
    else:
        halves = round(seconds / 30)
        rounded = 30 * halves
        text = _minutes(halves)
    return text if abs(seconds - rounded) <= EXACT else f"about {text}"


def _minutes(halves: int) -> str:
    whole, half = divmod(halves, 2)
    if halves == 2:
        return "a minute"
    if halves == 3:
        return "a minute and a half"
    return f"{number(whole)} and a half minutes" if half else f"{number(whole)} minutes"
