"""The Log stage in the real window: a scripted minute by keys, quick find, points, figures."""

from __future__ import annotations

import time
from fractions import Fraction

import pytest
from msgspec.structs import replace
from PyQt6.QtCore import QPointF, Qt
from pytestqt.qtbot import QtBot

from chapto.app.frame.next_step import Stage
from chapto.app.log.strip import CONTROL, FILM, RULER
from chapto.app.window import Window
from chapto.document import edit_script
from chapto.document.bout import MomentKind
from chapto.document.people import Side

F = Fraction
Key, Shift = Qt.Key, Qt.KeyboardModifier.ShiftModifier
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
    """Played at 1×; what is pressed counts a reaction time earlier, within what the machine's timing allows."""
    window, page = empty_log, empty_log.log_page
    page.pen.reaction = F("0.4")
    window.player.show_mat(F(50))
    window.player.play()
    start, pressed = time.monotonic(), []
    for at, key in SCRIPT:
        qtbot.waitUntil(lambda at=at: time.monotonic() - start >= at, timeout=10_000)
        pressed.append(float(window.player.head.mat) - 0.4)
        qtbot.keyClick(page, key)
    window.player.pause()
    b = window.studio.breakdown
    assert [(p.position, p.top) for p in b.positions] == [
        ("open-guard", Side.SECOND), ("half-guard", Side.SECOND), ("half-guard", Side.FIRST),
        ("side-control", Side.FIRST), ("knee-on-belly", Side.FIRST),
    ]  # fmt: skip
    wanted = [pressed[i] for i in (1, 4, 6, 7, 9)]
    assert [float(p.start) for p in b.positions] == pytest.approx(wanted, abs=0.15)
    (x,) = b.exchanges
    assert (float(x.start), float(x.end)) == pytest.approx((pressed[2], pressed[5]), abs=0.15)
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
    page.show_sheet(1)
    assert "11" not in page.points._score.text().split(",")[0] and "the log says 11–2" in page.points._score.text()


def test_the_shared_edge_of_two_positions_is_dragged(demo: Window, qtbot: QtBot) -> None:
    demo.go(Stage.LOG)
    strip = demo.log_page.strip
    y = RULER + FILM + CONTROL / 2
    start = QPointF(strip._x(109.2), y).toPoint()
    end = QPointF(strip._x(113.0), y).toPoint()
    qtbot.mousePress(strip, Qt.MouseButton.LeftButton, pos=start)
    qtbot.mouseMove(strip, end)
    qtbot.mouseRelease(strip, Qt.MouseButton.LeftButton, pos=end)
    spans = {p.position: p for p in demo.studio.breakdown.positions if p.start < 300}
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
    first = next(s for s in page.figures._spots if not s.write)
    qtbot.mouseClick(page.figures, Qt.MouseButton.LeftButton, pos=first.box.center().toPoint())
    assert demo.player.head.mat == first.mat
    untold = {x.id for x in demo.studio.breakdown.exchanges} - {s.exchange for s in demo.studio.breakdown.script}
    assert untold == {"x5"}
    demo.studio.edit("take out a section", lambda b: edit_script.remove_section(b, "s5"))
    page.figures.grab()
    write = next(s for s in page.figures._spots if s.write == "x4")
    qtbot.mouseClick(page.figures, Qt.MouseButton.LeftButton, pos=write.box.center().toPoint())
    assert [s.exchange for s in demo.studio.breakdown.script][-1] == "x4"
