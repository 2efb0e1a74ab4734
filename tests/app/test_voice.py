"""The Voice stage through the real window: a line is read, found, kept, read again, cut and put right by keys."""

from __future__ import annotations

import os
import signal
import subprocess
import sys
import time
from collections.abc import Callable
from pathlib import Path

import numpy as np
import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from scipy.io import wavfile

from chapto.app.let_run import let_run
from chapto.app.voice.booth import State
from chapto.app.voice.page import VoicePage
from chapto.app.window import Window
from chapto.demo.working_copy import demo_project
from chapto.document import edit_script
from chapto.document.breakdown import Breakdown
from chapto.document.takes import TakeOf
from chapto.programme.programme import TieState
from chapto.review.work import Stage
from chapto.store.session import Session
from chapto.voice.new_take import Subject
from chapto.voice.recording.microphone import MicrophoneName, Prompt
from chapto.voice.recording.stand_in_speech import read_line
from tests.app.conftest import Opener

SHIFT, CTRL = Qt.KeyboardModifier.ShiftModifier, Qt.KeyboardModifier.ControlModifier
LINE = "b6"
"""“Take the base away first, then finish.”"""


def voice_of(window: Window) -> VoicePage:
    page = window.stages[Stage.VOICE].page
    assert isinstance(page, VoicePage)
    page.microphones.speed = 6.0
    return page


def press(window: Window, key: Qt.Key, mod: Qt.KeyboardModifier = Qt.KeyboardModifier.NoModifier) -> None:
    QTest.keyClick(window.focusWidget() or window, key, mod)


def until(wanted: Callable[[], bool]) -> None:
    let_run(wanted, longest=120)
    assert wanted()


def read_out(window: Window, page: VoicePage, key: Qt.Key, mod: Qt.KeyboardModifier) -> None:
    """Press to record, wait until the stand-in has read, press again, wait until the words are found."""
    press(window, key, mod)
    assert page.booth.state is State.RECORDING
    until(lambda: all(m.is_done for m in page.microphones.stand_ins))
    press(window, key, mod)
    until(lambda: page.booth.state is State.OFFERING and page.takes.is_settled)


def said(b: Breakdown) -> list[tuple[TakeOf, str, bool]]:
    return [(t.of, t.subject, t.chosen) for t in b.takes]


NONE = Qt.KeyboardModifier.NoModifier


def test_a_new_user_records_a_line_within_five_presses_from_write(demo: Window) -> None:
    page, studio = voice_of(demo), demo.studio
    demo.stages[Stage.WRITE].page.script.choose(LINE)  # type: ignore[attr-defined]
    demo.stages[Stage.WRITE].page.go_to_word()  # type: ignore[attr-defined]
    press(demo, Qt.Key.Key_5, CTRL)
    assert demo.stage is Stage.VOICE and page.current == LINE
    press(demo, Qt.Key.Key_R)
    assert page.prompter.reading.words[:3] == ("Take", "the", "base") and demo.player.playing
    until(lambda: all(m.is_done for m in page.microphones.stand_ins))
    press(demo, Qt.Key.Key_R)
    until(lambda: page.booth.state is State.OFFERING and page.takes.is_settled)
    assert page.strip.strip is not None and not page.strip.strip.is_guide
    press(demo, Qt.Key.Key_Return)
    assert studio.wait() and said(studio.breakdown) == [(TakeOf.BEAT, LINE, True)]
    assert set(studio.production.taken) == {LINE} and {t.state for t in studio.programme.ties} == {TieState.MET}
    assert page.current == "b7" and "minutes recorded" in page.head.minutes.text()
    folder = Path(studio.session.path or "").with_suffix(".takes")
    assert [p.suffix for p in folder.iterdir()] == [".flac"]
    press(demo, Qt.Key.Key_Z, CTRL)
    assert studio.wait() and not studio.breakdown.takes and list(folder.iterdir())


