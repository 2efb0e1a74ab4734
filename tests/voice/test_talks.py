"""A talk is played, brought in and laid out: from a sound, what was done and captions to a breakdown."""

from __future__ import annotations

import subprocess
import sys
import time
import wave
from fractions import Fraction
from itertools import pairwise
from pathlib import Path

import numpy as np
import pytest
from scipy.io import wavfile

from chapto.cli.main import main
from chapto.demo.generate import FOOTAGE
from chapto.demo.talk_project import as_sound, talked_breakdown
from chapto.document.checks import checked
from chapto.document.edit_breakdown import remove_narrator
from chapto.document.takes_by_beat import takes_by_beat
from chapto.document.talks import OPEN, Act
from chapto.document.treatments import GoTo
from chapto.media.sound import RATE
from chapto.programme.knowledge import shipped_knowledge
from chapto.publish.talks.events_file import read_events, written
from chapto.store.session import Session
from chapto.voice import talk_words
from chapto.voice.listening.model import ListenError
from chapto.voice.louder_channel import louder_channels
from chapto.voice.new_talk import lay_again
from chapto.voice.recording.microphone import Block, Hear, Lost
from chapto.voice.recording.stand_in_talker import Performance, SessionError, StandInTalker, perform
from chapto.voice.recording.talk_recorder import TalkRecorder, events_of
from chapto.voice.recording.two_microphones import FALLS_BEHIND, TwoMicrophones
from chapto.voice.talk_words import filled, words_of_talk
from tests.app.hand_clock import HandClock

VIDEO = FOOTAGE / "tuesday-round.mp4"
SESSION = """
# A short one.
{go 6} He waits in half guard. {play 0.5} Now the knee {stop} comes through.
{wait 3} {go 20} {wait 0.5} {go 15}
Here his frame is gone.
"""


@pytest.fixture(scope="module")
def played(tmp_path_factory: pytest.TempPathFactory) -> tuple[Path, Performance]:
    folder = tmp_path_factory.mktemp("played")
    performance = perform(SESSION, voice="en-us+f2")
    sound = as_sound(performance)
    wavfile.write(folder / "take.wav", RATE, sound.read(0, len(sound)))
    (folder / "done.events").write_bytes(written(performance.done))
    (folder / "said.vtt").write_text(performance.captions())
    return folder, performance


def talked(folder: Path, target: Path, *more: str) -> int:
    given = ["--sound", str(folder / "take.wav"), "--events", str(folder / "done.events"), "-o", str(target), *more]
    return main(["talked", str(VIDEO), *given])


