"""The picture in every stage: nearer and about, alone, faster and slower, louder and quieter."""

from __future__ import annotations

from fractions import Fraction

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from PyQt6.QtCore import QPoint, QPointF, Qt
from PyQt6.QtGui import QWheelEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from chapto.app.playhead import View
from chapto.app.screen.alone import Alone
from chapto.app.screen.nearer import NEAREST, Nearer
from chapto.app.screen.screen import Screen
from chapto.review.work import Stage
from tests.app.driven import DrivenWindow as Window
from tests.app.hand_clock import played, played_by_hand

PICTURE = Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.AltModifier


def screen_of(window: Window) -> Screen:
    return next(s for s in window.findChildren(Screen) if s.isVisible())


@given(
    st.lists(
        st.one_of(
            st.tuples(st.floats(0.2, 5), st.floats(0, 1), st.floats(0, 1)),
            st.tuples(st.floats(-2, 2), st.floats(-2, 2)),
        ),
        max_size=12,
    )
)
def test_a_picture_looked_at_nearer_always_fills_its_frame(acts: list[tuple[float, ...]]) -> None:
    nearer = Nearer()
    for act in acts:
        nearer = nearer.zoomed(act[0], (act[1], act[2])) if len(act) == 3 else nearer.panned(*act)
        x, y, w, h = nearer.area(10, 20, 160, 90)
        assert 1 <= nearer.zoom <= NEAREST
        assert x <= 10.001 and y <= 20.001 and x + w >= 169.999 and y + h >= 109.999


@given(st.floats(1, 3), st.floats(0.2, 0.8), st.floats(0.2, 0.8))
def test_what_lies_under_the_pointer_stays_there_while_going_nearer(factor: float, px: float, py: float) -> None:
    before = Nearer(2.0, 0.5, 0.5)
    after = before.zoomed(factor, (px, py))

    def under(n: Nearer) -> tuple[float, float]:
        x, y, w, h = n.area(0, 0, 1, 1)
        return (px - x) / w, (py - y) / h

    assert under(after) == pytest.approx(under(before), abs=1e-6)


def test_wheel_keys_and_two_presses_go_nearer_in_every_stage(demo: Window, qtbot: QtBot) -> None:
    demo.go(Stage.LOG)
    screen, player = screen_of(demo), demo.player
    middle = QPointF(screen.frame().center())
    wheel = QWheelEvent(
        middle, screen.mapToGlobal(middle), QPoint(), QPoint(0, 480), Qt.MouseButton.NoButton,
        Qt.KeyboardModifier.NoModifier, Qt.ScrollPhase.NoScrollPhase, False,
    )  # fmt: skip
    QApplication.sendEvent(screen, wheel)
    zoom = player.nearer.zoom
    assert zoom > 1.8 and screen.area().width() == pytest.approx(screen.frame().width() * zoom, abs=2)
    demo.go(Stage.WRITE)
    assert player.nearer.zoom == zoom and screen_of(demo).area().width() > screen_of(demo).frame().width()
    QTest.keyClick(demo.focusWidget(), Qt.Key.Key_D, PICTURE)
    assert player.nearer.x > 0.5
    QTest.keyClick(demo.focusWidget(), Qt.Key.Key_0, PICTURE)
    assert player.nearer.is_whole
    qtbot.mouseDClick(screen_of(demo), Qt.MouseButton.LeftButton, pos=screen_of(demo).frame().center())
    assert player.nearer.zoom == 2.0


def test_a_nearer_picture_is_moved_about_and_a_press_still_plays(demo: Window, qtbot: QtBot) -> None:
    demo.go(Stage.LOG)
    screen, player = screen_of(demo), demo.player
    player.look_nearer(3.0)
    at = screen.frame().center()
    qtbot.mousePress(screen, Qt.MouseButton.LeftButton, pos=at)
    qtbot.mouseMove(screen, at + QPoint(-60, 0))
    qtbot.mouseRelease(screen, Qt.MouseButton.LeftButton, pos=at + QPoint(-60, 0))
    assert player.nearer.x > 0.5 and not player.playing
    qtbot.mouseClick(screen, Qt.MouseButton.LeftButton, pos=at)
    assert player.playing
    player.pause()


