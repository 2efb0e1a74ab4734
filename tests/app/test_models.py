"""The parts of the interface that need no Qt: axis, playhead, lacing, next step."""

from fractions import Fraction
from itertools import pairwise
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from chapto.app.axis import CLOSEST, Axis
from chapto.app.lacing.build import lacing_model
from chapto.app.lacing.knots import between, knots_of
from chapto.app.playhead import Playhead, View
from chapto.app.write.treatments import Choice, choices, treatment_text
from chapto.clock.passage import Kind
from chapto.demo.story import demo_breakdown
from chapto.document import edit_log, edit_script
from chapto.document.breakdown import Breakdown
from chapto.document.checks import checked
from chapto.document.treatments import Again
from chapto.programme.compile import compile_programme
from chapto.programme.placed import PlacedTie, TieState
from tests.document.samples import breakdowns, small

F = Fraction


# ── axis ─────────────────────────────────────────────────────────────────────────────────────────────────
@given(st.lists(st.tuples(st.floats(0.2, 5), st.floats(0, 1000)), max_size=20))
def test_the_time_under_the_pointer_stays_there_while_zooming(turns: list[tuple[float, float]]) -> None:
    axis = Axis()
    axis.resize(1000, 130)
    for factor, x in turns:
        before, scale, left = axis.at(x), axis.scale, axis.left
        axis.zoom(factor, x)
        assert axis.scale <= CLOSEST
        inside = axis.left > -13 / axis.scale and axis.at(1000) < 130 + 13 / axis.scale
        if inside and left is not None and scale != axis.scale:
            assert axis.at(x) == pytest.approx(before, abs=1e-6)
        assert axis.at(0) >= -15 / axis.scale and axis.at(1000) <= 130 + 15 / axis.scale


def test_it_zooms_from_the_whole_breakdown_to_single_frames() -> None:
    axis = Axis()
    axis.resize(1200, 3600)
    assert axis.x(3600) <= 1200
    for _ in range(40):
        axis.zoom(1.6, 300)
    assert axis.scale / 30 > 10


def test_what_plays_is_kept_in_view() -> None:
    axis = Axis()
    axis.resize(1000, 600)
    axis.zoom(20, 0)
    axis.reveal(400)
    assert 0 < axis.x(400) < 1000


# ── playhead ─────────────────────────────────────────────────────────────────────────────────────────────
def test_switching_views_stays_on_the_same_picture() -> None:
    p = compile_programme(small(), {})
    head = Playhead(view=View.WATCH, frame=90)
    mat = head.seen_mat(p)
    there = head.switched(View.MAT, p)
    assert (there.view, there.mat) == (View.MAT, mat)
    assert there.switched(View.WATCH, p).frame == 90


def test_a_mat_time_that_is_not_shown_leaves_the_programme_where_it_was() -> None:
    p = compile_programme(small(), {})
    head = Playhead(view=View.MAT, mat=F(90), frame=33)
    assert head.switched(View.WATCH, p).frame == 33


@given(st.integers(-400, 400))
def test_the_playhead_stays_inside_the_programme(seconds: int) -> None:
    p = compile_programme(small(), {})
    assert 0 <= Playhead(frame=50).moved(F(seconds), p).frame < p.frames
    assert Playhead(view=View.MAT, mat=F(5)).moved(F(seconds), p).mat >= 0


# ── lacing ───────────────────────────────────────────────────────────────────────────────────────────────
@given(breakdowns())
def test_the_lacing_shows_every_passage_tie_and_word(b: Breakdown) -> None:
    p = compile_programme(b, {})
    model = lacing_model(b, p)
    assert [(x.passage, x.kind) for x in model.bands] == [(i, x.kind) for i, x in enumerate(p.passages)]
    assert len(model.laces) == len(p.ties) and len(model.words) == len(p.words)
    for band in model.bands:
        if band.top is not None:
            home = next(s for s in model.stretches if s.start - 0.02 <= band.start < s.end)
            assert home.start - 1e-6 <= min(band.top) and max(band.top) <= home.end + 1e-6
            assert (band.top[0] > band.top[1]) <= (band.rate < 0)
            if band.kind is Kind.HOLD:
                assert band.top[0] == band.top[1]


