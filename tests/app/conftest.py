"""The real window for tests to drive, with the stand-in speaker and no background analysis."""

from __future__ import annotations

import gc
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from pathlib import Path

import pytest
from msgspec.structs import replace
from PyQt6 import sip
from PyQt6.QtCore import QCoreApplication, QEvent, QTimer
from PyQt6.QtWidgets import QApplication, QMessageBox
from pytestqt.qtbot import QtBot

from chapto.app import sound_level
from chapto.app.studio import Studio
from chapto.app.write.page import WritePage
from chapto.review.work import Stage
from chapto.store.session import Session
from chapto.voice.guide import GuideVoice
from chapto.voice.speaker import StandInSpeaker
from tests.app.driven import DrivenWindow as Window


class QuietWindow(Window):
    """Without a look into the footage, and without a loudspeaker."""

    def __init__(self, studio: Studio, **more: object) -> None:
        super().__init__(studio, analyse=False, speaker=StandInSpeaker(), **more)  # type: ignore[arg-type]


Opener = Callable[[Session], Window]


@dataclass
class Questions:
    """What the window asked, and what it is answered, in order."""

    answers: list[int] = field(default_factory=list)
    asked: list[str] = field(default_factory=list)


@pytest.fixture(autouse=True)
def questions(monkeypatch: pytest.MonkeyPatch) -> Questions:
    """No question waits for somebody to press: each takes the next of `answers`, and one too many fails."""
    told = Questions()

    def answered(box: QMessageBox) -> int:
        told.asked.append(box.text())
        assert told.answers, f"asked without an answer: {box.text()}"
        box.buttons()[told.answers.pop(0)].click()
        return 0

    monkeypatch.setattr(QMessageBox, "exec", answered)
    return told


@pytest.fixture(autouse=True)
def nothing_is_left(qapp: QApplication) -> Iterator[None]:
    """A test takes its windows and timers along. What it left in cycles is collected here and not in a thread that
    works: `chapto.app.collecting` does so in the application."""
    gc.disable()
    yield
    QCoreApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete.value)
    gc.collect()
    shown = [type(w).__name__ for w in QApplication.topLevelWidgets() if w.isVisible()]
    running = [t for t in gc.get_objects() if isinstance(t, QTimer) and not sip.isdeleted(t) and t.isActive()]
    # What is left belongs to the whole run; looking through it after every test would take longer than the tests.
    gc.freeze()
    gc.enable()
    # What runs once ends by itself.
    assert not shown and not [t for t in running if not t.isSingleShot()]


@pytest.fixture(autouse=True)
def nobody_listens_to_the_whole(monkeypatch: pytest.MonkeyPatch) -> None:
    """How loud a programme is is measured after a while; a test that lasts would mix the whole demo again and again."""
    monkeypatch.setattr(sound_level, "MEASURE_AFTER", 3_600_000)


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


@pytest.fixture
def empty(demo: Window) -> tuple[Window, WritePage]:
    """The demo with all that is logged, and nothing written."""
    demo.go(Stage.WRITE)
    demo.studio.edit("empty", lambda b: replace(b, script=(), labels=()))
    demo.studio.wait()
    return demo, demo.write_page
