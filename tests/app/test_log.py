"""The Log stage in the real window: a scripted minute by keys, quick find, points, figures."""

from __future__ import annotations

from fractions import Fraction
from pathlib import Path

import pytest
from msgspec.structs import replace
from PyQt6.QtCore import QPoint, QPointF, Qt
from PyQt6.QtGui import QColor
from PyQt6.QtWidgets import QColorDialog
from pytestqt.qtbot import QtBot

from chapto.app.log.figures_page import Spot
from chapto.app.log.row_menu import row_menu
from chapto.app.log.strip_look import LOOK
from chapto.app.log.trial import Trial
from chapto.app.log.who import WhoSheet
from chapto.document import edit_log, edit_script
from chapto.document.bout import MomentKind, Outcome
from chapto.document.people import Side
from chapto.review.work import Stage
from chapto.store.settings import load_settings, settings_path
from chapto.store.user_files import lexicon_file
from tests.app.driven import DrivenWindow as Window
from tests.app.hand_clock import HandClock, played, played_by_hand

F = Fraction
Key, Shift, Ctrl = Qt.Key, Qt.KeyboardModifier.ShiftModifier, Qt.KeyboardModifier.ControlModifier
SCRIPT = (
    (0.5, Key.Key_D), (1.0, Key.Key_C), (1.6, Key.Key_E), (2.2, Key.Key_2), (2.8, Key.Key_F), (3.4, Key.Key_Minus),
    (4.0, Key.Key_A), (4.6, Key.Key_G), (5.2, Key.Key_7), (5.8, Key.Key_H),
)  # fmt: skip
"""(second of watching, key): pressed while the footage plays at full speed."""


@pytest.fixture
def empty_log(demo: Window) -> Window:
    """The demo without its log, in the Log stage."""
    demo.studio.edit(
        "empty", lambda b: replace(b, positions=(), exchanges=(), moments=(), script=(), labels=())
    )  # fmt: skip
    demo.go(Stage.LOG)
    return demo


def test_a_stretch_logged_by_keys_while_it_plays_is_as_scripted(empty_log: Window, qtbot: QtBot) -> None:
    """Played at 1×; what is pressed counts a reaction time earlier."""
    window, page = empty_log, empty_log.log_page
    empty_log.studio.preferences.set(reaction=0.4)
    window.player.show_mat(F(50))
    clock = played_by_hand(window.player)
    window.player.play()
    for at, key in SCRIPT:
        played(window.player, clock, at - clock.now)
        qtbot.keyClick(page, key)
    window.player.pause()
    b = window.studio.breakdown
    assert [(p.position, p.top) for p in b.positions] == [
        ("open-guard", Side.SECOND), ("half-guard", Side.SECOND), ("half-guard", Side.FIRST),
        ("side-control", Side.FIRST), ("knee-on-belly", Side.FIRST),
    ]  # fmt: skip
    pressed = [50 + at - 0.4 for at, _ in SCRIPT]
    wanted = [pressed[i] for i in (1, 4, 6, 7, 9)]
    assert [float(p.start) for p in b.positions] == pytest.approx(wanted, abs=0.04), "within a picture"
    (x,) = b.exchanges
    assert (float(x.start), float(x.end)) == pytest.approx((pressed[2], pressed[5]), abs=0.04)
    assert (x.by, x.outcome and x.outcome.value) == (Side.SECOND, "stopped")
    assert [m.kind for m in b.moments] == [MomentKind.FRAME, MomentKind.FINISH]
    assert all(one.end == other.start for one, other in zip(b.positions, b.positions[1:], strict=False))


