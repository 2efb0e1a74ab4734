"""Talking while watching through the real window: the stand-in talks, what comes of it is laid out and can be seen."""

from __future__ import annotations

from fractions import Fraction
from pathlib import Path

import numpy as np
import pytest
from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtTest import QTest
from pytestqt.qtbot import QtBot
from scipy.io import wavfile

from chapto.app.voice.page import VoicePage
from chapto.app.voice.talking.booth import TalkState
from chapto.app.voice.talking.names_sheet import NamesSheet
from chapto.app.voice.talking.typing_sheet import TypingSheet
from chapto.app.voice.talking.view import TalkView
from chapto.demo.generate import FOOTAGE
from chapto.demo.talk_project import as_sound, talk_project
from chapto.document.breakdown import Breakdown
from chapto.document.edit_breakdown import add_narrator
from chapto.document.mark_kinds import MarkKind
from chapto.document.talks import OPEN
from chapto.document.treatments import GoTo
from chapto.media.probe import probe
from chapto.media.sound import RATE
from chapto.publish.talks.events_file import written
from chapto.render.new import new_breakdown
from chapto.review.work import Stage
from chapto.store.session import Session
from chapto.voice import talk_words
from chapto.voice.listening.model import ListenError
from chapto.voice.recording.stand_in_talker import perform
from chapto.voice.recording.talk_recorder import events_of
from chapto.voice.recording.unfinished import TALK, new_recording
from tests.app.conftest import Opener
from tests.app.driven import DrivenWindow as Window
from tests.app.patient_clock import PatientClock

VIDEO = FOOTAGE / "tuesday-round.mp4"
SESSION = """
{go 6} He is in half guard here.
{play} And {press 0.5 0.5} {wait 0.2} {draw 0.6 0.5} {release} now the knee {stop} comes through.
No, not that. {wrong}
{go 20} {wait 0.5} {go 15} {wait 0.3}
{chapter}
2> Here his frame is gone.
"""


def voice_of(window: Window) -> VoicePage:
    window.go(Stage.VOICE)
    page = window.stages[Stage.VOICE].page
    assert isinstance(page, VoicePage)
    return page


def patient(page: VoicePage) -> PatientClock:
    """The clock that the stand-in talks by from now on."""
    page.microphones.clock = clock = PatientClock(page)
    return clock


def test_from_a_raw_file_to_a_laid_out_talk_in_few_actions(open_window: Opener, tmp_path: Path, qtbot: QtBot) -> None:
    """Twelve at most beside the talking: here the window is opened on the file, and a key begins; the talk is laid out
    by itself when it ends. The last sentence is said by somebody else."""
    project = tmp_path / "roll.chapto"
    Session.create(add_narrator(new_breakdown([VIDEO], tmp_path), "Bo"), project).close()
    window = open_window(Session.open(project))
    page = voice_of(window)
    page.microphones.session = SESSION
    patient(page)
    own = window.player.speaker
    qtbot.keyClick(page, Qt.Key.Key_W)
    assert page.talking.booth.state is TalkState.COUNTING
    view = window.findChild(TalkView)
    assert view is not None and view.picture.count == "3"
    qtbot.waitUntil(lambda: page.talking.booth.state is TalkState.LAYING, timeout=120_000)
    qtbot.waitUntil(lambda: page.talking.booth.state is TalkState.IDLE, timeout=120_000)
    assert window.studio.wait()
    assert window.player.speaker is own
    b = window.studio.breakdown
    (talk,) = b.talks
    text = " ".join(x.text for _, x in b.beats())
    assert "half guard here." in text and "not that" not in text and "frame is gone." in text
    led = [t for _, x in b.beats() for t in x.treatments() if isinstance(t, GoTo)]
    assert abs(led[0].at - 6) < Fraction(1, 5) and abs(led[-1].at - 15) < Fraction(1, 5)
    assert any(t.rate == 1 for t in led) and [m.kind for m in b.marks] == [MarkKind.FORCE]
    assert not list((tmp_path / "roll.takes").glob("recording-*.wav")) and (tmp_path / talk.path).exists()
    said_by = [(b.narrator(x).name, x.text) for _, x in b.beats()]
    assert [n for n, text in said_by if "frame is gone" in text] == ["Bo"] and said_by[0][0] != "Bo"
    p = window.studio.programme
    assert all(t.state.value == "met" for t in p.ties) and len(p.chapters) == 2
    assert not window.studio.production.troubles
    # Afterwards: the road, what went and why, and back.
    road = page.talking.road
    qtbot.waitUntil(lambda: road.road is not None and bool(road.road.links), timeout=120_000)
    assert road.road is not None and any("not that" in c.sentence for c in road.road.cuts)
    before = p.seconds
    qtbot.keyClick(page, Qt.Key.Key_G)
    assert window.studio.wait() and window.studio.programme.seconds > before
    assert not window.studio.breakdown.talks[0].tidied
    qtbot.keyClick(page, Qt.Key.Key_G)
    assert window.studio.wait() and window.studio.programme.seconds == before
    wrong = next(c for c in road.road.cuts if "not that" in c.said)
    page.talking.bring_back(wrong)
    assert window.studio.wait()
    assert "not that" in " ".join(x.text for _, x in window.studio.breakdown.beats())
    window.studio.undo()
    assert "not that" not in " ".join(x.text for _, x in window.studio.breakdown.beats())


