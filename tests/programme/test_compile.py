"""The compiler: what must hold for every document, and the demo."""

from fractions import Fraction
from pathlib import Path

import pytest
from hypothesis import given
from msgspec.structs import replace

from chapto.clock.passage import Kind
from chapto.demo.story import demo_breakdown
from chapto.document import edit_script
from chapto.document.bout import Exchange, Moment
from chapto.document.breakdown import Breakdown
from chapto.document.script import Beat, Section
from chapto.pacing.fit import fit
from chapto.pacing.fitted import FitExchange, Fitted
from chapto.pacing.milp_model import MilpModel
from chapto.pacing.spoken import SpokenLine
from chapto.pacing.styles import PacingError
from chapto.programme import sections
from chapto.programme.budget import budgets
from chapto.programme.compile import compile_programme
from chapto.programme.programme import TieState
from tests.document.samples import breakdowns, footage, small

F = Fraction


@given(breakdowns())
def test_passages_tile_captions_and_labels_keep_apart_chapters_are_in_order(b: Breakdown) -> None:
    p = compile_programme(b, {})
    assert sum(x.frames for x in p.passages) == p.frames == (p.sections[-1].end if p.sections else 0)
    for before, after in zip(p.captions, p.captions[1:], strict=False):
        assert before.start <= before.end <= after.start
    for i, one in enumerate(p.labels):
        for other in p.labels[i + 1 :]:
            assert one.row != other.row or one.end <= other.start or other.end <= one.start
    starts = [c.start for c in p.chapters]
    assert starts == sorted(set(starts))


@given(breakdowns())
def test_every_planned_tie_is_within_half_a_frame_of_its_plan(b: Breakdown) -> None:
    p = compile_programme(b, {})
    for tie in p.ties:
        if tie.planned is not None and tie.shown is not None and tie.state is TieState.MET:
            assert abs(tie.shown - tie.planned) <= F(1, 2) / p.fps


@given(breakdowns())
def test_compiling_is_deterministic_and_words_are_all_said_in_order(b: Breakdown) -> None:
    p = compile_programme(b, {})
    assert p == compile_programme(b, {})
    said = [(w.beat, w.word) for w in p.words]
    written = [(beat.id, i) for _, beat in b.beats() for i in range(len(beat.text.split()))]
    assert said == written
    for before, after in zip(p.words, p.words[1:], strict=False):
        assert before.end <= after.start


def test_the_tied_word_meets_its_moment() -> None:
    p = compile_programme(small(), {})
    (tie,) = p.ties
    assert (tie.text, tie.state) == ("here,", TieState.MET)
    assert abs(tie.lag or F(0)) <= F(1, 2) / p.fps
    assert abs(p.time_map.mat_at(int(tie.said * p.fps)) - 14) <= 1 / p.fps


def test_a_longer_sentence_makes_the_hold_grow_by_its_seconds() -> None:
    """The words after the moment need time; the picture stands on the moment exactly that much longer."""

    def held(b: Breakdown) -> Fraction:
        p = compile_programme(b, {})
        return sum((x.frames / p.fps for x in p.passages if x.kind is Kind.HOLD), F(0))

    long = (
        "Watch this. The knee slides here, and now her whole weight goes on that side, because his frame is gone, and "
    )
    long += "nothing is left between her chest and his, so he has to turn away from her, "
    more = long + "which is why she waited for the underhook."
    one, two = (compile_programme(edit_script.rewrite(small(), "b1", t), {}) for t in (long, more))
    grown = two.words[-1].end - one.words[-1].end
    first, second = (held(edit_script.rewrite(small(), "b1", t)) for t in (long, more))
    assert abs((second - first) - grown) <= F(2) / one.fps


def test_voices_with_another_number_of_words_are_not_used() -> None:
    wrong = SpokenLine(((F(0), F(1)),), F(1))
    assert compile_programme(small(), {"b1": wrong}) == compile_programme(small(), {})


def test_where_one_camera_stopped_the_other_goes_on() -> None:
    b = replace(small(), footage=(footage("f1", 0, 15), footage("f2", 12, 60)))
    shown = [(x.footage, float(x.mat_in)) for x in compile_programme(b, {}).passages if x.kind is Kind.RUN]
    assert next(f for f, _ in shown) == "f1"
    assert [f for f, _ in shown][-1] == "f2"
    assert all(mat < 15 if name == "f1" else mat >= 15 for name, mat in shown)


def test_where_nothing_was_filmed_the_last_picture_stands() -> None:
    b = replace(small(), footage=(footage("f1", 0, 15),))
    p = compile_programme(b, {})
    late = [x for x in p.passages if x.watch_out / p.fps > 8]
    assert late and all(x.kind is Kind.HOLD and x.mat_in < 15 for x in late)


def test_without_any_footage_there_are_cards() -> None:
    assert {x.kind for x in compile_programme(replace(small(), footage=()), {}).passages} == {Kind.CARD}


def test_a_label_stands_from_its_moment_long_enough_to_be_read() -> None:
    """0.3 s a word (BBC Subtitle Guidelines), at least 1.2 s."""
    for text, seconds in (("Knee", F(12, 10)), ("Now the knee goes right through here", F(21, 10))):
        b = replace(small(), labels=(replace(small().labels[0], text=text),))
        p = compile_programme(b, {})
        label = next(x for x in p.labels if x.label == "l1")
        assert abs(p.time_map.mat_at(label.start) - 14) <= 1 / p.fps
        assert (label.end - label.start) / p.fps >= seconds