def test_a_wrong_key_is_undone_with_one_stroke_and_the_place_stays(empty_log: Window, qtbot: QtBot) -> None:
    page = empty_log.log_page
    empty_log.player.show_mat(F(60))
    qtbot.keyClick(page, Key.Key_T)
    assert [p.position for p in empty_log.studio.breakdown.positions] == ["mount"]
    qtbot.keyClick(page, Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert empty_log.studio.breakdown.positions == () and empty_log.player.head.mat == 60
    qtbot.keyClick(page, Key.Key_S)
    assert "Say first what the two are in" in empty_log.foot.sentence.text()


def test_quick_find_names_the_exchange_without_stopping_the_picture(demo: Window, qtbot: QtBot) -> None:
    demo.go(Stage.LOG)
    page = demo.log_page
    page.choose("x2")
    demo.player.play()
    qtbot.keyClick(page, Key.Key_Slash)
    line = page.pad.finder
    qtbot.keyClicks(line, "toriando")
    assert line.offers is not None and line.offers.found[0].item.id == "toreando"
    qtbot.keyClick(line, Key.Key_Return)
    assert demo.player.playing
    demo.player.pause()
    assert demo.studio.breakdown.exchange("x2").technique == "bullfighter pass"
    qtbot.keyClick(page, Key.Key_Slash)
    assert line.offers.found[0].item.id == "toreando"
    qtbot.keyClick(line, Key.Key_Escape)
    assert not line.offers.isVisible() and page.hasFocus()


def test_the_referees_points_are_given_by_keys_and_shown_in_the_score(demo: Window, qtbot: QtBot) -> None:
    demo.go(Stage.LOG)
    page = demo.log_page
    demo.player.show_mat(F(220))
    assert page.score.standing.shown()[0] == (11, 2)
    for key in (Key.Key_P, Key.Key_D, Key.Key_4):
        qtbot.keyClick(page, key)
    (points, clock, position, differs) = page.score.standing.shown()
    assert points == (11, 6) and differs and position == "back control"
    assert clock == "1:24"
    for key in (Key.Key_P, Key.Key_A, Key.Key_Minus, Key.Key_1):
        qtbot.keyClick(page, key)
    assert page.score.standing.shown()[0] == (10, 6)
    for key in (Key.Key_P, Key.Key_D, Key.Key_A):
        qtbot.keyClick(page, key)
    for key in (Key.Key_P, Key.Key_A, Key.Key_P):
        qtbot.keyClick(page, key)
    page.show_sheet(1)
    assert page.points.columns_text.text() == "advantages 0–1, penalties 1–0"
    shown = page.points.score_text.text()
    assert "11" not in shown.split(",")[0] and "the log alone 11–2" in shown


def test_the_shared_edge_of_two_positions_is_dragged(demo: Window, qtbot: QtBot) -> None:
    demo.go(Stage.LOG)
    strip = demo.log_page.strip
    y = LOOK.control_top + LOOK.control / 2
    start = QPointF(strip.pixel(109.2), y).toPoint()
    end = QPointF(strip.pixel(113.0), y).toPoint()
    qtbot.mousePress(strip, Qt.MouseButton.LeftButton, pos=start)
    qtbot.mouseMove(strip, end)
    qtbot.mouseRelease(strip, Qt.MouseButton.LeftButton, pos=end)
    spans = {p.position: p for p in demo.studio.breakdown.positions if p.start < 120}
    assert float(spans["side-control"].start) == pytest.approx(113, abs=0.6)
    assert spans["half-guard"].end == spans["side-control"].start
    demo.studio.session.undo()
    assert next(p for p in demo.studio.breakdown.positions if p.position == "side-control").start == F("109.2")


def test_a_figure_leads_to_its_place_and_an_exchange_to_the_script(demo: Window, qtbot: QtBot) -> None:
    demo.go(Stage.LOG)
    page = demo.log_page
    page.show_sheet(2)
    demo.player.show_mat(F(100))
    qtbot.wait(100)
    page.figures.grab()
    first = next(s for s in page.figures.spots if s == Spot(s.box, s.mat))
    qtbot.mouseClick(page.figures, Qt.MouseButton.LeftButton, pos=first.box.center().toPoint())
    assert demo.player.head.mat == first.mat
    demo.studio.edit("take out a section", lambda b: edit_script.remove_section(b, "s6"))
    page.figures.grab()
    write = next(s for s in page.figures.spots if s.write == "x4")
    qtbot.mouseClick(page.figures, Qt.MouseButton.LeftButton, pos=write.box.center().toPoint())
    assert [s.exchange for s in demo.studio.breakdown.script][-1] == "x4"


def test_two_tries_run_together_from_their_own_begin(
    demo: Window, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:  # fmt: skip
    clock = HandClock()
    monkeypatch.setattr("chapto.app.log.compare.time", clock)
    demo.go(Stage.LOG)
    page = demo.log_page
    page.show_sheet(2)
    demo.player.show_mat(F(100))
    page.figures.grab()
    spot = next(s for s in page.figures.spots if s.compare[0])
    assert spot.compare == ("x2", "x3")
    qtbot.mouseClick(page.figures, Qt.MouseButton.LeftButton, pos=spot.box.center().toPoint())
    view = page.comparison
    assert view.isVisible() and [float(s) for s, _ in view.moments(view.pair[0])] == [2.2, 3.6, 5.8]  # type: ignore[index]
    assert [float(w.mat) for w in view.wants()] == [83.6, 102.8]
    view.go(F(3))
    assert [float(w.mat) for w in view.wants()] == [86.6, 105.8]
    qtbot.waitUntil(view.is_settled, timeout=120_000)
    qtbot.keyClick(view, Key.Key_Space)
    clock.now += 0.4
    qtbot.waitUntil(lambda: view.at > 3, timeout=120_000)
    qtbot.keyClick(view, Key.Key_Space)
    assert float(view.at) == pytest.approx(3.4, abs=0.04) and not view.playing
    qtbot.keyClick(view, Key.Key_Escape)
    assert not view.isVisible() and page.hasFocus()


def test_ten_presses_measure_the_reaction_time(
    demo: Window, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:  # fmt: skip
    clock = HandClock()
    monkeypatch.setattr("chapto.app.log.trial.random.randint", lambda a, b: 30)
    monkeypatch.setattr("chapto.app.log.trial.time", clock)
    demo.go(Stage.LOG)
    page = demo.log_page
    page.pad.trial()
    trial = demo.findChild(Trial)
    assert trial is not None
    qtbot.keyClick(trial, Key.Key_Space)
    assert trial.says.startswith("Too soon")
    for _ in range(10):
        qtbot.waitUntil(lambda: trial.is_lit, timeout=120_000)
        clock.now += 0.25
        qtbot.keyClick(trial, Key.Key_Space)
    assert float(page.pen.reaction) == pytest.approx(0.25, abs=0.01) and page.pen.reaction == F(
        str(load_settings().reaction)
    )
    settings_path().unlink()


def test_a_position_found_by_name_counts_from_the_first_key(empty_log: Window, qtbot: QtBot) -> None:
    page = empty_log.log_page
    empty_log.player.show_mat(F(60))
    qtbot.keyClick(page, Key.Key_Slash)
    qtbot.keyClicks(page.pad.finder, "deep half g")
    empty_log.player.show_mat(F(64))
    qtbot.keyClick(page.pad.finder, Key.Key_Return)
    assert [(p.position, p.start) for p in empty_log.studio.breakdown.positions] == [("deep-half", 60)]
    assert page.pen.mat() == 64


def test_an_exchange_is_split_joined_looped_and_its_end_is_dragged(demo: Window, qtbot: QtBot) -> None:
    demo.go(Stage.LOG)
    page, strip = demo.log_page, demo.log_page.strip
    page.choose("x2")
    demo.player.show_mat(F(88))
    qtbot.keyClick(page, Key.Key_I)
    parts = [x for x in demo.studio.breakdown.exchanges if 83 < x.start < 95]
    assert [(float(x.start), float(x.end), x.outcome and x.outcome.value) for x in parts] == [
        (83.6, 88.0, None), (88.0, 91.0, "stopped"),
    ]  # fmt: skip
    qtbot.keyClick(page, Key.Key_U)
    joined = demo.studio.breakdown.exchange("x2")
    assert (float(joined.end), joined.outcome and joined.outcome.value) == (91.0, "stopped")
    qtbot.keyClick(page, Key.Key_L, Shift)
    assert demo.player.loop == (joined.start, joined.end) and demo.player.playing
    qtbot.keyClick(page, Key.Key_L, Shift)
    demo.player.pause()
    assert demo.player.loop is None
    y = LOOK.exchanges_top + LOOK.exchanges / 2
    start, end = (QPointF(strip.pixel(mat), y).toPoint() for mat in (91.0, 95.0))
    qtbot.mousePress(strip, Qt.MouseButton.LeftButton, pos=start)
    qtbot.mouseMove(strip, end)
    qtbot.mouseRelease(strip, Qt.MouseButton.LeftButton, pos=end)
    assert float(demo.studio.breakdown.exchange("x2").end) == pytest.approx(95, abs=0.6)


def test_the_mat_clock_comes_closer_about_the_playhead_and_is_whole_again(demo: Window, qtbot: QtBot) -> None:
    demo.go(Stage.LOG)
    page, strip = demo.log_page, demo.log_page.strip
    demo.player.show_mat(F(120))
    low, high = strip.span()
    whole, there = strip.pixel(high) - strip.pixel(low), strip.pixel(120)
    qtbot.keyClick(page, Key.Key_Plus, Ctrl)
    assert strip.pixel(high) - strip.pixel(low) == pytest.approx(whole * 1.4)
    assert strip.pixel(120) == pytest.approx(there)
    assert strip.mat_at(strip.pixel(97.5)) == pytest.approx(97.5)
    demo.player.show_mat(F(4))
    assert 0 < strip.pixel(4) < strip.width()
    qtbot.keyClick(page, Key.Key_0, Ctrl)
    assert strip.pixel(high) - strip.pixel(low) == pytest.approx(whole)


def test_a_log_is_taken_in_as_one_step_and_what_is_unclear_is_said(demo: Window, tmp_path: Path) -> None:
    demo.go(Stage.LOG)
    before = demo.studio.breakdown
    (tmp_path / "log.csv").write_text("time,text\n1:10,nee bar\n1:20,zzz\n1:30\n")
    demo.log_page.read_log(tmp_path / "log.csv")
    made = next(x for x in demo.studio.breakdown.exchanges if x.start == 70)
    assert made.technique == "knee bar" and "Row 4" in demo.foot.sentence.text()
    demo.studio.session.undo()
    assert demo.studio.breakdown == before
    (tmp_path / "log.csv").write_bytes(b"\xff\xfe\x00")
    demo.log_page.read_log(tmp_path / "log.csv")
    assert "can't be read as text" in demo.foot.sentence.text() and demo.studio.breakdown == before


def test_stops_of_the_clock_and_turns_of_overtime_are_logged_by_key(demo: Window, qtbot: QtBot) -> None:
    demo.go(Stage.LOG)
    page = demo.log_page
    demo.player.show_mat(F(100))
    qtbot.keyClick(page, Key.Key_K)
    demo.player.show_mat(F(110))
    qtbot.keyClick(page, Key.Key_K)
    demo.player.show_mat(F(120))
    assert page.score.standing.shown()[1] == "3:14"
    qtbot.keyClick(page, Key.Key_O)
    demo.player.show_mat(F(130))
    qtbot.keyClick(page, Key.Key_O, Shift)
    (turn,) = demo.studio.breakdown.ruling.overtime
    assert (turn.attacker, turn.start, turn.end, turn.finished) == (Side.FIRST, 120, 130, True)


def test_who_is_on_the_mat_is_said_where_the_names_stand(demo: Window, qtbot: QtBot) -> None:
    demo.go(Stage.LOG)
    demo.player.show_mat(F(100))
    qtbot.keyClick(demo.log_page, Qt.Key.Key_M, Qt.KeyboardModifier.ShiftModifier)
    sheet = demo.findChild(WhoSheet)
    assert sheet is not None and sheet.names[Side.FIRST].text() == "Wren Adeyo"
    sheet.names[Side.FIRST].setText("Wren A.")
    qtbot.keyClick(sheet.names[Side.FIRST], Qt.Key.Key_Return)
    assert demo.studio.breakdown.first.name == "Wren A."
    sheet.names[Side.FIRST].setText("")
    sheet.names[Side.FIRST].editingFinished.emit()
    assert demo.studio.breakdown.first.name == "Wren A."
    assert sheet.only_here is not None
    sheet.only_here.setChecked(True)
    sheet.names[Side.SECOND].setText("Odo Penn")
    qtbot.keyClick(sheet.names[Side.SECOND], Qt.Key.Key_Return)
    sheet.close()
    b = demo.studio.breakdown
    assert b.second.name == "Moss Tarrant" and b.athlete(Side.SECOND, F(100)).name == "Odo Penn"


def test_what_was_asked_for_is_kept_as_another_name_and_found_by_it(demo: Window, qtbot: QtBot) -> None:
    demo.go(Stage.LOG)
    page, line = demo.log_page, demo.log_page.pad.finder
    page.choose("x2")
    line.begin()
    qtbot.keyClicks(line, "knee slde")
    assert line.offers is not None and line.offers.found[0].item.id == "knee-slide"
    qtbot.keyClick(line, Key.Key_Return, Ctrl)
    assert "“knee slde” is another name of knee slide" in demo.foot.sentence.text()
    assert "knee slde" in demo.studio.known.lexicon.techniques["knee-slide"].names()
    assert demo.studio.wait()
    line.begin()
    qtbot.keyClicks(line, "arm bar")
    qtbot.keyClick(line, Key.Key_Down)
    other = line.offers.found[line.offers.at].item
    qtbot.keyClick(line, Key.Key_Return, Ctrl)
    assert other.id != "arm-bar" and "is a name of arm bar already" in demo.foot.sentence.text()
    lexicon_file().unlink()


def test_a_finish_that_the_lexicon_does_not_know_is_asked_for_its_class_of_risk(demo: Window) -> None:
    demo.go(Stage.LOG)
    page, studio = demo.log_page, demo.studio
    assert not page.entries["x7"].risk.isVisible()
    studio.edit("name it", lambda b: edit_log.change_exchange(b, "x7", technique="reed twist"))
    assert studio.wait()
    assert page.entries["x7"].risk.text() == "what could it hurt?"
    assert "“reed twist” is not in the lexicon" in demo.foot.sentence.text()
    page.entries["x7"].say_risk("strangle")
    assert studio.wait() and page.entries["x7"].risk.text() == "strangle"
    assert "not in the lexicon" not in demo.foot.sentence.text()
    assert "strangle" in {c.risk for c in studio.programme.cautions}


def test_the_technique_named_last_is_one_key_away_and_who_was_on_top_began_it(demo: Window, qtbot: QtBot) -> None:
    demo.go(Stage.LOG)
    page, studio = demo.log_page, demo.studio
    page.setFocus()
    demo.player.show_mat(Fraction(60))
    qtbot.keyClick(page, Qt.Key.Key_D)
    for at in (61, 63):
        demo.player.show_mat(Fraction(at))
        qtbot.keyClick(page, Qt.Key.Key_E)
    made = page.chosen
    assert studio.breakdown.exchange(made).by is Side.SECOND
    page.pen.recent = [studio.known.lexicon.technique_named("knee slide").id]  # type: ignore[union-attr]
    qtbot.keyClick(page, Qt.Key.Key_Period)
    assert studio.breakdown.exchange(made).technique == "knee slide"
    qtbot.wait(30)
    row = page.entries[made]
    place = row.mapTo(page._area, row.rect().center())
    assert page._area.rect().contains(place), "the list did not come along to what was logged"


def test_rows_are_found_by_what_they_say(demo: Window, qtbot: QtBot) -> None:
    demo.go(Stage.LOG)
    page = demo.log_page
    qtbot.keyClick(page, Qt.Key.Key_F, Qt.KeyboardModifier.ControlModifier)
    assert page.finding.hasFocus()
    qtbot.keyClicks(page.finding, "knee slide defended")
    left = [i for i, row in page.entries.items() if not row.isHidden()]
    assert len(left) == 1 and demo.studio.breakdown.exchange(left[0]).outcome is Outcome.STOPPED
    qtbot.keyClick(page.finding, Qt.Key.Key_Return)
    assert page.chosen == left[0]
    qtbot.keyClick(page.finding, Qt.Key.Key_Escape)
    assert not any(row.isHidden() for row in page.entries.values())


def test_a_row_offers_at_the_pointer_what_keys_do(demo: Window, qtbot: QtBot) -> None:
    demo.go(Stage.LOG)
    x = demo.studio.breakdown.exchanges[1]
    page = demo.log_page
    menu = row_menu(page, demo.studio, page.pen, x)
    over = next(a for a in menu.actions() if "over and over" in a.text())
    over.trigger()
    assert demo.player.loop == (x.start, x.end) and demo.player.playing
    demo.player.pause()


def test_a_kit_may_have_any_colour(demo: Window, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch) -> None:
    demo.go(Stage.LOG)
    qtbot.keyClick(demo.log_page, Qt.Key.Key_M, Qt.KeyboardModifier.ShiftModifier)
    sheet = demo.findChild(WhoSheet)
    assert sheet is not None
    monkeypatch.setattr(QColorDialog, "getColor", lambda *_: QColor("#123456"))
    sheet._own[Side.FIRST].click()
    assert demo.studio.breakdown.first.kit_colour == "#123456" and "#123456" in sheet._own[Side.FIRST].text()
    sheet.close()


def test_a_row_is_pulled_along_the_clock_by_its_time(demo: Window, qtbot: QtBot) -> None:
    demo.go(Stage.LOG)
    m = demo.studio.breakdown.moments[2]
    row = demo.log_page.entries[m.id]
    grip, tied = row._time, demo.studio.breakdown.script
    qtbot.mousePress(grip, Qt.MouseButton.LeftButton, pos=QPoint(5, 8))
    qtbot.mouseMove(grip, QPoint(5 + 40, 8))
    assert demo.player.head.mat == m.at + 1 and "+1.0 s" in grip.text()
    qtbot.mouseRelease(grip, Qt.MouseButton.LeftButton, pos=QPoint(45, 8))
    assert demo.studio.breakdown.moment(m.id).at == m.at + 1 and demo.studio.breakdown.script == tied
    demo.studio.undo()
    assert demo.studio.breakdown.moment(m.id).at == m.at
