"""What can be pulled at in the lacing, and how little of it is drawn when it is small."""

from __future__ import annotations

from fractions import Fraction
from itertools import pairwise
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st
from PyQt6.QtCore import QPoint, Qt
from pytestqt.qtbot import QtBot

from chapto.app.axis import Axis
from chapto.app.lacing.build import lacing_model
from chapto.app.lacing.detail import CLOSE, NARROW, merged, thinned
from chapto.app.lacing.drags import EdgeDrag, LaceDrag, PinDrag, SectionDrag, SkipDrag, TargetDrag
from chapto.app.lacing.hits import Hits
from chapto.app.lacing.log_model import log_line, on_rail
from chapto.app.lacing.model import LacingModel
from chapto.app.lacing.rows import rows_for
from chapto.app.lacing.widget import Lacing
from chapto.clock.passage import Kind
from chapto.demo.story import demo_breakdown
from chapto.document import edit_breakdown
from chapto.document.breakdown import Breakdown
from chapto.document.checks import checked
from chapto.document.people import Side
from chapto.document.treatments import Slow
from chapto.programme.compile import compile_programme
from chapto.programme.knowledge import shipped_knowledge
from chapto.programme.programme import TieState
from chapto.review.work import Stage
from tests.app.driven import DrivenWindow as Window

F = Fraction


@pytest.fixture(scope="module")
def b(tmp_path_factory: pytest.TempPathFactory) -> Breakdown:
    return demo_breakdown(tmp_path_factory.mktemp("demo"))


@pytest.fixture(scope="module")
def model(b: Breakdown) -> LacingModel:
    return lacing_model(b, compile_programme(b, {}))


def after(b: Breakdown, edit: object) -> tuple[Breakdown, LacingModel]:
    assert edit is not None
    made = checked(edit[1](b))  # type: ignore[index]
    return made, lacing_model(made, compile_programme(made, {}))


# ── pulling ──────────────────────────────────────────────────────────────────────────────────────────────
def test_pulling_the_edge_of_a_hold_makes_it_that_long_and_letting_go_gives_it_back(
    b: Breakdown, model: LacingModel
) -> None:
    band = next(x for x in model.bands if x.kind is Kind.HOLD and x.word >= 0)
    edge = EdgeDrag(model, b, band)
    assert edge.said(band.end + 2).startswith("hold ") and "+2.0 s" in edge.said(band.end + 2)
    made, new = after(b, edge.edit(band.end + 2))
    held = next(x for x in new.bands if x.kind is Kind.HOLD and (x.beat, x.word) == (band.beat, band.word))
    assert held.end - held.start == pytest.approx(band.end - band.start + 2, abs=0.1)
    assert all(x.state is TieState.MET for x in new.laces)
    freed = EdgeDrag(new, made, held).freed()
    assert freed is not None and freed[1](made) == b
    assert edge.edit(band.end + 0.01) is None


def test_pulling_the_edge_of_a_running_band_slows_its_beat_to_the_rate_shown(b: Breakdown, model: LacingModel) -> None:
    band = next(x for x in model.bands if x.kind is Kind.RUN and x.beat == "b4" and EdgeDrag.can(b, x))
    edge = EdgeDrag(model, b, band)
    double = band.end + (band.end - band.start)
    assert edge.said(double) == "0.5×"
    made, _ = after(b, edge.edit(double))
    assert made.find_beat("b4")[1].treatment == Slow(F(1, 2))


def test_pulling_a_lace_ties_another_word_to_the_same_moment(b: Breakdown, model: LacingModel) -> None:
    lace = next(x for x in model.laces if (x.beat, x.word) == ("b8", 6))
    drag = LaceDrag(model, lace)
    target = next(w for w in model.words if (w.beat, w.word) == ("b8", 9))
    assert drag.said(float(target.start) + 0.01) == "tie “collarbone”"
    made, new = after(b, drag.edit(float(target.start) + 0.01))
    tie = made.find_beat("b8")[1].ties[0]
    assert (tie.word, tie.moment) == (9, lace.moment)
    assert drag.edit(lace.said + 0.01) is None
    assert all(x.state is TieState.MET for x in new.laces)


