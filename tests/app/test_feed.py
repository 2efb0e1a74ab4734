"""Fetching pictures, and what becomes of those that can't be had."""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction as F
from typing import Any

import numpy as np
import pytest
from pytestqt.qtbot import QtBot

from chapto.app.screen.feed import PictureFeed, Want
from chapto.app.screen.screen import Screen
from chapto.document.footage import Footage
from chapto.media.opening import MediaError
from tests.app.driven import DrivenWindow as Window

FILE = Footage(id="f1", name="Table side", path="x.mp4", fingerprint="x", fps=F(30), duration=F(60))


class Pictures:
    """Some mat seconds can't be read; `asked` has what was asked for."""

    def __init__(self) -> None:
        self.broken: dict[F, Exception] = {}
        self.asked: list[F] = []

    def picture(self, footage: Footage, mat: F, width: int, height: int, *, rough: bool = False) -> Any:
        self.asked.append(mat)
        if mat in self.broken:
            raise self.broken[mat]
        return np.zeros((height, width, 3), np.uint8)


@pytest.fixture
def pictures() -> Pictures:
    return Pictures()


@pytest.fixture
def feed(qapp: object, pictures: Pictures) -> Iterator[PictureFeed]:
    made = PictureFeed(pictures)  # type: ignore[arg-type]
    yield made
    made.close()


def at(second: int) -> Want:
    return Want(FILE, F(second), 64, 36)


def test_a_picture_that_cannot_be_had_is_lost_and_the_next_one_comes(
    feed: PictureFeed, pictures: Pictures, qtbot: QtBot
) -> None:
    pictures.broken = {F(1): MediaError("“x.mp4” can't be read here."), F(2): ZeroDivisionError()}
    said: list[str] = []
    feed.failed.connect(said.append)
    feed.ask([at(1), at(2), at(3)])
    qtbot.waitUntil(lambda: feed.image(at(3)) is not None, timeout=120_000)
    assert feed.is_lost(at(1)) and feed.is_lost(at(2)) and not feed.is_lost(at(3))
    assert all(feed.is_done(at(s)) for s in (1, 2, 3)) and not feed.is_done(at(4))
    qtbot.waitUntil(lambda: len(said) == 2, timeout=120_000)
    assert said[0] == "“x.mp4” can't be read here." and "Fetching a picture of “Table side” failed" in said[1]


def test_what_is_lost_is_not_tried_at_every_look_but_with_other_files_at_once(
    feed: PictureFeed, pictures: Pictures, qtbot: QtBot
) -> None:
    pictures.broken = {F(1): MediaError("No.")}
    feed.ask([at(1)])
    qtbot.waitUntil(lambda: feed.is_lost(at(1)), timeout=120_000)
    feed.ask([at(1), at(2)])
    qtbot.waitUntil(lambda: feed.image(at(2)) is not None, timeout=120_000)
    assert pictures.asked == [F(1), F(2)]
    pictures.broken = {}
    feed.use(pictures)  # type: ignore[arg-type]
    feed.ask([at(1)])
    qtbot.waitUntil(lambda: feed.image(at(1)) is not None, timeout=120_000)


def test_a_lost_picture_may_be_tried_again_after_a_while(
    feed: PictureFeed, pictures: Pictures, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr("chapto.app.screen.feed.AGAIN_AFTER", 0.0)
    pictures.broken = {F(1): MediaError("No.")}
    feed.ask([at(1)])
    qtbot.waitUntil(lambda: feed.is_lost(at(1)), timeout=120_000)
    pictures.broken = {}
    feed.ask([at(1)])
    qtbot.waitUntil(lambda: feed.image(at(1)) is not None, timeout=120_000)


def test_no_other_picture_stands_where_one_cannot_be_read(
    demo: Window, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    """The plain ground with a sentence on it, never the picture that was there before."""
    demo.player.show_mat(F(30))
    qtbot.waitUntil(demo.is_settled, timeout=120_000)
    screen = next(s for s in demo.findChildren(Screen) if s.isVisible())

    def broken(*wanted: object, **how: object) -> None:
        raise MediaError("“table-side.mp4” can't be read here.")

    monkeypatch.setattr(demo.studio.files.pictures, "picture", broken)
    demo.player.show_mat(F(90))
    qtbot.waitUntil(demo.is_settled, timeout=120_000)
    ground = screen.grab(screen.area()).toImage()
    colours = {ground.pixelColor(x, ground.height() * 2 // 3).name() for x in range(20, ground.width() - 20, 8)}
    assert len(colours) == 1
