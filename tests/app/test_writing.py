"""Writing a breakdown in the real window, from a pasted script to the rendered file; and hearing it before."""

from __future__ import annotations

from dataclasses import fields
from fractions import Fraction
from pathlib import Path

import numpy as np
import pytest
from msgspec.structs import replace
from PyQt6.QtCore import QMimeData, QPoint, Qt
from PyQt6.QtWidgets import QPushButton
from pytestqt.qtbot import QtBot
from scipy.signal import fftconvolve

from chapto.app.playhead import View
from chapto.app.screen.player import Player
from chapto.app.studio import Studio
from chapto.app.write.page import WritePage
from chapto.demo.story import demo_breakdown
from chapto.document import edit_log, edit_script
from chapto.document.breakdown import Breakdown
from chapto.document.script import Part
from chapto.media.readings import Readings
from chapto.media.stretch import stretched
from chapto.programme.programme import TieState
from chapto.review.next_step import next_step
from chapto.review.work import SPREAD, Situation, Stage
from chapto.store.own_styles import drop_own, own_styles
from chapto.store.session import Session
from chapto.voice.guide import RATE, GuideVoice
from chapto.voice.speaker import StandInSpeaker
from tests.app.conftest import Opener
from tests.app.driven import DrivenWindow as Window
from tests.render.decoded import Decoded, footage_frame, lag

F = Fraction
CTRL, ALT = Qt.KeyboardModifier.ControlModifier, Qt.KeyboardModifier.AltModifier
SCRIPT = """# The first try

Her knee comes across the thigh here and lands. Look at his far arm, right there on her collar.

She has no underhook, so he turns in and has his half guard again.
"""
TIED = (("knee", "85.8"), ("there", "87.2"), ("has", "89.4"))


def logged(folder: Path) -> Session:
    """The demo's log of one exchange, and nothing written."""
    b = demo_breakdown(folder)
    b = replace(b, script=(), labels=(), exchanges=tuple(x for x in b.exchanges if x.id == "x2"))
    b = edit_script.add_section(b, exchange="x2")
    return Session(edit_script.add_beat(b, b.script[0].id), folder / "first-try.chapto")


def word_of(b: Breakdown, word: str) -> tuple[str, int]:
    return next((x.id, i) for _, x in b.beats() for i, w in enumerate(x.text.split()) if w.strip(".,") == word)


@pytest.mark.timeout(400)
def test_a_pasted_script_is_tied_styled_and_rendered_with_its_words_on_their_moments(
    open_window: Opener, tmp_path: Path, qtbot: QtBot, guide: GuideVoice
) -> None:
    session = logged(tmp_path)
    session.save()
    window = open_window(session)
    window.go(Stage.WRITE)
    script, studio = window.write_page.script, window.studio
    first = next(iter(script.cards))
    script.choose(first)
    pasted = QMimeData()
    pasted.setText(SCRIPT)
    script.cards[first].editor.insertFromMimeData(pasted)
    assert [s.title for s in studio.breakdown.script][-1] == "The first try"
    old, new = (s.id for s in studio.breakdown.script)
    studio.edit("take out the empty one", lambda b: edit_script.remove_section(b, old))
    studio.edit("under the exchange", lambda b: edit_script.change_section(b, new, exchange="x2"))
    for word, mat in TIED:
        script.choose(*word_of(studio.breakdown, word))
        window.player.show_mat(F(mat))
        qtbot.keyClick(script.cards[script.current].editor, Qt.Key.Key_T, CTRL)
    style = next(x for x in window.write_page.findChildren(QPushButton) if x.text() == "Stop and talk")
    qtbot.mouseClick(style, Qt.MouseButton.LeftButton)
    assert studio.wait()
    laces = window.write_page.lacing.model.laces
    assert len(laces) == 3 and all(x.state is TieState.MET and abs(x.lag or 0) <= 1 / 60 for x in laces)
    window.publish_page.target = tmp_path / "out.mp4"
    qtbot.keyClick(window, Qt.Key.Key_R, CTRL | Qt.KeyboardModifier.ShiftModifier)
    qtbot.waitUntil(lambda: bool(window.publish_page.made), timeout=120_000)
    decoded, b = Decoded(tmp_path / "out.mp4"), studio.breakdown
    for word, mat in TIED:
        beat_id, number = word_of(b, word)
        beat = b.find_beat(beat_id)[1]
        speech = guide.speak(beat.text, voice=b.narrator(beat).guide_voice, pace=b.narrator(beat).pace)
        after = [t.word for t in beat.ties if t.word > number]
        limit = float(speech.line.words[after[0]][0] if after else speech.line.seconds)
        start = float(speech.line.words[number][0])
        assert lag(decoded, footage_frame(b, F(mat), tmp_path), speech.samples, start, limit) <= 0.040, word


