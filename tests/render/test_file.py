"""Rendering awkward footage, stopping, and what can go wrong."""

from __future__ import annotations

import errno
import os
from pathlib import Path

import av
import numpy as np
import pytest

from chapto.cli.main import main
from chapto.document import edit_script
from chapto.errors import Cancelled, ChaptoError
from chapto.render.file import RenderError
from chapto.render.new import new_breakdown
from chapto.render.production import produce, render_production
from chapto.store.errors import StoreError
from chapto.voice.guide import GuideVoice
from tests.media.clips import Clip, luma, make
from tests.media.test_awkward_clips import VARIABLE

PHONE = Clip(codec="libx265", rotation=90, stamps=VARIABLE, sound="mono", sound_rate=44_100, width=640, height=360)


@pytest.fixture
def project(tmp_path: Path) -> Path:
    clip = make(tmp_path / "phone.mp4", PHONE)
    assert main(["new", str(clip), "-o", str(tmp_path / "roll.chapto")]) == 0
    return tmp_path / "roll.chapto"


def test_a_phone_clip_goes_from_new_to_a_video_without_any_option(project: Path, tmp_path: Path) -> None:
    """HEVC, variable frame rate, rotated, mono at 44.1 kHz."""
    assert main(["render", str(project), "-o", str(tmp_path / "roll.mp4"), "--quiet"]) == 0
    with av.open(str(tmp_path / "roll.mp4")) as media:
        video, audio = media.streams.video[0], media.streams.audio[0]
        assert (video.codec_context.name, audio.codec_context.name) == ("h264", "aac")
        assert (video.width, video.height) == (720, 1280)
        frames = [(float(f.time or 0), f.to_ndarray(format="gray")) for f in media.decode(video)]
    steps = np.diff([t for t, _ in frames])
    assert np.allclose(steps, steps[0], atol=1e-4)
    for t, picture in frames[1:-1:4]:
        shown = max(i for i, s in enumerate(VARIABLE) if s <= t + 1e-3)
        level = float(picture[700:900, 300:420].mean())
        assert level == pytest.approx((luma(shown) - 16) / 219 * 255, abs=8)


def test_webm_is_written_too(project: Path, tmp_path: Path) -> None:
    assert main(["render", str(project), "-o", str(tmp_path / "roll.webm"), "--quiet"]) == 0
    with av.open(str(tmp_path / "roll.webm")) as media:
        assert media.streams.video[0].codec_context.name == "vp9"
        assert media.streams.audio[0].codec_context.name == "opus"
        assert [c["metadata"]["title"] for c in media.chapters()] == ["phone"]
        assert media.chapters()[0]["start"] == 0


def test_a_matroska_file_holds_its_chapters_in_nanoseconds(tmp_path: Path) -> None:
    """RFC 9559: `ChapterTimeStart` is in nanoseconds, in the nested `EditionEntry`, `ChapterAtom`, `ChapterDisplay`;
    found in the bytes of the file, by their element ids."""
    from chapto.store.session import Session

    clip = make(tmp_path / "roll.mp4", Clip(frames=90))
    assert main(["new", str(clip), "-o", str(tmp_path / "own.chapto")]) == 0
    session = Session.open(tmp_path / "own.chapto")
    first = session.breakdown.script[0]
    session.edit("once more", lambda b: edit_script.add_section(b, title="Again", exchange=first.exchange))
    session.save()
    session.close()
    assert main(["render", str(tmp_path / "own.chapto"), "-o", str(tmp_path / "own.webm"), "--quiet"]) == 0
    data = (tmp_path / "own.webm").read_bytes()
    edition = data.index(bytes.fromhex("45b9"))
    starts, at = [], edition
    while (at := data.find(b"\x91", at + 1)) >= 0 and len(starts) < 2:
        size = data[at + 1] & 0x7F
        if data[at + 1] & 0x80 and 1 <= size <= 8:
            starts.append(int.from_bytes(data[at + 2 : at + 2 + size], "big"))
    with av.open(str(tmp_path / "own.webm")) as media:
        told = [float(c["start"] * c["time_base"]) for c in media.chapters()]
    assert starts == [round(s * 1e9) for s in told] and len(set(starts)) == 2
    assert data.index(bytes.fromhex("45b9")) < data.index(b"\xb6", edition) < data.index(b"\x80", edition)


