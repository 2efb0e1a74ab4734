"""How a bout went from position to position."""

from chapto.document.people import Side
from chapto.lexicon.lexicon import shipped_lexicon
from chapto.matlog.bout_clock import BoutClock
from chapto.matlog.flow import steps
from tests.matlog.bouts import bout

LEXICON = shipped_lexicon()
FIRST, SECOND = Side.FIRST, Side.SECOND


def test_every_change_counts_and_standing_still_does_not() -> None:
    b = bout("st - 9, cg 2 5, cg 2 5, sc 1 6, cg 2 4, sc 1 6, mt 1 9")
    found = {(s.start, s.end): (s.count, s.at) for s in steps(b, LEXICON, b.rounds[0])}
    assert found == {
        (("standing", None), ("guard", SECOND)): (1, 9),
        (("guard", SECOND), ("passed", FIRST)): (2, 19),
        (("passed", FIRST), ("guard", SECOND)): (1, 25),
        (("passed", FIRST), ("mount", FIRST)): (1, 35),
    }


def test_scrambles_are_passed_over_and_other_rounds_left_out() -> None:
    b = bout("st - 9, sm - 3, sc 1 6")
    (step,) = steps(b, LEXICON, b.rounds[0])
    assert (step.start[0], step.end) == ("standing", ("passed", FIRST))
    from fractions import Fraction

    from msgspec.structs import replace

    assert steps(b, LEXICON, replace(b.rounds[0], end=Fraction(10))) == ()


def test_without_a_round_the_clock_runs_from_nought() -> None:
    from msgspec.structs import replace

    clock = BoutClock(replace(bout("st - 9"), rounds=()))
    assert clock.round_at(5) is None and clock.gone(5) == 5  # type: ignore[arg-type]
