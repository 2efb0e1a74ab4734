"""A take is heard where it is chosen: its words carry the ties, its sound is in the programme, its file is kept."""

from __future__ import annotations

from fractions import Fraction as F
from pathlib import Path

import numpy as np
import pytest
from scipy.io import wavfile
from scipy.signal import resample_poly

from chapto.cli.main import main
from chapto.demo.story import demo_breakdown
from chapto.document import edit_script
from chapto.document.breakdown import Breakdown
from chapto.document.edit_takes import add_take, change_take, set_edge
from chapto.document.script import words_of
from chapto.document.takes import TakeOf, WordEdge
from chapto.document.takes_by_beat import takes_by_beat
from chapto.media.opening import MediaError
from chapto.media.sound import load_sound
from chapto.programme.programme import TieState
from chapto.render.mix import Mix
from chapto.render.production import produce
from chapto.store.errors import StoreError
from chapto.store.outputs import OutputGate
from chapto.store.session import Session
from chapto.voice.bringing_in import bring_in
from chapto.voice.espeak import say
from chapto.voice.guide import GuideVoice, SpeechSounds
from chapto.voice.takes import speak_takes

BEAT = "b4"
"""“She waits for Moss to lift his hands …”: the first beat of the demo with a tie."""


@pytest.fixture
def project(tmp_path: Path) -> Path:
    path = tmp_path / "demo.chapto"
    Session.create(demo_breakdown(tmp_path), path).close()
    return path


def recorded(text: str, target: Path, *, pace: int = 140) -> Path:
    """Somebody else than the guide voice says `text`, more slowly, after a second and a half of silence."""
    raw = say(text, "en-us+m7", pace)
    sound = resample_poly(raw.samples.astype(float), 48_000, raw.rate)
    wavfile.write(target, 48_000, np.pad(sound, (72_000, 24_000)).astype(np.int16))
    return target


def with_take(b: Breakdown, source: Path, project: Path, **of: object) -> Breakdown:
    brought = bring_in(source, project)
    return add_take(b, path=brought.path, fingerprint=brought.fingerprint, seconds=brought.seconds, **of)  # type: ignore[arg-type]


def test_the_picture_waits_for_the_recorded_word(project: Path, guide: GuideVoice) -> None:
    b = Session.look(project).breakdown
    _, beat = b.find_beat(BEAT)
    taken = with_take(b, recorded(beat.text, project.parent / "line.wav"), project, of=TakeOf.BEAT, subject=BEAT)
    before, after = produce(b, guide, project=project), produce(taken, guide, project=project)
    assert after.troubles == () and after.speeches[BEAT].line.seconds > 1.2 * before.speeches[BEAT].line.seconds
    assert {t.state for t in after.programme.ties} == {TieState.MET}
    sounds = SpeechSounds(after.speeches)
    phrase = next(p for p in after.programme.voice if p.beat == BEAT)
    heard = Mix(taken, after.programme, sounds, {}).read(round(phrase.at * 48_000) + 4800, 4800)[:, 0]
    kept = load_sound(project.parent / taken.takes[0].path, taken.takes[0].fingerprint)
    lag = np.argmax(np.correlate(kept.read(0, len(kept))[:, 0], heard, "valid")) / 48_000
    assert 1.4 < lag < 1.5 + float(after.speeches[BEAT].line.seconds)
    off = produce(change_take(taken, taken.takes[0].id, chosen=False), guide, project=project)
    assert off.speeches[BEAT].line == before.speeches[BEAT].line


def test_a_take_that_is_gone_or_says_something_else_leaves_the_guide_voice_and_a_sentence(
    project: Path, guide: GuideVoice
) -> None:
    b = Session.look(project).breakdown
    line = recorded("Nothing of all this was ever written down by anybody.", project.parent / "other.wav")
    taken = with_take(b, line, project, of=TakeOf.BEAT, subject=BEAT)
    other = produce(taken, guide, project=project)
    assert other.speeches[BEAT].line == produce(b, guide).speeches[BEAT].line
    assert "is not in the take “other.flac”; the guide voice speaks it" in other.troubles[0]
    (project.parent / taken.takes[0].path).unlink()
    gone = produce(taken, guide, project=project)
    assert gone.speeches.keys() == other.speeches.keys() and "missing" in gone.troubles[0]