def _rendering(project: Path, target: Path, guide: GuideVoice, **options: object) -> tuple[Path, ...]:
    from chapto.store.session import Session

    return render_production(produce(Session.look(project).breakdown, guide), project, target, **options)  # type: ignore[arg-type]


def test_a_stopped_render_leaves_nothing(project: Path, tmp_path: Path, guide: GuideVoice) -> None:
    asked: list[float] = []

    def stop() -> bool:
        asked.append(1)
        return len(asked) > 8

    before = set(tmp_path.iterdir())
    with pytest.raises(Cancelled):
        _rendering(project, tmp_path / "roll.mp4", guide, cancelled=stop)
    assert set(tmp_path.iterdir()) == before


def test_an_earlier_video_of_that_name_survives_a_failed_render(
    project: Path, tmp_path: Path, guide: GuideVoice, monkeypatch: pytest.MonkeyPatch
) -> None:
    # What is kept besides, such as the sound of the file, is there already.
    _rendering(project, tmp_path / "other.mp4", guide)
    (tmp_path / "roll.mp4").write_bytes(b"earlier")

    def full(handle: int) -> None:
        raise OSError(errno.ENOSPC, "No space left on device")

    monkeypatch.setattr(os, "fsync", full)
    with pytest.raises(RenderError, match=r"The disk is full; “roll\.mp4” was not made"):
        _rendering(project, tmp_path / "roll.mp4", guide, replacing=True)
    assert (tmp_path / "roll.mp4").read_bytes() == b"earlier"
    assert not [p for p in tmp_path.iterdir() if "part" in p.name]


def test_a_really_full_disk_is_said_in_a_sentence(
    project: Path, guide: GuideVoice, monkeypatch: pytest.MonkeyPatch
) -> None:
    """`/dev/full` refuses every byte with ENOSPC."""
    opened = av.open

    def elsewhere(name: str, mode: str = "r", **options: object) -> object:
        return opened("/dev/full", "w", format="matroska") if mode == "w" else opened(name, mode, **options)  # type: ignore[call-overload]

    monkeypatch.setattr("chapto.render.file.av.open", elsewhere)
    with pytest.raises(RenderError, match="The disk is full"):
        _rendering(project, project.with_suffix(".mp4"), guide)


@pytest.mark.parametrize(
    ("target", "sentence"),
    [("nowhere/roll.mp4", "is not there; choose another place"), ("roll.avi", r"should end in \.mp4, \.mkv or \.webm")],
)
def test_a_place_that_will_not_do_is_said_before_any_work(
    project: Path, tmp_path: Path, guide: GuideVoice, target: str, sentence: str
) -> None:
    with pytest.raises(ChaptoError, match=sentence):
        _rendering(project, tmp_path / target, guide)


def test_missing_footage_is_said_before_any_work(project: Path, tmp_path: Path, guide: GuideVoice) -> None:
    (tmp_path / "phone.mp4").unlink()
    with pytest.raises(StoreError, match="is missing"):
        _rendering(project, tmp_path / "roll.mp4", guide)


def test_an_empty_script_has_nothing_to_render(project: Path, tmp_path: Path, guide: GuideVoice) -> None:
    from chapto.store.session import Session

    session = Session.open(project)
    session.edit("empty", lambda b: edit_script.remove_section(b, b.script[0].id))
    session.save()
    with pytest.raises(RenderError, match="nothing to render yet"):
        _rendering(project, tmp_path / "roll.mp4", guide)


def test_progress_rises_to_the_end(project: Path, tmp_path: Path, guide: GuideVoice) -> None:
    shares: list[float] = []
    _rendering(project, tmp_path / "roll.mp4", guide, progress=shares.append)
    assert shares == sorted(shares) and shares[-1] == 1.0


@pytest.mark.parametrize(
    ("size", "wanted"),
    [((1920, 1080), (1920, 1080)), ((1280, 720), (1280, 720)), ((640, 480), (1280, 720)), ((480, 640), (720, 1280))],
)
def test_the_programme_takes_the_shape_of_its_first_footage(
    tmp_path: Path, size: tuple[int, int], wanted: tuple[int, int]
) -> None:
    clip = make(tmp_path / "c.mp4", Clip(width=size[0], height=size[1], frames=3, sound=None))
    made = new_breakdown([clip], tmp_path).format
    assert (made.width, made.height) == wanted
