"""Passages tile watch time; the map and its inverse agree; nothing adds up."""

from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from chapto.clock.passage import Kind, Passage, Piece, lay
from chapto.clock.rates import RATES, ClockError
from chapto.clock.timemap import TimeMap

SPEEDS = (Fraction(1), Fraction(3, 4), Fraction(1, 2), Fraction(1, 4), Fraction(2))
seconds = st.fractions(min_value=0, max_value=20, max_denominator=1000)
pieces = st.lists(
    st.one_of(
        st.builds(Piece, st.just(Kind.RUN), st.just("f1"), seconds, st.sampled_from(SPEEDS), seconds),
        st.builds(Piece, st.just(Kind.LOOP), st.just("f1"), seconds, st.just(Fraction(-1, 2)), seconds),
        st.builds(Piece, st.just(Kind.HOLD), st.just("f1"), seconds, st.just(Fraction(0)), seconds),
    ),
    max_size=40,
)


@given(pieces, st.sampled_from(RATES))
def test_passages_tile_watch_time(plan: list[Piece], fps: Fraction) -> None:
    at = 0
    for passage in lay(plan, fps):
        assert passage.watch_in == at
        at = passage.watch_out
    total = sum((p.seconds for p in plan), Fraction(0))
    assert abs(at - total * fps) <= Fraction(1, 2)


@given(pieces, st.sampled_from(RATES))
def test_every_edge_is_within_half_a_frame_of_its_plan(plan: list[Piece], fps: Fraction) -> None:
    edges = {p.watch_in for p in lay(plan, fps)}
    total = Fraction(0)
    for piece in plan:
        if piece.seconds * fps >= 1:
            assert any(abs(edge - total * fps) <= Fraction(1, 2) for edge in edges)
        total += piece.seconds


def test_no_rounding_accumulates_over_ten_thousand_passages() -> None:
    fps = Fraction(30000, 1001)
    third = Fraction(1, 3)
    plan = [Piece(Kind.RUN, "f1", i * third, Fraction(1), third) for i in range(10_000)]
    passages = lay(plan, fps)
    assert len(passages) == 10_000
    for i, passage in enumerate(passages):
        assert abs(passage.watch_in - i * third * fps) <= Fraction(1, 2)


@given(pieces.filter(lambda p: sum(x.seconds for x in p) > 1), st.data())
def test_every_frame_is_found_again_from_its_mat_time(plan: list[Piece], data: st.DataObject) -> None:
    time_map = TimeMap(lay(plan, Fraction(30)))
    frame = data.draw(st.integers(0, time_map.frames - 1))
    showings = time_map.watched_at(time_map.mat_at(frame))
    assert any(s.start <= frame < s.end for s in showings)


def _passage(kind: Kind, mat: int, rate: Fraction, watch_in: int, frames: int) -> Passage:
    return Passage(kind, "f1", Fraction(mat), rate, watch_in, frames, Fraction(30))


def test_mat_time_may_be_skipped_shown_once_held_or_shown_again() -> None:
    one, half = Fraction(1), Fraction(1, 2)
    time_map = TimeMap(
        (
            _passage(Kind.RUN, 10, one, 0, 60),
            _passage(Kind.HOLD, 12, Fraction(0), 60, 30),
            _passage(Kind.AGAIN, 11, half, 90, 60),
        )
    )
    assert time_map.watched_at(Fraction(9)) == ()
    assert [(s.start, s.end) for s in time_map.watched_at(Fraction(21, 2))] == [(15, 16)]
    assert [(s.start, s.end) for s in time_map.watched_at(Fraction(23, 2))] == [(45, 46), (120, 121)]
    assert [(s.start, s.end) for s in time_map.watched_at(Fraction(12))] == [(60, 90)]


def test_a_loop_may_run_backwards_and_shows_its_times_once_each_way() -> None:
    time_map = TimeMap((_passage(Kind.LOOP, 12, Fraction(-1), 0, 60), _passage(Kind.LOOP, 10, Fraction(1), 60, 60)))
    assert [time_map.mat_at(f) for f in (0, 30, 60, 90)] == [12, 11, 10, 11]
    assert [s.start for s in time_map.watched_at(Fraction(12))] == [0]
    assert [s.start for s in time_map.watched_at(Fraction(21, 2))] == [45, 75]
    assert [s.start for s in time_map.watched_at(Fraction(10))] == [60]


def test_ranges_are_half_open() -> None:
    run = _passage(Kind.RUN, 10, Fraction(1), 0, 60)
    assert run.mat_out == 12
    assert TimeMap((run,)).watched_at(Fraction(12)) == ()
    with pytest.raises(ClockError):
        run.mat_at(60)


def test_gaps_and_overlaps_between_passages_are_refused() -> None:
    with pytest.raises(ClockError, match="follow one another"):
        TimeMap((_passage(Kind.RUN, 0, Fraction(1), 0, 30), _passage(Kind.RUN, 1, Fraction(1), 31, 30)))


@pytest.mark.parametrize(
    ("kind", "rate"), [(Kind.HOLD, Fraction(1)), (Kind.RUN, Fraction(0)), (Kind.RUN, Fraction(-1))]
)
def test_a_held_picture_has_rate_nothing_and_a_moving_one_more(kind: Kind, rate: Fraction) -> None:
    with pytest.raises(ClockError):
        _passage(kind, 0, rate, 0, 10)
