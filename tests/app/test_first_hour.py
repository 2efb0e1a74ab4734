"""Starting, leaving and coming back, as somebody does who has never seen the window."""

from __future__ import annotations

import gc
import subprocess
import sys
import threading
from collections.abc import Iterator
from pathlib import Path

import pytest
from msgspec.structs import replace
from PyQt6.QtCore import QMimeData, QPoint, QPointF, Qt, QUrl
from PyQt6.QtGui import QDragEnterEvent, QDropEvent
from PyQt6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from chapto.app.collecting import Collecting
from chapto.app.faults import Faults
from chapto.app.footage.start_page import StartPage
from chapto.app.frame.messages import ALONE, CROWDED, KEPT, Messages
from chapto.app.preferences import Preferences
from chapto.app.start import Windows
from chapto.document.edit_script import remove_beat
from chapto.review.work import Stage
from chapto.store.recent import recent, remember
from tests.app.conftest import Questions, QuietWindow
from tests.app.driven import DrivenWindow as Window
from tests.media.clips import Clip, make


@pytest.fixture
def windows(dressed: object, monkeypatch: pytest.MonkeyPatch, tmp_path: Path) -> Iterator[Windows]:
    monkeypatch.setenv("XDG_STATE_HOME", str(tmp_path / "state"))
    monkeypatch.setattr(Faults, "install", lambda self: "")
    monkeypatch.setattr("chapto.app.start.Window", QuietWindow)
    made = Windows(Faults())
    yield made
    for window in list(made.every):
        window.close()


def opened(windows: Windows, path: Path | None) -> Window:
    windows.open(path)
    window = windows.now
    assert isinstance(window, Window) and window.studio.wait()
    return window


def test_what_needs_no_window_loads_no_qt(demo_file: Path) -> None:
    code = (
        "import sys; from chapto.cli.main import main\n"
        "try: main(sys.argv[1:])\nfinally: assert not any(m.startswith('PyQt6') for m in sys.modules)"
    )
    for arguments in (["--version"], ["inspect", str(demo_file)]):
        done = subprocess.run([sys.executable, "-c", code, *arguments], capture_output=True, text=True, check=False)
        assert done.returncode == 0 and "AssertionError" not in done.stderr


def test_the_first_picture_waits_for_no_heavy_library_and_no_other_stage(demo_file: Path) -> None:
    code = """
import sys
import threading
from pathlib import Path
from chapto.app.collecting import Collecting
from chapto.app.faults import Faults
from chapto.app.start import Windows, application
Faults.install = lambda self: ""
app, windows = application(), Windows(Faults())
windows.open(Path(sys.argv[1]))
heavy = {m.split(".")[0] for m in sys.modules} & {"scipy", "cv2", "faster_whisper"}
pages = [m for m in sys.modules if m.startswith("chapto.app.") and m.endswith(".page")]
assert not heavy and pages == ["chapto.app.write.page"], (heavy, pages)
windows.now.close()
"""
    done = subprocess.run([sys.executable, "-c", code, str(demo_file)], capture_output=True, text=True, check=False)
    assert done.returncode == 0, done.stderr


def test_a_new_breakdown_invites_and_makes_room_for_what_is_opened(
    windows: Windows, demo_file: Path, qtbot: QtBot
) -> None:
    window = opened(windows, None)
    page = window.footage_page.findChild(StartPage)
    assert window.stage is Stage.FOOTAGE and page is not None and page.isVisible() and not page.cards
    assert window.top.saved_text.text() == "" and not any(b.open for b in window.rail.buttons.values())
    first = opened(windows, demo_file)
    assert windows.every == [first]
    second = opened(windows, None)
    assert windows.every == [first, second] and first.isVisible() and second.isVisible()
    windows.open(demo_file)
    assert windows.every == [first, second]
    windows.quit()
    assert windows.every == []


def test_a_breakdown_comes_back_as_it_was_left_and_is_offered_with_its_picture(
    windows: Windows, demo_file: Path, qtbot: QtBot
) -> None:
    window = opened(windows, demo_file)
    window.go(Stage.WRITE)
    qtbot.waitUntil(window.is_settled, timeout=120_000)
    lacing = window.write_page.lacing
    lacing.zoom(5.0)
    window.player.show_frame(900)
    qtbot.waitUntil(window.is_settled, timeout=120_000)
    scale, left = lacing.axis.scale, lacing.axis.left
    window.close()
    one = recent()[0]
    assert Path(one.path) == demo_file and one.seconds > 200 and one.picture.stat().st_size > 2000
    again = opened(windows, demo_file)
    assert again.stage is Stage.WRITE and again.player.head.frame == 900
    axis = again.write_page.lacing.axis
    assert (axis.scale, axis.left) == pytest.approx((scale, left))
    again.go(Stage.LOG)
    again.close()
    assert opened(windows, demo_file).stage is Stage.LOG
    page = opened(windows, None).footage_page.findChild(StartPage)
    assert page is not None and [c.one.path for c in page.cards] == [str(demo_file)]