def test_a_line_is_read_again_words_of_it_too_and_a_section_in_one_go(demo: Window) -> None:
    page, studio = voice_of(demo), demo.studio
    demo.go(Stage.VOICE)
    page.choose(LINE)
    read_out(demo, page, Qt.Key.Key_R, NONE)
    read_out(demo, page, Qt.Key.Key_R, NONE)
    press(demo, Qt.Key.Key_Return)
    assert studio.wait() and said(studio.breakdown) == [(TakeOf.BEAT, LINE, False), (TakeOf.BEAT, LINE, True)]
    page.choose(LINE)
    until(page.is_settled)
    first = page.takes.looked.take
    assert first is not None and [r.after for r in page.takes_list.rows] == ["used", ""]
    page.strip.choose(5)
    read_out(demo, page, Qt.Key.Key_P, NONE)
    press(demo, Qt.Key.Key_Return)
    assert studio.wait() and len(studio.breakdown.takes) == 3 and studio.breakdown.takes[-1].chosen
    assert studio.production.taken[LINE].take == studio.breakdown.takes[-1].id
    page.choose(LINE)
    read_out(demo, page, Qt.Key.Key_R, SHIFT)
    press(demo, Qt.Key.Key_Return)
    section = studio.breakdown.find_beat(LINE)[0]
    assert studio.wait() and said(studio.breakdown)[-1] == (TakeOf.SECTION, section.id, True)
    assert set(studio.production.taken) == {beat.id for beat in section.beats}
    press(demo, Qt.Key.Key_G, CTRL)
    assert studio.wait() and not studio.production.taken and studio.breakdown.takes


def test_what_was_said_besides_is_cut_and_edges_are_pulled(demo: Window, tmp_path: Path) -> None:
    """A recording in which the line begins twice and holds an “um”, brought in as one of many lines."""
    page, studio = voice_of(demo), demo.studio
    parts = [np.zeros(30_000)]
    for text in ("Take the base away first,", "um,", "then finish."):
        parts += [read_line(text, voice="en-us+f2", attempt=1).samples, np.zeros(20_000)]
    sound = np.concatenate(parts) + np.random.default_rng(1).normal(0, 1e-3, sum(map(len, parts)))
    wavfile.write(tmp_path / "mine.wav", 48_000, (sound * 32767).astype(np.int16))
    demo.go(Stage.VOICE)
    page.choose(LINE)
    page.bringing.bring_in(tmp_path / "mine.wav", Subject(TakeOf.BEAT, LINE))
    until(lambda: page.booth.state is State.OFFERING and page.takes.is_settled)
    press(demo, Qt.Key.Key_Return)
    assert studio.wait() and (tmp_path / "mine.wav").exists()
    page.choose(LINE)
    until(page.is_settled)
    before = studio.production.taken[LINE]
    assert [x.heard for x in before.added if x.is_filler]
    press(demo, Qt.Key.Key_F)
    assert studio.wait() and len(studio.breakdown.takes[0].cuts) == 1
    after = studio.production.taken[LINE]
    assert 0.1 < float(before.line.seconds - after.line.seconds) < 0.7 and after.differences < before.differences
    until(page.is_settled)
    page.strip.choose(1)
    press(demo, Qt.Key.Key_Period, Qt.KeyboardModifier.AltModifier)
    assert studio.wait()
    (edge,) = studio.breakdown.takes[0].edges
    assert (edge.beat, edge.word) == (LINE, 1) and abs(float(edge.start) - before.spans[1][0] - 0.01) < 0.002
    press(demo, Qt.Key.Key_M)
    press(demo, Qt.Key.Key_C)
    assert studio.breakdown.takes[0].again and not studio.breakdown.takes[0].cleaned
    until(lambda: page.takes.is_settled and page.listening.is_on)
    menu = page.take_menu(page.takes_list.rows[0].id)
    assert menu is not None
    acts = {a.text(): a for a in menu.actions()}
    assert acts["Use it  (U)"].isChecked() and not acts["Clean it  (C)"].isChecked()
    acts["Clean it  (C)"].trigger()
    assert studio.breakdown.takes[0].cleaned
    press(demo, Qt.Key.Key_L)
    assert not page.listening.is_on


KILLED = """
import sys
from pathlib import Path
from PyQt6.QtTest import QTest
from PyQt6.QtCore import QTimer, Qt
from chapto.app.start import application
from chapto.app.studio import Studio
from chapto.app.window import Window
from chapto.review.work import Stage
from chapto.store.session import Session
from chapto.voice.speaker import StandInSpeaker
app = application()
window = Window(Studio(Session.open(Path(sys.argv[1])), proxies=False), speaker=StandInSpeaker(), analyse=False)
window.show()
window.studio.wait()
window.go(Stage.VOICE)
page = window.stages[Stage.VOICE].page
page.choose("b6")
page.record_or_stop()
timer = QTimer()
timer.timeout.connect(lambda: print(page.booth.recorders[0].seconds, flush=True))
timer.start(50)
app.exec()
"""