def test_the_picture_alone_plays_and_goes_back_where_it_was(demo: Window, qtbot: QtBot) -> None:
    demo.go(Stage.WRITE)
    qtbot.keyClick(demo, Qt.Key.Key_F11)
    alone = demo.findChild(Alone)
    assert alone is not None and alone.size() == demo.size()
    qtbot.keyClick(alone, Qt.Key.Key_Space)
    assert demo.player.playing
    qtbot.keyClick(alone, Qt.Key.Key_Space)
    qtbot.keyClick(alone, Qt.Key.Key_Escape)
    assert not alone.isVisible() and not demo.isFullScreen()


def test_the_programme_too_plays_slower_and_silently_then(demo: Window) -> None:
    player, clock = demo.player, played_by_hand(demo.player)
    player.show_frame(300)
    QTest.keyClick(demo.focusWidget(), Qt.Key.Key_Comma, PICTURE)
    assert player.head.watch_speed == Fraction(1, 2) and player.head.speed == 1
    player.play()
    played(player, clock, 0.7)
    player.pause()
    assert player.head.frame == 300 + int(0.7 * 30 / 2)
    assert player.speaker.loudest == 0.0  # type: ignore[attr-defined]


def test_muting_is_heard_at_once_and_kept(demo: Window) -> None:
    player, clock = demo.player, played_by_hand(demo.player)
    player.show_frame(120)
    QTest.keyClick(demo.focusWidget(), Qt.Key.Key_M, PICTURE)
    player.play()
    played(player, clock, 0.3)
    assert player.volume == 0 and player.speaker.loudest == 0.0  # type: ignore[attr-defined]
    player.mute()
    played(player, clock, 0.6)
    player.pause()
    assert player.volume == 1 and player.speaker.loudest > 0  # type: ignore[attr-defined]
    player.set_volume(0.3)
    assert demo.studio.preferences.now.volume == pytest.approx(0.3)
    player.set_volume(1.0)


def test_home_and_end_go_to_the_edges_of_either_view(demo: Window, qtbot: QtBot) -> None:
    demo.go(Stage.LOG)
    qtbot.keyClick(demo.log_page, Qt.Key.Key_End)
    last = max(c.mat_out for c in demo.studio.breakdown.footage)
    assert demo.player.head.view is View.MAT and last - demo.player.head.mat < Fraction(1, 10)
    qtbot.keyClick(demo.log_page, Qt.Key.Key_V)
    qtbot.keyClick(demo.log_page, Qt.Key.Key_End)
    assert demo.player.head.frame == demo.studio.programme.frames - 1
    qtbot.keyClick(demo.log_page, Qt.Key.Key_Home)
    assert demo.player.head.frame == 0


def test_no_words_cover_the_picture_where_boards_stand(demo: Window, qtbot: QtBot) -> None:
    """At the top right of the demo's picture stands the score board: what is painted there is the footage's."""
    demo.go(Stage.LOG)
    demo.player.show_mat(Fraction(100))
    qtbot.waitUntil(demo.is_settled, timeout=120_000)
    screen = screen_of(demo)
    shown = screen.grab(screen.frame()).toImage()
    picture = demo.feed.image(screen._now().first)
    assert picture is not None
    picture = picture.scaled(shown.size())
    corner = [(x, y) for x in range(shown.width() - 190, shown.width() - 12, 3) for y in range(12, 40, 3)]
    apart = [abs(shown.pixelColor(x, y).lightness() - picture.pixelColor(x, y).lightness()) for x, y in corner]
    assert np.mean(apart) < 3