def test_a_take_with_what_was_done_becomes_a_breakdown(
    played: tuple[Path, Performance], tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    folder, performance = played
    captions = ("--captions", str(folder / "said.vtt"))
    assert talked(folder, tmp_path / "roll.chapto", *captions) == 0
    b = Session.look(tmp_path / "roll.chapto").breakdown
    (talk,) = b.talks
    assert [w.text for w in talk.said] == [w.text for w in performance.said]
    for found, word in zip(talk.said, performance.said, strict=True):
        assert abs(found.start - word.start) < Fraction(1, 5), word.text
    led = [t for _, x in b.beats() for t in x.treatments()]
    assert all(isinstance(t, GoTo) for t in led) and len(led) == 4
    assert [float(t.at) for t in led if isinstance(t, GoTo) and not t.rate][::2] == [6.0, 15.0]
    assert (tmp_path / talk.path).exists() and (folder / "take.wav").exists()
    assert talked(folder, tmp_path / "roll.chapto", *captions) == 1
    assert "is there already" in capsys.readouterr().err
    assert talked(folder, tmp_path / "raw.chapto", "--as-it-was", *captions) == 0
    assert not Session.look(tmp_path / "raw.chapto").breakdown.takes[0].cuts


def test_without_captions_and_recognition_what_is_heard_stays_open(
    played: tuple[Path, Performance], monkeypatch: pytest.MonkeyPatch
) -> None:
    folder, performance = played

    def missing(*_: object, **__: object) -> None:
        raise ListenError("Recognition is not installed.")

    monkeypatch.setattr(talk_words, "listen", missing)
    said = words_of_talk(folder / "take.wav", "1-open")
    assert {w.text for w in said} == {OPEN} and len(said) >= 2
    for word in performance.said:
        middle = (word.start + word.end) / 2
        assert any(p.start <= middle <= p.end for p in said), word.text


def test_a_word_that_is_not_found_lies_at_its_stamp_or_between_its_neighbours() -> None:
    spans = filled([(1.0, 1.4), None, None, (4.0, 4.2)], [None, None, 3.0, None], 6.0)
    assert spans[0] == (1.0, 1.4) and spans[2][0] == 3.0 and 1.4 <= spans[1][0] <= 3.0
    assert all(a[1] <= z[0] + 1e-9 for a, z in pairwise(spans))
    assert filled([None, None], [None, None], 2.0)[0][0] == 0.0


def test_a_session_that_makes_no_sense_is_refused() -> None:
    for line in ("{fly 3}", "{go there}"):
        with pytest.raises(SessionError):
            perform(line, voice="en-us+f2")


def test_the_demos_talk_is_tidied_and_says_nothing_twice(tmp_path: Path) -> None:
    b = talked_breakdown(tmp_path)
    text = " ".join(x.text for _, x in b.beats())
    assert "um" not in text.split() and "other knee" not in text and text.count("Here it has come open") == 1
    assert [s.title for s in b.script] == ["Closed guard", "Underhook", "Side control"]
    assert len(b.marks) == 2 and b.takes[0].path.endswith("tuesday.flac")


KILLED = """
import sys, time
from pathlib import Path
from fractions import Fraction
from chapto.document.talks import Act
from chapto.voice.recording.stand_in_talker import StandInTalker, perform
from chapto.voice.recording.talk_recorder import TalkRecorder
recorder = TalkRecorder(StandInTalker(perform("{wait 60}", voice="en-us+f2")), Path(sys.argv[1]))
while True:
    at = recorder.seconds
    recorder.picture(Fraction(round(at * 1000) * 7, 1000), "", Fraction(1), True)
    recorder.act(Act.CHAPTER)
    print(at, flush=True)
    time.sleep(0.05)
"""


def test_a_kill_loses_at_most_half_a_second_of_sound_and_of_what_was_done(tmp_path: Path) -> None:
    place = tmp_path / "recording-talk-1.wav"
    process = subprocess.Popen([sys.executable, "-c", KILLED, str(place)], stdout=subprocess.PIPE, text=True)
    assert process.stdout is not None
    last = 0.0
    while last < 2.5:
        last = float(process.stdout.readline())
    process.kill()
    process.wait()
    process.stdout.close()
    with wave.open(str(place)) as sound:
        assert sound.getnframes() / RATE > last - 0.5
    done = read_events(events_of(place))
    assert done.acts[-1].at > last - 0.5 and done.picture[-1].at > last - 0.5


def test_the_phrase_before_is_found_while_it_is_still_recorded_and_what_was_said_again_is_passed_over(
    tmp_path: Path,
) -> None:
    played = perform(
        "Here is the arm.\n{wait 0.6}\nHere is the knee.\n{wait 0.6}\nAnd here. {wait 9}", voice="en-us+f2"
    )
    first, knee, last = (played.said[i].start for i in (0, 4, 8))
    recorder = TalkRecorder(StandInTalker(played, clock=lambda: time.monotonic() * 8), tmp_path / "a.wav")
    recorder.picture(Fraction(5), "", Fraction(1), True)
    until = float(played.said[-1].end) + 0.5
    while recorder.phrase_before(until) < float(last) - 0.3:
        time.sleep(0.05)
    begun = [until]
    while len(begun) < 4:
        begun.append(recorder.phrase_before(begun[-1]))
    assert all(abs(found - float(at)) < 0.15 for found, at in zip(begun[1:], (last, knee, first), strict=True))
    assert recorder.phrase_before(begun[-1]) == recorder.phrase_before(0.0) == 0.0
    shown = recorder.shown_at(Fraction(round(begun[1] * 1000), 1000))
    assert shown is not None and shown.mat > 5 + knee / 2
    recorder._at = Fraction(round(until * 1000), 1000)  # The talker is faster than the clock.
    recorder.again(begun[2])
    assert recorder.phrase_before(until) == begun[3]
    act = recorder.stop().done.acts[-1]
    assert act.act is Act.AGAIN and act.since is not None and abs(float(act.since) - begun[2]) < 0.001


TWO = """
{go 6} He waits in half guard, and his elbow is in.
2> I thought that she would go the other way round.
Now the knee comes through here. {go 15}
2> And there my frame is gone.
"""


def test_two_people_who_talk_together_say_their_own_lines(tmp_path: Path) -> None:
    played = perform(TWO, voice="en-us+f2", other="en-us+m1")
    assert played.samples.ndim == 2
    wavfile.write(tmp_path / "take.wav", RATE, (played.samples * 32767).astype("int16"))
    (tmp_path / "done.events").write_bytes(written(played.done))
    (tmp_path / "said.vtt").write_text(played.captions())
    more = ("--captions", str(tmp_path / "said.vtt"), "--two", "Ilka", "Bo")
    assert talked(tmp_path, tmp_path / "two.chapto", *more) == 0
    b = Session.look(tmp_path / "two.chapto").breakdown
    lines = [(b.narrator(x).name, x.text) for _, x in b.beats()]
    for name, text in (("Ilka", "elbow is in."), ("Bo", "I thought"), ("Ilka", "Now the knee"), ("Bo", "is gone.")):
        assert [n for n, line in lines if text in line] == [name], lines
    assert {t.channel for t in b.takes} == {1, 2} and {t.narrator for t in b.takes} == {n.id for n in b.narrators}
    by_beat = takes_by_beat(b)
    assert all(by_beat[x.id].narrator == b.narrator(x).id for _, x in b.beats())
    alone = checked(lay_again(remove_narrator(b, b.narrators[1].id), b.talks[0].id, shipped_knowledge(), tidied=False))
    assert {(t.narrator, t.channel) for t in alone.takes} == {("", 0)}
    assert takes_by_beat(alone).keys() == {x.id for _, x in alone.beats()}


def test_who_talks_is_found_though_one_microphone_is_turned_up() -> None:
    chance = np.random.default_rng(4)
    sound = chance.normal(0, 0.001, (10 * RATE, 2)).astype(np.float32)
    for second, (left, right) in enumerate([(0.1, 0.08), (0.02, 0.4), (0.1, 0.08), (0.02, 0.4)]):
        part = slice((2 * second) * RATE, (2 * second + 1) * RATE)
        sound[part] += chance.normal(0, 1, (RATE, 1)).astype(np.float32) * np.array([left, right], np.float32)
    spans = [(2 * i + 0.1, 2 * i + 0.9) for i in range(4)]
    assert louder_channels(sound, RATE, spans) == (1, 2, 1, 2)
    assert louder_channels(sound, RATE, spans[:1]) == (1,) and louder_channels(sound, RATE, []) == ()


class Silent:
    """A microphone that says what a test tells it to."""

    channels = 1

    def prompt(self, lines: object) -> None: ...

    def start(self, hear: Hear, lost: Lost) -> None:
        self._hear = hear

    def say(self, value: int, count: int) -> None:
        self._hear(np.full((count, 1), value, np.int16))

    def stop(self) -> None: ...


def test_two_microphones_are_heard_side_by_side_though_one_begins_late_and_goes_away() -> None:
    left, right = Silent(), Silent()
    heard: list[Block] = []
    both = TwoMicrophones(left, right)
    both.start(heard.append, lambda sentence: None)
    left.say(1, 300)
    left.say(1, 300)
    right.say(2, 200)
    assert np.array_equal(heard[-1], [[1, 0]] * 400 + [[1, 2]] * 200)
    heard.clear()
    for _ in range(10):
        left.say(1, RATE // 10)
    right.say(2, 500)
    whole = np.concatenate(heard)
    assert len(whole) == RATE - FALLS_BEHIND + 500 and (whole[:, 0] == 1).all()
    assert (whole[: RATE - FALLS_BEHIND, 1] == 0).all() and (whole[-500:, 1] == 2).all()


def test_what_goes_on_as_expected_is_not_written_down_and_a_pause_takes_no_time(tmp_path: Path) -> None:
    clock = HandClock()
    talker = StandInTalker(perform("{wait 9}", voice="en-us+f2"), clock=clock)
    recorder = TalkRecorder(talker, tmp_path / "a.wav", clock=clock)
    while not recorder.seconds:
        time.sleep(0.001)

    def passes(blocks: int) -> None:
        """Blocks of 20 ms are heard, each before the next."""
        for _ in range(blocks):
            clock.now += 0.02
            while recorder._recorder._latest < clock.now:
                time.sleep(0.001)

    passes(15)
    begun = recorder.seconds
    for _ in range(5):
        passes(3)
        recorder.picture(Fraction(5) + Fraction(recorder.seconds - begun), "", Fraction(1), True)
    recorder.picture(Fraction(20), "Far wall", Fraction(1), True)
    recorder.pause(True)
    stands = recorder.seconds
    passes(20)
    recorder.act(Act.WRONG)
    recorder.pause(False)
    passes(5)
    recorder.act(Act.CHAPTER)
    talked = recorder.stop()
    assert [(m.camera, float(m.mat) > 15) for m in talked.done.picture] == [("", False), ("Far wall", True)]
    (chapter,) = talked.done.acts
    assert chapter.act is Act.CHAPTER and float(chapter.at) == pytest.approx(stands + 0.1, abs=0.002)
    assert float(talked.recording.seconds) == pytest.approx(stands + 0.1, abs=0.002) and not talked.recording.lost
