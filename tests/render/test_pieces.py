"""Rendering in pieces: whoever encodes them, joined they are the same video, and only what changed is encoded again."""

from __future__ import annotations

import os
import signal
import subprocess
import sys
import time
from collections.abc import Callable
from fractions import Fraction as F
from itertools import pairwise
from pathlib import Path
from typing import Any

import av
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from chapto.document import edit_log, edit_script
from chapto.document.breakdown import Breakdown
from chapto.document.picture_format import Codec, Format
from chapto.document.treatments import Hold, Slow
from chapto.errors import Cancelled
from chapto.media.cache import cache_file
from chapto.media.opening import MediaError
from chapto.render import file as render_file
from chapto.render.encodings import PICTURES, Box, encoding_of
from chapto.render.new import new_breakdown
from chapto.render.pieces import pieces_of, still_groups
from chapto.render.production import produce, render_production
from chapto.render.worker import PieceWorkers
from chapto.voice.guide import GuideVoice
from tests.media.clips import Clip, make

FPS = F(30)
SMALL = encoding_of(".mp4", Format(width=320, height=180))
assert SMALL is not None
contents = st.lists(st.tuples(st.integers(0, 4), st.integers(1, 400)), min_size=1, max_size=12).map(
    lambda runs: [bytes([what, 255 if held > 40 else i % 251]) for what, held in runs for i in range(held)]
)


@given(contents, st.sets(st.integers(0, 2000), max_size=20))
def test_pieces_tile_the_programme_and_are_neither_too_short_nor_too_long(found: list[bytes], edges: set[int]) -> None:
    pieces = pieces_of(found, edges, SMALL)
    assert pieces[0].start == 0 and pieces[-1].stop == len(found)
    assert all(one.stop == other.start for one, other in pairwise(pieces))
    assert all(p.frames <= 300 for p in pieces)
    assert all(p.frames >= min(20, len(found)) for p in pieces)
    for piece in pieces:
        for other in pieces:
            same = found[piece.start : piece.stop] == found[other.start : other.stop]
            assert (piece.digest == other.digest) == same


@given(st.integers(45, 4000))
def test_a_still_is_two_lengths_of_groups_at_most(frames: int) -> None:
    groups = still_groups(frames, FPS)
    assert sum(groups) == frames and len(set(groups)) <= 2 and max(groups) - min(groups) <= 1
    assert all(20 <= g <= 45 for g in groups)


@given(contents, st.integers(1, 30))
def test_a_change_in_one_place_leaves_the_pieces_elsewhere(found: list[bytes], at: int) -> None:
    """What is encoded again after a change are the pieces it lies in and their neighbours, not what comes after."""
    changed = list(found)
    place = len(found) * at // 31
    changed[place] = b"other"
    before = {p.digest for p in pieces_of(found, (), SMALL)}
    # Groups of a still are encoded once, however often they are shown.
    new = {p.digest: p.frames for p in pieces_of(changed, (), SMALL) if p.digest not in before}
    assert sum(new.values()) <= 3 * 300