def test_a_beat_knows_how_long_the_picture_moves_and_stands_under_it() -> None:
    p = compile_programme(small(), {})
    budget = budgets(p)["b1"]
    assert budget.said == sum((x.voice_out - x.voice_in for x in p.voice), F(0))
    moving = sum((x.frames for x in p.passages if x.kind is not Kind.HOLD), 0) / p.fps
    assert abs(budget.running - (moving - p.voice[0].at)) <= 1 / p.fps


def test_an_empty_breakdown_is_an_empty_programme() -> None:
    p = compile_programme(Breakdown(title="Empty"), {})
    assert (p.frames, p.passages, p.captions, p.chapters) == (0, (), (), ())


@pytest.mark.parametrize("style", ["stop-and-talk", "run-through", "half-speed study"])
def test_the_demo_compiles_in_every_style(style: str, tmp_path: Path) -> None:
    from chapto.demo.story import demo_breakdown

    p = compile_programme(replace(demo_breakdown(tmp_path), style=style), {})
    assert 150 < p.seconds < 300
    assert len(p.chapters) >= 3 and all(e - c.start >= 10 * p.fps for c, e in p.chapter_spans())
    holds = [x.frames / p.fps for x in p.passages if x.kind is Kind.HOLD]
    if style == "run-through":
        assert max(holds, default=F(0)) <= F(31, 30)
    else:
        assert all(t.state is TieState.MET for t in p.ties)
        assert {x.kind for x in p.passages} >= {Kind.RUN, Kind.HOLD, Kind.AGAIN, Kind.CUTAWAY, Kind.CARD}


def test_an_exchange_shown_first_and_once_more_frames_the_talk_and_moves_nothing_in_it() -> None:
    plain = compile_programme(small(), {})
    b = replace(small(), script=(replace(small().script[0], show_first=True, once_more=True),))
    p = compile_programme(b, {})
    assert p.seconds == plain.seconds + 20
    first, last = p.passages[0], p.passages[-1]
    assert (first.kind, first.mat_in, first.rate, first.frames) == (Kind.RUN, 10, 1, 300)
    assert (last.kind, last.mat_in, last.rate, last.frames) == (Kind.AGAIN, 10, 1, 300)
    assert [w.start - 10 for w in p.words] == [w.start for w in plain.words]
    assert [t.lag for t in p.ties] == [t.lag for t in plain.ties] and p.ties[0].state is plain.ties[0].state


def test_half_speed_study_shows_everything_at_half_speed_or_slower() -> None:
    p = compile_programme(replace(small(), style="half-speed study"), {})
    moving = [x for x in p.passages if x.rate > 0]
    assert moving and all(x.rate <= F(1, 2) and x.kind is Kind.SLOW for x in moving)
    assert all(t.state is TieState.MET for t in p.ties)


def test_after_an_edit_only_the_touched_exchange_is_fitted_again(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    b = demo_breakdown(tmp_path)
    before = compile_programme(b, {})
    fitted: list[FitExchange] = []

    def noting(exchange: FitExchange, *args: object, **options: object) -> Fitted:
        fitted.append(exchange)
        return fit(exchange, *args, **options)  # type: ignore[arg-type]

    monkeypatch.setattr(sections, "fit", noting)
    edited = edit_script.rewrite(b, "b6", "Turn the corner first, and only then finish it.")
    after = compile_programme(edited, {})
    assert [[x.id for x in e.beats] for e in fitted] == [["b4", "b5", "b6"]]
    assert after != before
    fitted.clear()
    assert compile_programme(b, {}) == before and fitted == []


@pytest.mark.parametrize(
    ("length", "beats"), [("13/25", 2), ("68/125", 2), ("251/500", 2), ("93/125", 3), ("147/200", 3)]
)
def test_very_short_exchanges_with_empty_beats_are_fitted_too(length: str, beats: int) -> None:
    """The solver's quick options fail on these; it is asked again without them."""
    b = Breakdown(
        title="Short", style="run-through", footage=(footage(),),
        exchanges=(Exchange(id="x1", start=Fraction(0), end=Fraction(length)),),
        moments=tuple(Moment(id=f"m{i}", at=Fraction(0)) for i in range(3)),
        script=(Section(id="s1", exchange="x1", beats=tuple(Beat(id=f"b{i}", text="") for i in range(beats))),),
    )  # fmt: skip
    programme = compile_programme(b, {})
    assert programme.frames >= round(Fraction(length) * 30) - 1


def test_a_solver_that_gives_up_is_said(monkeypatch: pytest.MonkeyPatch) -> None:
    class Nothing:
        x, message = None, "out of ideas"

    monkeypatch.setattr("scipy.optimize.milp", lambda *_, **__: Nothing())
    asked = MilpModel()
    asked.row([(asked.variable(1.0), 1.0)], low=1.0)
    with pytest.raises(PacingError, match="could not be fitted here; the solver says: out of ideas"):
        asked.solve()


def test_a_line_of_care_never_stands_beside_a_name_tag() -> None:
    b = demo_breakdown(Path("."), marks=False)
    p = compile_programme(b, {})
    assert p.cautions and p.names
    assert not [(c.text, n.name) for c in p.cautions for n in p.names if c.start < n.end and n.start < c.end]
