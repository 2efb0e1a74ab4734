"""What is measured of the finished picture and sound, against published pairs and with faults made on purpose."""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction as F
from functools import partial
from pathlib import Path

import av
import numpy as np
import pyloudnorm
import pytest
from msgspec.structs import replace
from numpy.typing import NDArray
from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QColor, QImage, QPainter

from chapto.document import edit_log, edit_script
from chapto.media.cache import cache_file
from chapto.media.recording_flaws import clicks, clipped_ms, hum_over_room, longest_gap_ms, room_level
from chapto.media.sound import RATE
from chapto.paint.application import application
from chapto.paint.lettering import letters
from chapto.programme.programme import Programme
from chapto.render.flashing import Flashing, luminance
from chapto.render.frames import ProgrammeFrames
from chapto.render.listening import listen
from chapto.render.loudness import gain_for
from chapto.render.measuring import known_measures, measure
from chapto.render.mix import Mix
from chapto.render.new import new_breakdown
from chapto.render.production import Production, produce
from chapto.render.reading_contrast import lowest_contrast
from chapto.render.watching import watch
from chapto.voice.guide import GuideVoice, SpeechSounds

RNG = np.random.default_rng(5)
GREY = "#767676"


# ── letters ──────────────────────────────────────────────────────────────────────────────────────────────────
def written(ink: str, ground: str, *, over: str = "") -> NDArray[np.uint8]:
    """Words in a large and plain font on a ground, which may lie half over another one."""
    application(offscreen=True)
    image = QImage(640, 120, QImage.Format.Format_RGB888)
    image.fill(QColor(ground))
    p = QPainter(image)
    if over:
        p.fillRect(QRectF(320, 0, 320, 120), QColor(over))
    p.setFont(letters(60))
    p.setPen(QColor(ink))
    p.drawText(QRectF(10, 0, 620, 120), Qt.AlignmentFlag.AlignVCenter, "Frame on the bone")
    p.end()
    bits = image.constBits()
    assert bits is not None
    rows = np.frombuffer(bits.asarray(image.sizeInBytes()), np.uint8).reshape(120, -1)
    return rows[:, : 640 * 3].reshape(120, 640, 3)


@pytest.mark.parametrize(("ink", "ground", "ratio"), [
    ("#000000", "#FFFFFF", 21.0), (GREY, "#FFFFFF", 4.54), ("#777777", "#FFFFFF", 4.48), ("#FFFFFF", "#000000", 21.0),
    ("#FFFFFF", GREY, 4.54),
])  # fmt: skip
def test_contrast_is_that_of_the_published_pairs(ink: str, ground: str, ratio: float) -> None:
    """W3C WCAG 2.x, and the pairs just over and just under 4.5:1 that are quoted with it."""
    assert lowest_contrast(written(ink, ground)) == pytest.approx(ratio, rel=0.02)


def test_where_the_ground_varies_its_worst_part_counts() -> None:
    over_both = lowest_contrast(written("#FFFFFF", "#101715", over="#8A8A8A"))
    assert over_both == pytest.approx(lowest_contrast(written("#FFFFFF", "#8A8A8A")), rel=0.06)


# ── flashes ──────────────────────────────────────────────────────────────────────────────────────────────────
def most_flashes(picture: Callable[[float], NDArray[np.float64]], seconds: float = 3) -> int:
    flashing = Flashing(30)
    for i in range(round(seconds * 30)):
        rgb = picture(i / 30)
        flashing.take(luminance(rgb), rgb)
    return max((n for _, n in flashing.found), default=0)


def blinking(hz: float, low: float, high: float, part: float = 1.0, colour: tuple[float, float, float] = (1, 1, 1)):  # type: ignore[no-untyped-def]
    def picture(t: float) -> NDArray[np.float64]:
        rgb = np.full((36, 64, 3), low)
        wide = round(64 * part)
        rgb[:, :wide] = (high if int(2 * hz * t) % 2 else low) * np.array(colour)
        return rgb

    return picture


def test_more_than_three_flashes_a_second_are_counted_and_three_are_not_too_many() -> None:
    """W3C WCAG 2.x, 2.3.1: a flash is a pair of opposing changes of a tenth of relative luminance, the darker below
    0.8, over a quarter of a field of view."""
    assert most_flashes(blinking(5, 0.1, 0.9)) == 5
    assert most_flashes(blinking(3, 0.1, 0.9)) == 3
    assert most_flashes(blinking(1, 0.1, 0.9)) == 1
    assert most_flashes(blinking(5, 0.40, 0.44)) == 0, "too small a change"
    assert most_flashes(blinking(5, 0.93, 1.0)) == 0, "both are bright"
    assert most_flashes(blinking(5, 0.1, 0.9, part=0.03)) == 0, "too small a part"
    assert most_flashes(blinking(5, 0.0, 1.0, colour=(1, 0, 0))) == 5, "saturated red"


def test_what_moves_is_no_flash() -> None:
    def passing(t: float) -> NDArray[np.float64]:
        rgb = np.full((36, 64, 3), 0.1)
        x = int(60 * t) % 64
        rgb[:, x : x + 12] = 0.9
        return rgb

    assert most_flashes(passing) <= 1


