"""The Review stage in the real window: a creator follows the list from top to bottom, by key and by press."""

from __future__ import annotations

import json
from fractions import Fraction
from pathlib import Path

import pytest
from msgspec.structs import replace
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtWidgets import QApplication, QFileDialog
from pytestqt.qtbot import QtBot

from chapto.app.playhead import View
from chapto.app.review.page import ReviewPage
from chapto.document import edit_breakdown, edit_script
from chapto.document.breakdown import Breakdown
from chapto.document.treatments import Hold
from chapto.review.own_limits import limits_file
from chapto.review.work import Stage
from chapto.store.session import Session
from tests.app.conftest import Opener
from tests.app.driven import DrivenWindow as Window
from tests.document.samples import small

MUCH = (
    "That is true of every takedown, of every throw, and of every trip, whoever does it, and however strong the other "
    "one may be, since nobody stands on nothing."
)


def with_faults(b: Breakdown) -> Breakdown:
    """Six things that happen to everybody."""
    b = edit_breakdown.set_shown(b, cautions=False)
    for beat, more in (
        ("b4", "Moss shoots the single leg."),
        ("b10", "Wrenn is first."),
        ("b13", "The link below has it."),
    ):
        b = edit_script.rewrite(b, beat, f"{b.find_beat(beat)[1].text} {more}")
    b = edit_script.rewrite(b, "b6", f"{b.find_beat('b6')[1].text} {MUCH}")
    return edit_script.treat(b, "b6", Hold())


@pytest.fixture
def page(demo: Window, qtbot: QtBot) -> ReviewPage:
    """The stage over a demo in which six things are wrong."""
    assert demo.studio.wait()
    demo.studio.edit("things go wrong", with_faults)
    return entered(demo, qtbot)


def entered(window: Window, qtbot: QtBot) -> ReviewPage:
    settled(window, qtbot)
    window.go(Stage.REVIEW)
    made = window.stages[Stage.REVIEW].page
    assert isinstance(made, ReviewPage)
    return made


def settled(window: Window, qtbot: QtBot) -> None:
    """Until the review is that of the document as it is."""
    studio = window.studio
    qtbot.waitUntil(
        lambda: studio.compiling.is_compiled and studio.reviewing.reviewed_for is studio.production, timeout=120_000
    )


def checks(page: ReviewPage) -> list[str]:
    return [r.found.check.name for r in page.rows if r.found is not None and r.waiver is None]


def chosen(page: ReviewPage) -> str:
    assert page.chosen is not None and page.chosen.found is not None
    return page.chosen.found.check.name


def test_the_list_is_followed_from_top_to_bottom_until_nothing_is_open(
    demo: Window, page: ReviewPage, qtbot: QtBot
) -> None:
    """Each step is one press, or two with a reason; undo takes each back."""
    assert {"cautions", "who did it", "names spelled", "promises", "stills"} <= set(checks(page))
    assert demo.rail.buttons[Stage.REVIEW].open == demo.studio.reviewing.open > 0
    presses = 0
    for _ in range(20):
        if not checks(page):
            break
        before = demo.studio.breakdown
        row = page.chosen
        assert row is not None and row.finding is not None
        if row.finding.mend is not None:
            qtbot.keyClick(page, Qt.Key.Key_M)
            presses += 1
            qtbot.waitUntil(lambda b=before: demo.studio.breakdown is not b, timeout=120_000)
        else:
            qtbot.keyClick(page, Qt.Key.Key_L)
            line = QApplication.focusWidget()
            assert line is not None
            qtbot.keyClicks(line, "It is in the description.")
            qtbot.keyClick(line, Qt.Key.Key_Return)
            presses += 2
        assert demo.studio.breakdown is not before
        settled(demo, qtbot)
    assert not checks(page) and presses <= 14
    assert page.verdict.text().startswith("Nothing is open; ")
    assert "It is in the description." in {w.reason for w in demo.studio.breakdown.waivers}
    demo.studio.undo()
    settled(demo, qtbot)
    assert len(checks(page)) == 1


