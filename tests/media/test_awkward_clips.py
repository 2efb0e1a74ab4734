"""Footage as phones and cameras really write it."""

from fractions import Fraction
from itertools import accumulate
from pathlib import Path

import numpy as np
import pytest

from chapto.media.frame_converter import GROUND
from chapto.media.opening import MediaError
from chapto.media.probe import probe
from chapto.media.reader import FrameReader
from chapto.media.sound import RATE, load_sound
from tests.media.clips import Clip, luma, make

VARIABLE = tuple(accumulate([0.0, *([0.033, 0.050, 0.033, 0.017, 0.100, 0.034] * 5)]))[:30]
KINDS = {
    "variable rate": ("v.mp4", Clip(stamps=VARIABLE)),
    "rotated": ("r.mp4", Clip(rotation=90)),
    "upside down": ("u.mp4", Clip(rotation=180)),
    "hevc": ("h.mp4", Clip(codec="libx265")),
    "ten bit": ("t.mp4", Clip(codec="libx265", pix_fmt="yuv420p10le")),
    "mono 44.1": ("m.mp4", Clip(sound="mono", sound_rate=44_100)),
    "no sound": ("n.mp4", Clip(sound=None)),
    "odd size": ("o.mkv", Clip(codec="libvpx-vp9", width=321, height=181, options={"deadline": "realtime"})),
    "late start": ("l.mkv", Clip(codec="libx264", start=5.0)),
    "interlaced": ("i.mp4", Clip(interlaced=True, height=192)),
    "4k": ("k.mp4", Clip(width=3840, height=2160, frames=6, gop=3)),
    "long gop": ("g.mp4", Clip(gop=250)),
    "4:2:2": ("y.mkv", Clip(pix_fmt="yuv422p")),
}


@pytest.fixture(params=KINDS, ids=lambda k: k.replace(" ", "-"))
def clip(request: pytest.FixtureRequest, tmp_path: Path) -> tuple[str, Path, Clip]:
    name, what = KINDS[request.param]
    return request.param, make(tmp_path / name, what), what


