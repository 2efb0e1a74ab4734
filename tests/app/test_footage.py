"""The Footage stage in the real window, and the parts of it that need no Qt."""

from __future__ import annotations

import os
from fractions import Fraction
from pathlib import Path

import numpy as np
import pytest
from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtWidgets import QPushButton
from pytestqt.qtbot import QtBot

from chapto.app.footage.chart_look import LOOK
from chapto.app.footage.chart_model import MatAxis, chart_model
from chapto.app.footage.file_sheet import facts_text
from chapto.app.footage.line_up_model import LineUp
from chapto.app.studio import Studio
from chapto.document import edit_footage
from chapto.document.breakdown import Breakdown
from chapto.document.clearance import Agreement
from chapto.document.condition import ConditionKind
from chapto.document.edit_conditions import decide
from chapto.media.judging import Proposal
from chapto.media.proxy import proxy_path
from chapto.media.readings import Readings
from chapto.programme.angles import AngleTrack
from chapto.render.new import new_breakdown
from chapto.review.work import Stage
from chapto.store.session import Session
from chapto.voice.guide import GuideVoice
from chapto.voice.speaker import StandInSpeaker
from tests.app.conftest import Opener
from tests.app.driven import DrivenWindow as Window
from tests.app.test_window import visible_screen
from tests.document.samples import footage
from tests.document.test_edit_footage import two_cameras
from tests.media.clips import Clip, make

F = Fraction
K = ConditionKind


@pytest.fixture
def demo(demo: Window) -> Window:
    """The demo in the Footage stage."""
    demo.go(Stage.FOOTAGE)
    return demo


def readings_with_fog(seconds: float = 219.0) -> Readings:
    """Readings of the far wall with fog from 150 to 160 s and nothing else."""
    at = np.arange(0, seconds, 0.1, dtype=np.float32)
    clear = np.where((at >= 150) & (at < 160), 0.2, 1.0).astype(np.float32)
    even = np.full(len(at), 0.03, np.float32)
    return Readings(at, even, 20 * even, 5 * clear, 40 * clear, 100 + 0 * even, 0 * even, 0 * even)


# ── without Qt ───────────────────────────────────────────────────────────────────────────────────────────
def test_long_unfilmed_time_is_folded_and_short_time_is_not() -> None:
    axis = MatAxis((footage("f1", 0, 100), footage("f2", 130, 70), footage("f3", 1000, 40)))
    assert axis.runs == ((0, 200), (1000, 1040)) and len(axis.folds) == 1
    assert axis.place(150) - axis.place(50) == pytest.approx(100)
    assert 0 < axis.place(1000) - axis.place(200) < 12
    for mat in (0, 31, 199, 1000, 1040):
        assert axis.mat(axis.place(mat)) == pytest.approx(mat)


def test_the_chart_shows_what_is_open_and_taken_but_not_what_was_thrown_away() -> None:
    b = decide(two_cameras(), "f2", K.FOGGED, F(10), F(20), accepted=True)
    b = decide(b, "f2", K.BLOCKED, F(30), F(35), accepted=False)
    found = {"f1": (Proposal(K.SHAKY, 1.0, 3.0),), "f2": ()}
    model = chart_model(b, AngleTrack(b), lambda c: found[c.id])
    assert [(s.kind, s.start, s.end) for lane in model.lanes for s in lane.stretches] == [
        (K.SHAKY, 1.0, 3.0), (K.FOGGED, 70.0, 80.0),
    ]  # fmt: skip
    assert [s.kind for s in model.open_stretches] == [K.SHAKY]


def test_one_pair_sets_the_place_and_a_second_far_away_the_clock() -> None:
    c = footage("f2", 60, 120)
    state = LineUp(c, F(70), F(8)).same_moment()
    assert state.placement() == (62, 0)
    near = state.at(F(75)).slid(F(1, 10)).same_moment()
    assert len(near.pairs) == 1 and near.placement() == (F("61.9"), 0)
    far = LineUp(c, F("162.01"), F(100), state.pairs).same_moment()
    offset, drift = far.placement() or (F(0), F(0))
    assert float(drift) == pytest.approx(92.01 / 92 - 1, abs=1e-9)
    assert float(offset + (1 + drift) * 100) == pytest.approx(162.01, abs=1e-5)