def test_a_finding_leads_to_its_second_and_to_where_it_is_mended(demo: Window, page: ReviewPage, qtbot: QtBot) -> None:
    row = next(r for r in page.rows if r.found is not None and r.found.check.name == "who did it")
    page.choose(row)
    assert row.finding is not None and row.finding.at is not None
    head = demo.player.head
    assert head.view is View.WATCH and abs(head.frame / demo.studio.programme.fps - row.finding.at) < Fraction(1, 20)
    qtbot.keyClick(page, Qt.Key.Key_G)
    assert demo.stage is Stage.WRITE and demo.write_page.script.current == "b4"
    demo.go(Stage.REVIEW)
    rights = next(r for r in page.rows if r.waiver is not None)
    page.choose(rights)
    qtbot.keyClick(page, Qt.Key.Key_L)
    settled(demo, qtbot)
    assert "rights" in checks(page), "what was left is open again"
    opened = next(r for r in page.rows if r.found is not None and r.found.check.name == "rights")
    page.choose(opened)
    page.go()
    assert demo.stage is Stage.FOOTAGE


def test_keys_and_presses_choose_and_the_strip_shows_it(demo: Window, page: ReviewPage, qtbot: QtBot) -> None:
    names = [r.key for r in page.rows if not r.is_heading]
    page.choose(next(r for r in page.rows if not r.is_heading))
    qtbot.keyClick(page.list, Qt.Key.Key_Down)
    qtbot.keyClick(page.list, Qt.Key.Key_Down)
    assert page.chosen is not None and page.chosen.key == names[2]
    qtbot.keyClick(page.list, Qt.Key.Key_Up)
    assert page.chosen is not None and page.chosen.key == names[1]
    page.strip.repaint()
    place, row = page.strip._places[0]
    qtbot.mouseClick(page.strip, Qt.MouseButton.LeftButton, pos=QPoint(round(place.x()), round(place.y())))
    assert page.chosen is row
    last = page.list.visualRect(page.list.model().index(len(page.rows) - 1, 0)).center()  # type: ignore[union-attr]
    page.list.scrollToBottom()
    viewport = page.list.viewport()
    assert viewport is not None
    last = page.list.visualRect(page.list.model().index(len(page.rows) - 1, 0)).center()  # type: ignore[union-attr]
    qtbot.mouseClick(viewport, Qt.MouseButton.LeftButton, pos=last)
    assert page.chosen.key == page.rows[-1].key


def test_what_bothers_while_watching_becomes_a_finding(demo: Window, page: ReviewPage, qtbot: QtBot) -> None:
    qtbot.keyClick(page, Qt.Key.Key_W)
    watching = page.watching
    assert watching is not None and demo.player.playing
    qtbot.waitUntil(lambda: watching.seconds > 2, timeout=120_000)
    qtbot.keyClick(watching, Qt.Key.Key_N)
    qtbot.waitUntil(lambda: watching.seconds > Fraction(7, 2), timeout=120_000)
    assert watching._caption.text() in {c.text for c in demo.studio.programme.captions} | {""}
    qtbot.keyClick(watching, Qt.Key.Key_Escape)
    assert page.watching is None and not demo.player.playing
    settled(demo, qtbot)
    (note,) = demo.studio.breakdown.notes
    assert note.beat == "b1"
    row = next(r for r in page.rows if r.found is not None and r.found.check.name == "noted")
    page.choose(row)
    line = page.card._text
    line.setFocus()
    qtbot.keyClicks(line, "Too dark here.")
    qtbot.keyClick(line, Qt.Key.Key_Return)
    settled(demo, qtbot)
    assert demo.studio.breakdown.notes[0].text == "Too dark here." and chosen(page) == "noted"
    qtbot.keyClick(page, Qt.Key.Key_M)
    assert demo.studio.breakdown.notes == ()


