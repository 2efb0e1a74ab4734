"""Opening a file opens that file: nothing it names, and nothing its own name could be taken for."""

from __future__ import annotations

import os
from pathlib import Path

import pytest

from chapto.media.opening import MediaError, file_url, open_media
from chapto.media.probe import probe
from chapto.store.fingerprint import fingerprint
from tests.media.clips import Clip, make

LISTS = {
    "a list of files": "ffconcat version 1.0\nfile '{video}'\n",
    "a playlist": "#EXTM3U\n#EXT-X-TARGETDURATION:5\n#EXTINF:5,\n{video}\n#EXT-X-ENDLIST\n",
    "a playlist of the network": "#EXTM3U\n#EXT-X-TARGETDURATION:5\n#EXTINF:5,\nhttp://127.0.0.1:9/x.ts\n",
    "a session description": "v=0\no=- 0 0 IN IP4 127.0.0.1\ns=x\nc=IN IP4 127.0.0.1\nm=video 5004 RTP/AVP 96\n",
}


@pytest.mark.parametrize("kind", LISTS)
def test_a_text_that_names_other_files_is_no_video(tmp_path: Path, kind: str) -> None:
    video = make(tmp_path / "real.mp4", Clip(frames=5))
    for name in ("x.mp4", "x.m3u8", "x.ffconcat", "x.sdp"):
        (tmp_path / name).write_text(LISTS[kind].format(video=video))
        with pytest.raises(MediaError, match="can't be opened"):
            open_media(tmp_path / name)


@pytest.mark.parametrize(
    "name", ["http:", "concat:a|b.mp4", "data:text", "pipe:0.mp4", "%d.mp4", "-i.mp4", "a b'c.mp4"]
)
def test_a_name_is_only_a_name(tmp_path: Path, name: str, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.chdir(tmp_path)
    made = make(tmp_path / "real.mp4", Clip(frames=5)).rename(tmp_path / name)
    assert probe(Path(name)).frames == 5
    assert file_url(Path(name)) == f"file:{made}"


def test_a_name_that_is_no_text_gets_a_sentence(tmp_path: Path) -> None:
    place = Path(os.fsdecode(os.fsencode(tmp_path) + b"/caf\xe9.mp4"))
    make(tmp_path / "real.mp4", Clip(frames=5)).rename(place)
    with pytest.raises(MediaError, match=r"“caf.\.mp4” has a name that is no UTF-8 text; rename it"):
        open_media(place)


def test_names_as_long_as_a_disk_takes_are_opened_and_longer_ones_get_a_sentence(tmp_path: Path) -> None:
    long = make(tmp_path / "real.mp4", Clip(frames=5)).rename(tmp_path / ("x" * 251 + ".mp4"))
    assert probe(long).frames == 5 and fingerprint(long)
    with pytest.raises(MediaError, match="the name is too long"):
        open_media(tmp_path / ("y" * 300 + ".mp4"))
