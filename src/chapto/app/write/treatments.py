"""Treatments in the creator's words. Free of Qt."""

from __future__ import annotations

from fractions import Fraction

from chapto.clock.timecode import clock_text
from chapto.document.script import Again, Cutaway, Hold, Run, SideBySide, Skip, Slow, TextCard, Treatment

CHOICES: tuple[tuple[str, Treatment | None], ...] = (
    ("Let the fit decide", None),
    ("Run at full speed", Run()),
    ("Slow, three quarters", Slow(Fraction(3, 4))),
    ("Slow, half speed", Slow(Fraction(1, 2))),
    ("Slow, a quarter", Slow(Fraction(1, 4))),
    ("Hold where it is", Hold()),
    ("Again from 5 s back, half speed", Again(Fraction(5), Fraction(1, 2))),
    ("Again from 5 s back, full speed", Again(Fraction(5), Fraction(1))),
    ("Again from 5 s back, twice", Again(Fraction(5), Fraction(1), 2)),
)
"""What a beat's menu always offers; what needs a moment or a place on the mat clock is added where those are known."""


def treatment_text(treatment: Treatment | None) -> str:
    """A treatment as a beat shows it."""
    match treatment:
        case Run():
            return "runs"
        case Slow(rate):
            return f"slow {float(rate):g}×"
        case Hold(moment):
            return "holds on its moment" if moment else "holds"
        case Again(back, rate, times):
            often = f", {times} times" if times > 1 else ""
            return f"again from {float(back):g} s back at {float(rate):g}×{often}"
        case Skip():
            return "skips ahead"
        case Cutaway(at, rate, seconds, inset):
            what = "small picture of" if inset else "cutaway to"
            lasts = f" for {float(seconds):g} s" if seconds else ""
            return f"{what} {clock_text(at)} at {float(rate):g}×{lasts}"
        case SideBySide(one, other, _):
            return f"{clock_text(one)} beside {clock_text(other)}"
        case TextCard(text):
            return f"card: {text.splitlines()[0] if text else ''}"
    return "fit decides"
