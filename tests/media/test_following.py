"""Points follow what they were put on: against where the generator's joints really are."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction
from pathlib import Path

import cv2
import numpy as np
import pytest

from chapto.bodies.track import KeyPlace, straight_line
from chapto.demo.generate import FOOTAGE
from chapto.demo.shots import SHOTS
from chapto.demo.story import demo_breakdown
from chapto.document.edit_marks import hide_between, put_anchor, set_key
from chapto.document.mark_kinds import Sticks
from chapto.errors import Cancelled
from chapto.media import following
from chapto.media.camera_path import follow_on_mat
from chapto.media.following import Piece
from chapto.media.reader import FrameReader
from chapto.media.tracks import tracks_of
from tests.media.followed import SIZE, Result, Shaken, followed, passed

TABLE = next(s for s in SHOTS if s.name == "table-side-1")
NEEDED = {"a1": (Fraction(85), Fraction(89))}
WALL = next(s for s in SHOTS if s.name == "far-wall")


def together(results: list[Result]) -> Result:
    whole = Result()
    for r in results:
        for name in ("errors", "called_hidden_seen", "called_hidden_behind", "on_keys"):
            getattr(whole, name).extend(getattr(r, name))
    return whole


def test_one_key_is_followed_through_a_second_in_which_it_is_seen_all_along() -> None:
    found = together([followed(TABLE, t, 1.0, 1, seed=t, seen_all_along=True) for t in (20, 50, 70, 95, 103)])
    assert found.percentile(50) <= 1 and found.percentile(90) <= 5


@pytest.mark.parametrize(("keys", "share", "most", "far"), [(2, 50, 4.5, (90, 12)), (3, 90, 8, (99, 25))])
def test_points_are_followed_through_five_seconds_and_pass_through_their_keys(
    keys: int, share: int, most: float, far: tuple[int, float]
) -> None:
    """In pixels of a 960 pixel picture, with clicks that err by three; `bench.following` looks at every stretch."""
    found = together([followed(TABLE, t, 5.0, keys, seed=t, every=4) for t in (8, 32, 61, 110)])
    assert found.percentile(share) <= most and found.percentile(far[0]) <= far[1]
    assert max(found.on_keys) < 1e-3


def test_who_passes_in_front_hides_a_point_and_does_not_carry_it_off() -> None:
    found = together([passed(TABLE, t, 4.0, seed=t, every=3) for t in (50, 61, 95)])
    assert (np.concatenate(found.errors) < 20).mean() >= 0.95
    assert np.concatenate(found.called_hidden_behind).mean() >= 0.75
    assert np.concatenate(found.called_hidden_seen).mean() <= 0.05


@pytest.mark.parametrize(("name", "second"), [("table-side-1", 50), ("far-wall", 70)])
def test_places_on_the_mat_stay_on_it_while_the_hand_shakes(name: str, second: int) -> None:
    """1.5 pixels after two seconds, 3 after five, in the mean of five places that lie all over the mat."""
    reader = FrameReader(FOOTAGE / f"{name}.mp4")
    pictures = Shaken(reader, SIZE)
    first = second * 30
    steady = np.array([[(200, 420), (480, 480), (700, 430), (300, 330), (620, 350)]], float)
    begun = cv2.perspectiveTransform(steady, pictures.matrix(first))[0]
    found = follow_on_mat(pictures, [Piece(first, first + 150, start=tuple(p)) for p in begun])
    reader.close()
    for after, most in ((60, 1.5), (150, 3.0)):
        true = cv2.perspectiveTransform(steady, pictures.matrix(first + after))[0]
        assert np.mean([np.linalg.norm(f.places[after] - t) for f, t in zip(found, true, strict=True)]) <= most
    assert all(f.lost is None for f in found)


def test_a_track_goes_through_its_keys_and_only_moved_stretches_are_followed_again(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    b = demo_breakdown(tmp_path)
    for mat, place in ((86, (0.55, 0.6)), (87, (0.56, 0.6)), (88, (0.56, 0.58))):
        b = (
            set_key(b, b.anchors[0].id, Fraction(mat), place)
            if b.anchors
            else put_anchor(b, "f1", Fraction(mat), place)
        )
    footage, places = {c.id: c for c in b.footage}, {"f1": FOOTAGE / "table-side-1.mp4"}
    line, waiting = tracks_of(b.anchors, footage, places, NEEDED, only_known=True)
    assert waiting == (b.anchors[0].id,) and not line["a1"].measured
    counted: list[int] = []
    real = following.follow
    monkeypatch.setattr(
        following,
        "follow",
        lambda pictures, pieces, **rest: (counted.append(len(pieces)), real(pictures, pieces, **rest))[1],
    )
    found, waiting = tracks_of(b.anchors, footage, places, NEEDED)
    track = found["a1"]
    assert waiting == () and track.measured and (np.diff(track.at) > 0).all()
    for key in b.anchors[0].keys:
        place = track.place(float(key.mat))
        assert place is not None and (place.x, place.y) == pytest.approx((key.x, key.y), abs=1e-4)
    moved = set_key(b, "a1", Fraction(88), (0.57, 0.59))
    tracks_of(moved.anchors, footage, places, NEEDED)
    tracks_of(moved.anchors, footage, places, NEEDED)
    assert counted == [4, 2]
    hidden = hide_between(moved, "a1", (Fraction(87), (0.56, 0.6)), (Fraction(88), (0.57, 0.59)))
    track = tracks_of(hidden.anchors, footage, places, NEEDED)[0]["a1"]
    assert [bool((p := track.place(t)) and p.hidden) for t in (86.9, 87.0, 87.9, 88.0)] == [False, True, True, False]


def test_what_stays_still_is_known_at_once_and_work_can_be_stopped(tmp_path: Path) -> None:
    b = put_anchor(demo_breakdown(tmp_path), "f1", Fraction(10), (0.9, 0.2), sticks=Sticks.STILL)
    b = put_anchor(b, "f3", Fraction(40), (0.4, 0.5))
    footage, places = {c.id: c for c in b.footage}, {"f1": FOOTAGE / "x.mp4", "f3": FOOTAGE / "far-wall.mp4"}
    needed = {a.id: (a.keys[0].mat - 1, a.keys[0].mat + 1) for a in b.anchors}
    with pytest.raises(Cancelled):
        tracks_of(b.anchors, footage, places, needed, cancelled=lambda: True)
    found, waiting = tracks_of(b.anchors[:1], footage, {}, needed)
    assert waiting == () and found["a1"].place(100.0) == found["a1"].place(0.0)
    moved = replace(straight_line((KeyPlace(1, 0, 0), KeyPlace(2, 1, 0)), reach=1, stays=False), ends=2.5)
    half = moved.place(1.5)
    assert half is not None and half.x == pytest.approx(0.5, abs=0.02) and moved.place(2.6) is None
