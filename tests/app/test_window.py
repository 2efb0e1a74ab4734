"""The real window, driven as a person would: keys, presses, typing."""

from __future__ import annotations

import os
import subprocess
import sys
import time
from fractions import Fraction
from itertools import product
from pathlib import Path

import av
import numpy as np
import pytest
from msgspec.structs import replace
from PyQt6.QtCore import QMimeData, QPoint, QPointF, Qt, QUrl
from PyQt6.QtGui import QDropEvent
from PyQt6.QtWidgets import QPushButton
from pytestqt.qtbot import QtBot

from chapto.app import sound_level
from chapto.app.frame.keys import KeysPage
from chapto.app.playhead import View
from chapto.app.screen.screen import Screen
from chapto.clock.passage import Kind
from chapto.document import edit_script
from chapto.document.breakdown import Breakdown
from chapto.review.work import Stage
from chapto.store.session import Session
from chapto.voice.speaker import StandInSpeaker
from tests.app.conftest import Opener, Questions
from tests.app.driven import DrivenWindow as Window
from tests.app.fitting import cut_off, overlapping
from tests.media.clips import Clip, make

F = Fraction


def visible_screen(window: Window) -> Screen:
    return next(s for s in window.findChildren(Screen) if s.isVisible())


def held_seconds(window: Window, section: str) -> float:
    p = window.studio.programme
    placed = next(s for s in p.sections if s.section == section)
    held = [x.frames for x in p.passages if x.kind is Kind.HOLD and placed.start <= x.watch_in < placed.end]
    return float(sum(held) / p.fps)


def test_play_shows_the_programme_in_step_with_its_sound(demo: Window, qtbot: QtBot) -> None:
    demo.go(Stage.WRITE)
    demo.player.show_frame(470)
    qtbot.waitUntil(demo.is_settled, timeout=120_000)
    seen: set[object] = set()
    demo.player.moved.connect(lambda: seen.add(visible_screen(demo).shown_key))
    began = time.monotonic()
    demo.player.play()
    qtbot.waitUntil(lambda: demo.player.head.frame >= 500 and len(seen) > 4, timeout=120_000)
    demo.player.pause()
    assert demo.player.head.frame <= 470 + 30 * (time.monotonic() - began) + 1, "no quicker than a second a second"
    speaker = demo.player.speaker
    assert isinstance(speaker, StandInSpeaker) and speaker.loudest > 0.05
    stopped = demo.player.head
    qtbot.wait(150)
    assert demo.player.head == stopped


def test_the_screen_shows_the_frame_of_the_footage(demo: Window, qtbot: QtBot) -> None:
    """The picture on the screen is compared with the footage decoded by PyAV alone."""
    demo.go(Stage.LOG)
    demo.player.show_mat(F("35.5"))
    qtbot.waitUntil(demo.is_settled, timeout=120_000)
    screen = visible_screen(demo)
    image = screen.grab().toImage().copy(screen.area())
    pixels = np.array(
        [
            [image.pixelColor(x, y).lightness() for x in range(0, image.width(), 16)]
            for y in range(60, image.height(), 16)
        ]
    )
    footage = demo.studio.files.places["f1"]
    with av.open(str(footage)) as media:
        media.seek(int(35e6))
        frame = next(f for f in media.decode(video=0) if f.time is not None and f.time >= 35.49)
        whole = frame.reformat(image.width(), image.height(), "rgb24").to_ndarray().astype(int)
    light = (whole.max(axis=2) + whole.min(axis=2)) // 2
    wanted = light[60 : image.height() : 16, 0 : image.width() : 16]
    assert np.mean(np.abs(pixels - wanted)) < 4