def test_a_moment_a_section_a_skip_and_the_wished_length_are_pulled(b: Breakdown, model: LacingModel) -> None:
    pin = next(p for p in model.pins if p.moment == "m4" and model.stretches[p.stretch].section == "s4")
    stretch = model.stretches[pin.stretch]
    made, _ = after(b, PinDrag(model, pin).edit(stretch.place(pin.mat + 0.5)))
    assert made.moment("m4").at == F(str(pin.mat)) + F(1, 2)
    section = SectionDrag(model, "s6")
    before = next(s for s in model.sections if s.section == "s4").start / model.fps
    made, _ = after(b, section.edit(before + 0.1))
    assert [s.id for s in made.script][3:6] == ["s6", "s4", "s5"]
    assert section.edit(section.place + 0.1) is None and section.said(before) == "before “First try, stopped”"
    box = next(s for s in model.stretches if s.section == "s3")
    made, _ = after(b, SkipDrag(model, box.place(39.0)).edit(box.place(40.5)))
    assert next(s for s in made.script if s.id == "s3").skips == ((F(39), F(81, 2)),)
    wished = edit_breakdown.set_target(b, 300, limit=True)
    flag = TargetDrag(lacing_model(wished, compile_programme(wished, {})), limit=True)
    made, _ = after(wished, flag.edit(240.2))
    assert (made.target, made.target_is_limit) == (240, True)


def test_what_lies_under_the_pointer_is_taken_hold_of_by_its_row(b: Breakdown, model: LacingModel) -> None:
    axis = Axis()
    axis.resize(1200, model.seconds)
    axis.zoom(8, axis.x(50))
    hits = Hits(b, model, axis, rows_for(260))
    r = hits.rows
    band = next(x for x in model.bands_in(axis.at(0), axis.at(1200)) if x.kind is Kind.HOLD and axis.x(x.end) < 1100)
    lace = model.laces_in(axis.at(0), axis.at(1200))[0]
    pin = next(p for p in model.pins if 0 < axis.x(p.place) < 1200)
    assert isinstance(hits.drag_at(axis.x(band.end) + 1, r.rail_top + 5), EdgeDrag)
    assert isinstance(hits.drag_at(axis.x(lace.said), r.words_top), LaceDrag)
    assert isinstance(hits.drag_at(axis.x(pin.place), r.mat_foot - 4), PinDrag)
    assert isinstance(hits.drag_at(600, 8), SectionDrag)
    assert hits.drag_at(600, r.height - 4) is None
    assert "meets its moment" in hits.about(axis.x(lace.said), r.words_top)
    assert hits.about(axis.x((band.start + band.end) / 2), r.rail_top + 4).startswith("hold")


def test_points_and_control_of_the_log_stand_over_the_exchanges_that_earned_them(
    b: Breakdown, model: LacingModel
) -> None:
    control, scored = on_rail(log_line(b, shipped_knowledge()), model)
    takedown = next(s for s in model.stretches if s.section == "s3")
    assert [(x.side, x.points) for x in scored if takedown.start <= x.place <= takedown.end] == [(Side.FIRST, 2)]
    for one in control:
        assert any(s.start - 1e-6 <= one.start <= one.end <= s.end + 1e-6 for s in model.stretches)


# ── detail ───────────────────────────────────────────────────────────────────────────────────────────────
@given(st.floats(0.01, 400))
def test_nothing_narrower_than_a_hand_can_tell_is_drawn_alone_and_nothing_is_left_out(scale: float) -> None:
    model = _MODEL
    pieces = merged(model.bands, scale)
    assert pieces[0].start == model.bands[0].start and pieces[-1].end == model.bands[-1].end
    for one, other in pairwise(pieces):
        assert one.end == pytest.approx(other.start)
    wide = sum((x.end - x.start) * scale >= NARROW for x in pieces)
    assert len(pieces) <= 2 * wide + 1 and wide <= model.seconds * scale / NARROW
    laces = thinned(model.laces, scale)
    for first, second in pairwise(laces):
        assert (second.said - first.said) * scale >= CLOSE or second.state is not TieState.MET
    assert {x.state for x in laces} >= {max((x.state for x in model.laces), key=list(TieState).index)}


def _small_model() -> LacingModel:
    late = edit_breakdown.set_style(demo_breakdown(Path("/")), "run-through")
    return lacing_model(late, compile_programme(late, {}))


_MODEL = _small_model()


