"""Faults of Chapto itself end in a sentence and a log; the window goes on and loses nothing."""

from __future__ import annotations

import os
import subprocess
import sys
import threading
from pathlib import Path

import pytest
from PyQt6.QtCore import QTimer
from pytestqt.qtbot import QtBot

from chapto.app.faults import Faults
from chapto.app.jobs import Job
from chapto.store.fault_log import fault_log_path
from chapto.store.session import Session
from tests.app.driven import DrivenWindow as Window


@pytest.fixture
def faults(monkeypatch: pytest.MonkeyPatch) -> Faults:
    """The hooks as the application sets them, for one test."""
    made = Faults()
    monkeypatch.setattr(sys, "excepthook", made._in_this_thread)
    monkeypatch.setattr(threading, "excepthook", made._in_a_thread)
    return made


def broken(*_: object) -> None:
    raise ZeroDivisionError("broken on purpose")


def test_a_fault_in_a_slot_is_said_logged_and_the_edits_are_kept_at_once(
    demo: Window, faults: Faults, qtbot: QtBot
) -> None:
    faults.happened.connect(demo.studio.on_fault)
    demo.studio.edit("rename", lambda b: __import__("msgspec").structs.replace(b, title="Kept"))
    with qtbot.captureExceptions() as caught:
        sys.excepthook = faults._in_this_thread
        QTimer.singleShot(0, broken)
        said = "failed inside Chapto (ZeroDivisionError)"
        qtbot.waitUntil(lambda: said in demo.foot.sentence.text(), timeout=120_000)
    assert not caught
    log = fault_log_path().read_text()
    assert "broken on purpose" in log and "test_faults.py" in log and str(fault_log_path()) in demo.foot.sentence.text()
    path = demo.studio.session.path
    assert path is not None and Session.look(path).breakdown.title == "Kept"


def test_the_same_fault_over_and_over_is_written_down_once() -> None:
    now = [0.0]
    faults, told = Faults(lambda: now[0]), list[str]()
    faults.happened.connect(told.append)
    for at in (0.0, 0.1, 5.0, 40.0):
        now[0] = at
        try:
            broken()
        except ZeroDivisionError as error:
            faults.record(error)
    assert len(told) == 2


def test_a_fault_in_a_thread_is_told_too(qapp: object, faults: Faults, qtbot: QtBot) -> None:
    told: list[str] = []
    faults.happened.connect(told.append)
    thread = threading.Thread(target=broken, name="reading")
    thread.start()
    thread.join()
    qtbot.waitUntil(lambda: bool(told), timeout=120_000)
    assert "The work “reading” failed inside Chapto" in told[0]


def test_a_fault_in_work_ends_it_with_a_sentence(demo: Window, qtbot: QtBot) -> None:
    job = Job("Judging", broken)
    said: list[str] = []
    job.failed.connect(said.append)
    demo.studio.workers.run_asked(job)
    qtbot.waitUntil(lambda: bool(said), timeout=120_000)
    assert "“Judging” failed inside Chapto (ZeroDivisionError)" in said[0]
    assert not demo.foot.stop_button.isVisible()


def test_a_fault_in_a_render_leaves_the_button_to_press_again(
    demo: Window, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    monkeypatch.setattr("chapto.app.publish.making.render_production", broken)
    demo.publish_page.target = tmp_path / "x.mp4"
    demo.publish_page.start_render()
    qtbot.waitUntil(lambda: demo.publish_page.job is None, timeout=120_000)
    assert demo.publish_page.render_button.isEnabled() and "failed inside Chapto" in demo.publish_page.result.text()


def test_a_fault_in_the_compiler_is_said_and_the_next_edit_is_compiled(
    demo: Window, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    from msgspec.structs import replace

    with monkeypatch.context() as patch:
        patch.setattr("chapto.app.compiling.produce", broken)
        demo.studio.edit("rename", lambda b: replace(b, title="One"))
        qtbot.waitUntil(lambda: "failed inside Chapto" in demo.foot.sentence.text(), timeout=120_000)
    demo.studio.edit("rename", lambda b: replace(b, title="Two"))
    assert demo.studio.wait(seconds=10)


def test_a_fault_in_fetching_a_picture_does_not_end_the_fetching(
    demo: Window, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    with monkeypatch.context() as patch:
        patch.setattr(demo.studio.files.pictures, "picture", broken)
        demo.player.jump(3)
        qtbot.waitUntil(lambda: "Fetching a picture" in demo.foot.sentence.text(), timeout=120_000)
    demo.player.jump(2)
    qtbot.waitUntil(demo.is_settled, timeout=120_000)


PAINTING = """
import sys
from PyQt6.QtCore import QTimer
from PyQt6.QtWidgets import QWidget
from chapto.app.faults import Faults
from chapto.app.start import application

app = application()
faults = Faults()
faults.install()
faults.happened.connect(lambda sentence: (print(sentence), QTimer.singleShot(100, app.quit)))

class Broken(QWidget):
    def {method}(self, *event):
        raise ZeroDivisionError

widget = Broken()
widget.show()
QTimer.singleShot(0, widget.update)
QTimer.singleShot(50, widget.close)
QTimer.singleShot(5000, app.quit)
sys.exit(app.exec())
"""


@pytest.mark.parametrize("method", ["paintEvent", "closeEvent", "showEvent", "sizeHint", "event"])
def test_a_fault_in_a_method_that_qt_calls_does_not_end_the_process(method: str) -> None:
    done = subprocess.run(
        [sys.executable, "-c", PAINTING.format(method=method)], capture_output=True, text=True, timeout=200,
        env={**os.environ, "QT_QPA_PLATFORM": "offscreen"},
    )  # fmt: skip
    assert done.returncode == 0, done.stderr
    if method != "sizeHint":
        assert "failed inside Chapto (ZeroDivisionError)" in done.stdout


def test_a_crash_is_told_at_the_next_start() -> None:
    code = "from chapto.app.faults import Faults; said = Faults().install(); print(said); import faulthandler; {}"
    crash = subprocess.run(
        [sys.executable, "-c", code.format("faulthandler._sigsegv()")], capture_output=True, text=True
    )
    assert crash.returncode == -11
    again = subprocess.run([sys.executable, "-c", code.format("pass")], capture_output=True, text=True)
    assert "Chapto ended in a crash the last time" in again.stdout
    third = subprocess.run([sys.executable, "-c", code.format("pass")], capture_output=True, text=True)
    assert third.stdout.strip() == ""