def test_a_met_tie_hangs_straight_and_an_unmet_one_leans_by_its_lag() -> None:
    met = lacing_model(small(), compile_programme(small(), {})).laces[0]
    assert met.shown is not None and abs(met.said - met.shown) <= 1 / 60
    words = " ".join(["words"] * 60)
    late = replace(edit_script.rewrite(small(), "b1", f"Watch this. The knee slides {words} here"), style="run-through")
    late = edit_script.tie_word(edit_script.untie_word(late, "b1", 5), "b1", 65, "m1")
    lace = lacing_model(late, compile_programme(late, {})).laces[0]
    assert lace.shown is not None and lace.lag is not None
    assert lace.said - lace.shown == pytest.approx(lace.lag) and lace.lag > 2


@given(
    st.lists(
        st.tuples(st.floats(0, 60), st.floats(0, 90), st.sampled_from(TieState)), max_size=12, unique_by=lambda t: t[0]
    )
)
def test_the_mat_rail_never_goes_back_and_met_words_stand_under_their_moments(
    told: list[tuple[float, float, TieState]],
) -> None:
    def exact(seconds: float) -> Fraction:
        return Fraction(seconds).limit_denominator(1000)

    ties = [
        PlacedTie("b1", i, "word", "m", exact(mat), exact(said), None, exact(said) - F(1, 5), state)
        for i, (mat, said, state) in enumerate(told)
    ]
    knots = knots_of(ties, (0.0, 60.0), 90.0)
    assert knots[0] == (0.0, 0.0) and knots[-1] == (60.0, 90.0)
    assert all(a[0] < z[0] and a[1] < z[1] for a, z in pairwise(knots))
    for value in (0.0, 7.3, 31.0, 60.0):
        assert between(knots, between(knots, value), back=True) == pytest.approx(value, abs=1e-4)
    if all(a.mat <= z.mat and a.said < z.said for a, z in pairwise(sorted(ties, key=lambda t: t.mat))):
        apart = [t for t in ties if 0.5 < t.mat < 59.5 and 0.5 < t.said < 89.5]
        near = {round(t.mat, 2) for t in ties}
        if len(near) == len(ties) and all(abs(a.said - z.said) > 1 for a in ties for z in ties if a is not z):
            for t in apart:
                wanted = t.said if t.state is TieState.MET else t.shown
                assert wanted is not None and between(knots, float(t.mat)) == pytest.approx(float(wanted), abs=1e-6)


def test_laces_of_the_demo_that_meet_are_straight_also_after_a_hold() -> None:
    b = demo_breakdown(Path("."), marks=False)
    model = lacing_model(b, compile_programme(b, {}))
    met = [x for x in model.laces if x.state is TieState.MET and x.pin is not None]
    assert len(met) >= 18 and sum(abs(x.pin - x.said) < 1e-6 for x in met if x.pin is not None) >= len(met) - 1


def test_places_on_a_stretch_are_mat_times_and_back() -> None:
    model = lacing_model(small(), compile_programme(small(), {}))
    (stretch,) = model.stretches
    assert (stretch.mat_in, stretch.technique) == (10, "knee slide")
    assert stretch.mat_at(stretch.place(14.25)) == pytest.approx(14.25)
    assert [pin.moment for pin in model.pins] == ["m1", "m2"]
    assert model.stretch_at(stretch.start) is stretch and model.stretch_at(stretch.end) is None


def test_every_treatment_is_offered_in_words_of_its_own_and_can_be_put_on_a_beat() -> None:
    b = edit_log.add_exchange(small(), F(30), F(40))
    section, beat = b.find_beat("b1")
    found: list[Choice] = []

    def walk(several: tuple[Choice, ...]) -> None:
        assert len({c.text for c in several}) == len(several)
        for one in several:
            found.append(one)
            walk(one.group)

    walk(choices(b, section, beat, F("12.5")))
    made = [c.treatment for c in found if c.treatment is not None]
    assert {type(t).__name__ for t in made} == {
        "Run", "Slow", "Hold", "Again", "Loop", "Pace", "Skip", "GoTo", "Cutaway", "SideBySide", "TextCard"
    }  # fmt: skip
    for treatment in made:
        treated = edit_script.treat(b, "b1", treatment)
        assert compile_programme(checked(treated), {}).frames > 0
        assert treatment_text(treatment) != treatment_text(None)
    again = edit_script.treat(b, "b1", Again(F(5), F(1, 2)))
    finer = [c.text for c in choices(again, section, again.find_beat("b1")[1], F(0))]
    assert "At" in finer and "How often" in finer
