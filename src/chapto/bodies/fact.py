"""A thing that is measured on the picture, and whether it may be said."""

from __future__ import annotations

from dataclasses import dataclass

TORSOS, DEGREES, SHARES, TORSOS_A_SECOND = "torsos", "degrees", "of the base", "torsos a second"


@dataclass(frozen=True)
class Fact:
    """`value` with its standard `error`, both in `unit`; `at_least` says that the truth may be more.

    What may not be said is shown as a picture only, without a word.
    """

    value: float
    error: float
    unit: str
    may_be_said: bool
    at_least: bool = False
