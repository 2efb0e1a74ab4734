"""Treatments in the creator's words. Free of Qt."""

from __future__ import annotations

from fractions import Fraction

from chapto.document.script import Again, Cutaway, Hold, Run, Slow, Treatment

CHOICES: tuple[tuple[str, Treatment | None], ...] = (
    ("Let the fit decide", None),
    ("Run at full speed", Run()),
    ("Slow, three quarters", Slow(Fraction(3, 4))),
    ("Slow, half speed", Slow(Fraction(1, 2))),
    ("Slow, a quarter", Slow(Fraction(1, 4))),
    ("Hold where it is", Hold()),
    ("Again from 5 s back, half speed", Again(Fraction(5), Fraction(1, 2))),
    ("Again from 5 s back, full speed", Again(Fraction(5), Fraction(1))),
)
"""What a beat's menu offers; cutting away to what is on the screen is added there."""


def treatment_text(treatment: Treatment | None) -> str:
    """A treatment as a beat shows it."""
    match treatment:
        case None:
            return "fit decides"
        case Run():
            return "runs"
        case Slow(rate):
            return f"slow {float(rate):g}×"
        case Hold(""):
            return "holds"
        case Hold():
            return "holds on its moment"
        case Again(back, rate):
            return f"again from {float(back):g} s back at {float(rate):g}×"
        case Cutaway(_, rate):
            return f"cutaway at {float(rate):g}×"
