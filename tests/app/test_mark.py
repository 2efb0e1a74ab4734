"""The Mark stage in the real window: by pointer and by keyboard, and nothing that cannot be undone."""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction
from pathlib import Path

import pytest
from PyQt6.QtCore import QPoint, QPointF, Qt
from PyQt6.QtGui import QMouseEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from chapto.app.mark.page import MarkPage
from chapto.app.mark.run import Put, Run
from chapto.document.joints import Joint
from chapto.document.mark_kinds import MarkKind, MarkState
from chapto.document.marks import Until
from chapto.document.people import Side
from chapto.review.work import Stage
from chapto.store.session import Session
from tests.app.conftest import Opener
from tests.app.driven import DrivenWindow as Window

Key = Qt.Key
SHIFT = Qt.KeyboardModifier.ShiftModifier


@pytest.fixture
def window(open_window: Opener, demo_file: Path, qtbot: QtBot) -> Window:
    made = open_window(Session.open(demo_file))
    made.studio.wait()
    made.go(Stage.MARK)
    qtbot.waitUntil(lambda: page_of(made).at[0] != "")
    return made


def page_of(window: Window) -> MarkPage:
    return window.stages[Stage.MARK].page  # type: ignore[return-value]


def until(qtbot: QtBot, wanted: Callable[[], bool]) -> None:
    qtbot.waitUntil(wanted, timeout=120_000)


def press(page: MarkPage, x: float, y: float) -> None:
    at = page.canvas.on_widget(QPointF(x, y))
    QTest.mouseClick(page.canvas, Qt.MouseButton.LeftButton, pos=QPoint(round(at.x()), round(at.y())))


def to_word(window: Window, beat: str, word: int) -> MarkPage:
    page = page_of(window)
    page.choose_word(beat, word)
    return page


def test_a_new_user_puts_the_proposed_mark_on_a_tied_word_in_three_acts(window: Window, qtbot: QtBot) -> None:
    """Down to the word, M for what its moment wants, one press on the picture."""
    page = page_of(window)
    page.choose_word("b4", 0)
    for _ in range(2):
        QTest.keyClick(page, Key.Key_Down)
    assert page.cell() is not None and page.cell().proposed is MarkKind.GRIP  # type: ignore[union-attr]
    QTest.keyClick(page, Key.Key_M)
    assert page.canvas.hint.startswith("Grip: put down where the hand holds")
    press(page, 0.45, 0.4)
    (mark,) = window.studio.breakdown.marks
    assert (mark.kind, mark.beat, mark.word) == (MarkKind.GRIP, "b5", 5)
    until(qtbot, lambda: any(m.mark.id == mark.id for m in window.studio.programme.marks))
    until(qtbot, lambda: not window.studio.production.untracked)
    placed = window.studio.programme.marks[0]
    word = next(w for w in window.studio.programme.words if (w.beat, w.word) == ("b5", 5))
    assert placed.start == int(word.start * window.studio.programme.fps)


def test_everything_of_a_mark_is_done_by_the_keyboard_and_undone(window: Window, qtbot: QtBot) -> None:
    page = to_word(window, "b8", 6)
    before = window.studio.breakdown
    QTest.keyClick(page, Key.Key_F)
    for _ in range(3):
        QTest.keyClick(page.canvas, Key.Key_Right, SHIFT)
    QTest.keyClick(page.canvas, Key.Key_Return)
    QTest.keyClick(page.canvas, Key.Key_Up, SHIFT)
    QTest.keyClick(page.canvas, Key.Key_Left)
    QTest.keyClick(page.canvas, Key.Key_Return)
    mark = page.chosen
    assert mark is not None and mark.kind is MarkKind.FRAME and page.run is None
    one, other = (a.keys[0] for a in window.studio.breakdown.anchors)
    assert (one.x - other.x) * 1280 == pytest.approx(1, abs=0.1) and (one.y - other.y) * 720 == pytest.approx(
        10, abs=0.1
    )
    until(qtbot, lambda: len(page.canvas.handles) == 2)
    for key in (Key.Key_U, Key.Key_R, Key.Key_1):
        QTest.keyClick(page, key)
    mark = page.chosen
    assert mark is not None
    assert (mark.until, mark.state, mark.of) == (Until.BEAT, MarkState.LOOSE, Side.SECOND)
    QTest.keyClick(page, Key.Key_Return)
    QTest.keyClicks(page.slip.words, "Far arm")
    QTest.keyClick(page.slip.words, Key.Key_Return)
    assert page.chosen is not None and page.chosen.words == "Far arm"
    QTest.keyClick(page, Key.Key_Tab)
    assert page.anchor == mark.anchors[0] and page.canvas.hasFocus()
    until(qtbot, lambda: any(h.anchor == page.anchor for h in page.canvas.handles))
    QTest.keyClick(page.canvas, Key.Key_Right, SHIFT)
    moved = window.studio.breakdown.anchors[0].keys
    assert len(moved) == 1 and (moved[0].x - one.x) * 1280 == pytest.approx(10, abs=0.1)
    QTest.keyClick(page.canvas, Key.Key_H)
    assert not window.studio.breakdown.anchors[0].keys[0].seen
    QTest.keyClick(page.canvas, Key.Key_Escape)
    QTest.keyClick(page, Key.Key_Delete)
    assert window.studio.breakdown.marks == () and window.studio.breakdown.anchors == ()
    while window.studio.session.would_undo:
        window.studio.session.undo()
    assert window.studio.breakdown == before


