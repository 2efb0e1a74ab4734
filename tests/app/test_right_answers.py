"""Keys and presses do what their place says, and every control can be found without a pointer."""

from __future__ import annotations

from fractions import Fraction
from pathlib import Path

import pytest
from msgspec.structs import replace
from PyQt6.QtCore import Qt
from PyQt6.QtGui import QGuiApplication
from PyQt6.QtWidgets import QPushButton, QWidget
from pytestqt.qtbot import QtBot

from chapto.app.footage.file_menu import file_menu
from chapto.document import edit_log
from chapto.document.condition import ConditionKind
from chapto.media.judging import Proposal
from chapto.programme.captions import captions_of
from chapto.programme.placed import PlacedWord
from chapto.review.work import Stage
from chapto.store.session import Session
from tests.app.conftest import Opener, Questions
from tests.app.driven import DrivenWindow as Window
from tests.document.samples import small


def found_in(window: Window, *places: tuple[str, float]) -> None:
    """Have stretches wait for a decision, in files (by id) at seconds."""
    found = {file: [Proposal(ConditionKind.BLOCKED, at, at + 2.0) for f, at in places if f == file]
             for file, _ in places}  # fmt: skip
    window.facts.proposals = lambda c: tuple(found.get(c.id, ()))  # type: ignore[method-assign]
    window.facts.changed.emit()


def test_after_going_to_a_stretch_its_keys_work(demo: Window, qtbot: QtBot) -> None:
    demo.go(Stage.FOOTAGE)
    b = demo.studio.breakdown
    found_in(demo, (b.footage[0].id, 5.0), (b.footage[1].id, 8.0))
    page = demo.footage_page
    page._next.setFocus()
    page._next.click()
    assert page.chart.hasFocus() and page.chart.stretch() is not None
    qtbot.keyClick(page.chart, Qt.Key.Key_Return)
    assert len(demo.studio.breakdown.conditions) == len(b.conditions) + 1


def test_take_on_the_sheet_stays_at_its_file(demo: Window, qtbot: QtBot) -> None:
    demo.go(Stage.FOOTAGE)
    first, second = (c.id for c in demo.studio.breakdown.footage[:2])
    found_in(demo, (first, 5.0), (second, 8.0))
    page = demo.footage_page
    page.chart.choose_file(first)
    stretch = next(s for s in page.waiting() if s.footage == first)
    page.chart.decide(True, stretch)
    assert page.chart.chosen_file == first


def test_esc_leaves_the_limits_of_a_style_and_so_does_an_undo_of_it(demo: Window, qtbot: QtBot) -> None:
    demo.go(Stage.WRITE)
    page = demo.write_page
    page.bar.set_style("half-speed study")
    from chapto.app.write.own_styles import _make

    _make(demo.studio, page.change_style)
    assert page.style_sheet.isVisible()
    focus = demo.focusWidget()
    assert focus is not None and page.style_sheet.isAncestorOf(focus)
    qtbot.keyClick(focus, Qt.Key.Key_Escape)
    assert not page.style_sheet.isVisible()
    page.change_style()
    demo.studio.undo()
    assert not page.style_sheet.isVisible() and demo.studio.breakdown.style == "half-speed study"


@pytest.mark.parametrize(("answer", "words"), [(0, True), (1, False), (2, True)])
def test_words_about_an_exchange_that_goes_are_asked_about(
    demo: Window, questions: Questions, answer: int, words: bool
) -> None:
    demo.go(Stage.LOG)
    section = next(s for s in demo.studio.breakdown.script if s.exchange and s.beats)
    questions.answers = [answer]
    demo.log_page.entries[section.exchange].remove()
    b = demo.studio.breakdown
    assert "words of the script are about this exchange" in questions.asked[0]
    assert any(s.id == section.id for s in b.script) is words
    assert any(x.id == section.exchange for x in b.exchanges) is (answer == 2)


def test_no_caption_is_a_dash_alone() -> None:
    texts = ["She", "slides", "through", "–", "and", "–", "stays", "there", "–"]
    placed = [
        PlacedWord("b1", i, text, Fraction(i * 2), Fraction(i * 2) + Fraction(1, 2)) for i, text in enumerate(texts)
    ]
    found = captions_of(placed)
    assert all(any(c.isalnum() for c in caption.text) for caption in found)
    assert " ".join(" ".join(c.text.split()) for c in found) == " ".join(texts)