def test_a_way_out_is_one_key_away_and_undo_takes_it_back(demo: Window, qtbot: QtBot) -> None:
    demo.write_page.bar.set_style("run-through")
    assert demo.studio.wait()
    lacks = demo.studio.programme.shortfalls
    script = demo.write_page.script
    script.choose(lacks[0].beat, lacks[0].word)
    card = script.cards[lacks[0].beat]
    qtbot.waitUntil(lambda: bool(card.ways.ways), timeout=120_000)
    assert card.ways.isVisible() and 2 <= len(card.ways.ways) <= 3
    before = demo.studio.breakdown
    qtbot.keyClick(card.editor, Qt.Key.Key_1, ALT)
    assert demo.studio.breakdown != before and demo.studio.wait()
    assert (lacks[0].beat, lacks[0].word) not in {(s.beat, s.word) for s in demo.studio.programme.shortfalls}
    demo.studio.session.undo()
    assert demo.studio.breakdown == before


def test_beats_sections_and_voices_are_moved_by_keys(demo: Window, qtbot: QtBot) -> None:
    script = demo.write_page.script
    script.choose("b9")
    editor = script.cards["b9"].editor
    qtbot.keyClick(editor, Qt.Key.Key_Up, ALT)
    assert [x.id for x in demo.studio.breakdown.script[3].beats] == ["b7", "b9", "b8"]
    qtbot.keyClick(editor, Qt.Key.Key_Down, ALT | Qt.KeyboardModifier.ShiftModifier)
    assert [s.id for s in demo.studio.breakdown.script][3:5] == ["s5", "s4"]
    qtbot.keyClick(editor, Qt.Key.Key_N, ALT)
    b = demo.studio.breakdown
    assert b.narrator(b.find_beat("b9")[1]).name == "Bram" and script.current == "b9"
    demo.write_page.voices.add()
    assert len(demo.studio.breakdown.narrators) == 3


def test_a_name_written_wrong_is_put_right_with_one_key(demo: Window, qtbot: QtBot) -> None:
    script = demo.write_page.script
    text = demo.studio.breakdown.find_beat("b10")[1].text
    demo.studio.edit("slip", lambda b: edit_script.rewrite(b, "b10", text.replace("underhook", "underhok")))
    script.choose("b10")
    script.names.finish()
    assert script.cards["b10"]._spelling.isVisible()
    qtbot.keyClick(script.cards["b10"].editor, Qt.Key.Key_K, CTRL)
    assert demo.studio.breakdown.find_beat("b10")[1].text == text
    assert not script.cards["b10"]._spelling.isVisible()


def test_a_style_of_ones_own_is_made_changed_and_thrown_away(demo: Window, qtbot: QtBot) -> None:
    from chapto.app.write.own_styles import _make

    page = demo.write_page
    _make(demo.studio, page.change_style)
    name = demo.studio.breakdown.style
    try:
        assert name in own_styles() and page.style_sheet.isVisible()
        assert demo.studio.wait()
        longest = max(x.end - x.start for x in page.lacing.model.bands if x.kind.value == "hold")
        gauge = page.style_sheet.gauges["longest_hold"]
        for _ in range(15):
            qtbot.keyClick(gauge, Qt.Key.Key_Left, Qt.KeyboardModifier.ShiftModifier)
        assert own_styles()[name].longest_hold == F(5, 2) and demo.studio.wait()
        assert max(x.end - x.start for x in page.lacing.model.bands if x.kind.value == "hold") < longest
        page.style_sheet.restore()
        assert own_styles()[name].longest_hold == 40
        qtbot.keyClick(gauge, Qt.Key.Key_Escape)
        assert page.script.isVisible()
        page.change_style()
        page.style_sheet.drop()
        assert name not in own_styles() and demo.studio.breakdown.style == "stop-and-talk"
        assert page.script.isVisible()
    finally:
        drop_own(name)


