"""The real window for tests to drive, with the stand-in speaker and no background analysis."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from pathlib import Path

import pytest
from PyQt6.QtCore import QCoreApplication, QEvent
from pytestqt.qtbot import QtBot

from chapto.app.studio import Studio
from chapto.app.window import Window
from chapto.store.session import Session
from chapto.voice.guide import GuideVoice
from chapto.voice.speaker import StandInSpeaker

Opener = Callable[[Session], Window]


@pytest.fixture
def open_window(dressed: object, qtbot: QtBot, guide: GuideVoice) -> Iterator[Opener]:
    """Opens windows, and closes them after the test."""
    windows: list[Window] = []

    def make_one(session: Session) -> Window:
        window = Window(Studio(session, guide=guide, proxies=False), speaker=StandInSpeaker(), analyse=False)
        windows.append(window)
        window.resize(1280, 800)
        window.show()
        qtbot.waitExposed(window)
        window.activateWindow()
        assert window.studio.wait()
        return window

    yield make_one
    for window in windows:
        window.close()
        window.deleteLater()
    windows.clear()
    QCoreApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete.value)


@pytest.fixture
def demo(open_window: Opener, demo_file: Path) -> Window:
    """The window on a fresh demo."""
    return open_window(Session.open(demo_file))
