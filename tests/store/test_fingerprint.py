"""Footage is known again wherever it went."""

from pathlib import Path

import pytest

from chapto.store.errors import StoreError
from chapto.store.fingerprint import SAMPLE, find_media, fingerprint


def media(folder: Path, name: str, fill: bytes = b"a", size: int = 5 * SAMPLE) -> Path:
    folder.mkdir(exist_ok=True)
    path = folder / name
    path.write_bytes(fill * size)
    return path


def test_a_moved_and_renamed_file_is_found_again(tmp_path: Path) -> None:
    video = media(tmp_path / "old", "clip.mp4")
    mark = fingerprint(video)
    project = tmp_path / "bout.chapto"
    assert find_media("old/clip.mp4", mark, project) == video
    video.rename(tmp_path / "old" / "renamed.mp4")
    assert find_media("old/clip.mp4", mark, project) == tmp_path / "old" / "renamed.mp4"
    (tmp_path / "old" / "renamed.mp4").rename(tmp_path / "beside.mp4")
    assert find_media("old/clip.mp4", mark, project) == tmp_path / "beside.mp4"


def test_another_file_of_the_same_size_is_not_taken_for_it(tmp_path: Path) -> None:
    video = media(tmp_path, "clip.mp4")
    mark = fingerprint(video)
    media(tmp_path, "clip.mp4", b"b")
    with pytest.raises(StoreError, match="not the footage this breakdown was made with"):
        find_media("clip.mp4", mark, tmp_path / "bout.chapto")


@pytest.mark.parametrize("place", [0, 5 * SAMPLE // 2, 5 * SAMPLE - 1])
def test_a_change_at_the_head_in_the_middle_or_at_the_tail_is_seen(tmp_path: Path, place: int) -> None:
    one = media(tmp_path, "one.mp4")
    data = bytearray(one.read_bytes())
    data[place] ^= 1
    (tmp_path / "two.mp4").write_bytes(bytes(data))
    assert fingerprint(one) != fingerprint(tmp_path / "two.mp4")


def test_missing_footage_is_said_in_a_sentence(tmp_path: Path) -> None:
    with pytest.raises(StoreError, match="is missing; put it back or beside the project file"):
        find_media("gone.mp4", "1-2", tmp_path / "bout.chapto")
    with pytest.raises(StoreError, match="can't be read"):
        fingerprint(tmp_path / "gone.mp4")