def level(reader: FrameReader, index: int) -> float:
    """Mean brightness of the lower right part, where there is only grey, in limited range."""
    picture = reader.picture(index, 160, 90, "rgb24").to_ndarray().astype(float)
    inner = picture[picture.shape[0] // 2 : -20, 70:90]
    return float(inner.mean()) / 255 * 219 + 16


def test_every_kind_is_probed_and_any_frame_found_in_any_order(clip: tuple[str, Path, Clip]) -> None:
    kind, path, what = clip
    info = probe(path)
    times = what.stamps or tuple(i / 30 for i in range(what.frames))
    assert info.frames == len(times)
    assert info.has_sound == (what.sound is not None)
    assert float(info.duration) == pytest.approx(times[-1] + 1 / 30, abs=0.08)
    assert info.variable_rate == (kind == "variable rate")
    reader = FrameReader(path)
    order = [0, len(times) - 1, len(times) // 2, len(times) // 2 + 1, 2, 1]
    for i in order:
        middle = Fraction(times[i]).limit_denominator(90_000) + Fraction(1, 250)
        assert reader.index_at(middle) == i
        assert level(reader, i) == pytest.approx(luma(i), abs=4)
    reader.close()


@pytest.mark.parametrize(("rotation", "corner"), [(0, (0, 0)), (90, (0, 1)), (180, (1, 1)), (270, (1, 0))])
def test_rotated_footage_is_shown_upright(tmp_path: Path, rotation: int, corner: tuple[int, int]) -> None:
    """The white block is stored at the upper left; turned clockwise by 90° it is at the upper right, and so on."""
    path = make(tmp_path / "r.mp4", Clip(rotation=rotation))
    info = probe(path)
    assert (info.width, info.height) == ((180, 320) if rotation % 180 else (320, 180))
    reader = FrameReader(path)
    size = (90, 160) if rotation % 180 else (160, 90)
    picture = reader.picture(0, *size).to_ndarray().astype(int)
    h, w, _ = picture.shape
    corners = {
        (r, c): picture[r * (h - 12) : r * (h - 12) + 12, c * (w - 12) : c * (w - 12) + 12].mean()
        for r in (0, 1)
        for c in (0, 1)
    }
    assert max(corners, key=lambda k: corners[k]) == corner
    reader.close()


def test_a_wide_picture_gets_bars_above_and_below(tmp_path: Path) -> None:
    reader = FrameReader(make(tmp_path / "w.mp4", Clip(width=320, height=80)))
    picture = reader.picture(20, 160, 90).to_ndarray()
    bars = np.concatenate([picture[:20], picture[-20:]])
    assert (bars == GROUND).all(), "what lies round a picture is the ground of the window"
    assert picture[40:50].mean() > 100
    reader.close()


@pytest.mark.parametrize("kind", ["late start", "mono 44.1", "hevc"])
def test_sound_lies_where_the_picture_says(kind: str, tmp_path: Path) -> None:
    """The tone begins half way; EBU R 37 would allow it 40 ms early and 60 ms late."""
    name, what = KINDS[kind]
    sound = load_sound(make(tmp_path / name, what), f"test-{kind}")
    whole = sound.read(0, len(sound))[:, 0]
    begins = int(np.flatnonzero(np.abs(whole) > 0.1)[0]) / RATE
    assert begins == pytest.approx(0.5, abs=0.03)


def test_sound_outside_the_file_is_silence(tmp_path: Path) -> None:
    sound = load_sound(make(tmp_path / "s.mp4", Clip()), "test-silence")
    assert not sound.read(-1000, 1000).any()
    assert not sound.read(len(sound) + 5, 100).any()
    assert len(load_sound(make(tmp_path / "n.mp4", Clip(sound=None)), "test-none")) == 0


def _audio_only(path: Path) -> None:
    import av

    with av.open(str(path), "w") as out:
        stream = out.add_stream("libopus", rate=48_000, layout="mono")
        frame = av.AudioFrame.from_ndarray(np.zeros((1, 960), np.float32), format="flt", layout="mono")
        frame.sample_rate = 48_000
        out.mux(stream.encode(frame))
        out.mux(stream.encode(None))


def _png(path: Path) -> None:
    from PyQt6.QtGui import QImage

    image = QImage(64, 64, QImage.Format.Format_RGB32)
    image.fill(0)
    image.save(str(path))


def _cut(path: Path) -> None:
    whole = make(path.with_name("whole.mp4"), Clip())
    path.write_bytes(whole.read_bytes()[:9_000])


@pytest.mark.parametrize(
    ("name", "make_it", "sentence"),
    [
        ("empty.mp4", lambda p: p.write_bytes(b""), "is empty"),
        (
            "noise.mp4",
            lambda p: p.write_bytes(np.random.default_rng(1).bytes(50_000)),
            "neither video nor sound, or it is damaged",
        ),
        ("text.mp4", lambda p: p.write_text("hello " * 500), "neither video nor sound"),
        ("gone.mp4", lambda p: None, "is not there"),
        ("folder.mp4", lambda p: p.mkdir(), "is a folder"),
        ("voice.ogg", _audio_only, "has sound but no picture"),
        ("still.png", _png, "is a still picture"),
        ("cut.mp4", _cut, "is cut off before its index"),
    ],
)
def test_what_is_no_footage_gets_its_own_sentence(tmp_path: Path, name: str, make_it: object, sentence: str) -> None:
    path = tmp_path / name
    make_it(path)  # type: ignore[operator]
    with pytest.raises(MediaError, match=sentence) as caught:
        probe(path)
    assert "\n" not in str(caught.value) and str(caught.value).endswith(".")


def test_a_file_that_breaks_off_gives_its_pictures_up_to_there(tmp_path: Path) -> None:
    whole = make(tmp_path / "whole.mkv", Clip(frames=30, sound=None))
    path = tmp_path / "broken.mkv"
    path.write_bytes(whole.read_bytes()[: whole.stat().st_size * 2 // 3])
    reader = FrameReader(path)
    assert 5 < reader.frames < 30
    assert level(reader, 3) == pytest.approx(luma(3), abs=4)
    reader.close()
