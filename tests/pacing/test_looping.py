"""What goes round takes exactly as long as the words, stays inside its stretch, and meets what words are tied to."""

import itertools
from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from chapto.clock.passage import Kind
from chapto.document.treatments import Loop
from chapto.pacing.fit import fit
from chapto.pacing.fitted import FitBeat, FitExchange, Fitted, Lack, Stop
from chapto.pacing.looping import Ring
from chapto.pacing.spoken import SpokenLine
from chapto.pacing.styles import house_styles

F = Fraction
TALK = house_styles()["stop-and-talk"]
tenths = st.integers(0, 10).map(lambda n: F(n, 10))


@given(
    st.integers(5, 50).map(lambda n: F(n, 10)), st.sampled_from([F(1, 4), F(1, 2), F(1)]), st.booleans(), tenths,
    tenths, st.fractions(0, 60, max_denominator=30),
)  # fmt: skip
def test_a_way_round_is_as_long_as_asked_inside_and_ends_where_asked(
    size: F, rate: F, turns: bool, at: F, goal: F, more: F
) -> None:
    ring = Ring(F(7), F(7) + size, rate, turns)
    at, goal = 7 + size * at, 7 + size * goal
    length = ring.shortest(at, goal) + more
    way = list(ring.way(at, goal, length))
    assert sum(abs(x.end - x.start) + x.stands for x in way) == length
    assert all(ring.low <= edge <= ring.high for x in way for edge in (x.start, x.end))
    if way and goal != ring.low:
        assert way[-1].end == goal
    if not turns:
        assert all(x.start <= x.end for x in way)
    else:
        assert all(a.end == b.start for a, b in itertools.pairwise(way))


def looped(loop: Loop, *ties: tuple[F, F], seconds: int = 12) -> Fitted:
    """An exchange of 10 s whose first beat stops at 6 s, and a second of `seconds` words, a second each, that loops;
    `ties` are (word, moment)."""
    first = FitBeat("b1", (Stop(0, F(6)),), (0,))
    words = SpokenLine(tuple((F(i), F(i) + F(9, 10)) for i in range(seconds)), F(seconds))
    round_it = FitBeat("b2", tuple(Stop(int(w), at) for w, at in ties), (0,), loop)
    voice = {"b1": SpokenLine(((F(0), F(1)),), F(1)), "b2": words}
    return fit(FitExchange(F(0), F(10), (first, round_it)), voice, TALK)


def test_the_last_seconds_go_round_until_the_words_are_out_and_then_the_picture_goes_on() -> None:
    got = looped(Loop(F(3), F(1, 2)))
    rounds = [x for x in got.legs if x.kind is Kind.LOOP]
    assert all(3 <= x.mat_in <= 6 and x.rate == F(1, 2) for x in rounds)
    assert sum(x.seconds for x in rounds) == 12
    assert (got.legs[-1].kind, got.legs[-1].mat_in) == (Kind.RUN, 6)


def test_to_and_fro_turns_at_both_ends_and_never_jumps() -> None:
    got = looped(Loop(F(3), F(1, 2), to_and_fro=True))
    rounds = [x for x in got.legs if x.kind is Kind.LOOP]
    assert {x.rate for x in rounds} == {F(1, 2), F(-1, 2)}
    for before, after in itertools.pairwise(rounds):
        assert before.mat_in + before.rate * before.seconds == after.mat_in
    assert rounds[0].mat_in == rounds[-1].mat_in + rounds[-1].rate * rounds[-1].seconds == 6


@pytest.mark.parametrize("turns", [False, True])
def test_words_meet_their_moments_each_time_round(turns: bool) -> None:
    got = looped(Loop(F(3), F(1, 2), turns), (F(2), F(5)), (F(6), F(4)), (F(10), F(6)))
    assert [(t.said, t.shown) for t in got.ties[1:]] == [(t.said, t.said) for t in got.ties[1:]]
    assert got.shortfalls == ()


def test_a_moment_outside_of_what_goes_round_is_reported() -> None:
    got = looped(Loop(F(3), F(1, 2)), (F(2), F(1)))
    assert [(s.lack, s.seconds) for s in got.shortfalls] == [(Lack.ELSEWHERE, 2)]


def test_before_anything_was_shown_the_first_seconds_go_round() -> None:
    only = FitBeat("b1", (), (0,), Loop(F(3), F(1)))
    got = fit(FitExchange(F(2), F(10), (only,)), {"b1": SpokenLine(((F(0), F(8)),), F(8))}, TALK)
    rounds = [x for x in got.legs if x.kind is Kind.LOOP]
    assert rounds and all(x.mat_in >= 2 and x.mat_in + x.seconds <= 5 for x in rounds)