def test_what_is_gone_or_damaged_is_not_offered(
    windows: Windows, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    (tmp_path / "here.chapto").write_text("x")
    for name in ("here", "gone"):
        remember(tmp_path / f"{name}.chapto", title=name, part="", seconds=1.0)
    assert [one.title for one in recent()] == ["here"]
    (tmp_path / "state" / "chapto" / "recent.json").write_text("[{")
    assert recent() == ()


def test_messages_come_one_after_another_and_can_be_read_again() -> None:
    m = Messages()
    m.say("one", 0.0)
    m.say("two", 1.0)
    assert m.now is not None and m.now.text == "two"
    m.go_on(1.0 + CROWDED)
    assert m.now.text == "one"
    m.go_on(1.0 + CROWDED + ALONE)
    assert m.now is None
    for i in range(30):
        m.say(f"{i}", 100.0 + i)
    assert [x.text for x in m.said] == [str(i) for i in range(30 - KEPT, 30)]


def test_refused_files_are_one_message_with_a_list(demo: Window, tmp_path: Path, qtbot: QtBot) -> None:
    for name in ("a.mp4", "b.mov"):
        (tmp_path / name).write_text("no video")
    demo.stages[Stage.FOOTAGE].take_files([tmp_path / "a.mp4", tmp_path / "b.mov"])
    qtbot.waitUntil(lambda: "2 files were not taken" in demo.foot.sentence.text(), timeout=120_000)
    qtbot.mouseClick(demo.foot.sentence, Qt.MouseButton.LeftButton)
    shown = [w.text() for w in demo.findChildren(type(demo.foot.work_text)) if "a.mp4" in w.text()]
    assert shown and "b.mov" in shown[0]


def test_undo_says_what_it_undid_and_goes_there(demo: Window, qtbot: QtBot) -> None:
    demo.go(Stage.WRITE)
    beat = next(beat for _, beat in demo.studio.breakdown.beats() if beat.ties)
    demo.studio.edit("delete the beat", lambda b: remove_beat(b, beat.id))
    demo.go(Stage.LOG)
    qtbot.keyClick(demo, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert demo.foot.sentence.text() == "Undone: delete the beat."
    assert demo.stage is Stage.WRITE and demo.write_page.script.current == beat.id


def test_dropped_files_are_told_where_they_land(demo: Window, tmp_path: Path, qtbot: QtBot) -> None:
    clip, script = make(tmp_path / "third.mp4", Clip(frames=12)), tmp_path / "told.txt"
    script.write_text("A word.\n")
    for path, said, stage in (
        (clip, "comes into Footage", Stage.FOOTAGE),
        (script, "comes into the script", Stage.WRITE),
    ):
        demo.go(Stage.LOG)
        data = QMimeData()
        data.setUrls([QUrl.fromLocalFile(str(path))])
        left, none = Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier
        demo.dragEnterEvent(QDragEnterEvent(QPoint(300, 300), Qt.DropAction.CopyAction, data, left, none))
        assert demo.drop_hint.isVisible() and said in demo.drop_hint.sentence
        demo.dropEvent(QDropEvent(QPointF(300, 300), Qt.DropAction.CopyAction, data, left, none))
        assert not demo.drop_hint.isVisible() and demo.stage is stage
    qtbot.waitUntil(lambda: any(c.name == "third" for c in demo.studio.breakdown.footage), timeout=120_000)


def test_a_window_that_renders_asks_before_it_closes(demo: Window, questions: Questions, qtbot: QtBot) -> None:
    demo.studio.edit("short", lambda b: replace(b, script=b.script[:1]))
    demo.studio.wait()
    qtbot.keyClick(demo, Qt.Key.Key_R, Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier)
    questions.answers = [1]
    assert demo.publish_page.job is not None and not demo.close()
    assert "still being made" in questions.asked[0] and demo.publish_page.job is not None
    questions.answers = [0]
    assert demo.close()


def test_settings_are_kept_from_their_page(demo: Window, qtbot: QtBot) -> None:
    before = demo.studio.preferences.now.reaction
    demo.show_settings()
    from chapto.app.frame.settings_page import SettingsPage

    page = demo.findChild(SettingsPage)
    assert page is not None
    more = next(b for b in page.findChildren(type(demo.top.undo_button)) if b.toolTip().endswith("earlier by: more"))
    more.click()
    assert Preferences().now.reaction == pytest.approx(before + 0.05)
    qtbot.keyClick(page, Qt.Key.Key_Escape)
    assert not page.isVisible()


def test_what_a_window_leaves_is_collected_in_the_interface_thread_only(qapp: QApplication, qtbot: QtBot) -> None:
    freed: list[int] = []

    class Cycle:
        def __init__(self) -> None:
            self.itself = self

        def __del__(self) -> None:
            freed.append(threading.get_ident())

    def busy() -> None:
        for _ in range(60_000):
            [[] for _ in range(3)].append([])

    collecting = Collecting(qapp)
    try:
        assert not gc.isenabled()
        Cycle()
        worker = threading.Thread(target=busy)
        worker.start()
        worker.join()
        assert freed == []
        gc.collect(0)
        for _ in range(3):
            Cycle()
        collecting._timer.setInterval(10)
        [[[]] for _ in range(3000)]
        held = [[] for _ in range(5000)]  # type: ignore[var-annotated]
        qtbot.waitUntil(lambda: len(freed) == 4, timeout=120_000)
        assert set(freed) == {threading.get_ident()} and len(held) == 5000
    finally:
        collecting._timer.stop()
        collecting.deleteLater()