def test_every_encoding_is_told_apart_in_the_digest() -> None:
    found = [bytes([i % 200, i // 200]) for i in range(60)]
    kinds = [Format(codec=c, quality=q, width=w) for c in Codec for q in (1, 3) for w in (640, 1280)]
    digests = {pieces_of(found, (), e)[0].digest for f in kinds if (e := encoding_of(".mkv", f)) is not None}
    assert len(digests) == len(kinds)


# ── rendered ─────────────────────────────────────────────────────────────────────────────────────────────────
Render = Callable[..., Path]


@pytest.fixture
def breakdown(tmp_path: Path) -> Breakdown:
    """Some twenty seconds: run, half speed, a long hold, a label."""
    clip = make(tmp_path / "roll.mp4", Clip(frames=420, gop=30))
    b = new_breakdown([clip], tmp_path)
    b = replace(b, script=(), format=replace(b.format, width=320, height=180))
    b = edit_log.add_moment(b, F(5))
    moment = b.moments[-1].id
    b = edit_log.set_label(b, moment, "Knee slide")
    b = edit_script.add_section(b, title="One", exchange=b.exchanges[0].id if b.exchanges else "")
    for treatment, text in (
        (None, "The knee goes to the mat and the hips follow."),
        (Hold(moment), "Here the frame is gone, so nothing is between the two of them any more, and she can go on."),
        (Slow(F(1, 2)), "And slowly again."),
    ):
        b = edit_script.add_beat(b, b.script[-1].id, text)
        b = edit_script.treat(b, b.script[-1].beats[-1].id, treatment)
    return b


@pytest.fixture
def rendered(tmp_path: Path, guide: GuideVoice, monkeypatch: pytest.MonkeyPatch) -> Render:
    """Renders a document into a file of a name, with a cache of its own."""
    monkeypatch.setattr(render_file, "FEW", 0)

    def one(b: Breakdown, name: str, cache: str = "cache", **options: Any) -> Path:
        monkeypatch.setenv("XDG_CACHE_HOME", str(tmp_path / cache))
        project = tmp_path / "roll.chapto"
        return render_production(produce(b, guide, project=project), project, tmp_path / name, **options)[0]

    return one


def hashes(video: Path) -> list[bytes]:
    with av.open(str(video), options={"err_detect": "explode"}) as media:
        return [f.to_ndarray().tobytes() for f in media.decode(video=0)]


def stamps(video: Path) -> list[tuple[int | None, int | None, bool]]:
    with av.open(str(video)) as media:
        return [(p.pts, p.dts, p.is_keyframe) for p in media.demux(video=0) if p.size]


def test_one_process_two_and_none_but_ours_make_the_same_bytes(breakdown: Breakdown, rendered: Render) -> None:
    ours = rendered(breakdown, "ours.mp4", "a").read_bytes()
    for count in (1, 2):
        with PieceWorkers(count) as workers:
            assert rendered(breakdown, f"by-{count}.mp4", f"by-{count}", workers=workers).read_bytes() == ours


@pytest.mark.parametrize(
    ("codec", "ending"),
    [(Codec.H264, ".mp4"), (Codec.H264, ".mkv"), (Codec.HEVC, ".mp4"), (Codec.VP9, ".webm"), (Codec.AV1, ".mkv")],
)
def test_the_joined_video_is_its_pieces_one_after_another(
    breakdown: Breakdown, rendered: Render, tmp_path: Path, codec: Codec, ending: str
) -> None:
    """Each packet unchanged, each picture one frame after the one before, and nothing a strict decoder minds."""
    b = replace(breakdown, format=replace(breakdown.format, codec=codec, quality=2))
    video = rendered(b, f"joined{ending}")
    with av.open(str(video)) as media:
        stream = media.streams.video[0]
        assert stream.codec_context.name in {"h264", "hevc", "vp9", "libdav1d", "av1"}
        times = [float(f.time or 0) for f in media.decode(stream)]
    assert np.allclose(times, np.arange(len(times)) / 30, atol=0.0011)
    kept = {p.stem: p for p in (tmp_path / "cache" / "chapto" / "pieces").glob("*.mp4")}
    whole = [bytes(packet) for packet in _packets(video)]
    inside = {bytes(packet) for place in kept.values() for packet in _packets(place)}
    assert set(whole) == inside and len(whole) == len(times) == len(hashes(video))


def _packets(video: Path) -> list[Any]:
    with av.open(str(video)) as media:
        return [p for p in media.demux(video=0) if p.size]


def test_every_container_begins_and_ends_picture_and_sound_together(breakdown: Breakdown, rendered: Render) -> None:
    """Within a millisecond: what an encoder puts before the first sample shifts nothing."""
    starts, lengths = {}, {}
    for ending in Box:
        video = rendered(breakdown, f"own-{ending[1:]}{ending}")
        with av.open(str(video)) as media:
            shown = [float(f.time or 0) for f in media.decode(video=0)]
        with av.open(str(video)) as media:
            heard = [
                (float(f.time or 0), np.abs(f.to_ndarray()).reshape(2, -1, order="F" if f.format.is_packed else "C"))
                for f in media.decode(audio=0)
            ]
        loud = [t + i / 48_000 for t, a in heard for i in np.flatnonzero(a.max(axis=0) > 0.05)]
        starts[ending] = (shown[0], loud[0])
        lengths[ending] = (shown[-1] + 1 / 30, loud[-1])
    for found in (starts, lengths):
        pictures, sounds = zip(*found.values(), strict=True)
        assert max(pictures) - min(pictures) <= 0.0011 and max(sounds) - min(sounds) <= 0.0021


def test_another_label_is_all_that_is_encoded_again(breakdown: Breakdown, rendered: Render, tmp_path: Path) -> None:
    first = rendered(breakdown, "one.mp4")
    pieces = tmp_path / "cache" / "chapto" / "pieces"
    before = {p.name for p in pieces.glob("*.mp4")}
    sounds = {p.name for p in pieces.with_name("soundtracks").iterdir()}
    changed = edit_log.set_label(breakdown, breakdown.moments[-1].id, "Knee cut")
    second = rendered(changed, "two.mp4")
    new = {p for p in pieces.glob("*.mp4") if p.name not in before}
    assert {p.name for p in pieces.with_name("soundtracks").iterdir()} == sounds
    assert 0 < sum(len(_packets(p)) for p in new) < len(stamps(first)) / 3
    differ = [i for i, (a, z) in enumerate(zip(hashes(first), hashes(second), strict=True)) if a != z]
    assert differ and differ[-1] - differ[0] < 200


def test_a_stopped_render_goes_on_where_it_stopped(breakdown: Breakdown, rendered: Render, tmp_path: Path) -> None:
    pieces = tmp_path / "cache" / "chapto" / "pieces"
    with pytest.raises(Cancelled):
        rendered(breakdown, "never.mp4", cancelled=lambda: len(list(pieces.glob("*.mp4"))) >= 3)
    ready = {p: p.stat().st_mtime_ns for p in pieces.glob("*.mp4")}
    assert len(ready) >= 3 and not (tmp_path / "never.mp4").exists()
    inodes = {p: p.stat().st_ino for p in ready}
    rendered(breakdown, "done.mp4")
    assert {p: p.stat().st_ino for p in ready} == inodes


def test_a_killed_worker_loses_nothing(breakdown: Breakdown, rendered: Render) -> None:
    ours = rendered(breakdown, "ours.mp4", "a").read_bytes()
    with PieceWorkers(2) as workers:
        killed: list[int] = []

        def kill(share: float) -> None:
            if share > 0.2 and not killed:
                assert workers._pool is not None
                victim = next(iter(workers._pool._processes))
                os.kill(victim, signal.SIGKILL)
                killed.append(victim)

        assert rendered(breakdown, "killed.mp4", "b", workers=workers, progress=kill).read_bytes() == ours
    assert killed


def test_processes_that_always_die_leave_the_work_to_ours(
    breakdown: Breakdown, rendered: Render, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr("chapto.render.worker._begin", _die)
    with PieceWorkers(2) as workers:
        assert rendered(breakdown, "own.mp4", workers=workers).stat().st_size > 1000


def _die(*_: object) -> None:
    os._exit(3)


def test_pieces_that_are_damaged_or_gone_are_made_again(breakdown: Breakdown, rendered: Render, tmp_path: Path) -> None:
    first = rendered(breakdown, "one.mp4").read_bytes()
    pieces = sorted((tmp_path / "cache" / "chapto" / "pieces").glob("*.mp4"))
    pieces[0].unlink()
    data = bytearray(pieces[1].read_bytes())
    data[len(data) // 2] ^= 0xFF
    time.sleep(0.01)
    pieces[1].unlink()
    pieces[1].write_bytes(data)
    assert rendered(breakdown, "two.mp4").read_bytes() == first
    assert cache_file("pieces", pieces[0].stem, ".mp4").exists()


def test_footage_that_vanishes_is_said_whoever_encodes(breakdown: Breakdown, rendered: Render, tmp_path: Path) -> None:
    rendered(breakdown, "one.mp4")
    (tmp_path / "roll.mp4").write_bytes(b"no video")
    with PieceWorkers(1) as workers, pytest.raises((MediaError, Exception), match=r"roll|footage"):
        rendered(breakdown, "two.mp4", "other", workers=workers)
    assert not (tmp_path / "two.mp4").exists()


def test_workers_end_when_their_parent_is_killed(tmp_path: Path) -> None:
    code = (
        "import sys, time\n"
        "from chapto.render.worker import PieceWorkers\n"
        "if __name__ == '__main__':\n"
        "    w = PieceWorkers(2)\n"
        "    list(w._all([time.monotonic] * 4, lambda: False))\n"
        "    print(*w._pool._processes, flush=True)\n"
        "    time.sleep(60)\n"
    )
    script = tmp_path / "parent.py"
    script.write_text(code)
    parent = subprocess.Popen([sys.executable, str(script)], stdout=subprocess.PIPE, text=True)
    assert parent.stdout is not None
    children = [int(pid) for pid in parent.stdout.readline().split()]
    parent.kill()
    parent.wait()
    parent.stdout.close()
    assert children
    end = time.monotonic() + 15
    while time.monotonic() < end and any(_runs(pid) for pid in children):
        time.sleep(0.1)
    assert not [pid for pid in children if _runs(pid)]


def _runs(pid: int) -> bool:
    try:
        return Path(f"/proc/{pid}/stat").read_text().rsplit(")", 1)[1].split()[0] != "Z"
    except OSError:
        return False


def test_what_the_libraries_bring_is_offered() -> None:
    for codec, code in PICTURES.items():
        assert av.codec.Codec(code.encoder, "w").name == code.encoder
        assert list(code.rate_factors) == sorted(code.rate_factors, reverse=True)
        assert codec is not Codec.H264 or code.rate_factors[2] == 20