def test_a_new_breakdown_is_laid_out_in_a_form_with_one_press(
    open_window: Opener, tmp_path: Path, qtbot: QtBot
) -> None:
    window = open_window(logged(tmp_path))
    window.go(Stage.WRITE)
    form = next(x for x in window.write_page.findChildren(QPushButton) if x.text() == "One clip in depth")
    qtbot.mouseClick(form, Qt.MouseButton.LeftButton)
    b = window.studio.breakdown
    assert [s.part for s in b.script] == [Part.INTRODUCTION, Part.TALK, Part.RECAP, Part.CREDITS]
    assert b.script[1].exchange == "x2" and len(b.script[1].beats) == 6
    window.studio.session.undo()
    assert len(window.studio.breakdown.script) == 1


def test_the_preview_stays_in_step_for_ten_minutes_and_plays_from_any_word(
    dressed: object, tmp_path: Path, guide: GuideVoice
) -> None:
    """The clock is turned by hand; at every turn the picture is the one due then, and the voice lies where its words
    are placed."""
    b = demo_breakdown(tmp_path)
    sections = tuple(
        replace(s, id=f"{s.id}-{n}", beats=tuple(replace(x, id=f"{x.id}-{n}") for x in s.beats))
        for n in range(4)
        for s in b.script
    )
    studio = Studio(Session(replace(b, script=sections), tmp_path / "long.chapto"), guide=guide, proxies=False)
    try:
        assert studio.wait(seconds=120)
        now = [0.0]
        player = Player(studio, speaker=StandInSpeaker(lambda: now[0]))
        p = studio.programme
        assert p.seconds > 620
        player.show_frame(0)
        player.play()
        for second in np.arange(0.0, 610.0, 7.3):
            now[0] = float(second)
            player.tick()
            assert abs(player.head.frame - second * float(p.fps)) <= 1
        player.pause()
        assert player.head.view is View.WATCH
        late = [x for x in p.voice if 590 < x.at < 625]
        assert late
        mix = studio.mix()
        for phrase in late:
            voice = studio.production.speeches[phrase.beat].samples
            spoken = stretched(
                voice[round(phrase.voice_in * RATE) : round(phrase.voice_out * RATE)], float(phrase.tempo)
            )
            start = round(phrase.at * RATE) - RATE
            heard = mix.read(start, len(spoken) + 2 * RATE).mean(axis=1)
            found = int(np.argmax(fftconvolve(heard, spoken[::-1], mode="valid")))
            assert abs(found - RATE) / RATE <= 1 / float(p.fps)
    finally:
        studio.close()


def test_playing_from_the_word_begins_at_the_word(demo: Window, qtbot: QtBot) -> None:
    script = demo.write_page.script
    script.choose("b8", 6)
    word = next(w for w in demo.studio.programme.words if (w.beat, w.word) == ("b8", 6))
    qtbot.keyClick(script.cards["b8"].editor, Qt.Key.Key_Return, CTRL | Qt.KeyboardModifier.ShiftModifier)
    assert demo.player.playing
    demo.player.pause()
    assert 0 <= demo.player.head.frame - int(word.start * 30) <= 10


def test_a_pointing_word_without_a_moment_is_offered_where_most_happens(demo: Window, qtbot: QtBot) -> None:
    b = demo.studio.breakdown
    camera = next(c for c in b.footage if c.id == "f1")
    at = np.arange(0.0, float(camera.duration), 0.5)
    busy = np.where(np.isclose(at, float(camera.media_time(F(40)))), 1.0, 0.1)
    steady = {f.name: np.full(len(at), 50, np.float32) for f in fields(Readings)}
    demo.desk.readings["f1"] = Readings(**{**steady, "at": at.astype(np.float32), "activity": busy.astype(np.float32)})
    demo.studio.edit("point", lambda b: edit_script.rewrite(b, "b6", "Look here. Turn the corner first, then finish."))
    script = demo.write_page.script
    script.choose("b6")
    offer = script.cards["b6"].offer
    assert offer.isVisible() and "0:40.0, where most happens" in offer.text()
    qtbot.keyClick(script.cards["b6"].editor, Qt.Key.Key_G, CTRL)
    tie = demo.studio.breakdown.find_beat("b6")[1].ties[0]
    assert tie.word == 1 and demo.studio.breakdown.moment(tie.moment).at == 40


