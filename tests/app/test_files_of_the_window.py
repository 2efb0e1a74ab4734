"""Files in the real window: what is damaged, taken, refused or kept is said, and nothing is lost."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import pytest
from msgspec.structs import replace
from PyQt6.QtCore import QEvent, QPoint, Qt
from PyQt6.QtGui import QHelpEvent
from PyQt6.QtWidgets import QFileDialog, QToolTip
from pytestqt.qtbot import QtBot

from chapto.app.damaged_page import DamagedPage
from chapto.app.earlier import earlier_menu
from chapto.app.faults import Faults
from chapto.app.publish.part_rows import Entry
from chapto.app.start import Windows
from chapto.render.new import new_breakdown
from chapto.review.work import Stage
from chapto.store.errors import StoreError
from chapto.store.session import Session
from tests.app.conftest import Opener, Questions, QuietWindow
from tests.app.driven import DrivenWindow as Window
from tests.document.samples import small
from tests.media.clips import Clip, make


@pytest.fixture
def windows(dressed: object, monkeypatch: pytest.MonkeyPatch) -> Iterator[Windows]:
    monkeypatch.setattr(Faults, "install", lambda self: "")
    monkeypatch.setattr("chapto.app.start.Window", QuietWindow)
    made = Windows(Faults())
    yield made
    if made.now is not None:
        made.now.close()


def test_a_damaged_file_opens_a_window_with_the_sentence_and_its_earlier_states(
    windows: Windows, tmp_path: Path
) -> None:
    path = tmp_path / "bout.chapto"
    session = Session.create(small(), path)
    session.edit("rename", lambda b: replace(b, title="Whole"))
    session.close()
    path.write_bytes(path.read_bytes()[:200])
    windows.open(path)
    page = windows.now
    assert isinstance(page, DamagedPage) and "damaged or cut off" in page.sentence
    assert len(page.restore_buttons) == 2
    page.restore_buttons[0].click()
    window = windows.now
    assert isinstance(window, Window) and window.studio.breakdown.title == "Whole"
    assert (tmp_path / "bout (damaged).chapto").stat().st_size == 200


def test_a_file_that_is_none_opens_a_window_that_says_so(windows: Windows, tmp_path: Path) -> None:
    (tmp_path / "x.chapto").write_text("no breakdown")
    windows.open(tmp_path / "x.chapto")
    assert isinstance(windows.now, DamagedPage) and "is not a Chapto breakdown" in windows.now.sentence
    windows.open(None)
    assert isinstance(windows.now, Window)


def test_opening_the_file_that_is_open_changes_nothing(windows: Windows, tmp_path: Path) -> None:
    Session.create(small(), tmp_path / "bout.chapto").close()
    windows.open(tmp_path / "bout.chapto")
    window = windows.now
    windows.open(tmp_path / "bout.chapto")
    assert windows.now is window and isinstance(window, Window) and not window.studio.session.read_only


def test_the_render_beside_the_only_recording_does_not_touch_it(
    open_window: Opener, tmp_path: Path, qtbot: QtBot, questions: Questions
) -> None:
    clip = make(tmp_path / "sparring.mp4", Clip(frames=12))
    window = open_window(Session.create(new_breakdown([clip], tmp_path), tmp_path / "sparring.chapto"))
    before = clip.read_bytes()
    qtbot.keyClick(window, Qt.Key.Key_R, Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier)
    qtbot.waitUntil(lambda: bool(window.publish_page.made), timeout=120_000)
    assert window.publish_page.made[0] == tmp_path / "sparring-breakdown.mp4"
    assert window.publish_page.target == tmp_path / "sparring-breakdown-2.mp4"
    window.publish_page.target = clip
    window.publish_page.start_render()
    assert "is never written over" in window.publish_page.result.text()
    (tmp_path / "own.srt").write_text("mine")
    window.publish_page.target = tmp_path / "own.mp4"
    questions.answers = [1]
    window.publish_page.start_render()
    assert "own.srt" in questions.asked[0] and window.publish_page.job is None
    assert (clip.read_bytes(), (tmp_path / "own.srt").read_text()) == (before, "mine")


def test_the_default_place_of_the_video_follows_the_breakdown(
    open_window: Opener, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    window = open_window(Session.create(small(), tmp_path / "bout.chapto"))
    (tmp_path / "deep").mkdir()
    chosen = str(tmp_path / "deep" / "study")
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_, **__: (chosen, ""))
    window.files.save_as()
    assert window.studio.session.path == tmp_path / "deep" / "study.chapto"
    assert window.publish_page.target == tmp_path / "deep" / "study-breakdown.mp4"


def test_a_second_window_on_a_file_only_looks_and_says_who_edits(open_window: Opener, demo_file: Path) -> None:
    first = open_window(Session.open(demo_file))
    second = open_window(Session.open(demo_file))
    assert "being edited elsewhere (process" in second.foot.sentence.text()
    assert second.top.saved_text.text() == "only to look at"
    assert not second.studio.edit("rename", lambda b: replace(b, title="Mine"))
    assert first.studio.edit("rename", lambda b: replace(b, title="Mine"))


def test_edits_on_another_state_are_asked_about(
    open_window: Opener, demo_file: Path, questions: Questions, qtbot: QtBot
) -> None:
    session = Session.open(demo_file)
    session.edit("rename", lambda b: replace(b, title="Kept"))
    session.keep_safe(at_once=True)
    session.let_go()
    from chapto.store.schema import decode, encode

    demo_file.write_bytes(encode(replace(decode(demo_file.read_bytes(), "x"), title="From elsewhere")))
    questions.answers = [0]
    window = open_window(Session.open(demo_file))
    qtbot.waitUntil(lambda: window.studio.breakdown.title == "Kept", timeout=120_000)
    assert "made on another state of this file" in questions.asked[0]
    window.studio.session.undo()
    assert window.studio.breakdown.title == "From elsewhere"


def test_a_window_whose_edits_cannot_be_kept_asks_before_it_closes(
    demo: Window, questions: Questions, monkeypatch: pytest.MonkeyPatch, qtbot: QtBot
) -> None:
    def refuse() -> None:
        raise StoreError("The last edits could not be kept. The disk is full.")

    with monkeypatch.context() as patch:
        patch.setattr(demo.studio.session, "close", refuse)
        questions.answers = [2]
        assert not demo.close() and demo.isVisible()
        assert "could not be kept" in questions.asked[0]
    demo.studio.session.trouble = "Edits can't be kept safe: the disk is full."
    demo.studio.changed.emit()
    assert demo.top.saved_text.text() == "not kept safe" and "disk is full" in demo.top.saved_text.toolTip()


def test_earlier_states_can_be_gone_back_to_and_undone(demo: Window, qtbot: QtBot) -> None:
    before = demo.studio.breakdown
    demo.studio.edit("rename", lambda b: replace(b, title="Another"))
    demo.studio.session.save()
    menu = earlier_menu(demo, demo.studio)
    assert len(menu.actions()) == 2 and "Another" in menu.actions()[0].text()
    menu.actions()[1].trigger()
    assert demo.studio.breakdown.title == before.title
    demo.studio.session.undo()
    assert demo.studio.breakdown.title == "Another"


def test_names_with_brackets_are_shown_as_they_are_written(demo: Window, qtbot: QtBot) -> None:
    name = "<img src='x.png'><b>Wren</b>"
    demo.studio.edit("rename", lambda b: replace(b, title=name))
    demo.foot.say(name)
    assert demo.foot.sentence.textFormat() == Qt.TextFormat.PlainText
    demo.top.undo_button.setToolTip(f"Undo: {name}")
    demo._keys.eventFilter(
        demo.top.undo_button,
        QHelpEvent(QEvent.Type.ToolTip, QPoint(2, 2), demo.top.undo_button.mapToGlobal(QPoint(2, 2))),
    )
    assert "&lt;img" in QToolTip.text()


def test_the_list_of_captions_is_a_list_and_leads_to_its_place(demo: Window, qtbot: QtBot) -> None:
    demo.go(Stage.PUBLISH)
    page = demo.publish_page
    page.parts.choose(Entry.CAPTIONS)
    assert len(page.captions.lines) == len(demo.studio.programme.captions) > 20
    index = page.captions.model().index(5, 0)
    page.captions.scrollTo(index)
    place = page.captions.visualRect(index).center()
    qtbot.mouseClick(page.captions.viewport(), Qt.MouseButton.LeftButton, pos=place)
    assert demo.player.head.frame == round(demo.studio.programme.captions[5].start * demo.studio.programme.fps)
