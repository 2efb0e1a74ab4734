"""Mat time and other exact numbers as they stand in a file: decimal where that is exact, else a fraction."""

from __future__ import annotations

from fractions import Fraction
from typing import Any

import msgspec

from chapto.document.bounds import FINEST, LONGEST_NUMBER, number


def fraction_to_text(value: Fraction) -> str:
    """`12.5` for 25/2, `1001/30000` where no decimal is exact. `Fraction(text)` reads both back. What would be longer
    than a number may be is written to the nearest that is not, less than 10⁻¹² off."""
    text = _exactly(value)
    return text if len(text) <= LONGEST_NUMBER else _exactly(value.limit_denominator(FINEST))


def _exactly(value: Fraction) -> str:
    rest = value.denominator
    for prime in (2, 5):
        while rest % prime == 0:
            rest //= prime
    if rest != 1:
        return f"{value.numerator}/{value.denominator}"
    digits = 0
    while (value * 10**digits).denominator != 1:
        digits += 1
    whole = f"{abs(int(value * 10**digits)):0{digits + 1}d}"
    text = f"{whole[:-digits]}.{whole[-digits:]}" if digits else whole
    return "-" + text if value < 0 else text


def encode_hook(value: Any) -> Any:
    """msgspec hook: fractions become text."""
    if isinstance(value, Fraction):
        return fraction_to_text(value)
    raise NotImplementedError(f"no file form for {type(value).__name__}")


def decode_hook(kind: type, value: Any) -> Any:
    """msgspec hook: text becomes a fraction."""
    if kind is Fraction and isinstance(value, str):
        return number(value)
    raise ValueError("a time has to be written as text, like “12.5” or “1001/30000”")


def exact(text: str) -> Any:
    """A field whose default is `Fraction(text)`; written so that the JSON Schema can be made of its struct."""
    return msgspec.field(default_factory=lambda: Fraction(text))
