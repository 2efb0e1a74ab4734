"""The sound of awkward files, and a cache that never gives anything but what was put into it."""

from __future__ import annotations

import os
import subprocess
import sys
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
import pytest

from chapto.media.cache import cache_file
from chapto.media.sound import RATE, load_sound
from chapto.media.sound_file import BLOCK, HEAD, DamagedSound, SoundReader, SoundWriter
from tests.media.clips import Clip, make


def ramp(n: int, start: int = 0) -> np.ndarray:
    return np.repeat(((start + np.arange(n)) % 30_000).astype(np.int16)[:, None], 2, axis=1)


def tone_file(path: Path, layout: str, seconds: float = 1.0, hertz: float = 440) -> bytes:
    """An AAC stream of its own, whose bytes can be strung together with others."""
    with av.open(str(path), "w", format="adts") as out:
        stream = out.add_stream("aac", rate=RATE, layout=layout)
        wave = (0.5 * np.sin(2 * np.pi * hertz * np.arange(round(seconds * RATE)) / RATE)).astype(np.float32)
        for at in range(0, len(wave) - 1023, 1024):
            planes = np.repeat(wave[None, at : at + 1024], 1 if layout == "mono" else 2, axis=0)
            frame = av.AudioFrame.from_ndarray(np.ascontiguousarray(planes), format="fltp", layout=layout)
            frame.sample_rate, frame.pts, frame.time_base = RATE, at, Fraction(1, RATE)
            out.mux(stream.encode(frame))
        out.mux(stream.encode(None))
    return path.read_bytes()


def test_channels_that_change_inside_a_file_are_all_heard(tmp_path: Path) -> None:
    parts = [tone_file(tmp_path / f"{i}.aac", layout) for i, layout in enumerate(("stereo", "mono", "stereo"))]
    (tmp_path / "all.aac").write_bytes(b"".join(parts))
    sound = load_sound(tmp_path / "all.aac", "test-layouts")
    assert len(sound) / RATE == pytest.approx(3, abs=0.15)
    for second in (0.5, 1.5, 2.5):
        assert float(np.abs(sound.read(round(second * RATE), 4800)).max()) > 0.3


def test_a_gap_of_ten_days_in_the_sound_costs_no_room(tmp_path: Path) -> None:
    path = tmp_path / "gap.mkv"
    with av.open(str(path), "w") as out:
        video = out.add_stream("libx264", rate=25)
        video.width, video.height, video.pix_fmt = 64, 64, "yuv420p"
        audio = out.add_stream("libopus", rate=RATE, layout="stereo")
        for i in range(25):
            picture = av.VideoFrame(64, 64, "yuv420p")
            picture.pts, picture.time_base = i, Fraction(1, 25)
            out.mux(video.encode(picture))
        wave = 0.4 * np.sin(2 * np.pi * 440 * np.arange(RATE) / RATE)
        tone = np.repeat(wave.astype(np.float32), 2)[None]
        for day in (0, 10):
            for at in range(0, RATE, 960):
                frame = av.AudioFrame.from_ndarray(
                    tone[:, 2 * at : 2 * at + 1920].copy(), format="flt", layout="stereo"
                )
                frame.sample_rate, frame.pts, frame.time_base = RATE, day * 86_400 * RATE + at, Fraction(1, RATE)
                out.mux(audio.encode(frame))
        out.mux(video.encode(None))
    sound = load_sound(path, "test-gap")
    assert len(sound) < 120 * RATE
    assert cache_file("sound", "test-gap", ".s16").stat().st_size < 2_000_000
    assert float(np.abs(sound.read(RATE // 2, 100)).max()) > 0.1


def test_what_is_put_anywhere_is_read_back_and_silence_takes_no_room(tmp_path: Path) -> None:
    writer = SoundWriter(tmp_path / "s")
    pieces = [(0, ramp(1000)), (BLOCK - 10, ramp(30)), (500 * BLOCK, ramp(2 * BLOCK)), (3 * BLOCK, ramp(7))]
    for at, samples in pieces:
        writer.put(at, samples)
    writer.finish()
    writer.close()
    reader = SoundReader(tmp_path / "s")
    assert reader.length == 502 * BLOCK and reader.block(40) is None
    assert (tmp_path / "s").stat().st_size < 6 * BLOCK * 4
    for at, samples in pieces:
        number, inside = divmod(at, BLOCK)
        block = reader.block(number)
        assert block is not None
        n = min(BLOCK - inside, len(samples))
        assert np.array_equal(block[inside : inside + n], samples[:n])


@pytest.mark.parametrize("cut", [0, 3, len(HEAD) + 5, -1, -30])
def test_a_cut_cache_file_is_made_again_and_said(tmp_path: Path, cut: int) -> None:
    clip = make(tmp_path / "s.mp4", Clip())
    whole = load_sound(clip, "test-cut").read(0, RATE)
    cached = cache_file("sound", "test-cut", ".s16")
    cached.write_bytes(cached.read_bytes()[:cut])
    said: list[str] = []
    again = load_sound(clip, "test-cut", remade=lambda: said.append("again"))
    assert np.array_equal(again.read(0, RATE), whole) and said == ["again"]


def test_a_changed_byte_is_never_heard(tmp_path: Path) -> None:
    clip = make(tmp_path / "s.mp4", Clip())
    load_sound(clip, "test-flip")
    cached = cache_file("sound", "test-flip", ".s16")
    data = bytearray(cached.read_bytes())
    data[len(HEAD) + 150_000] ^= 0x40
    cached.write_bytes(bytes(data))
    sound = load_sound(clip, "test-flip")
    told: list[bool] = []
    sound.on_damage = lambda: told.append(True)
    assert not sound.read(0, RATE).any() and told == [True]
    assert np.abs(load_sound(clip, "test-flip", anew=True).read(0, RATE)).max() > 0.1


def test_a_file_cut_while_it_is_read_gives_an_error_and_not_the_end_of_the_process(tmp_path: Path) -> None:
    writer = SoundWriter(tmp_path / "s")
    writer.put(0, ramp(20 * BLOCK))
    writer.finish()
    writer.close()
    code = (
        "import sys, os\nfrom pathlib import Path\n"
        "from chapto.media.sound import FootageSound\nfrom chapto.media.sound_file import SoundReader\n"
        "place = Path(sys.argv[1]); sound = FootageSound(blocks=SoundReader(place))\n"
        "assert sound.read(0, 48000).any()\nos.truncate(place, 100_000)\n"
        "assert not sound.read(10 * 48000, 48000).any() and sound.is_damaged\n"
    )
    done = subprocess.run([sys.executable, "-c", code, str(tmp_path / "s")], env=dict(os.environ), timeout=200)
    assert done.returncode == 0


def test_a_full_disk_is_said_and_leaves_nothing(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    def full(*_: object) -> int:
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(os, "pwrite", full)
    with pytest.raises(Exception, match=r"can't be kept in .*: the disk is full"):
        load_sound(make(tmp_path / "s.mp4", Clip()), "test-full")
    assert not list(cache_file("sound", "test-full", ".s16").parent.glob("test-full*"))


def test_another_file_in_the_place_of_a_sound_is_not_taken_for_one(tmp_path: Path) -> None:
    (tmp_path / "x").write_bytes(bytes(500_000))
    with pytest.raises(DamagedSound):
        SoundReader(tmp_path / "x")
