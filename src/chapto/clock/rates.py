"""Frame rates of a programme, exactly."""

from __future__ import annotations

from fractions import Fraction

from chapto.errors import ChaptoError


class ClockError(ChaptoError):
    """A time, rate or timecode that makes no sense."""


WHOLE_RATES = (24, 25, 30, 50, 60)
RATES: tuple[Fraction, ...] = tuple(
    sorted({Fraction(r) for r in WHOLE_RATES} | {Fraction(r * 1000, 1001) for r in (24, 30, 60)})
)
"""Every rate a programme may have, in frames a second: whole ones and their 1000/1001 relatives."""


def programme_rate(value: Fraction | int | str) -> Fraction:
    """`value` as one of `RATES`; raises `ClockError` for any other."""
    rate = Fraction(value)
    if rate not in RATES:
        known = ", ".join(str(r) for r in RATES)
        raise ClockError(f"A programme can't run at {rate} frames a second; choose one of {known}.")
    return rate


def nearest_rate(measured: Fraction | float) -> Fraction:
    """The programme rate closest to a footage rate measured in frames a second."""
    return min(RATES, key=lambda r: abs(float(r) - float(measured)))


def frames_from_seconds(seconds: Fraction, rate: Fraction) -> int:
    """The whole frame nearest to `seconds`, halves upward."""
    return (2 * seconds * rate + 1) // 2


def seconds_from_frames(frames: int, rate: Fraction) -> Fraction:
    """The exact time of the start of frame number `frames`, in seconds."""
    return frames / rate