def test_a_point_is_dragged_and_a_key_is_made_where_the_picture_stands(window: Window, qtbot: QtBot) -> None:
    page = to_word(window, "b8", 6)
    page.putting.begin(MarkKind.GRIP)
    press(page, 0.5, 0.5)
    until(qtbot, lambda: len(page.canvas.handles) == 1)
    first = window.studio.breakdown.anchors[0].keys[0]
    while window.player.head.seen_mat(window.studio.programme) > first.mat - Fraction(1, 2):
        window.player.step(-5)
    until(qtbot, lambda: len(page.canvas.handles) == 1)
    start = page.canvas.on_widget(page.canvas.handles[0].at)
    drag(page, start, page.canvas.on_widget(QPointF(0.52, 0.47)))
    keys = window.studio.breakdown.anchors[0].keys
    assert len(keys) == 2 and first in keys
    new = next(k for k in keys if k != first)
    assert new.mat < first.mat and (new.x, new.y) == pytest.approx((0.52, 0.47), abs=0.004)
    QTest.keyClick(page.canvas, Key.Key_Period)
    until(qtbot, lambda: abs(window.player.head.seen_mat(window.studio.programme) - first.mat) < Fraction(1, 20))
    QTest.keyClick(page.canvas, Key.Key_Delete)
    assert window.studio.breakdown.anchors[0].keys == (new,)


def drag(page: MarkPage, start: QPointF, end: QPointF) -> None:
    left, none = Qt.MouseButton.LeftButton, Qt.MouseButton.NoButton
    for kind, at, button in (
        (QMouseEvent.Type.MouseButtonPress, start, left),
        (QMouseEvent.Type.MouseMove, (start + end) / 2, left),
        (QMouseEvent.Type.MouseMove, end, left),
        (QMouseEvent.Type.MouseButtonRelease, end, none),
    ):
        which = left if kind is not QMouseEvent.Type.MouseMove else none
        event = QMouseEvent(kind, at, page.canvas.mapToGlobal(at), which, button, Qt.KeyboardModifier.NoModifier)
        QApplication.sendEvent(page.canvas, event)


def test_a_figure_is_put_down_in_one_run_and_lends_its_points(window: Window, qtbot: QtBot) -> None:
    page = to_word(window, "b8", 6)
    QTest.keyClick(page, Key.Key_J)
    assert page.run is not None and page.run.joint is Joint.HEAD
    for i in range(len(Joint) - 1):
        if page.run is not None and page.run.joint is Joint.LEFT_WRIST:
            QTest.keyClick(page.canvas, Key.Key_S)
        else:
            press(page, 0.4 + 0.012 * i, 0.4 + 0.01 * i)
    assert page.run is not None and page.run.joint is Joint.RIGHT_ANKLE
    press(page, 0.6, 0.6)
    assert page.run is None
    (figure,) = window.studio.breakdown.figures
    assert len(figure.anchors) == 13 and figure.side is Side.FIRST
    until(qtbot, lambda: len(page.canvas.handles) == 13)
    until(qtbot, lambda: window.studio.compiling.is_compiled)
    page.choose_word("b8", 6)
    page.figure = figure.id
    QTest.keyClick(page, Key.Key_O)
    assert window.studio.breakdown.marks[0].figure == figure.id
    head = next(a for a in window.studio.breakdown.anchors if a.joint is Joint.HEAD).keys[0]
    page.putting.begin(MarkKind.GRIP)
    press(page, head.x, head.y)
    assert window.studio.breakdown.marks[-1].anchors == (figure.anchors[0],), "the mark takes the point that is there"
    page.figure = figure.id
    page.putting.copy_figure()
    assert len(window.studio.breakdown.figures) == 2


def test_a_run_can_be_left_taken_back_and_ended_and_changes_nothing_before(window: Window) -> None:
    page = to_word(window, "b8", 6)
    before = window.studio.breakdown
    QTest.keyClick(page, Key.Key_E)
    press(page, 0.4, 0.6)
    press(page, 0.5, 0.6)
    QTest.keyClick(page.canvas, Key.Key_Backspace)
    assert page.run is not None and len(page.run.points) == 1 and window.studio.breakdown is before
    QTest.keyClick(page.canvas, Key.Key_Escape)
    assert page.run is None and window.studio.breakdown is before
    run = Run(MarkKind.BASE, Side.FIRST)
    for i in range(8):
        assert not run.is_full
        run = run.with_point(Put("f1", Fraction(1), 0.1 * i, 0.5))
    assert run.is_full and run.without_last().may_end


def test_a_cover_needs_no_word_and_its_stretch_is_set_by_keys(window: Window) -> None:
    page = to_word(window, "b8", 6)
    QTest.keyClick(page, Key.Key_X)
    press(page, 0.1, 0.3)
    mark = page.chosen
    assert mark is not None and mark.kind is MarkKind.COVER and mark.beat == "" and mark.span is None
    mat = page.mat_of(mark)
    QTest.keyClick(page, Key.Key_N)
    assert page.chosen is not None and page.chosen.span is not None and page.chosen.span[0] == mat
    for key in (Key.Key_Plus, Key.Key_Plus):
        QTest.keyClick(page, key)
    assert page.chosen.size > mark.size