def test_every_control_of_every_stage_has_a_name_and_is_reached_by_tab(demo: Window, qtbot: QtBot) -> None:
    for stage, view in demo.stages.items():
        demo.go(stage)
        qtbot.wait(50)
        reached, at = set(), view.page
        for _ in range(4000):
            at = at.nextInFocusChain()  # type: ignore[assignment]
            reached.add(id(at))
            if at is view.page:
                break
        for w in demo.findChildren(QWidget):
            if not (w.isVisible() and w.isEnabled() and w.focusPolicy() & Qt.FocusPolicy.TabFocus):
                continue
            words = w.text() if isinstance(w, QPushButton) else ""
            assert w.accessibleName() or words, f"{stage}: {type(w).__name__} has no name"
            assert id(w) in reached, f"{stage}: {type(w).__name__} “{w.accessibleName()}” is not reached"


def test_undo_and_redo_go_through_every_stage(open_window: Opener, tmp_path: Path, qtbot: QtBot) -> None:
    window = open_window(Session.create(small(), tmp_path / "small.chapto"))
    for stage in window.stages:
        window.go(stage)
        before = window.studio.breakdown
        window.studio.edit("rename", lambda b, s=stage: type(b)(**{**_fields(b), "title": f"In {s}"}))
        window.setFocus()
        qtbot.keyClick(window, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
        assert window.studio.breakdown == before
        qtbot.keyClick(window, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier)
        assert window.studio.breakdown.title == f"In {stage}"


def _fields(b: object) -> dict[str, object]:
    return {name: getattr(b, name) for name in b.__struct_fields__}  # type: ignore[attr-defined]


def test_files_offer_at_the_pointer_what_their_sheet_does(demo: Window, qtbot: QtBot) -> None:
    demo.go(Stage.FOOTAGE)
    c = demo.studio.breakdown.footage[1]
    menu = file_menu(demo, demo.studio, c, lambda: None)
    next(a for a in menu.actions() if a.text() == "Mirrored").trigger()
    assert demo.studio.breakdown.footage[1].mirrored is not c.mirrored
    next(a for a in menu.actions() if a.text().startswith("Take it out")).trigger()
    assert c.id not in {x.id for x in demo.studio.breakdown.footage}
    demo.studio.undo()
    assert c.id in {x.id for x in demo.studio.breakdown.footage}


def test_chapters_and_captions_lead_to_their_words_in_the_script(demo: Window, qtbot: QtBot) -> None:
    studio, p = demo.studio, demo.studio.programme
    demo.go(Stage.PUBLISH)
    page = demo.stages[Stage.PUBLISH].page
    line = page.captions.lines[4]
    menu = page.captions._menu(line)
    next(a for a in menu.actions() if "Write" in a.text()).trigger()
    beat, number = demo.write_page.script.caret() or ("", 0)
    said = next(w for w in p.words if (w.beat, w.word) == (beat, number))
    assert demo.stage is Stage.WRITE and said.text in line.text and said.end > line.at
    chapter = page.chapters.lines[2]
    next(a for a in page.chapters._menu(chapter).actions() if "Write" in a.text()).trigger()
    title = demo.focusWidget()
    assert title.text() == chapter.text and title.selectedText() == chapter.text
    qtbot.keyClicks(title, "Renamed")
    qtbot.keyClick(title, Qt.Key.Key_Return)
    assert "Renamed" in {s.title for s in studio.breakdown.script}
    next(a for a in page.captions._menu(line).actions() if a.text() == "Copy all captions with their times").trigger()
    assert QGuiApplication.clipboard().text().count(" --> ") == len(p.captions)


def test_long_texts_show_their_beginning_and_are_whole_in_the_tooltip(demo: Window, qtbot: QtBot) -> None:
    long = "Two knee slides in one bout, and why the second one went through although nothing but an arm was different"
    demo.studio.edit("rename", lambda b: replace(b, title=long))
    title = demo.top._title
    assert title.text() == long and title.toolTip() == long and title.cursorPosition() == 0
    demo.go(Stage.LOG)
    x = demo.studio.breakdown.exchanges[0].id
    demo.studio.edit("name", lambda b: edit_log.change_exchange(b, x, technique=long))
    words = demo.log_page.entries[x].words
    assert words.toolTip() == long and words.cursorPosition() == 0
