"""What is known of a file counts as long as it is that very file."""

from __future__ import annotations

import os
import threading
from collections.abc import Callable
from pathlib import Path

import pytest

from chapto.media.known_by_file import KnownByFile


def counting(found: list[str], word: str) -> Callable[[], str]:
    def find() -> str:
        found.append(word)
        return word

    return find


def test_a_file_is_looked_into_once_and_again_when_it_is_another(tmp_path: Path) -> None:
    known, asked = KnownByFile[str](4), list[str]()
    place = tmp_path / "a"
    place.write_bytes(b"one")
    assert [known.of(place, counting(asked, "one")) for _ in range(3)] == ["one"] * 3
    # Moved, it is the same file; changed, or with another in its place, it is not.
    place.rename(tmp_path / "b")
    assert known.of(tmp_path / "b", counting(asked, "moved")) == "one"
    os.utime(tmp_path / "b", ns=(1, 1))
    assert known.of(tmp_path / "b", counting(asked, "changed")) == "changed"
    place.write_bytes(b"two")
    assert known.of(place, counting(asked, "two")) == "two"
    assert asked == ["one", "changed", "two"]


def test_what_is_gone_is_found_each_time_and_what_fails_is_tried_again(tmp_path: Path) -> None:
    known, asked = KnownByFile[str](4), list[str]()
    assert [known.of(tmp_path / "gone", counting(asked, "x")) for _ in range(2)] == ["x", "x"] and len(asked) == 2
    (tmp_path / "bad").write_bytes(b"")
    for _ in range(2):
        with pytest.raises(ZeroDivisionError):
            known.of(tmp_path / "bad", lambda: str(1 // 0))
    assert known.of(tmp_path / "bad", counting(asked, "good")) == "good"


def test_only_the_last_files_are_remembered(tmp_path: Path) -> None:
    known, asked = KnownByFile[str](2), list[str]()
    places = [tmp_path / name for name in "abc"]
    for place in places:
        place.write_bytes(place.name.encode())
        known.of(place, counting(asked, place.name))
    known.of(places[0], counting(asked, "a again"))
    known.of(places[2], counting(asked, "c again"))
    assert asked == ["a", "b", "c", "a again"]


def test_two_threads_that_ask_at_once_find_it_once(tmp_path: Path) -> None:
    known, asked, got = KnownByFile[str](2), list[str](), list[str]()
    place, begun, go = tmp_path / "a", threading.Event(), threading.Event()
    place.write_bytes(b"a")

    def slowly() -> str:
        asked.append("slowly")
        begun.set()
        assert go.wait(60)
        return "slowly"

    first = threading.Thread(target=lambda: got.append(known.of(place, slowly)))
    first.start()
    assert begun.wait(60)
    second = threading.Thread(target=lambda: got.append(known.of(place, counting(asked, "second"))))
    second.start()
    go.set()
    first.join()
    second.join()
    assert got == ["slowly", "slowly"] and asked == ["slowly"]
