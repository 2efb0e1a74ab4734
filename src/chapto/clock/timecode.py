"""Timecode as SMPTE ST 12-1 counts it, with drop-frame for 30000/1001 and 60000/1001."""

from __future__ import annotations

import re
from fractions import Fraction
from functools import lru_cache

from chapto.clock.rates import ClockError

_PATTERN = re.compile(r"(\d+):([0-5]\d):([0-5]\d)([:;])(\d\d)")


def drops(rate: Fraction) -> int:
    """Numbers skipped at the start of each minute but every tenth: 2 at 29.97, 4 at 59.94, else 0."""
    return {Fraction(30000, 1001): 2, Fraction(60000, 1001): 4}.get(rate, 0)


def timecode_from_frames(frames: int, rate: Fraction) -> str:
    """Frame count to `hh:mm:ss:ff`, with `;` before the frames where numbers are dropped (ST 12-1)."""
    if frames < 0:
        raise ClockError(f"Frame {frames} lies before the start.")
    base, drop = round(rate), drops(rate)
    if drop:
        minute, ten = 60 * base - drop, 600 * base - 9 * drop
        tens, rest = divmod(frames, ten)
        frames += 9 * drop * tens + (drop * ((rest - drop) // minute) if rest > drop else 0)
    seconds, ff = divmod(frames, base)
    mark = ";" if drop else ":"
    return f"{seconds // 3600:02d}:{seconds // 60 % 60:02d}:{seconds % 60:02d}{mark}{ff:02d}"


def frames_from_timecode(text: str, rate: Fraction) -> int:
    """`hh:mm:ss:ff` (or `;ff`) to the frame count; refuses dropped and impossible numbers."""
    found = _PATTERN.fullmatch(text.strip())
    base, drop = round(rate), drops(rate)
    if not found or int(found[5]) >= base:
        raise ClockError(f"“{text}” is no timecode at {float(rate):g} frames a second; write hh:mm:ss:ff.")
    hours, minutes, seconds, ff = (int(found[i]) for i in (1, 2, 3, 5))
    if drop and minutes % 10 and seconds == 0 and ff < drop:
        raise ClockError(f"“{text}” does not exist: drop-frame timecode skips that number.")
    total_minutes = 60 * hours + minutes
    return (total_minutes * 60 + seconds) * base + ff - drop * (total_minutes - total_minutes // 10)


@lru_cache(maxsize=8192)
def clock_text(seconds: Fraction | float, *, tenths: bool = False) -> str:
    """Seconds as people write them: `m:ss`, `h:mm:ss` from an hour on; with `tenths`, `m:ss.t`.

    Fractions are cut off, as a running clock shows them.
    """
    value = Fraction(seconds).limit_denominator(10**9)
    sign, value = ("−" if value < 0 else ""), abs(value)
    whole = int(value)
    h, m, s = whole // 3600, whole // 60 % 60, whole % 60
    text = f"{h}:{m:02d}:{s:02d}" if h else f"{m}:{s:02d}"
    return sign + text + (f".{int((value - whole) * 10)}" if tenths else "")