# ── whole clips ──────────────────────────────────────────────────────────────────────────────────────────────
def clip(path: Path, grey: Callable[[int], float], seconds: float = 4) -> Path:
    """A clip of noisy grey pictures, so that no two are the same unless they are meant to be."""
    with av.open(str(path), "w") as out:
        stream = out.add_stream("libx264", 30, options={"crf": "12"})
        stream.width, stream.height, stream.pix_fmt = 320, 180, "yuv420p"
        noise = RNG.integers(-6, 7, (180, 320))
        for i in range(round(seconds * 30)):
            level = grey(i)
            moving = np.roll(noise, 3 * i, axis=1) if level >= 0 else noise
            picture = np.clip(abs(level) * 255 + moving * (level != 0), 0, 255).astype(np.uint8)
            frame = av.VideoFrame.from_ndarray(np.repeat(picture[..., None], 3, 2), format="rgb24")
            for packet in stream.encode(frame.reformat(format="yuv420p")):
                out.mux(packet)
        for packet in stream.encode():
            out.mux(packet)
    return path


def produced(path: Path) -> Production:
    b = new_breakdown((path,), path.parent)
    return produce(b, GuideVoice(), project=path.parent / "x.chapto")


def watched(path: Path) -> tuple[Programme, object]:
    made = produced(path)
    places = {made.breakdown.footage[0].id: path}
    return made.programme, watch(made.breakdown, made.programme, places)


