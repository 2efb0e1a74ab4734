"""Proxies go on where they were stopped, and keep to the room they may take."""

import os
from pathlib import Path

import numpy as np
import pytest

from chapto.errors import Cancelled
from chapto.media import proxy
from chapto.media.cache import _whole, is_whole, make_room, room_taken
from chapto.media.proxy import make_proxy, proxy_path
from chapto.media.reader import FrameReader
from chapto.store.settings import Settings, load_settings, save_settings, settings_path
from tests.media.clips import Clip, make


def test_a_stopped_proxy_goes_on_where_it_was(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(proxy, "SEGMENT", 10)
    clip = make(tmp_path / "clip.mp4", Clip(frames=35))
    asked = 0

    def stop() -> bool:
        nonlocal asked
        asked += 1
        return asked > 24

    with pytest.raises(Cancelled):
        make_proxy(clip, "stopped", cancelled=stop)
    assert not proxy_path("stopped").exists()
    heard: list[float] = []
    made = make_proxy(clip, "stopped", progress=heard.append)
    assert heard[0] == pytest.approx(10 / 35) and heard[-1] == 1
    whole, quick = FrameReader(clip), FrameReader(made)
    assert quick.frames == whole.frames == 35 and len(quick.stamps.keys) == 35
    for i in (0, 9, 10, 19, 20, 34):
        pictures = (r.picture(i, 160, 90).to_ndarray().astype(int) for r in (whole, quick))
        assert np.abs(np.subtract(*pictures)).mean() < 3
    whole.close()
    quick.close()
    assert not list(made.parent.glob("stopped*part*"))


def test_what_was_unused_for_longest_goes_first(tmp_path: Path) -> None:
    for age, name in enumerate(("new", "middle", "old")):
        (tmp_path / name).write_bytes(bytes(1000))
        os.utime(tmp_path / name, (1e9 - 1000 * age, 1e9 - 1000 * age))
    (tmp_path / "kept").write_bytes(bytes(1000))
    os.utime(tmp_path / "kept", (1e8, 1e8))
    assert room_taken(tmp_path) == 4000
    assert [p.name for p in make_room(tmp_path, limit=2500, keep=tmp_path / "kept")] == ["old", "middle"]
    assert sorted(p.name for p in tmp_path.iterdir()) == ["kept", "new"]


def test_settings_are_kept_and_damaged_ones_are_as_shipped() -> None:
    assert load_settings() == Settings()
    save_settings(Settings(proxy_gigabytes=5, quiet=0.5))
    assert load_settings() == Settings(proxy_gigabytes=5, quiet=0.5)
    settings_path().write_bytes(b'{"proxy_gigabytes": 99999, "quiet": -3}')
    assert load_settings() == Settings(proxy_gigabytes=500, quiet=0.05)
    settings_path().write_bytes(b"\xff not json")
    assert load_settings() == Settings()
    settings_path().unlink()


@pytest.mark.parametrize("harm", ["cut", "flipped"])
def test_a_proxy_that_is_no_longer_what_was_made_is_made_again_and_said(tmp_path: Path, harm: str) -> None:
    clip = make(tmp_path / "clip.mp4", Clip(frames=20))
    place = make_proxy(clip, f"harmed-{harm}")
    whole = place.read_bytes()
    data = bytearray(whole)
    data[len(data) // 2] ^= 0x10
    place.write_bytes(whole[:-500] if harm == "cut" else bytes(data))
    _whole.clear()
    assert not is_whole(place)
    said: list[str] = []
    assert make_proxy(clip, f"harmed-{harm}", remade=lambda: said.append("again")) == place
    assert is_whole(place) and said == ["again"]
    assert make_proxy(clip, f"harmed-{harm}", remade=lambda: said.append("again")) and said == ["again"]
