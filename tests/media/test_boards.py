"""Boards are found by their clocks, in drawn pictures and in the demo's files, and nothing else is taken for one."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import av
import cv2
import numpy as np
import pytest
from numpy.typing import NDArray

from chapto.demo.shots import BOUT
from chapto.demo.story import FOOTAGE
from chapto.media.boards import HEIGHT, RATE, SECONDS, WIDTH, boards_in, find_boards
from chapto.media.opening import MediaError
from chapto.media.reader import FrameReader
from chapto.store.fingerprint import fingerprint

Picture = NDArray[np.uint8]
PLATE = 500, 30, 600, 80
"""Left, top, right and foot of a board in pixels."""


def hall(i: int, *, moving: bool = False) -> Picture:
    """A hall with somebody who moves through it; the camera may move too."""
    wall = np.random.default_rng(3).integers(90, 200, (HEIGHT // 8, WIDTH // 8 + 40)).astype(np.uint8)
    wide = cv2.resize(wall, None, fx=8, fy=8, interpolation=cv2.INTER_LINEAR)
    first = 2 * i if moving else 0
    picture = np.ascontiguousarray(wide[:, first : first + WIDTH])
    cv2.circle(picture, (120 + 3 * i, 220 + int(30 * np.sin(i / 4))), 40, 20, -1)
    return picture


def with_board(picture: Picture, i: int, *, says: str = "") -> Picture:
    left, top, right, foot = PLATE
    cv2.rectangle(picture, (left, top), (right - 1, foot - 1), 25, -1)
    # Between two pictures of a second, as clocks do.
    text = says or f"4:{59 - (i + 3) // RATE:02d}"
    cv2.putText(picture, text, (left + 12, foot - 14), cv2.FONT_HERSHEY_SIMPLEX, 1.0, 235, 2)
    return picture


def shown(draw: Callable[[int], Picture]) -> Picture:
    return np.array([draw(i) for i in range(SECONDS * RATE)], np.uint8)


@pytest.mark.parametrize("moving", [False, True])
def test_a_board_is_found_by_its_clock_while_the_camera_stands_and_while_it_moves(moving: bool) -> None:
    (found,) = boards_in(shown(lambda i: with_board(hall(i, moving=moving), i)))
    assert found * (WIDTH, HEIGHT, WIDTH, HEIGHT) == pytest.approx(PLATE, abs=3)


def test_a_plate_that_stands_a_light_that_blinks_and_people_are_no_boards() -> None:
    def blinking(i: int) -> Picture:
        picture = with_board(hall(i), i, says="OPEN")
        cv2.circle(picture, (40, 40), 8, 250 if i // (RATE // 2) % 2 else 20, -1)
        return picture

    assert not len(boards_in(shown(blinking)))


def test_a_clock_that_stopped_is_not_seen() -> None:
    """What can't be told is not told."""
    assert not len(boards_in(shown(lambda i: with_board(hall(i), min(i, 2 * RATE)))))


def test_the_clock_board_of_the_demo_is_where_it_was_drawn() -> None:
    shot = next(s for s in BOUT if s.name.startswith("far-wall"))
    assert shot.board is not None
    place = FOOTAGE / f"{shot.name}.mp4"
    (found,) = find_boards(place, fingerprint(place))
    x, y = shot.board
    wide, high = shot.camera.width, shot.camera.height
    assert found * (wide, high, wide, high) == pytest.approx((x, y, x + 140, y + 100), abs=6)
    assert find_boards(place, fingerprint(place)) is find_boards(place, fingerprint(place)), "looked for once"


def test_where_a_file_is_damaged_nothing_is_looked_for_and_the_rest_tells(monkeypatch: pytest.MonkeyPatch) -> None:
    place, plain = FOOTAGE / "tuesday-round.mp4", FrameReader.picture
    read: list[int] = []

    def damaged(reader: FrameReader, index: int, *more: Any, **also: Any) -> av.VideoFrame:
        read.append(index)
        if index < reader.frames / 2:
            raise MediaError("damaged")
        return plain(reader, index, *more, **also)

    monkeypatch.setattr(FrameReader, "picture", damaged)
    assert not len(find_boards(place, "not-seen-before")) and len(read) > SECONDS * RATE