def test_a_beat_is_dragged_by_its_edge_into_another_section(demo: Window, qtbot: QtBot) -> None:
    script = demo.write_page.script
    script.choose("b6")
    qtbot.wait(50)
    card, goal = script.cards["b6"], script.cards["b8"]
    start = QPoint(6, card.height() // 2)
    place = card.mapFromGlobal(goal.mapToGlobal(QPoint(6, 2)))
    qtbot.mousePress(card, Qt.MouseButton.LeftButton, pos=start)
    for share in (0.3, 0.7, 1.0):
        qtbot.mouseMove(card, start + (place - start) * share)
    qtbot.mouseRelease(card, Qt.MouseButton.LeftButton, pos=place)
    order = [[x.id for x in s.beats] for s in demo.studio.breakdown.script[2:4]]
    assert order == [["b4", "b5"], ["b7", "b6", "b8", "b9"]]
    demo.studio.session.undo()
    assert demo.studio.breakdown.find_beat("b6")[0].id == "s3"


def test_a_stretch_is_skipped_by_keys_from_here_to_there(demo: Window, qtbot: QtBot) -> None:
    script = demo.write_page.script
    script.choose("b6")
    for mat in ("39.0", "40.5"):
        demo.player.show_mat(F(mat))
        qtbot.keyClick(script.cards["b6"].editor, Qt.Key.Key_D, CTRL)
    assert next(s for s in demo.studio.breakdown.script if s.id == "s3").skips == ((F(39), F(81, 2)),)


def test_on_an_empty_sheet_the_caret_waits_and_the_first_letter_begins(
    empty: tuple[Window, WritePage], qtbot: QtBot
) -> None:
    window, page = empty
    window.go(Stage.LOG)
    window.go(Stage.WRITE)
    qtbot.waitUntil(lambda: page.script.first is not None and page.script.first.hasFocus(), timeout=120_000)
    for letter in "Watch":
        focus = window.focusWidget()
        assert focus is not None
        qtbot.keyClicks(focus, letter)
    b = window.studio.breakdown
    assert [beat.text for _, beat in b.beats()] == ["Watch"] and b.script[0].exchange
    window.studio.undo()
    window.studio.undo()
    assert not window.studio.breakdown.script


def test_words_are_found_and_replaced_in_one_step(demo: Window, qtbot: QtBot) -> None:
    demo.go(Stage.WRITE)
    page, before = demo.write_page, demo.studio.breakdown
    qtbot.keyClick(page.script, Qt.Key.Key_H, Qt.KeyboardModifier.ControlModifier)
    bar = page.finding
    assert bar.isVisible() and bar.wanted.hasFocus()
    qtbot.keyClicks(bar.wanted, "knee")
    count = sum(beat.text.casefold().count("knee") for _, beat in before.beats())
    assert bar._count.text() == str(count) and count > 2
    qtbot.keyClick(bar.wanted, Qt.Key.Key_Return)
    card = page.script.cards[page.script.current]
    assert card.editor.textCursor().selectedText().casefold() == "knee" and bar.wanted.hasFocus()
    qtbot.keyClicks(bar.by, "shin")
    bar.replace_all()
    assert not any("knee" in beat.text.casefold() for _, beat in demo.studio.breakdown.beats())
    assert f"replaced {count} times" in demo.foot.sentence.text()
    demo.studio.undo()
    assert demo.studio.breakdown == before


def test_a_section_folds_and_opens_again_for_what_is_chosen(demo: Window, qtbot: QtBot) -> None:
    demo.go(Stage.WRITE)
    page = demo.write_page
    qtbot.waitUntil(demo.is_settled, timeout=120_000)
    section = next(s for s in demo.studio.breakdown.script if len(s.beats) > 1)
    page.script.choose(section.beats[0].id)
    qtbot.keyClick(page.script, Qt.Key.Key_F, Qt.KeyboardModifier.AltModifier)
    assert not any(page.script.cards[beat.id].isVisible() for beat in section.beats)
    page.script.choose(section.beats[1].id)
    assert all(page.script.cards[beat.id].isVisible() for beat in section.beats)


def test_what_comes_under_the_words_later_comes_into_view_unless_one_looked_elsewhere(
    demo: Window, qtbot: QtBot
) -> None:
    demo.go(Stage.WRITE)
    script = demo.write_page.script
    qtbot.waitUntil(demo.is_settled, timeout=120_000)
    script.choose("b11")
    qtbot.wait(50)
    card, bar, page = script.cards["b11"], script.verticalScrollBar(), script.viewport()
    assert bar is not None and page is not None

    def stands_out() -> int:
        """Pixels of the card below what is seen."""
        return card.y() + card.height() - bar.value() - page.height()

    bar.setValue(bar.value() + stands_out())
    assert stands_out() == 0
    card.setMinimumHeight(card.height() + 60)
    qtbot.waitUntil(lambda: card.height() == card.minimumHeight() and stands_out() <= 0, timeout=120_000)
    bar.setValue(0)
    assert stands_out() > 0
    card.setMinimumHeight(card.height() + 60)
    qtbot.waitUntil(lambda: card.height() == card.minimumHeight(), timeout=120_000)
    qtbot.wait(50)
    assert bar.value() == 0


def test_what_is_pressed_stays_under_the_pointer_and_brings_its_picture(demo: Window, qtbot: QtBot) -> None:
    demo.go(Stage.WRITE)
    page, player = demo.write_page, demo.player
    qtbot.waitUntil(demo.is_settled, timeout=120_000)
    first, other = "b8", "b11"
    page.script.choose(first, 6)
    qtbot.wait(50)
    page.script.ensureWidgetVisible(page.script.cards[other], 0, 60)
    card = page.script.cards[other]
    before = card.mapTo(page.script, QPoint(0, 0)).y()
    qtbot.mouseClick(card.editor.viewport(), Qt.MouseButton.LeftButton, pos=QPoint(20, 8))
    assert page.script.current == other and abs(card.mapTo(page.script, QPoint(0, 0)).y() - before) <= 1
    section = page.script.current_section()
    placed = next(s for s in demo.studio.programme.sections if s.section == section)
    assert placed.start <= player.head.frame < placed.end


def test_long_names_never_push_the_menu_of_a_section_away(demo: Window, qtbot: QtBot) -> None:
    demo.go(Stage.WRITE)
    long = "reverse de la riva to a very long name of a sweep that nobody ever says aloud in one breath"
    x = next(s.exchange for s in demo.studio.breakdown.script if s.exchange)
    demo.studio.edit("name", lambda b: edit_log.change_exchange(b, x, technique=long))
    demo.resize(1100, 700)
    qtbot.waitUntil(demo.is_settled, timeout=120_000)
    qtbot.wait(50)
    heads = demo.write_page.script._column.heads.values()
    width = demo.write_page.script.viewport().width()
    assert all(head.width() <= width for head in heads)
    assert any(long in head._about.toolTip() for head in heads)


def test_a_long_script_without_exchanges_is_spread_with_one_press(
    empty: tuple[Window, WritePage], qtbot: QtBot
) -> None:
    window, page = empty
    text = "\n\n".join(f"Sentence number {i} tells what the two of them are doing on the mat now." for i in range(40))
    page.elsewhere.paste(text, "")
    window.studio.edit("no pictures", lambda b: replace(b, script=tuple(replace(s, exchange="") for s in b.script)))
    window.studio.wait()
    assert "have no picture" in window.foot.sentence.text() or window.foot.messages.now is not None
    step = next_step(Situation(window.studio.breakdown, window.studio.programme))
    assert step.item == SPREAD
    window._take_step(step)
    b = window.studio.breakdown
    assert sum(bool(s.exchange) for s in b.script) > 5 and sum(len(s.beats) for s in b.script) == 40
    window.studio.undo()
    assert not any(s.exchange for s in window.studio.breakdown.script)
