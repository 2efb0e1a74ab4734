"""The angle track and what it does to the programme."""

from fractions import Fraction
from itertools import pairwise

from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from chapto.clock.passage import Kind
from chapto.document import edit_angles, edit_conditions, edit_log
from chapto.document.condition import ConditionKind
from chapto.pacing.skipping import ShortClock
from chapto.programme.angles import AngleTrack
from chapto.programme.compile import compile_programme
from chapto.programme.programme import Programme
from tests.document.samples import breakdowns, footage, small
from tests.document.test_edit_footage import two_cameras

F = Fraction
K = ConditionKind


def used(b: object) -> list[tuple[object, object, str]]:
    return [(s.start, s.end, s.footage.id) for s in AngleTrack(b).spans]  # type: ignore[arg-type]


def test_the_main_camera_is_used_while_it_runs() -> None:
    assert used(two_cameras()) == [(0, 120, "f1"), (120, 180, "f2")]


def test_where_its_picture_is_no_good_the_other_is_used_if_it_ran() -> None:
    b = edit_conditions.decide(two_cameras(), "f1", K.FOGGED, F(50), F(70), accepted=True)
    assert used(b) == [(0, 60, "f1"), (60, 70, "f2"), (70, 120, "f1"), (120, 180, "f2")]


def test_what_was_thrown_away_and_quiet_stretches_change_no_camera() -> None:
    b = edit_conditions.decide(two_cameras(), "f1", K.FOGGED, F(80), F(90), accepted=False)
    b = edit_conditions.decide(b, "f1", K.IDLE, F(80), F(90), accepted=True)
    assert used(b) == used(two_cameras())


def test_the_creators_choice_goes_before_everything_where_that_camera_ran() -> None:
    b = edit_conditions.decide(two_cameras(), "f2", K.BLOCKED, F(10), F(20), accepted=True)
    b = edit_angles.choose_camera(b, F(70), "f2")
    assert used(b)[1] == (70, 80, "f2")
    assert AngleTrack(b).spans[1].chosen
    early = replace(b, angles=(replace(b.angles[0], start=F(10), end=F(20)),))
    assert AngleTrack(early).at(F(15)).id == "f1"  # type: ignore[union-attr]


@given(st.integers(-20, 260), st.integers(1, 200))
def test_the_track_tiles_any_stretch(start: int, length: int) -> None:
    b = replace(two_cameras(), footage=(footage("f1", 0, 50), footage("f2", 90, 60)))
    parts = list(AngleTrack(b).within(F(start), F(start + length)))
    assert parts[0][0] == start and parts[-1][1] == start + length
    assert all(x[1] == y[0] for x, y in pairwise(parts))
    for a, z, camera in parts:
        middle = (a + z) / 2
        assert AngleTrack(b).at(middle) == camera


def test_the_programme_follows_the_track() -> None:
    b = replace(small(), footage=(footage("f1", 0, 120), footage("f2", 5, 120)))
    assert {p.footage for p in compile_programme(b, {}).passages} == {"f1"}
    chosen = edit_angles.put_angle(b, replace(edit_angles.choose_camera(b, F(10), "f2").angles[0], end=F(14)))
    footage_of = {p.kind: p.footage for p in compile_programme(chosen, {}).passages if p.mat_in < 14}
    assert set(footage_of.values()) == {"f2"}


def test_a_label_that_belongs_to_a_camera_stays_with_it() -> None:
    b = replace(small(), footage=(footage("f1", 0, 120), footage("f2", 5, 120)))
    (label,) = compile_programme(b, {}).labels
    b = replace(b, labels=(replace(b.labels[0], camera="f1"),))
    assert compile_programme(b, {}).labels == (label,)
    turned = edit_angles.choose_camera(b, F(10), "f2")
    assert compile_programme(turned, {}).labels == ()


def test_an_idle_stretch_is_skipped_and_the_tie_still_meets() -> None:
    b = replace(small(), exchanges=(replace(small().exchanges[0], end=F(60)),))
    plain = compile_programme(b, {})
    quiet = edit_conditions.decide(b, "f1", K.IDLE, F(20), F(50), accepted=True)
    p = compile_programme(quiet, {})
    assert plain.seconds - p.seconds == 30
    assert not any(x.kind is Kind.RUN and x.mat_in < 50 and x.mat_out > F("20.1") for x in p.passages)
    assert p.ties[0].state == plain.ties[0].state and p.ties[0].mat == 14


def test_a_moment_that_is_talked_about_is_never_skipped() -> None:
    b = edit_log.change_moment(small(), "m1", at=F(16))
    quiet = edit_conditions.decide(b, "f1", K.IDLE, F(12), F(19), accepted=True)
    p = compile_programme(quiet, {})
    assert p.ties[0].shown is not None
    assert all(p.time_map.watched_at(F(mat)) for mat in ("11.9", "15.2", "16", "16.8", "19.2"))
    assert not any(p.time_map.watched_at(F(mat)) for mat in ("13", "14.8", "17.5", "18.8"))


@given(breakdowns(), st.lists(st.tuples(st.integers(0, 50), st.integers(1, 20)), max_size=3))
def test_whatever_is_skipped_passages_tile_and_nothing_skipped_is_shown_running(
    b: object, idle: list[tuple[int, int]]
) -> None:
    for start, length in idle:
        if start < 40:
            b = edit_conditions.decide(b, "f1", K.IDLE, F(start), F(start + length), accepted=True)  # type: ignore[arg-type]
    p = compile_programme(b, {})  # type: ignore[arg-type]
    at = 0
    for x in p.passages:
        assert x.watch_in == at
        at = x.watch_out
    quiet = [(c.start, c.end) for c in b.conditions if c.accepted]  # type: ignore[attr-defined]
    plain = compile_programme(replace(b, conditions=()), {})  # type: ignore[arg-type]
    assert seconds_within(p, quiet) <= seconds_within(plain, quiet) + len(p.passages) / p.fps


def seconds_within(p: Programme, spans: list[tuple[Fraction, Fraction]]) -> Fraction:
    """Mat seconds of `spans` that are shown running."""
    runs = [x for x in p.passages if x.kind is Kind.RUN]
    return sum((max(min(x.mat_out, z) - max(x.mat_in, a), F(0)) for x in runs for a, z in spans), F(0))


@given(
    st.lists(st.tuples(st.integers(0, 60), st.integers(1, 15)), max_size=4), st.fractions(0, 100, max_denominator=20)
)
def test_short_clock_and_mat_clock_agree_outside_cuts(spans: list[tuple[int, int]], mat: Fraction) -> None:
    cuts, at = [], 0
    for gap, length in spans:
        cuts.append((F(at + gap + 1), F(at + gap + 1 + length)))
        at = at + gap + 1 + length
    clock = ShortClock(cuts)
    if not any(a <= mat < z for a, z in cuts):
        assert clock.long(clock.short(mat)) == mat