@pytest.mark.parametrize(("grey", "name"), [
    (lambda i: 0.8 if i // 3 % 2 else 0.2, "flashes"),
    (lambda i: 0.0 if 40 <= i < 80 else 0.5, "black"),
    (lambda i: -0.5 if 40 <= i < 80 else 0.5, "frozen"),
])  # fmt: skip
def test_a_clip_with_one_fault_shows_it_and_only_it(tmp_path: Path, grey: Callable[[int], float], name: str) -> None:
    _, found = watched(clip(tmp_path / "bad.mp4", grey))
    seen = {
        "flashes": max((n for _, n in found.flashes), default=0) > 3,
        "black": any(z - a > 15 for a, z in found.black),
        "frozen": any(z - a > 15 for a, z in found.frozen),
    }  # type: ignore[attr-defined]
    assert seen.pop(name) and not any(v for k, v in seen.items() if (name, k) != ("black", "frozen"))


def test_a_clip_without_a_fault_shows_none(tmp_path: Path) -> None:
    _, found = watched(clip(tmp_path / "good.mp4", lambda i: 0.5))
    assert (found.flashes, found.black, found.frozen) == ((), (), ())  # type: ignore[attr-defined]


def test_what_was_measured_is_kept_until_the_programme_is_another(tmp_path: Path) -> None:
    made = produced(clip(tmp_path / "good.mp4", lambda i: 0.5, 2))
    project = tmp_path / "x.chapto"
    assert known_measures(made) is None
    found = measure(made, project)
    assert known_measures(made) == found
    b = replace(made.breakdown, title="Another title on its card")
    assert known_measures(Production(b, made.programme, made.speeches)) is None
    (tmp_path / "good.mp4").unlink()
    missing = measure(Production(b, made.programme, made.speeches), project)
    assert isinstance(missing.watched, str) and "good" in missing.watched


def labelled(made: Production, label: str) -> Production:
    """The same with something said at its second second, and a label there."""
    b = edit_log.add_moment(made.breakdown, F(2))
    moment, beat = b.moments[-1].id, next(x for _, x in b.beats())
    b = edit_script.rewrite(edit_log.set_label(b, moment, label), beat.id, "Here she begins to move.")
    return produce(edit_script.tie_word(b, beat.id, 0, moment), GuideVoice())


def test_of_what_was_looked_at_only_what_is_another_is_looked_at_again(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """What is known is taken as it is, to the same result; what is damaged is looked at again."""
    plainly = produced(clip(tmp_path / "long.mp4", lambda i: 0.8 if i // 3 % 2 and i > 200 else 0.4, 12))
    made, other = (labelled(plainly, text) for text in ("Knee slide", "Knee cut"))
    places = {made.breakdown.footage[0].id: tmp_path / "long.mp4"}
    asked: list[int] = []
    monkeypatch.setenv("XDG_CACHE_HOME", str(tmp_path / "cache"))
    plain = ProgrammeFrames.frame

    def counted(frames: ProgrammeFrames, number: int) -> av.VideoFrame:
        asked.append(number)
        return plain(frames, number)

    monkeypatch.setattr(ProgrammeFrames, "frame", counted)
    told: list[float] = []
    first = watch(made.breakdown, made.programme, places, progress=told.append)
    assert told == sorted(told) and told[0] == 0 and told[-1] < 1 and any(0.6 < share < 0.75 for share in told)
    whole = len(asked)
    assert first.flashes and whole > 300
    asked.clear()
    assert watch(made.breakdown, made.programme, places) == first and not asked
    assert other.programme.labels
    again = watch(other.breakdown, other.programme, places)
    assert 0 < len(asked) < whole / 2 and again.shades and len(again.flashes) == len(first.flashes)
    for kept in cache_file("looked", "x", "").parent.glob("*.npz"):
        kept.write_bytes(kept.read_bytes()[:-40])
    asked.clear()
    assert watch(made.breakdown, made.programme, places) == first and len(asked) == made.programme.frames


# ── sound ────────────────────────────────────────────────────────────────────────────────────────────────────
def voice(seconds: float = 3.0, pitch: float = 130.0) -> NDArray[np.float64]:
    """Something like a voice: pulses at a pitch that wavers, in a room with a little noise."""
    t = np.arange(round(seconds * RATE)) / RATE
    phase = 2 * np.pi * np.cumsum(pitch + 9 * np.sin(2 * np.pi * 4 * t)) / RATE
    body = sum(np.sin(n * phase) / n for n in range(1, 12)) * (0.5 + 0.3 * np.sin(2 * np.pi * 3 * t))
    return 0.25 * body + 3e-4 * RNG.standard_normal(len(t))


PAUSES = ((0.5, 1.4), (2.0, 2.9))


def spoken() -> NDArray[np.float64]:
    """Three words with pauses between."""
    sound = voice()
    for a, z in PAUSES:
        sound[round(a * RATE) : round(z * RATE)] = 3e-4 * RNG.standard_normal(round(z * RATE) - round(a * RATE))
    return sound


INSIDE = [(a + 0.05, z - 0.05) for a, z in PAUSES]


def test_peaks_that_are_cut_off_are_told_from_loud_ones() -> None:
    loud = 2 * voice()
    top = 0.6 * float(np.abs(loud).max())
    assert clipped_ms(loud) < 1
    assert clipped_ms(np.clip(loud, -top, top)) > 1
    assert clipped_ms(0.05 * np.clip(loud, -top, top)) == 0, "nothing so quiet was cut off"


def test_a_gap_inside_a_word_is_found_and_a_pause_is_none() -> None:
    sound = voice()
    words = [(0.2, 1.2), (1.6, 2.6)]
    assert longest_gap_ms(sound, words) < 1
    sound[round(1.3 * RATE) : round(1.5 * RATE)] = 0
    assert longest_gap_ms(sound, words) < 1
    sound[round(0.6 * RATE) : round(0.64 * RATE)] = 0
    assert longest_gap_ms(sound, words) == pytest.approx(40, abs=1)


@pytest.mark.parametrize("mains", [50, 60])
def test_hum_of_either_mains_stands_out_of_the_room(mains: int) -> None:
    clean = spoken()
    t = np.arange(len(clean)) / RATE
    assert hum_over_room(clean, INSIDE) < 15
    assert hum_over_room(clean + 0.002 * np.sin(2 * np.pi * mains * t), INSIDE) > 25


def test_clicks_of_the_mouth_are_counted_and_a_voice_is_none() -> None:
    clean = spoken()
    assert clicks(clean, INSIDE) == 0
    for at in (0.8, 1.1, 2.4):
        first = round(at * RATE)
        clean[first : first + 140] += 0.1 * RNG.standard_normal(140) * np.hanning(140)
    assert clicks(clean, INSIDE) == 3
    assert clicks(voice(), INSIDE) == 0


def test_the_level_of_a_room_is_that_of_its_noise() -> None:
    level = room_level(spoken(), INSIDE)
    assert level == pytest.approx(20 * np.log10(3e-4), abs=1)
    assert room_level(spoken(), []) is None


def test_the_whole_is_heard_as_another_library_hears_it(tmp_path: Path) -> None:
    """`pyloudnorm`, and EBU R 128's half unit."""
    path = clip(tmp_path / "talk.mp4", lambda i: 0.5, 12)
    b = new_breakdown((path,), tmp_path)
    first = next(beat.id for _, beat in b.beats()) if list(b.beats()) else ""
    if not first:
        b = edit_script.add_beat(b, b.script[0].id)
        first = next(beat.id for _, beat in b.beats())
    b = edit_script.rewrite(b, first, "Take the base away first, then finish. Underhook first, knee second, and wait.")
    made = produce(b, GuideVoice(), project=tmp_path / "x.chapto")
    heard = listen(made, tmp_path / "x.chapto", {})
    assert heard.loudness == pytest.approx(b.format.loudness, abs=0.5) and heard.peak <= -1
    assert all(u.decibels > 60 for u in heard.under), "nothing else is heard"
    assert heard.late and all(abs(late) < 0.002 for _, late in heard.late)
    mixed = partial(Mix, made.breakdown, made.programme, SpeechSounds(made.speeches), {})
    mix = mixed(gain=gain_for(lambda gain: mixed(gain=gain), float(b.format.loudness)))
    whole = mix.read(0, mix.length).astype(np.float64)
    assert pyloudnorm.Meter(RATE).integrated_loudness(whole) == pytest.approx(heard.loudness, abs=0.1)
