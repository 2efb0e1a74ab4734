"""The whole job by somebody who has never seen the window: from an empty start with three raw files to a rendered
video. Every key and every press counts as one action, and so do a run of typing at one place and a file dialog that
is answered."""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction
from pathlib import Path

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QFileDialog, QWidget
from pytestqt.qtbot import QtBot

from chapto.app.footage.rights_sheet import RightsSheet
from chapto.app.log.who import WhoSheet
from chapto.app.voice.talking.booth import TalkState
from chapto.demo.story import FOOTAGE, demo_breakdown
from chapto.document.breakdown import Breakdown, Format
from chapto.media.probe import probe
from chapto.programme.programme import TieState
from chapto.review.work import Stage
from chapto.store.session import Session
from chapto.voice.recording.stand_in import VOICES
from chapto.voice.recording.stand_in_talker import perform
from tests.app.conftest import Opener, Questions
from tests.app.driven import DrivenWindow as Window
from tests.app.patient_clock import PatientClock
from tests.render.decoded import RATE, Decoded, footage_frame, lag

AN_HOUR_BEFORE = 133
"""Actions a finished minute that the same job took before."""
AIM = 60
SMALL = Format(width=640, height=360)
"""Rendered in half the time."""
CONTROL, SHIFT = Qt.KeyboardModifier.ControlModifier, Qt.KeyboardModifier.ShiftModifier


class Hand:
    """Acts on the real window, and counts."""

    def __init__(self, window: Window) -> None:
        self.window, self.actions = window, 0

    def key(self, key: Qt.Key, modifiers: Qt.KeyboardModifier = Qt.KeyboardModifier.NoModifier) -> None:
        """One key, where the keyboard is."""
        self.actions += 1
        if QApplication.activePopupWidget() is None:
            # What a window manager does when a sheet has closed.
            self.window.activateWindow()
        QTest.keyClick(self._focus(), key, modifiers)

    def type(self, text: str) -> None:
        """A run of typing at one place."""
        self.actions += 1
        QTest.keyClicks(self._focus(), text)

    def press(self, widget: QWidget) -> None:
        """A press on something that can be seen."""
        self.actions += 1
        assert widget.isVisible() and widget.isEnabled()
        QTest.mouseClick(widget, Qt.MouseButton.LeftButton)

    def plays_to(self, mat: Fraction) -> None:
        """The footage plays, and gets there by itself."""
        self.window.player.show_mat(mat)

    def chosen(self) -> None:
        """A file dialog is answered."""
        self.actions += 1

    def read_on(self) -> str:
        """What is best done next, once messages that stand before it were pressed away."""
        while self.window.foot.messages.now is not None:
            self.press(self.window.foot.sentence)
        return self.window.foot.sentence.text()

    def _focus(self) -> QWidget:
        return QApplication.activePopupWidget() or self.window.focusWidget() or self.window


def test_three_raw_files_become_a_video_in_fewer_actions_a_minute_than_the_aim(
    open_window: Opener, tmp_path: Path, qtbot: QtBot, questions: Questions, monkeypatch: pytest.MonkeyPatch,
    record_property: Callable[[str, object], None],
) -> None:  # fmt: skip
    raw = [FOOTAGE / name for name in ("table-side-1.mp4", "far-wall.mp4", "tuesday-round.mp4")]
    project = tmp_path / "first.chapto"
    monkeypatch.setattr(QFileDialog, "getOpenFileNames", lambda *_, **__: ([str(p) for p in raw], ""))
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_, **__: (str(project), ""))
    window = open_window(Session.untitled(Breakdown(title="New breakdown", format=SMALL)))
    hand, studio = Hand(window), window.studio
    story = demo_breakdown(tmp_path, marks=False)

    # What was filmed, on one clock.
    hand.key(Qt.Key.Key_I, CONTROL)
    hand.chosen()
    qtbot.waitUntil(lambda: len(studio.breakdown.footage) == 3 and studio.files.is_sound_there, timeout=120_000)
    assert "press here to bring them onto one clock" in hand.read_on()
    hand.press(window.foot.sentence)
    qtbot.waitUntil(lambda: bool(window.facts.placements), timeout=120_000)
    by_name = {c.name: c for c in studio.breakdown.footage}
    wall = next(c for c in story.footage if c.path.endswith("far-wall.mp4"))
    assert abs(by_name["far-wall"].offset - wall.offset) < Fraction(1, 25)

    # Who is on the mat, and whether it may be shown.
    hand.key(Qt.Key.Key_2, CONTROL)
    hand.key(Qt.Key.Key_M, SHIFT)
    sheet = window.findChild(WhoSheet)
    assert sheet is not None
    for side, name in zip(sheet.names, ("Wren Adeyo", "Moss Tarrant"), strict=True):
        sheet.names[side].setFocus()
        sheet.names[side].selectAll()
        hand.actions += 1
        QTest.keyClicks(sheet.names[side], name)
        QTest.keyClick(sheet.names[side], Qt.Key.Key_Return)
    sheet.close()
    hand.actions += 1
    hand.key(Qt.Key.Key_1, CONTROL)
    hand.key(Qt.Key.Key_R)
    rights = window.findChild(RightsSheet)
    assert rights is not None
    rights.name.setFocus()
    hand.type("Ilka Brandt")
    hand.key(Qt.Key.Key_Return)
    for answer in rights.answers:
        hand.press(answer)
    rights.setFocus()
    hand.key(Qt.Key.Key_Escape)

    # What happened, noted while it plays: five exchanges with their moments.
    hand.key(Qt.Key.Key_2, CONTROL)
    hand.key(Qt.Key.Key_Space)
    window.player.pause()
    told = story.exchanges[:5]
    for before, x in zip((None, *told), told, strict=False):
        hand.plays_to(x.start)
        hand.key(Qt.Key.Key_E)
        for m in [m for m in story.moments if x.start < m.at < x.end][:3]:
            hand.plays_to(m.at)
            hand.key(Qt.Key(Qt.Key.Key_1 + list(type(m.kind)).index(m.kind)))
        hand.plays_to(x.end)
        hand.key(Qt.Key.Key_0 if x.outcome is not None and x.outcome.value == "landed" else Qt.Key.Key_Minus)
        if before is not None and before.technique == x.technique:
            hand.key(Qt.Key.Key_Period)
        else:
            hand.key(Qt.Key.Key_Slash)
            hand.type(x.technique)
            hand.key(Qt.Key.Key_Return)
        window.log_page.setFocus()
    assert [x.technique for x in studio.breakdown.exchanges] == [x.technique for x in told]

    # What is said: a draft, its title, a sentence of one's own.
    hand.key(Qt.Key.Key_3, CONTROL)
    hand.key(Qt.Key.Key_D, CONTROL | SHIFT)
    qtbot.waitUntil(lambda: any(beat.drafted for _, beat in studio.breakdown.beats()), timeout=120_000)
    last = list(studio.breakdown.beats())[-1][1].id
    window.write_page.script.choose(last)
    hand.actions += 1
    hand.key(Qt.Key.Key_End, CONTROL)
    hand.type(" Next time: what he could have done.")
    hand.press(window.top._title)
    window.top._title.selectAll()
    hand.type("Two knee slides")
    hand.key(Qt.Key.Key_Return)
    studio.wait()

    # Saved, and rendered.
    window.write_page.setFocus()
    hand.key(Qt.Key.Key_S, CONTROL)
    hand.chosen()
    programme = studio.programme
    assert programme.ties and all(t.state is TieState.MET for t in programme.ties)
    hand.key(Qt.Key.Key_R, CONTROL | SHIFT)
    page = window.publish_page
    qtbot.waitUntil(lambda: bool(page.made) or (page.job is None and bool(page.result.text())), timeout=240_000)
    assert page.made, page.result.text()
    assert questions.asked == []
    video = probe(page.made[0])
    minutes = float(video.duration) / 60
    assert abs(video.duration - programme.seconds) < Fraction(1, 10) and minutes >= 72 / 60
    a_minute = hand.actions / minutes
    record_property("actions", hand.actions)
    print(f"{hand.actions} actions for {float(video.duration):.0f} s of video: {a_minute:.0f} a finished minute")
    assert window.stage is Stage.PUBLISH and a_minute <= AIM < AN_HOUR_BEFORE


