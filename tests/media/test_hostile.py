"""Damaged, cut, lying and foreign files neither crash nor hang nor take more than 1 GiB; each gets its sentence."""

from __future__ import annotations

import random
import struct
import subprocess
import sys
from collections.abc import Iterator
from fractions import Fraction
from pathlib import Path

import av
import numpy as np

from tests.media.clips import Clip, make

GIBIBYTE = 1 << 30


def cases(folder: Path) -> Iterator[tuple[str, bytes]]:
    """(ending, bytes) of over 500 files."""
    rng = random.Random(7)
    wholes = {}
    for ending in (".mp4", ".mkv", ".webm"):
        codec = "libvpx-vp9" if ending == ".webm" else "libx264"
        clip = Clip(
            codec=codec, frames=12, width=96, height=64, options={"deadline": "realtime"} if "vp9" in codec else {}
        )
        wholes[ending] = make(folder / f"whole{ending}", clip).read_bytes()
    for ending, data in wholes.items():
        for cut in sorted({rng.randrange(1, len(data)) for _ in range(90)}):
            yield ending, data[:cut]
        for _ in range(60):
            broken = bytearray(data)
            for _ in range(rng.randrange(1, 12)):
                broken[rng.randrange(len(broken))] ^= 1 << rng.randrange(8)
            yield ending, bytes(broken)
        yield (".mkv" if ending == ".mp4" else ".mp4"), data
    for _ in range(40):
        yield rng.choice([".mp4", ".mov", ".mkv", ".webm"]), rng.randbytes(rng.randrange(1, 5000))
    yield from lying(wholes[".mp4"])
    for text in (b"", b"\0", b"just a note", b"<html></html>", b"ftyp" * 500, b"\x1a\x45\xdf\xa3" + b"\xff" * 400):
        yield ".mp4", text


def lying(data: bytes) -> Iterator[tuple[str, bytes]]:
    """Headers that claim what is not so (box layouts of ISO 14496-12)."""
    for count in (10**9, 2**32 - 1, 0):
        for box, at in ((b"stsz", 12), (b"stts", 8), (b"stco", 8), (b"stsc", 8)):
            made = bytearray(data)
            place = made.index(box) + at
            made[place : place + 4] = struct.pack(">I", count)
            yield ".mp4", bytes(made)
    for width, height in ((0, 0), (65_535, 65_535), (65_535, 2), (1, 1)):
        made = bytearray(data)
        place = made.index(b"avc1") + 4 + 24
        made[place : place + 4] = struct.pack(">HH", width, height)
        yield ".mp4", bytes(made)
    for length in (0, 1, 7, 2**31, 2**32 - 1):
        for box in (b"moov", b"trak", b"mdat", b"avcC"):
            made = bytearray(data)
            place = made.index(box) - 4
            made[place : place + 4] = struct.pack(">I", length)
            yield ".mp4", bytes(made)


def many_tracks(path: Path) -> Path:
    """A picture and a hundred audio tracks."""
    with av.open(str(path), "w") as out:
        video = out.add_stream("libx264", rate=30)
        video.width, video.height, video.pix_fmt = 96, 64, "yuv420p"
        tracks = [out.add_stream("pcm_s16le", rate=8000, layout="mono") for _ in range(100)]
        for i in range(6):
            frame = av.VideoFrame.from_ndarray(np.full((64, 96, 3), 40 * i, np.uint8), format="rgb24")
            frame.pts, frame.time_base = i, Fraction(1, 30)
            out.mux(video.encode(frame))
        for track in tracks:
            block = av.AudioFrame.from_ndarray(np.zeros((1, 1600), np.int16), format="s16", layout="mono")
            block.sample_rate, block.pts = 8000, 0
            out.mux(track.encode(block))
            out.mux(track.encode(None))
        out.mux(video.encode(None))
    return path


def test_five_hundred_hostile_files(tmp_path: Path) -> None:
    places = [many_tracks(tmp_path / "hundred.mkv")]
    for number, (ending, data) in enumerate(cases(tmp_path)):
        place = tmp_path / f"{number:04d}{ending}"
        place.write_bytes(data)
        places.append(place)
    assert len(places) > 500
    done = subprocess.run(
        [sys.executable, "-m", "tests.media.hostile"],
        input="\n".join(map(str, places)), capture_output=True, text=True, timeout=220, check=False,
    )  # fmt: skip
    assert done.returncode == 0, done.stderr[-2000:]
    *answers, last = done.stdout.splitlines()
    longest, memory = (float(v) for v in last.split())
    assert len(answers) == len(places) and answers[0] == "used"
    assert longest < 20 and memory < GIBIBYTE
    refused = [a for a in answers if a != "used"]
    assert len(refused) > 150
    assert all("“" in a and a.endswith(".") and "\n" not in a for a in refused)
