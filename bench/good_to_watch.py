"""What is good to watch. Narrations whose pace changes by 25 % either way, straight through on as much picture as talk:
how much of the stretched picture goes when the voice may hurry and linger (aim: two thirds). Stop-and-talk on half as
much picture as talk: the share of the programme in undrawn stills over 8 s, before and after the best way out of each
is taken (aim: 20 % at most), and whether all ties still meet. An edit of one beat of 4,000 words: processor time."""

from __future__ import annotations

import time
from fractions import Fraction

from msgspec.structs import replace
from tests.document.samples import small

from bench.hour_of_talk import talk
from bench.narrations import TALKS, narration, uneven
from chapto.clock.passage import Kind
from chapto.document import edit_script
from chapto.document.breakdown import Breakdown
from chapto.document.checks import checked
from chapto.pacing.fitted import Lack
from chapto.pacing.spoken import SpokenLine
from chapto.pacing.styles import HouseStyle, house_styles
from chapto.programme.angles import AngleTrack
from chapto.programme.compile import compile_programme
from chapto.programme.placed import TieState
from chapto.programme.programme import Programme
from chapto.programme.sections import fit_script
from chapto.programme.ways.best_for_all import best_for_all


def stretched(b: Breakdown, voices: dict[str, SpokenLine], style: HouseStyle) -> Fraction:
    """Watch seconds by which slowing and holding make the picture longer than it was."""
    (fitted,) = fit_script(b, voices, {b.style: style}, AngleTrack(b))
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
    less = float(1 - breathes / without)
    print(
        f"straight through: {float(without):.0f} s stretched at one pace, {float(breathes):.0f} s when the voice "
        f"breathes: {less:.0%} less (aim 67 %)"
    )


def dull(p: Programme) -> float:
    """The share of a programme in which one undrawn picture has been standing for more than 8 s at a time."""
    return float(sum((s.seconds for s in p.shortfalls if s.lack is Lack.STILL), Fraction(0)) / p.seconds)


def half_as_much_picture(every: int) -> None:
    """Stop-and-talk before and after the best way out of every still."""
    for name in TALKS:
        b, lines = narration(name, Fraction(1, 2), "stop-and-talk", every=every)
        before = compile_programme(b, lines)
        begun = time.process_time()
        made = best_for_all(b, lines)
        took = time.process_time() - begun
        after = compile_programme(checked(made.breakdown), lines)
        met = sum(t.state is TieState.MET for t in after.ties)
        lacks = ", ".join(sorted({s.lack.name for s in after.shortfalls})) or "nothing"
        print(
            f"{name}, {float(before.seconds):.0f} s, {len(after.ties)} ties: {dull(before):.0%} in dull stills, "
            f"{dull(after):.0%} after {made.taken} ways out ({made.left} without; aim 20 %), {met} ties met, "
            f"{took:.1f} s of CPU; lacking: {lacks}"
        )


def one_long_beat() -> None:
    """An edit of an exchange of one beat of 4,000 words."""
    words = " ".join(" ".join(words) for _, words in talk("walk-through")).split()
    text = " ".join((words * 20)[:4000])
    footage = replace(small().footage[0], duration=Fraction(1400))
    b = replace(small(), footage=(footage,), moments=(), labels=(), script=small().script)
    b = replace(b, exchanges=(replace(b.exchanges[0], end=Fraction(1300)),))
    beat = replace(b.script[0].beats[0], text=text, ties=())
    b = replace(b, script=(replace(b.script[0], beats=(beat,)),))
    b = edit_script.tie_all(b, [("b1", 200 * i, Fraction(20 + 60 * i)) for i in range(1, 20)])
    compile_programme(b, {})
    changed = []
    for number in range(4):
        begun = time.process_time()
        b = edit_script.rewrite(b, "b1", f"{text[:5000]} well{number} {text[5000:]}")
        compile_programme(b, {})
        changed.append(time.process_time() - begun)
    print(f"one beat of 4,000 words: an edit costs {sorted(changed)[1]:.2f} s of CPU (aim 0.3)")


if __name__ == "__main__":
    breathing()
    half_as_much_picture(1)
    half_as_much_picture(3)
    one_long_beat()
