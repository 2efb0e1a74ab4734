"""A talk is played, brought in and laid out: from a sound, what was done and captions to a breakdown."""

from __future__ import annotations

from fractions import Fraction
from itertools import pairwise
from pathlib import Path

import pytest
from scipy.io import wavfile

from chapto.cli.main import main
from chapto.demo.generate import FOOTAGE
from chapto.demo.talk_project import as_sound, talked_breakdown
from chapto.document.talks import OPEN
from chapto.document.treatments import GoTo
from chapto.media.sound import RATE
from chapto.publish.talks.events_file import written
from chapto.store.session import Session
from chapto.voice import talk_words
from chapto.voice.listening.model import ListenError
from chapto.voice.recording.stand_in_talker import Performance, SessionError, perform
from chapto.voice.talk_words import filled, words_of_talk

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
    assert len(b.marks) == 1 and b.takes[0].path.endswith("tuesday.flac")