def test_changing_a_sentence_makes_the_hold_grow_and_the_lacing_move(demo: Window, qtbot: QtBot) -> None:
    script, lacing = demo.write_page.script, demo.write_page.lacing
    before, words = held_seconds(demo, "s4"), len(lacing.model.words)
    script.choose("b8")
    editor = script.cards["b8"].editor
    editor.put_caret(7)
    qtbot.keyClicks(editor, "and do look at it for a good long while ")
    assert demo.studio.wait()
    assert demo.studio.breakdown.find_beat("b8")[1].text.count("good long while") == 1
    assert held_seconds(demo, "s4") > before + 1.5
    assert len(lacing.model.words) == words + 10
    assert [t.moment for t in demo.studio.breakdown.find_beat("b8")[1].ties] == ["m5", "m6"]
    qtbot.keyClick(editor, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert demo.studio.wait()
    assert held_seconds(demo, "s4") == pytest.approx(before)
    assert len(lacing.model.words) == words


def test_one_key_ties_the_word_at_the_caret_to_the_frame(demo: Window, qtbot: QtBot) -> None:
    script = demo.write_page.script
    demo.studio.edit("left to the fit", lambda b: edit_script.treat(b, "b6", None))
    script.choose("b6", 3)
    demo.player.show_mat(F("40.0"))
    qtbot.keyClick(script.cards["b6"].editor, Qt.Key.Key_T, Qt.KeyboardModifier.ControlModifier)
    beat = demo.studio.breakdown.find_beat("b6")[1]
    assert [t.word for t in beat.ties] == [3]
    assert demo.studio.breakdown.moment(beat.ties[0].moment).at == F("40.0")
    assert demo.studio.wait()
    tie = next(t for t in demo.studio.programme.ties if t.beat == "b6")
    assert abs(float(tie.lag or 9)) < 0.02
    script.cards["b6"].editor.put_caret(3)
    modifiers = Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier
    qtbot.keyClick(script.cards["b6"].editor, Qt.Key.Key_T, modifiers)
    assert demo.studio.breakdown.find_beat("b6")[1].ties == ()


def test_return_splits_and_backspace_joins_beats(demo: Window, qtbot: QtBot) -> None:
    script = demo.write_page.script
    text = demo.studio.breakdown.find_beat("b2")[1].text
    script.choose("b2", 4)
    qtbot.keyClick(script.cards["b2"].editor, Qt.Key.Key_Return)
    section = demo.studio.breakdown.script[1]
    assert " ".join(x.text for x in section.beats[:2]) == text
    new = section.beats[1].id
    assert script.current == new and script.cards[new].editor.hasFocus()
    qtbot.keyClick(script.cards[new].editor, Qt.Key.Key_Backspace)
    assert demo.studio.breakdown.find_beat("b2")[1].text == text


def test_another_house_style_is_one_press(demo: Window, qtbot: QtBot) -> None:
    style = next(x for x in demo.write_page.findChildren(QPushButton) if x.text() == "Run-through")
    qtbot.mouseClick(style, Qt.MouseButton.LeftButton)
    assert demo.studio.wait()
    holds = [x.frames for x in demo.studio.programme.passages if x.kind is Kind.HOLD]
    assert demo.studio.breakdown.style == "run-through" and max(holds) <= 31
    assert style.isChecked()
    assert "after the picture" in demo.foot.sentence.text()
    qtbot.mouseClick(demo.foot.sentence, Qt.MouseButton.LeftButton)
    assert demo.write_page.script.current == demo.studio.programme.shortfalls[0].beat


def test_logging_with_keys_puts_everything_on_the_mat_clock(demo: Window, qtbot: QtBot) -> None:
    demo.go(Stage.LOG)
    page = demo.log_page
    demo.player.show_mat(F(60))
    qtbot.keyClick(page, Qt.Key.Key_E)
    demo.player.show_mat(F(64))
    qtbot.keyClick(page, Qt.Key.Key_5)
    demo.player.show_mat(F(66))
    qtbot.keyClick(page, Qt.Key.Key_E)
    qtbot.keyClick(page, Qt.Key.Key_D, Qt.KeyboardModifier.ShiftModifier)
    b = demo.studio.breakdown
    made = next(x for x in b.exchanges if x.start == 60)
    assert (made.end, made.by and made.by.value) == (66, "second")
    moment = next(m for m in b.moments if m.at == 64)
    assert moment.kind.value == "base"
    entry = page.entries[made.id]
    entry.words.setFocus()
    qtbot.keyClicks(entry.words, "guard break")
    qtbot.keyClick(entry.words, Qt.Key.Key_Return)
    assert demo.studio.breakdown.exchange(made.id).technique == "guard break"
    page.setFocus()
    qtbot.keyClick(page, Qt.Key.Key_Delete)
    assert all(x.id != made.id for x in demo.studio.breakdown.exchanges)
    qtbot.keyClick(page, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert demo.studio.breakdown.exchange(made.id).technique == "guard break"


def test_stepping_goes_frame_by_frame_and_the_view_keeps_the_picture(demo: Window, qtbot: QtBot) -> None:
    demo.go(Stage.LOG)
    demo.player.show_mat(F(50))
    qtbot.keyClick(demo.log_page, Qt.Key.Key_Right)
    assert demo.player.head.mat == F(50) + F(1, 30)
    qtbot.keyClick(demo.log_page, Qt.Key.Key_Left)
    qtbot.keyClick(demo.log_page, Qt.Key.Key_B)
    assert demo.player.head.mat == 45
    demo.player.show_mat(F("35"))
    qtbot.keyClick(demo.log_page, Qt.Key.Key_V)
    assert demo.player.head.view is View.WATCH
    assert float(demo.player.head.seen_mat(demo.studio.programme)) == pytest.approx(35, abs=0.04)


def test_a_pasted_script_becomes_beats_and_pointing_words_are_tied_with_one_key(demo: Window, qtbot: QtBot) -> None:
    script = demo.write_page.script
    b = demo.studio.breakdown
    demo.studio.edit("untie", lambda b: edit_script.untie_word(b, "b8", 6))
    script.choose("b8", 6)
    card = script.cards["b8"]
    assert card.offer.isVisible() and "far arm frames on the collar" in card.offer.text()
    qtbot.keyClick(card.editor, Qt.Key.Key_G, Qt.KeyboardModifier.ControlModifier)
    assert demo.studio.breakdown.find_beat("b8")[1].ties == b.find_beat("b8")[1].ties
    assert not card.offer.isVisible()
    data = QMimeData()
    data.setText("First paragraph.\n\nSecond one here.\n\n# A new part\n\nThird.")
    before = [s.title for s in demo.studio.breakdown.script]
    card.editor.insertFromMimeData(data)
    after = demo.studio.breakdown
    assert [s.title for s in after.script] == [*before[:4], "A new part", *before[4:]]
    assert [x.text for x in after.script[3].beats][2:4] == ["First paragraph.", "Second one here."]
    demo.studio.session.undo()
    assert [s.title for s in demo.studio.breakdown.script] == before


def test_every_stage_is_reached_by_key_and_the_playhead_stays(demo: Window, qtbot: QtBot) -> None:
    demo.player.show_frame(600)
    for number, stage in enumerate(Stage, 1):
        qtbot.keyClick(demo, Qt.Key(Qt.Key.Key_0.value + number), Qt.KeyboardModifier.ControlModifier)
        assert demo.stage is stage
        assert demo.rail.buttons[stage].current
    demo.go(Stage.PUBLISH)
    assert abs(demo.player.head.frame - 600) <= 1


def test_f1_shows_the_keys_until_a_key_is_pressed(demo: Window, qtbot: QtBot) -> None:
    demo.go(Stage.WRITE)
    qtbot.keyClick(demo, Qt.Key.Key_F1)
    page = demo.findChild(KeysPage)
    assert page is not None and page.isVisible()
    qtbot.keyClick(page, Qt.Key.Key_Escape)
    assert not page.isVisible()


def test_the_lacing_zooms_scrubs_and_moves_a_moment(demo: Window, qtbot: QtBot) -> None:
    demo.go(Stage.WRITE)
    lacing = demo.write_page.lacing
    lacing.setFocus()
    scale = lacing.axis.scale
    qtbot.keyClick(lacing, Qt.Key.Key_Plus)
    assert lacing.axis.scale > scale
    qtbot.keyClick(lacing, Qt.Key.Key_0)
    assert lacing.axis.scale == pytest.approx(scale)
    y = lacing.height() - 8
    qtbot.mouseClick(lacing, Qt.MouseButton.LeftButton, pos=QPoint(round(lacing.axis.x(30.0)), y))
    assert demo.player.head.frame == pytest.approx(900, abs=4)
    pin = next(p for p in lacing.model.pins if p.moment == "m4")
    start = QPoint(round(lacing.axis.x(pin.place)), 46)
    qtbot.mousePress(lacing, Qt.MouseButton.LeftButton, pos=start)
    qtbot.mouseMove(lacing, start + QPoint(12, 0))
    qtbot.mouseRelease(lacing, Qt.MouseButton.LeftButton, pos=start + QPoint(12, 0))
    assert demo.studio.breakdown.moment("m4").at > F("85.8")
    demo.studio.session.undo()
    assert demo.studio.breakdown.moment("m4").at == F("85.8")


def test_a_word_in_the_lacing_leads_to_its_beat(demo: Window, qtbot: QtBot) -> None:
    lacing = demo.write_page.lacing
    lace = lacing.model.laces[4]
    place = QPoint(round(lacing.axis.x(lace.said)), lacing.height() - 60)
    qtbot.mouseClick(lacing, Qt.MouseButton.LeftButton, pos=place)
    assert demo.write_page.script.caret() == (lace.beat, lace.word)
    assert demo.player.head.frame == int(lace.said * 30)


def test_render_from_publish_makes_the_files(open_window: Opener, tmp_path: Path, qtbot: QtBot) -> None:
    from chapto.render.new import new_breakdown

    clip = make(tmp_path / "clip.mp4", Clip(width=640, height=360))
    session = Session(new_breakdown([clip], tmp_path), tmp_path / "clip.chapto")
    session.save()
    window = open_window(session)
    window.publish_page.target = tmp_path / "out.mp4"
    keys = Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier
    qtbot.keyClick(window, Qt.Key.Key_R, keys)
    assert window.stage is Stage.PUBLISH
    qtbot.waitUntil(lambda: bool(window.publish_page.made), timeout=120_000)
    assert [p.name for p in window.publish_page.made] == [
        "out.mp4",
        "out.vtt",
        "out.srt",
        "out.chapters.txt",
        "out.description.txt",
    ]
    assert "Made out.mp4" in window.publish_page.result.text()


def test_only_its_own_stop_or_an_answer_stops_a_render(
    demo: Window, tmp_path: Path, qtbot: QtBot, questions: Questions
) -> None:
    target = tmp_path / "sub" / "out.mp4"
    target.parent.mkdir()
    demo.publish_page.target = target
    demo.go(Stage.PUBLISH)
    demo.publish_page.start_render()
    qtbot.waitUntil(lambda: "Render" in demo.foot.work_text.text(), timeout=120_000)
    demo.go(Stage.WRITE)
    qtbot.keyClick(demo, Qt.Key.Key_Escape)
    demo.go(Stage.PUBLISH)
    questions.answers = [1]
    qtbot.keyClick(demo.publish_page, Qt.Key.Key_Escape)
    assert questions.asked == ["Stop making it?"] and demo.publish_page.job is not None
    assert "Render" in demo.foot.work_text.text()
    demo.foot.stop_button.click()
    qtbot.waitUntil(lambda: demo.publish_page.job is None, timeout=120_000)
    assert list(target.parent.iterdir()) == []
    assert demo.publish_page.result.text().startswith("Stopped; nothing was written.")


def test_dropped_videos_come_in_and_what_is_none_is_named(open_window: Opener, tmp_path: Path, qtbot: QtBot) -> None:
    window = open_window(Session(Breakdown(title="New"), tmp_path / "new.chapto"))
    assert window.stage is Stage.FOOTAGE and "Bring in a video" in window.foot.sentence.text()
    clip = make(tmp_path / "clip.mp4", Clip())
    (tmp_path / "notes.txt").write_text("no video")
    data = QMimeData()
    data.setUrls([QUrl.fromLocalFile(str(p)) for p in (tmp_path / "notes.txt", clip)])
    drop = QDropEvent(
        QPointF(100, 100), Qt.DropAction.CopyAction, data, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier
    )
    window.dropEvent(drop)
    qtbot.waitUntil(lambda: [c.name for c in window.studio.breakdown.footage] == ["clip"], timeout=120_000)
    assert "notes.txt" in window.foot.sentence.text()
    assert len(window.studio.breakdown.rounds) == 1
    window.go(Stage.LOG)
    window.player.show_mat(F(1, 2))
    qtbot.waitUntil(window.is_settled, timeout=120_000)


def test_missing_footage_is_said_and_words_can_still_be_written(
    open_window: Opener, tmp_path: Path, qtbot: QtBot
) -> None:
    from chapto.render.new import new_breakdown

    clip = make(tmp_path / "clip.mp4", Clip())
    session = Session(new_breakdown([clip], tmp_path), tmp_path / "clip.chapto")
    session.save()
    clip.unlink()
    window = open_window(session)
    assert "is missing" in window.foot.sentence.text()
    assert window.rail.buttons[Stage.FOOTAGE].open == 2
    window.write_page.script.choose("b1")
    qtbot.keyClicks(window.write_page.script.cards["b1"].editor, "Still here")
    assert window.studio.breakdown.find_beat("b1")[1].text == "Still here"


def test_it_is_played_as_loud_as_it_will_be_published(
    open_window: Opener, demo_file: Path, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(sound_level, "MEASURE_AFTER", 10)
    window = open_window(Session.open(demo_file))
    studio = window.studio
    qtbot.waitUntil(lambda: studio.level.gain != 0, timeout=120_000)
    first = studio.level.gain
    studio.edit("wish", lambda b: replace(b, format=replace(b.format, loudness=b.format.loudness - 3)))
    qtbot.waitUntil(lambda: studio.level.gain != first, timeout=120_000)
    # Peaks are brought down less, so that it is not three to the hair.
    assert studio.level.gain == pytest.approx(first - 3, abs=0.6)


def test_closing_saves(demo: Window, demo_file: Path, qtbot: QtBot) -> None:
    script = demo.write_page.script
    script.choose("b4")
    qtbot.keyClicks(script.cards["b4"].editor, "First. ")
    demo.close()
    assert Session.open(demo_file).breakdown.find_beat("b4")[1].text.startswith("First. ")


def test_everything_fits_at_every_size(demo: Window, qtbot: QtBot) -> None:
    """Works from 1100 × 700 up: no words cut off, nothing out of reach, nothing over its neighbour."""
    for stage, size in product(demo.stages, [(1100, 700), (1280, 800), (1920, 1080)]):
        demo.resize(*size)
        demo.go(stage)
        qtbot.waitUntil(demo.is_settled, timeout=120_000)
        qtbot.wait(30)
        assert (demo.width(), demo.height()) == size
        # Cards come into their places with the turns of the event loop; a busy machine takes some more.
        for _ in range(20):
            if not (wrong := cut_off(demo) + overlapping(demo)):
                break
            qtbot.wait(100)
        assert wrong == [], (size, stage)


def test_everything_fits_on_a_screen_of_double_density(demo_file: Path) -> None:
    code = """
import sys
import time
from pathlib import Path
from chapto.app.start import application
from chapto.app.studio import Studio
from chapto.app.window import Window
from chapto.store.session import Session
from chapto.voice.speaker import StandInSpeaker
from tests.app.fitting import cut_off, overlapping
app = application()
window = Window(Studio(Session.open(Path(sys.argv[1])), proxies=False), speaker=StandInSpeaker(), analyse=False)
window.resize(1280, 800)
window.show()
window.studio.wait()
assert window.devicePixelRatioF() == 2
for stage in window.stages:
    window.go(stage)
    for _ in range(8):
        app.processEvents()
    assert cut_off(window) + overlapping(window) == [], (stage, cut_off(window), overlapping(window))
window.close()
"""
    env = {**os.environ, "QT_SCALE_FACTOR": "2", "PYTHONPATH": str(Path(__file__).parents[2])}
    done = subprocess.run(
        [sys.executable, "-c", code, str(demo_file)], env=env, capture_output=True, text=True, check=False
    )
    assert done.returncode == 0, done.stderr