# ── by keys and pointer, in the window ───────────────────────────────────────────────────────────────────
def test_keys_take_hold_of_ties_and_edges_and_pull_at_them(demo: Window, qtbot: QtBot) -> None:
    demo.go(Stage.WRITE)
    lacing: Lacing = demo.write_page.lacing
    demo.player.show_frame(0)
    lacing.setFocus()
    qtbot.keyClick(lacing, Qt.Key.Key_Period)
    assert isinstance(lacing.grabbed, LaceDrag) and demo.write_page.script.current == lacing.grabbed.lace.beat
    beat, word = lacing.grabbed.lace.beat, lacing.grabbed.lace.word
    lacing.setFocus()
    qtbot.keyClick(lacing, Qt.Key.Key_Left, Qt.KeyboardModifier.AltModifier)
    assert demo.studio.wait()
    assert [t.word for t in demo.studio.breakdown.find_beat(beat)[1].ties] == [word - 1]
    qtbot.keyClick(lacing, Qt.Key.Key_Delete)
    assert demo.studio.wait()
    assert demo.studio.breakdown.find_beat(beat)[1].ties == ()
    demo.studio.session.undo()
    demo.studio.session.undo()
    assert demo.studio.wait()
    qtbot.keyClick(lacing, Qt.Key.Key_BracketRight)
    while not (isinstance(lacing.grabbed, EdgeDrag) and lacing.grabbed.band.kind is Kind.HOLD):
        qtbot.keyClick(lacing, Qt.Key.Key_BracketRight)
    band = lacing.grabbed.band
    for _ in range(5):
        qtbot.keyClick(lacing, Qt.Key.Key_Right, Qt.KeyboardModifier.AltModifier)
        assert demo.studio.wait()
    held = next(x for x in lacing.model.bands if x.kind is Kind.HOLD and (x.beat, x.word) == (band.beat, band.word))
    assert held.end - held.start == pytest.approx(band.end - band.start + 0.5, abs=0.12)
    assert demo.studio.session.would_undo == "hold longer or shorter"
    demo.studio.session.undo()
    tie = next(t for t in demo.studio.breakdown.find_beat(band.beat)[1].ties if t.word == band.word)
    assert tie.hold_seconds is None


def test_an_exchange_is_dragged_to_another_place_by_its_head(demo: Window, qtbot: QtBot) -> None:
    demo.go(Stage.WRITE)
    lacing = demo.write_page.lacing
    order = [s.id for s in demo.studio.breakdown.script]
    places = {s.section: s.start / lacing.model.fps for s in lacing.model.sections}
    start = QPoint(round(lacing.axis.x(places["s6"])) + 12, 8)
    goal = QPoint(round(lacing.axis.x(places["s4"])) + 4, 8)
    qtbot.mousePress(lacing, Qt.MouseButton.LeftButton, pos=start)
    qtbot.mouseMove(lacing, start - QPoint(20, 0))
    qtbot.mouseMove(lacing, goal)
    qtbot.mouseRelease(lacing, Qt.MouseButton.LeftButton, pos=goal)
    moved = [s.id for s in demo.studio.breakdown.script]
    assert moved != order and moved.index("s6") < moved.index("s4")
    demo.studio.session.undo()
    assert [s.id for s in demo.studio.breakdown.script] == order


def test_a_word_or_a_lace_pulled_up_to_the_mat_rail_is_tied_to_what_is_there(demo: Window, qtbot: QtBot) -> None:
    demo.go(Stage.WRITE)
    lacing = demo.write_page.lacing
    rows = rows_for(lacing.height())
    word = next(w for w in lacing.model.words if (w.beat, w.word) == ("b6", 3))
    home = next(s for s in lacing.model.stretches if s.section == "s3")

    def pull(start: float, goal: float) -> None:
        begin = QPoint(round(lacing.axis.x(start)), round(rows.words_top + 4))
        end = QPoint(round(lacing.axis.x(goal)), round(rows.mat_top + 8))
        qtbot.mousePress(lacing, Qt.MouseButton.LeftButton, pos=begin)
        qtbot.mouseMove(lacing, (begin + end) / 2)
        qtbot.mouseMove(lacing, end)
        qtbot.mouseRelease(lacing, Qt.MouseButton.LeftButton, pos=end)
        assert demo.studio.wait()

    lacing.zoom(8, lacing.axis.x(float(word.start)))
    pull(float(word.start + word.end) / 2, home.place(40.0))
    tie = demo.studio.breakdown.find_beat("b6")[1].ties[0]
    assert tie.word == 3 and float(demo.studio.breakdown.moment(tie.moment).at) == pytest.approx(40.0, abs=0.1)
    lace = next(x for x in lacing.model.laces if x.beat == "b6")
    home = next(s for s in lacing.model.stretches if s.section == "s3")
    pull(lace.said, home.place(39.0))
    moved = demo.studio.breakdown.find_beat("b6")[1].ties
    assert len(moved) == 1 and float(demo.studio.breakdown.moment(moved[0].moment).at) == pytest.approx(39.0, abs=0.1)