def test_a_press_on_the_picture_points_and_keys_are_kept(open_window: Opener, tmp_path: Path, qtbot: QtBot) -> None:
    project = tmp_path / "roll.chapto"
    Session.create(new_breakdown([VIDEO], tmp_path), project).close()
    window = open_window(Session.open(project))
    page = voice_of(window)
    page.microphones.session = "{wait 60}"
    clock = patient(page)
    qtbot.keyClick(page, Qt.Key.Key_W)
    booth = page.talking.booth
    qtbot.waitUntil(lambda: booth.state is TalkState.TALKING, timeout=120_000)
    view = window.findChild(TalkView)
    assert view is not None
    box = view.picture.area()
    for at in (QPointF(box.center()), QPointF(box.left() + box.width() * 0.75, box.center().y())):
        QTest.mouseMove(view.picture, at.toPoint())
        if view.picture._stroke:
            view.picture._point(at, pressed=True)
        else:
            QTest.mousePress(view.picture, Qt.MouseButton.LeftButton, pos=at.toPoint())
    QTest.mouseRelease(view.picture, Qt.MouseButton.LeftButton, pos=at.toPoint())
    for key in (Qt.Key.Key_W, Qt.Key.Key_C, Qt.Key.Key_Space):
        qtbot.keyClick(view, key)
        clock.passes(0.12)
    assert window.player.playing
    moments = len(window.studio.breakdown.moments)
    qtbot.keyClick(view, Qt.Key.Key_1)
    assert len(window.studio.breakdown.moments) == moments + 1
    qtbot.keyClick(view, Qt.Key.Key_P)
    assert booth.state is TalkState.PAUSED and not window.player.playing and booth.recorder is not None
    stands = booth.recorder.seconds
    clock.passes(0.3)
    assert abs(booth.recorder.seconds - stands) < 0.1
    qtbot.keyClick(view, Qt.Key.Key_P)
    talked = booth.recorder.stop()
    booth.recorder = None
    done = talked.done
    assert [a.act.value for a in done.acts] == ["wrong", "chapter"]
    assert (
        abs(done.pointer[0].x - 0.5) < 0.02 and abs(done.pointer[-1].x - 0.75) < 0.02 and not done.pointer[-1].pressed
    )
    assert [m.playing for m in done.picture] == [False, True, False]
    view.leave()


def test_a_phrase_is_said_again_from_where_the_picture_was_and_the_picture_is_rocked(
    open_window: Opener, tmp_path: Path, qtbot: QtBot
) -> None:
    project = tmp_path / "roll.chapto"
    Session.create(new_breakdown([VIDEO], tmp_path), project).close()
    window = open_window(Session.open(project))
    page = voice_of(window)
    clock = patient(page)
    session = "{go 6} {wait 2}\nHere is the arm.\n{wait 0.5} {go 15} {wait 1.5}\nHere is the knee. {wait 60}"
    page.microphones.session = perform(session, voice="en-us+f2")
    qtbot.keyClick(page, Qt.Key.Key_W)
    booth = page.talking.booth
    qtbot.waitUntil(lambda: booth.seconds() > 7.8, timeout=120_000)
    view = window.findChild(TalkView)
    assert view is not None
    qtbot.keyClick(view, Qt.Key.Key_R)
    qtbot.waitUntil(lambda: booth.said_again_from is not None, timeout=120_000)
    assert booth.state is TalkState.PAUSED and window.player.head.mat == 15 and "again" in view.noted.text()
    knee = booth.said_again_from
    qtbot.keyClick(view, Qt.Key.Key_R)
    qtbot.waitUntil(lambda: booth.said_again_from != knee, timeout=120_000)
    arm = booth.said_again_from
    assert knee is not None and arm is not None and arm < knee - 1 and window.player.head.mat == 6
    qtbot.keyClick(view, Qt.Key.Key_P)
    assert booth.state is TalkState.TALKING and booth.said_again_from is None
    clock.passes(0.15)
    qtbot.keyClick(view, Qt.Key.Key_O)
    assert window.player.fro == (4, 6)
    qtbot.waitUntil(lambda: window.player.head.mat > Fraction(11, 2), timeout=120_000)
    qtbot.waitUntil(lambda: window.player.head.mat < Fraction(11, 2), timeout=120_000)
    qtbot.keyClick(view, Qt.Key.Key_O)
    assert window.player.playing and window.player.fro is None
    clock.passes(0.15)
    assert booth.recorder is not None
    talked = booth.recorder.stop()
    booth.recorder = None
    (again,) = talked.done.acts
    assert again.since is not None and abs(float(again.since) - arm) < 0.001
    rows = talked.done.picture
    assert [m.fro for m in rows if m.at > again.at][-2:] == [(4, 6), None] and rows[-1].playing
    assert sum(m.fro is not None for m in rows) == 1
    view.leave()