def test_a_limit_of_ones_own_counts_at_once_and_the_shipped_one_comes_back(
    demo: Window, page: ReviewPage, qtbot: QtBot
) -> None:
    row = next(r for r in page.rows if r.found is not None and r.found.check.name == "stills")
    page.choose(row)
    said: list[str] = []
    demo.studio.message.connect(said.append)
    page.change_limit("still-longest", "soon")
    assert said and not limits_file().exists()
    page.change_limit("still-longest", "60")
    qtbot.waitUntil(lambda: "stills" not in checks(page), timeout=120_000)
    assert "60" in limits_file().read_text("utf-8")
    page.change_limit("still-longest", "")
    qtbot.waitUntil(lambda: "stills" in checks(page), timeout=120_000)


def test_it_is_written_down_as_a_page(
    demo: Window, page: ReviewPage, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    place = tmp_path / "review.html"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a, **k: (str(place), "Page (*.html)"))
    monkeypatch.setattr("chapto.app.choosing.Choosing.new_file", lambda *a, **k: (place, "Page (*.html)"))
    page.write_page()
    text = place.read_text("utf-8")
    assert (
        "Moss shoots the single leg" in text and "BBC" not in text.split("<h2>")[0] and "She answers by Friday" in text
    )


def test_an_empty_breakdown_is_told_where_to_begin(open_window: Opener, qtbot: QtBot) -> None:
    window = open_window(Session.untitled(Breakdown(title="New breakdown")))
    page = entered(window, qtbot)
    assert not page.rows and not page.card.isVisible() and page._begin.isVisible()
    qtbot.mouseClick(page._begin, Qt.MouseButton.LeftButton)
    assert window.stage is Stage.WRITE


def test_what_was_found_is_that_of_the_document_as_it_is(demo: Window, page: ReviewPage, qtbot: QtBot) -> None:
    """Edits in quick succession: the last one counts, and nothing of an earlier one is left."""
    for i in range(6):
        demo.studio.edit("again", lambda b, i=i: edit_script.rewrite(b, "b13", f"Number {i}. The link below has it."))
    demo.studio.edit("no promise", lambda b: edit_script.rewrite(b, "b13", "And this is a Tuesday at the club."))
    settled(demo, qtbot)
    assert "promises" not in checks(page)
    demo.studio.edit("without a script", lambda b: replace(b, script=(), marks=(), takes=()))
    settled(demo, qtbot)
    assert not page.rows
    assert json.dumps(page.verdict.text())


def test_the_window_closes_while_it_is_watched_looked_at_or_described(
    open_window: Opener, demo_file: Path, qtbot: QtBot
) -> None:
    window = open_window(Session.open(demo_file))
    page = entered(window, qtbot)
    page.look()
    assert window.studio.reviewing.is_looking and not page.look_button.isEnabled()
    page.watch()
    assert page.watching is not None
    window.close()
    assert page.watching is None and not window.player.playing
    again = open_window(Session.open(demo_file))
    again.go(Stage.PUBLISH)
    again.publish_page.describe()
    sheet = again.publish_page.described
    assert sheet is not None and "0:00 Two knee slides" in sheet.whole.text()
    sheet.own.setPlainText("Two tries, one arm.\n")
    assert again.studio.breakdown.about == "Two tries, one arm."
    again.studio.undo()
    assert sheet.own.toPlainText().startswith("The same knee slides twice")
    again.close()
    assert again.publish_page.described is None


def test_what_can_not_be_measured_says_why_and_is_not_tried_again_and_again(
    open_window: Opener, tmp_path: Path, qtbot: QtBot
) -> None:
    project = tmp_path / "gone.chapto"
    Session.create(small(), project).close()
    window = open_window(Session.open(project))
    page = entered(window, qtbot)
    page.look()
    reviewing = window.studio.reviewing
    qtbot.waitUntil(lambda: not reviewing.is_looking, timeout=120_000)
    qtbot.waitUntil(lambda: any("f1" in r.why for r in page.rows), timeout=120_000)
    assert not reviewing._again.isActive()
