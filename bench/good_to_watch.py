"""What is good to watch. Narrations whose pace changes by 25 % either way, straight through on as much picture as talk:
how much of the stretched picture goes when the voice may hurry and linger (aim: two thirds). Stop-and-talk on half as
much picture as talk: the share of the programme in undrawn stills over 8 s, before and after the best way out of each
is taken (aim: 20 % at most), and whether all ties still meet. An edit of one beat of 4,000 words: processor time."""

from __future__ import annotations

from fractions import Fraction

from msgspec.structs import replace

from bench.narrations import TALKS, narration, uneven
from chapto.clock.passage import Kind
from chapto.document.breakdown import Breakdown
from chapto.pacing.spoken import SpokenLine
from chapto.pacing.styles import HouseStyle, house_styles
from chapto.programme.angles import AngleTrack
from chapto.programme.sections import fit_script


def stretched(b: Breakdown, voices: dict[str, SpokenLine], style: HouseStyle) -> Fraction:
    """Watch seconds by which slowing and holding make the picture longer than it was."""
    (fitted,) = fit_script(b, voices, style, AngleTrack(b))
    slow = sum((x.seconds * (1 - x.rate) for x in fitted.legs if x.kind is Kind.SLOW), Fraction(0))
    return slow + sum((x.seconds for x in fitted.legs if x.kind is Kind.HOLD), Fraction(0))


def breathing() -> None:
    """Stretched picture with a voice of one pace, and with one that breathes."""
    style = house_styles()["run-through"]
    stiff = replace(style, hurry=Fraction(0), linger=Fraction(0))
    without = breathes = Fraction(0)
    for name in TALKS:
        b, _ = narration(name, Fraction(1), "run-through")
        for seed in range(5):
            voices = uneven(b, seed)
            without += stretched(b, voices, stiff)
            breathes += stretched(b, voices, style)
    print(f"straight through: {float(without):.0f} s stretched at one pace, {float(breathes):.0f} s when the voice")
    print(f"breathes: {float(1 - breathes / without):.0%} less")


if __name__ == "__main__":
    breathing()
