"""A draft from the log, and names put right, through the real window."""

from __future__ import annotations

from msgspec.structs import replace
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from pytestqt.qtbot import QtBot

from chapto.app.window import Window
from chapto.app.write.page import WritePage
from chapto.document import edit_script
from chapto.document.people import SpokenOf
from chapto.document.script import BeatKind
from chapto.programme.placed import TieState
from chapto.review.work import Stage

BOTH = Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier


def drafted(window: Window, qtbot: QtBot) -> None:
    qtbot.waitUntil(lambda: any(x.drafted for _, x in window.studio.breakdown.beats()), timeout=120_000)
    assert window.studio.wait()


def test_one_key_in_an_empty_write_tells_the_log_and_every_tie_meets(
    empty: tuple[Window, WritePage], qtbot: QtBot
) -> None:
    window, page = empty
    QTest.keyClick(page.script, Qt.Key.Key_D, BOTH)
    drafted(window, qtbot)
    ties = window.studio.programme.ties
    assert len(ties) == 20 and all(t.state is TieState.MET for t in ties)
    asked = {x.kind: page.script.cards[x.id].editor.placeholderText() for _, x in window.studio.breakdown.beats()}
    assert asked[BeatKind.WHY].startswith("Why did it work") and asked[BeatKind.RULE].endswith("rule of thumb?")
    window.studio.session.undo()
    assert window.studio.breakdown.script == ()


def test_what_nobody_touched_is_lighter_and_a_touched_sentence_is_not(
    empty: tuple[Window, WritePage], qtbot: QtBot
) -> None:
    window, page = empty
    page.drafting.draft(SpokenOf.FIRST_IS_ME)
    drafted(window, qtbot)
    beat = next(x for _, x in window.studio.breakdown.beats() if x.text.count(".") > 1 and x.ties)
    editor = page.script.cards[beat.id].editor
    light = len(editor._ties.drafted)
    assert light > 1 and window.studio.breakdown.naming.spoken_of is SpokenOf.FIRST_IS_ME
    page.script.choose(beat.id, 0)
    QTest.keyClicks(editor, "Well, ")
    assert len(editor._ties.drafted) == light - 1


def test_a_draft_is_not_put_over_what_was_written_meanwhile(empty: tuple[Window, WritePage], qtbot: QtBot) -> None:
    window, page = empty
    said: list[str] = []
    window.studio.message.connect(said.append)
    page.drafting.draft()
    window.studio.edit("title", lambda b: replace(b, title="Other"))
    qtbot.waitUntil(lambda: any("changed while" in s for s in said), timeout=120_000)
    assert window.studio.breakdown.script == () and window.studio.breakdown.title == "Other"


def test_without_a_log_the_key_says_what_is_lacking(empty: tuple[Window, WritePage]) -> None:
    window, page = empty
    said: list[str] = []
    window.studio.message.connect(said.append)
    window.studio.edit("bare", lambda b: replace(b, exchanges=(), moments=(), labels=()))
    page.drafting.draft()
    assert said[-1].startswith("Nothing is logged yet") and window.studio.breakdown.script == ()


def test_names_written_wrong_are_a_list_to_tick_and_one_step_of_undo(demo: Window, qtbot: QtBot) -> None:
    demo.go(Stage.WRITE)
    page: WritePage = demo.stages[Stage.WRITE].page
    before = demo.studio.breakdown.find_beat("b10")[1].text
    wrong = "so he has the laugh so guard there and then a berry in bolo"
    demo.studio.edit("write", lambda b: edit_script.rewrite(b, "b10", wrong))
    page.script.choose("b10", 0)
    QTest.keyClick(page.script.cards["b10"].editor, Qt.Key.Key_K, BOTH)
    assert page.repair.isVisible() and [r.slip.right for _, r in page.repair.ticks] == ["lasso guard", "berimbolo"]
    QTest.keyClick(page.repair.ticks[0][0], Qt.Key.Key_Space)
    QTest.keyClick(page.repair.ticks[0][0], Qt.Key.Key_Return)
    assert demo.studio.breakdown.find_beat("b10")[1].text == wrong.replace("berry in bolo", "berimbolo")
    assert not page.repair.isVisible()
    demo.studio.session.undo()
    assert demo.studio.breakdown.find_beat("b10")[1].text == wrong != before


def test_a_list_of_names_that_is_out_of_date_changes_nothing_else(demo: Window) -> None:
    demo.go(Stage.WRITE)
    page: WritePage = demo.stages[Stage.WRITE].page
    demo.studio.edit("write", lambda b: edit_script.rewrite(b, "b10", "and then a berry in bolo"))
    page.repair_all()
    demo.studio.edit("write", lambda b: edit_script.rewrite(b, "b10", "Short."))
    page.repair.act()
    assert demo.studio.breakdown.find_beat("b10")[1].text == "Short."


def test_the_picture_of_an_offered_moment_is_shown_before_the_key_is_pressed(demo: Window, qtbot: QtBot) -> None:
    demo.go(Stage.WRITE)
    page: WritePage = demo.stages[Stage.WRITE].page
    demo.studio.edit("untie", lambda b: edit_script.untie_word(b, "b8", b.find_beat("b8")[1].ties[0].word))
    page.script.choose("b8", 0)
    offer = page.script.cards["b8"].offer
    assert offer.isVisible() and offer.height() > 40
    qtbot.waitUntil(lambda: bool(offer.grab()) and page.sight.film.is_settled(), timeout=120_000)
    picture = offer.grab().toImage()
    colours = {picture.pixel(x, y) for x in range(6, 80, 4) for y in range(4, 44, 4)}
    assert len(colours) > 30