# ── in the window ────────────────────────────────────────────────────────────────────────────────────────
def test_bringing_in_several_files_takes_what_is_video_and_names_the_rest(
    open_window: Opener, tmp_path: Path, qtbot: QtBot
) -> None:
    good = [make(tmp_path / f"{n}.mp4", Clip(frames=40 + 5 * n)) for n in range(2)]
    (tmp_path / "empty.mp4").touch()
    (tmp_path / "note.txt").write_text("no video")
    window = open_window(Session(Breakdown(title="New"), tmp_path / "new.chapto"))
    window.go(Stage.FOOTAGE)
    said: list[str] = []
    window.studio.message.connect(said.append)
    window.stages[Stage.FOOTAGE].take_files([good[0], tmp_path / "empty.mp4", good[1], tmp_path / "note.txt"])
    qtbot.waitUntil(lambda: len(window.studio.breakdown.footage) == 2 and bool(said), timeout=120_000)
    assert "“empty.mp4” is empty." in said[-1] and "“note.txt” can't be opened" in said[-1]
    qtbot.waitUntil(lambda: len(window.desk.facts) == 2, timeout=120_000)
    assert "320×180, 30 pictures a second, steady" in facts_text(window.desk.facts["f1"])
    qtbot.keyClick(window.footage_page.chart, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert len(window.studio.breakdown.footage) == 1


def test_what_is_found_is_taken_with_return_and_another_camera_shows_it(demo: Window, qtbot: QtBot) -> None:
    chart = demo.footage_page.chart
    demo.desk.readings["f3"] = readings_with_fog()
    demo.desk.changed.emit()
    (fog,) = chart.model.open_stretches
    assert (fog.kind, fog.footage) == (K.FOGGED, "f3")
    mat = F("175.4")
    edited = edit_footage.make_main(demo.studio.breakdown, "f3")
    demo.studio.session.edit("main", lambda b: edited)
    assert demo.studio.angles.at(mat).id == "f3"  # type: ignore[union-attr]
    qtbot.keyClick(chart, Qt.Key.Key_N)
    assert demo.player.head.through == "f3"
    qtbot.keyClick(chart, Qt.Key.Key_Return)
    assert demo.studio.breakdown.conditions[-1].kind is K.FOGGED and not chart.model.open_stretches
    assert demo.studio.angles.at(mat).id == "f2"  # type: ignore[union-attr]
    qtbot.keyClick(chart, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert chart.model.open_stretches
    qtbot.keyClick(chart, Qt.Key.Key_N)
    qtbot.keyClick(chart, Qt.Key.Key_Delete)
    assert not chart.model.open_stretches and not demo.studio.breakdown.conditions[-1].accepted


def test_an_edge_of_a_stretch_is_dragged(demo: Window, qtbot: QtBot) -> None:
    chart = demo.footage_page.chart
    before = demo.studio.breakdown.conditions[1]
    stretch = next(s for s in chart.model.lanes[1].stretches if s.kind is K.FOGGED)
    chart.choose(stretch)
    top, height = LOOK.film_box(1)
    start = QPointF(chart.pixel(stretch.end), top + height / 2).toPoint()
    end = QPointF(chart.pixel(stretch.end + 6), top + height / 2).toPoint()
    qtbot.mousePress(chart, Qt.MouseButton.LeftButton, pos=start)
    qtbot.mouseMove(chart, end)
    qtbot.mouseRelease(chart, Qt.MouseButton.LeftButton, pos=end)
    after = demo.studio.breakdown.conditions[1]
    assert float(after.start) == pytest.approx(float(before.start), abs=0.01)
    assert float(after.end - before.end) == pytest.approx(6, abs=1)


def test_digits_choose_the_camera_and_the_picture_follows(demo: Window, qtbot: QtBot) -> None:
    chart = demo.footage_page.chart
    demo.player.show_mat(F(84))
    qtbot.keyClick(chart, Qt.Key.Key_2)
    assert [(float(a.start), float(a.end), a.camera) for a in demo.studio.breakdown.angles] == [(83.6, 91, "Far wall")]
    demo.player.show_mat(F(86))
    assert demo.studio.wait()
    assert "f3" in {p.footage for p in demo.studio.programme.passages if p.mat_in >= F("83.6") and p.mat_out <= 91}
    qtbot.keyClick(chart, Qt.Key.Key_0)
    assert demo.studio.breakdown.angles == ()


def test_mirrored_footage_is_shown_turned_back(demo: Window, qtbot: QtBot) -> None:
    chart, screen = demo.footage_page.chart, visible_screen(demo)
    chart.choose_file("f1")
    demo.player.show_mat(F(30))
    qtbot.waitUntil(demo.footage_page.is_settled, timeout=120_000)
    qtbot.waitUntil(screen.is_settled, timeout=120_000)

    def picture() -> np.ndarray:
        image = screen.grab().toImage().copy(screen.area())
        return np.array(
            [[image.pixelColor(x, y).value() for x in range(4, image.width(), 9)] for y in range(90, 200, 7)]
        )

    before = picture()
    assert demo.studio.edit("mirror", lambda b: edit_footage.change_footage(b, "f1", mirrored=True))
    screen.look()
    qtbot.waitUntil(screen.is_settled, timeout=120_000)
    after = picture()
    width = min(before.shape[1], after.shape[1])
    assert np.abs(after[:, :width] - before[:, :width][:, ::-1]).mean() < 12
    assert np.abs(after[:, :width] - before[:, :width]).mean() > 15


def test_a_file_that_is_renamed_is_followed_with_everything_bound_to_it(
    open_window: Opener, tmp_path: Path, qtbot: QtBot
) -> None:
    clip, other = make(tmp_path / "clip.mp4", Clip(frames=40)), make(tmp_path / "other.mp4", Clip(frames=40, gop=3))
    assert clip.stat().st_size != other.stat().st_size or clip.read_bytes() != other.read_bytes()
    session = Session(new_breakdown([clip], tmp_path), tmp_path / "p.chapto")
    session.save()
    window = open_window(session)
    os.rename(clip, tmp_path / "better name.mp4")
    qtbot.waitUntil(lambda: window.studio.breakdown.footage[0].path == "better name.mp4", timeout=120_000)
    assert window.studio.files.places["f1"].name == "better name.mp4" and not window.studio.files.missing
    os.remove(tmp_path / "better name.mp4")
    qtbot.waitUntil(lambda: bool(window.studio.files.missing), timeout=120_000)
    said: list[str] = []
    window.studio.message.connect(said.append)
    window.desk.relink("f1", other)
    assert "is another file than" in said[-1] and window.studio.breakdown.footage[0].path == "better name.mp4"


def test_the_button_brings_scattered_files_onto_one_clock_in_one_step(demo: Window, qtbot: QtBot) -> None:
    apart = {"f2": (F(500), F(0)), "f3": (F(900), F(0))}
    demo.studio.edit("scatter", lambda b: edit_footage.place_footage(b, apart))
    qtbot.keyClick(demo.footage_page.chart, Qt.Key.Key_K)
    qtbot.waitUntil(lambda: bool(demo.desk.placements), timeout=120_000)
    placed = {c.id: c for c in demo.studio.breakdown.footage}
    assert float(placed["f2"].offset) == pytest.approx(148.4, abs=0.02)
    assert float(placed["f3"].offset) == pytest.approx(20.37 - 0.029, abs=0.02)
    assert placed["f4"].offset == 600
    assert "was not moved" in demo.desk.placements["f4"].sentence
    demo.studio.session.undo()
    assert demo.studio.breakdown.camera("f2").offset == 500


def test_lining_up_by_hand_moves_the_file_by_the_keys(demo: Window, qtbot: QtBot) -> None:
    page = demo.footage_page
    page.chart.choose_file("f3")
    demo.player.show_mat(F(60))
    qtbot.keyClick(page.chart, Qt.Key.Key_L)
    view = page.line_up
    assert view.isVisible() and view.pair.reference is not None and view.pair.reference.id == "f1"
    before = demo.studio.breakdown.camera("f3")
    for _ in range(3):
        qtbot.keyClick(view, Qt.Key.Key_Right, Qt.KeyboardModifier.ShiftModifier)
    qtbot.keyClick(view, Qt.Key.Key_Right)
    qtbot.keyClick(view, Qt.Key.Key_Return)
    moved = demo.studio.breakdown.camera("f3").offset - before.offset
    assert float(moved) == pytest.approx(-(3 / 1000 + 1 / 30), abs=1e-4)
    assert demo.studio.breakdown.camera("f3").drift == before.drift
    qtbot.keyClick(view, Qt.Key.Key_Escape)
    assert not view.isVisible()


def test_clearance_is_written_beside_the_picture(demo: Window, qtbot: QtBot) -> None:
    sheet = demo.footage_page.sheet.clearance
    demo.footage_page.chart.choose_file("f3")
    assert "has not answered" in sheet.open_text.text()
    qtbot.mouseClick(sheet.agreed, Qt.MouseButton.LeftButton)
    assert demo.studio.breakdown.camera("f3").clearance.agreement is Agreement.AGREED
    sheet.new_person.setFocus()
    qtbot.keyClicks(sheet.new_person, "Tove")
    qtbot.keyClick(sheet.new_person, Qt.Key.Key_Return)
    tove = next(p for p in demo.studio.breakdown.people if p.name == "Tove")
    assert tove.id in demo.studio.breakdown.camera("f3").seen
    assert "Tove has not been asked." in sheet.open_text.text()
    demo.studio.session.undo()
    assert "Tove" not in sheet.open_text.text()


def test_quick_pictures_are_stopped_and_go_on_where_they_were(
    dressed: object, guide: GuideVoice, tmp_path: Path, qtbot: QtBot
) -> None:
    clip = make(tmp_path / "long.mp4", Clip(frames=700, sound=None))
    session = Session(new_breakdown([clip], tmp_path), tmp_path / "p.chapto")
    window = Window(Studio(session, guide=guide), speaker=StandInSpeaker())
    window.show()
    window.go(Stage.FOOTAGE)
    place = proxy_path(window.studio.breakdown.footage[0].fingerprint)
    qtbot.waitUntil(lambda: window.foot.stop_button.isVisible(), timeout=120_000)
    assert "Quick pictures of long" in window.foot.work_text.text()
    qtbot.mouseClick(window.foot.stop_button, Qt.MouseButton.LeftButton)
    qtbot.waitUntil(lambda: not window.foot.stop_button.isVisible(), timeout=120_000)
    assert not place.exists() and window.studio.files.is_waiting_for_proxies
    go_on = next(x for x in window.findChildren(QPushButton) if x.text() == "Go on")
    assert go_on.isVisible()
    qtbot.mouseClick(go_on, Qt.MouseButton.LeftButton)
    qtbot.waitUntil(place.exists, timeout=120_000)
    qtbot.waitUntil(lambda: "f1" in window.desk.readings, timeout=120_000)
    window.close()