TALKED_ACTIONS = 12
SESSION = """
{go 10} Watch the far arm of the one in white. {play} He frames, {wait 0.3} and now she goes low.
{wait 0.6} Her knee comes over his leg here, {wait 0.4} and slides to the mat.
{wait 2} {go 25} {wait 0.5} {go 19.5} {play 0.5}
Then she turns her hips away, {wait 0.5} so that nothing holds her any more. {stop}
"""


def test_a_raw_file_is_talked_through_once_and_is_a_video(
    open_window: Opener, tmp_path: Path, qtbot: QtBot, questions: Questions, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Beside the talking itself twelve actions at most. In the rendered file every tied word is within 40 ms of its
    picture (EBU R 37 allows sound to be as early)."""
    raw, project = FOOTAGE / "tuesday-round.mp4", tmp_path / "round.chapto"
    monkeypatch.setattr(QFileDialog, "getOpenFileNames", lambda *_, **__: ([str(raw)], ""))
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_, **__: (str(project), ""))
    window = open_window(Session.untitled(Breakdown(title="New breakdown", format=SMALL)))
    hand, studio = Hand(window), window.studio
    hand.key(Qt.Key.Key_I, CONTROL)
    hand.chosen()
    qtbot.waitUntil(lambda: len(studio.breakdown.footage) == 1 and studio.files.is_sound_there, timeout=120_000)
    hand.key(Qt.Key.Key_S, CONTROL)
    hand.chosen()
    hand.key(Qt.Key.Key_5, CONTROL)
    page = window.stages[Stage.VOICE].page
    page.microphones.session, page.microphones.clock = SESSION, PatientClock(page)  # type: ignore[attr-defined]
    hand.key(Qt.Key.Key_W)
    booth = page.talking.booth  # type: ignore[attr-defined]
    qtbot.waitUntil(lambda: booth.state is TalkState.LAYING, timeout=120_000)
    qtbot.waitUntil(lambda: booth.state is TalkState.IDLE, timeout=120_000)
    assert studio.wait() and studio.breakdown.script
    hand.key(Qt.Key.Key_R, CONTROL | SHIFT)
    made = window.publish_page
    qtbot.waitUntil(lambda: bool(made.made) or (made.job is None and bool(made.result.text())), timeout=120_000)
    assert made.made, made.result.text()
    assert questions.asked == [] and hand.actions <= TALKED_ACTIONS
    b, decoded = studio.breakdown, Decoded(made.made[0])
    voice = perform(SESSION, voice=VOICES[0]).samples
    edges = {(e.beat, e.word): float(e.start) for t in b.takes for e in t.edges}
    ties = [(edges[x.id, t.word], b.moment(t.moment).at) for _, x in b.beats() for t in x.ties]
    found = {}
    for (start, mat), following in zip(ties, [*(s for s, _ in ties[1:]), len(voice) / RATE], strict=True):
        limit = min(following, start + 0.8) if isinstance(following, float) else start + 0.8
        found[start] = lag(decoded, footage_frame(b, mat, tmp_path), voice, start, limit)
    assert len(found) >= 5 and max(found.values()) <= 0.040, found
