"""Pictures by mat time, the cache, and proxies."""

from fractions import Fraction
from pathlib import Path

import pytest

from chapto.document.footage import Footage
from chapto.media.cache import seal
from chapto.media.opening import MediaError
from chapto.media.pictures import FootagePictures
from chapto.media.probe import probe
from chapto.media.proxy import make_proxy, proxy_path
from chapto.media.reader import FrameReader
from tests.media.clips import Clip, luma, make

F = Fraction


def filmed(path: Path, *, offset: int = 100) -> Footage:
    info = probe(path)
    return Footage(
        id="f1",
        name="Table",
        path=str(path),
        fingerprint=path.stem,
        duration=info.duration,
        fps=info.fps,
        offset=F(offset),
    )


def grey(picture: object) -> float:
    return float(picture[60:80, 80:120].mean()) / 255 * 219 + 16  # type: ignore[index]


def test_a_mat_time_shows_the_frame_on_display_then(tmp_path: Path) -> None:
    path = make(tmp_path / "c.mp4", Clip())
    footage = filmed(path)
    pictures = FootagePictures({"f1": path})
    for i in (0, 7, 8, 29, 3):
        assert grey(pictures.picture(footage, 100 + F(i, 30) + F(1, 100), 160, 90)) == pytest.approx(luma(i), abs=4)
    pictures.close()


def test_stepping_goes_by_the_files_own_time_stamps(tmp_path: Path) -> None:
    times = (0.0, 0.1, 0.15, 0.4, 0.45)
    path = make(tmp_path / "v.mp4", Clip(stamps=times))
    pictures = FootagePictures({"f1": path})
    at, seen = F(100), []
    for _ in range(5):
        seen.append(float(at) - 100)
        at = pictures.step(filmed(path), at, 1)
    assert seen == pytest.approx(times, abs=0.001)
    assert pictures.step(filmed(path), F(100), -3) == 100
    pictures.close()


def test_the_cache_stays_within_its_bytes(tmp_path: Path) -> None:
    path = make(tmp_path / "c.mp4", Clip())
    pictures = FootagePictures({"f1": path}, cache_bytes=5 * 160 * 90 * 3)
    for i in range(30):
        pictures.picture(filmed(path), 100 + F(i, 30), 160, 90)
    assert pictures.kept_bytes <= 5 * 160 * 90 * 3
    pictures.close()
    assert pictures.kept_bytes == 0


def test_a_rough_picture_is_the_key_picture_before(tmp_path: Path) -> None:
    path = make(tmp_path / "c.mp4", Clip(gop=10))
    pictures = FootagePictures({"f1": path})
    rough = pictures.picture(filmed(path), 100 + F(17, 30), 160, 90, rough=True)
    assert grey(rough) == pytest.approx(luma(10), abs=4)
    pictures.close()


def test_missing_footage_is_said(tmp_path: Path) -> None:
    path = make(tmp_path / "c.mp4", Clip())
    with pytest.raises(MediaError, match="“Table” is missing"):
        FootagePictures({}).picture(filmed(path), F(100), 160, 90)


def test_picture_i_of_a_proxy_is_picture_i_of_the_file(tmp_path: Path) -> None:
    path = make(tmp_path / "long.mp4", Clip(gop=250, stamps=tuple(i / 24 + (i % 3) / 100 for i in range(30))))
    shares: list[float] = []
    proxy = FrameReader(make_proxy(path, "proxy-1", progress=shares.append))
    assert proxy.frames == 30 and len(proxy.stamps.keys) == 30
    for i in (29, 0, 13):
        picture = proxy.picture(i, 160, 90).to_ndarray()
        assert grey(picture) == pytest.approx(luma(i), abs=4)
    assert shares[-1] == 1 and shares == sorted(shares)
    proxy.close()


def test_a_proxy_with_another_number_of_pictures_is_not_used(tmp_path: Path) -> None:
    short = make(tmp_path / "short.mp4", Clip(frames=5, sound=None))
    path = make(tmp_path / "proxy-3.mp4", Clip())
    place = proxy_path("proxy-3")
    place.parent.mkdir(parents=True, exist_ok=True)
    place.write_bytes(short.read_bytes())
    seal(place)
    pictures = FootagePictures({"f1": path})
    assert grey(pictures.picture(filmed(path), 100 + F(20, 30), 160, 90)) == pytest.approx(luma(20), abs=4)
    pictures.close()