def test_a_talk_that_a_kill_cut_off_is_laid_out_at_the_next_opening_and_what_was_not_understood_is_typed(
    open_window: Opener, tmp_path: Path, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    def missing(*_: object, **__: object) -> None:
        raise ListenError("Recognition is not installed.")

    monkeypatch.setattr(talk_words, "listen", missing)
    project = tmp_path / "roll.chapto"
    Session.create(new_breakdown([VIDEO], tmp_path), project).close()
    played = perform("{go 6} Here is the arm.\n{go 15} {wait 0.6}\nAnd there it is.", voice="en-us+f2")
    place = new_recording(project, TALK)
    sound = as_sound(played)
    wavfile.write(place, RATE, np.round(sound.read(0, len(sound)) * 32767).astype(np.int16))
    events_of(place).write_bytes(written(played.done))
    window = open_window(Session.open(project))
    page = voice_of(window)
    qtbot.waitUntil(lambda: bool(window.studio.breakdown.talks), timeout=120_000)
    assert window.studio.wait() and not place.exists()
    texts = [x.text for _, x in window.studio.breakdown.beats()]
    assert set(" ".join(texts).split()) == {OPEN} and len(texts) == 2
    qtbot.keyClick(page, Qt.Key.Key_E)
    sheet = window.findChild(TypingSheet)
    assert sheet is not None
    qtbot.keyClicks(sheet.words, "here is the arm")
    qtbot.keyClick(sheet.words, Qt.Key.Key_Return)
    qtbot.keyClick(sheet.words, Qt.Key.Key_Return)
    assert [x.text for _, x in window.studio.breakdown.beats()] == ["here is the arm", OPEN]
    assert window.findChild(TypingSheet) is None or not sheet.isVisible()


def test_without_a_file_or_footage_it_is_said_why_nobody_can_talk(open_window: Opener, tmp_path: Path) -> None:
    window = open_window(Session.untitled(Breakdown(title="New")))
    page = voice_of(window)
    page.talk()
    assert page.talking.booth.state is TalkState.IDLE and "Save" in window.foot.messages.said[-1].text


def test_the_demos_talk_shows_its_road(open_window: Opener, tmp_path: Path, qtbot: QtBot) -> None:
    window = open_window(Session.open(talk_project(fresh=True, folder=tmp_path)))
    page = voice_of(window)
    road = page.talking.road
    qtbot.waitUntil(lambda: road.road is not None and bool(road.road.links), timeout=120_000)
    assert road.road is not None and "tidied to" in road.road.sentence
    assert [c.said for c in road.road.cuts if c.said] == [
        "um,",
        "Here it has come open, and",
        "No, wait, the other knee.",
    ]
    qtbot.keyClick(page, Qt.Key.Key_W, Qt.KeyboardModifier.ShiftModifier)
    sheet = window.findChild(NamesSheet)
    assert sheet is not None and len(sheet.ticks) >= 3
    first = sheet.ticks[0][1]
    sheet.ticks[-1][0].click()
    left_out = sheet.ticks[-1][1]
    sheet.act()
    b = window.studio.breakdown
    logged = {p.position for p in b.positions} | {x.technique for x in b.exchanges}
    assert logged & {first.item.id, first.item.en}
    assert all(label.text != left_out.item.en for label in b.labels)
    assert probe(VIDEO).duration == window.studio.breakdown.footage[0].duration