def test_the_nearest_take_counts_and_edges_put_right_by_hand_stay(project: Path) -> None:
    b = Session.look(project).breakdown
    section, beat = b.find_beat(BEAT)
    whole = recorded(" ".join(x.text for x in section.beats), project.parent / "section.wav")
    b = with_take(b, whole, project, of=TakeOf.SECTION, subject=section.id)
    held = {x.id for x in section.beats}
    assert {k: t.id for k, t in takes_by_beat(b).items()} == dict.fromkeys(held, "t1")
    assert speak_takes(b, project).troubles == ()
    b = with_take(b, recorded(beat.text, project.parent / "line.wav"), project, of=TakeOf.BEAT, subject=BEAT)
    assert takes_by_beat(b)[BEAT].id == "t2"
    b = set_edge(b, "t2", WordEdge(beat=BEAT, word=2, start=F("2.1"), end=F("2.3")))
    line = speak_takes(b, project).speeches[BEAT].line
    assert line.words[2][1] - line.words[2][0] == F("0.2")
    longer = edit_script.rewrite(b, BEAT, "Now " + beat.text)
    assert longer.takes[1].edges[0].word == 3
    assert edit_script.remove_beat(b, BEAT).takes == b.takes and BEAT not in takes_by_beat(
        edit_script.remove_beat(b, BEAT)
    )


def test_bringing_in_keeps_the_source_and_every_take(project: Path) -> None:
    source = recorded("One line.", project.parent / "line.wav")
    data = source.read_bytes()
    first, second = bring_in(source, project), bring_in(source, project)
    assert (first.path, second.path) == ("demo.takes/line.flac", "demo.takes/line-2.flac")
    assert source.read_bytes() == data
    original, copy = (load_sound(p, str(p)) for p in (source, project.parent / first.path))
    assert np.array_equal(original.read(0, len(original)), copy.read(0, len(copy)))
    silent = project.parent / "silent.wav"
    wavfile.write(silent, 48_000, np.zeros(48_000, np.int16))
    with pytest.raises(MediaError, match="holds no sound"):
        bring_in(silent, project)
    b = add_take(Session.look(project).breakdown, path=first.path, fingerprint=first.fingerprint, seconds=first.seconds)
    with pytest.raises(StoreError, match="never written over"):
        OutputGate(b, project, replacing=True).check(project.parent / first.path)


def test_takes_come_in_and_words_are_found_from_the_command_line(
    project: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    text = Session.look(project).breakdown.find_beat(BEAT)[1].text
    line, words = recorded(text, project.parent / "line.wav"), project.parent / "line.txt"
    words.write_text(text)
    assert main(["align", str(line), str(words)]) == 0
    n = len(words_of(text))
    assert f"of {n} words as written" in capsys.readouterr().out
    assert main(["take", str(project), str(line), "--beat", BEAT]) == 0
    assert "Brought in as demo.takes/line.flac" in capsys.readouterr().out
    assert [t.subject for t in Session.look(project).breakdown.takes] == [BEAT]
    assert main(["take", str(project), str(line), "--beat", "b99"]) == 1
    assert "There is no beat “b99”" in capsys.readouterr().err
    assert len(list((project.parent / "demo.takes").iterdir())) == 1


def test_a_project_saved_elsewhere_keeps_its_takes(project: Path, tmp_path: Path) -> None:
    b = with_take(Session.look(project).breakdown, recorded("One line.", tmp_path / "line.wav"), project)
    session = Session.open(project)
    session.edit("take", lambda _: b)
    (tmp_path / "other").mkdir()
    session.save(tmp_path / "other" / "moved.chapto")
    session.close()
    assert Session.look(tmp_path / "other" / "moved.chapto").breakdown.takes[0].path == "../demo.takes/line.flac"
