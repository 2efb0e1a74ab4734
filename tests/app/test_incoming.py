"""Scripts from elsewhere come in through the real window."""

from __future__ import annotations

from pathlib import Path

from bench.hour_of_talk import captions
from PyQt6.QtCore import QMimeData, Qt
from PyQt6.QtTest import QTest
from pytestqt.qtbot import QtBot

from chapto.app.window import Window
from chapto.app.write.page import WritePage
from chapto.app.write.script_foot import ScriptFoot
from chapto.document.checks import checked
from chapto.programme.placed import TieState
from chapto.publish.scripts.incoming import NEW, incoming, put_into
from chapto.publish.scripts.plain_text import parts_of
from tests.publish.test_lay_along import bare, compiled


def test_speakers_become_narrators_and_are_asked_once() -> None:
    parts = parts_of("0:11 HOST: What now?\n0:13 GUEST: I go under.")
    script = incoming(bare(), "talk", parts)
    assert script.asked == ("HOST", "GUEST") and script.voices == {"HOST": "n1", "GUEST": NEW}
    b = checked(put_into(bare(), compiled(bare()), script))
    assert [(n.name, n.written) for n in b.narrators] == [("Host", ()), ("Guest", ())]
    assert [b.narrator(x).name for _, x in b.beats()] == ["Host", "Guest"]
    again = incoming(b, "talk", parts)
    assert again.asked == () and set(again.voices.values()) == {n.id for n in b.narrators}
    answered = script.with_voice("GUEST", "n1")
    b = checked(put_into(bare(), compiled(bare()), answered))
    assert len(b.narrators) == 1 and b.narrators[0].written == ("GUEST",)
    assert incoming(b, "talk", parts_of("GUEST: So.")).asked == ()


def test_captions_of_two_speakers_become_a_tied_script_in_three_presses(
    empty: tuple[Window, WritePage], tmp_path: Path, qtbot: QtBot
) -> None:
    """Besides choosing the file: Return on what was read, and one step for all ties, which is undone as one."""
    window, page = empty
    path = tmp_path / "talk.vtt"
    path.write_text(captions(3.5), "utf-8")
    page.elsewhere.read(path, "")
    assert page.incoming.isVisible() and page.incoming.script is not None
    assert page.incoming.script.asked == ("HOST", "GUEST")
    QTest.keyClick(page.incoming, Qt.Key.Key_Return)
    window.studio.wait()
    qtbot.waitUntil(lambda: page.script.current != "")
    b = window.studio.breakdown
    assert not page.incoming.isVisible() and len(list(b.beats())) > 20 and len(b.narrators) == 4
    assert page.stamps.isVisible() and len(page.lacing.model.offered) > 20
    editor = page.script.cards[page.script.current].editor
    QTest.keyClick(editor, Qt.Key.Key_G, Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier)
    window.studio.wait()
    ties = window.studio.programme.ties
    assert len(ties) > 20 and all(t.state is TieState.MET for t in ties) and not page.stamps.isVisible()
    window.studio.session.undo()
    assert not any(x.ties for _, x in window.studio.breakdown.beats())
    window.studio.session.undo()
    assert window.studio.breakdown.script == ()


def test_what_is_asked_can_be_answered_otherwise_or_left(empty: tuple[Window, WritePage], tmp_path: Path) -> None:
    window, page = empty
    path = tmp_path / "talk.txt"
    path.write_text("1:24 HOST: What is he doing?\n1:26 Ilka: He frames.", "utf-8")
    page.elsewhere.read(path, "")
    script = page.incoming.script
    assert script is not None and script.asked == ("HOST",)
    page.incoming.open(script.with_voice("HOST", "n2"))
    QTest.keyClick(page.incoming, Qt.Key.Key_Escape)
    assert window.studio.breakdown.script == () and not page.incoming.isVisible()
    page.elsewhere.read(path, "")
    page.incoming.open(page.incoming.script.with_voice("HOST", "n2"))  # type: ignore[union-attr]
    page.incoming.act()
    b = window.studio.breakdown
    assert [b.narrator(x).name for _, x in b.beats()] == ["Bram", "Ilka"]
    assert b.narrators[1].written == ("HOST",) and len(b.narrators) == 2


def test_a_script_that_asks_nothing_comes_in_at_once_and_a_pasted_one_too(
    empty: tuple[Window, WritePage], tmp_path: Path
) -> None:
    window, page = empty
    path = tmp_path / "plain.md"
    path.write_text("# The first try\n\nHer knee lands.\n\nHe frames.", "utf-8")
    page.elsewhere.read(path, "")
    assert not page.incoming.isVisible()
    assert [(s.title, len(s.beats)) for s in window.studio.breakdown.script][-1] == ("The first try", 2)
    beat = window.studio.breakdown.script[-1].beats[-1].id
    mime = QMimeData()
    mime.setText("One more.\n\nAnd another.")
    page.script.cards[beat].editor.insertFromMimeData(mime)
    assert [x.text for x in window.studio.breakdown.script[-1].beats][-2:] == ["One more.", "And another."]


def test_a_file_that_is_no_script_is_a_sentence_and_nothing_changes(
    empty: tuple[Window, WritePage], tmp_path: Path
) -> None:
    window, page = empty
    said: list[str] = []
    window.studio.message.connect(said.append)
    path = tmp_path / "odd.vtt"
    path.write_bytes(b"\xff\xfe\x00")
    page.elsewhere.read(path, "")
    assert "no UTF-8" in said[-1] and window.studio.breakdown.script == ()


def test_a_section_begun_at_the_foot_has_the_caret_in_its_empty_beat(empty: tuple[Window, WritePage]) -> None:
    window, page = empty
    foot = page.script.findChild(ScriptFoot)
    assert foot is not None and [a.text() for a in foot._sections().actions()][-1] == "Title card"
    foot._sections().actions()[0].trigger()
    (section,) = window.studio.breakdown.script
    assert (section.title, section.exchange, [x.text for x in section.beats]) == ("Single leg takedown", "x1", [""])
    assert page.script.cards[section.beats[0].id].editor.hasFocus()