def test_a_recording_that_a_kill_cut_off_is_offered_at_the_next_opening(tmp_path: Path, open_window: Opener) -> None:
    project = demo_project(fresh=True, folder=tmp_path, takes=False, marks=False)
    with subprocess.Popen([sys.executable, "-c", KILLED, str(project)], stdout=subprocess.PIPE, text=True,
                          cwd=Path(__file__).parents[2], env={**os.environ}) as child:  # fmt: skip
        assert child.stdout is not None
        for told in child.stdout:
            if float(told) > 4.0:
                break
        child.send_signal(signal.SIGKILL)
    time.sleep(0.1)
    window = open_window(Session.open(project))
    page = voice_of(window)
    window.go(Stage.VOICE)
    until(lambda: page.booth.state is State.OFFERING and page.takes.is_settled)
    said = [m.text for m in window.foot.messages.said]
    assert page.current == LINE and any("was cut off" in text for text in said)
    press(window, Qt.Key.Key_Return)
    (take,) = window.studio.breakdown.takes
    assert take.seconds > 3.5 and take.subject == LINE
    assert [p.suffix for p in project.with_suffix(".takes").iterdir()] == [".flac"]


def test_without_a_file_of_its_own_a_breakdown_is_saved_before_it_is_read(open_window: Opener) -> None:
    window = open_window(Session.untitled(Breakdown(title="New breakdown")))
    page = voice_of(window)
    window.go(Stage.VOICE)
    press(window, Qt.Key.Key_R)
    press(window, Qt.Key.Key_P)
    press(window, Qt.Key.Key_Return)
    assert page.booth.state is State.IDLE and page.current == ""
    page.bringing.bring_in(Path("/nowhere.wav"), Subject(TakeOf.WHOLE))
    assert "Save the breakdown first" in window.foot.sentence.text()


@pytest.mark.parametrize("name", ["damaged.wav", "nothing.flac"])
def test_what_can_not_be_brought_in_is_refused_in_a_sentence(demo: Window, tmp_path: Path, name: str) -> None:
    page = voice_of(demo)
    demo.go(Stage.VOICE)
    (tmp_path / name).write_bytes(b"RIFF and nothing after it" * 40)
    page.bringing.bring_in(tmp_path / name, Subject(TakeOf.WHOLE))
    until(lambda: page.booth.state is State.IDLE)
    assert name in demo.foot.sentence.text() and not demo.studio.breakdown.takes


class Pair:
    """A microphone with two channels: what it is prompted is read on the left by one voice, on the right by another."""

    channels = 2

    def prompt(self, lines: list[Prompt]) -> None:
        self.lines = lines

    def start(self, hear: Callable[[np.ndarray], object], lost: object) -> None:
        block = np.zeros((48_000 * 60, 2))
        at = 24_000
        for i, line in enumerate(self.lines):
            said = read_line(line.text, voice=("en-us+f2", "en-us+m1")[i % 2], attempt=1).samples
            block[at : at + len(said), i % 2] = said
            at += len(said) + 24_000
        heard = block[: at + 24_000] + np.random.default_rng(1).normal(0, 5e-4, (at + 24_000, 2))
        hear((np.clip(heard, -1, 1) * 32767).astype(np.int16))

    def stop(self) -> None: ...


def test_two_people_at_one_microphone_are_two_takes(demo: Window, monkeypatch: pytest.MonkeyPatch) -> None:
    page, studio = voice_of(demo), demo.studio
    texts = ("Take the base away first.", "And then she finishes it.")
    for section in studio.breakdown.script[1:]:
        studio.edit("less", lambda b, s=section: edit_script.remove_section(b, s.id))
    first = studio.breakdown.script[0].beats[0].id
    studio.edit("one", lambda b: edit_script.rewrite(b, first, texts[0]))
    studio.edit("two", lambda b: edit_script.add_beat(b, b.script[0].id, text=texts[1]))
    second = studio.breakdown.script[0].beats[-1].id
    studio.edit("who", lambda b: edit_script.set_narrator(b, second, "n2"))
    assert studio.wait()
    name = MicrophoneName("pair", "Two at a table")
    monkeypatch.setattr(page.microphones, "names", (name,))
    monkeypatch.setattr(page.microphones, "open_for", lambda narrator, channels=1: Pair())
    page.microphones.part_channels(True)
    demo.go(Stage.VOICE)
    page.record_through(TakeOf.WHOLE)
    page.booth.stop()
    until(lambda: page.booth.state is State.OFFERING and page.takes.is_settled)
    page.keep()
    assert studio.wait()
    assert [(t.narrator, t.channel) for t in studio.breakdown.takes] == [("n1", 1), ("n2", 2)]
    assert set(studio.production.taken) == {first, second} and studio.production.troubles == ()
