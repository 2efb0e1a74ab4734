"""A picture in a place of another shape comes closer to where something happens, and cuts off nobody."""

from __future__ import annotations

from fractions import Fraction
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace
from PyQt6.QtGui import QColor, QImage, QPainter

from chapto.app.screen.feed import to_image
from chapto.app.screen.laid import lay_picture
from chapto.demo.generate import FOOTAGE
from chapto.demo.shots import BOUT, TABLE
from chapto.demo.story import demo_breakdown
from chapto.demo.truth import truth_at
from chapto.document.breakdown import Breakdown, Format
from chapto.document.treatments import SideBySide
from chapto.media.pictures import FootagePictures
from chapto.media.where_it_moves import box_of, find_action, known_action
from chapto.paint.crops import near_to
from chapto.paint.mark_places import MarkPlaces
from chapto.programme.compile import compile_programme, read_anew
from chapto.programme.needed import needed_of
from chapto.programme.other_shape import OtherShapes
from chapto.programme.programme import PlacedInset, Programme
from chapto.programme.readings import EVERYWHERE, Action
from chapto.render.blend import rgba_of
from chapto.render.followed import follow_marks
from chapto.render.frames import ProgrammeFrames

F = Fraction
SIZE = (640, 360)


@pytest.fixture(scope="module")
def halves(tmp_path_factory: pytest.TempPathFactory) -> tuple[Breakdown, Programme, PlacedInset]:
    """The demo's section with two attempts beside each other, read through."""
    project = tmp_path_factory.mktemp("demo") / "demo.chapto"
    b = demo_breakdown(project.parent)
    section = next(s for s in b.script if any(isinstance(t, SideBySide) for x in s.beats for t in x.treatments()))
    b = replace(b, script=(section,), format=Format(width=SIZE[0], height=SIZE[1]),
        marks=(), anchors=(), figures=(), labels=(), cautions=False, score_strip=False,
        naming=replace(b.naming, automatic=False), ruling=replace(b.ruling, points=()))  # fmt: skip
    bare = compile_programme(b, {})
    p = read_anew(b, bare, follow_marks(b, project, needed_of(b, bare), OtherShapes(b, bare).stretches).readings)
    return b, p, next(i for i in p.insets if i.beside)


def test_both_athletes_are_shown_larger_and_neither_is_cut_off(
    halves: tuple[Breakdown, Programme, PlacedInset],
) -> None:
    b, p, inset = halves
    places = MarkPlaces(b, p, SIZE)
    for frame in range(inset.start, inset.end, 10):
        for one in places.pictures(frame):
            assert one.lens.near.zoom > 1.15
            left, top, width, height = one.lens.place
            at = truth_at(BOUT[0], one.seconds).places.reshape(-1, 2) / (TABLE.width, TABLE.height)
            shown = [one.lens.point(x, y) for x, y in at]
            assert all(left <= q.x() <= left + width and top <= q.y() <= top + height for q in shown)


def test_screen_and_render_crop_alike(
    qapp: object, halves: tuple[Breakdown, Programme, PlacedInset], tmp_path: Path
) -> None:
    b, p, inset = halves
    places = {c.id: FOOTAGE / Path(c.path).name for c in b.footage}
    frame = (inset.start + inset.end) // 2
    frames, pictures = ProgrammeFrames(b, p, places), FootagePictures(places)
    image = QImage(*SIZE, QImage.Format.Format_RGB32)
    image.fill(QColor("#101715"))
    painter = QPainter(image)
    painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
    for one in MarkPlaces(b, p, SIZE).pictures(frame):
        taken = pictures.picture(one.footage, one.mat, *(2 * side for side in one.lens.place[2:]))
        lay_picture(painter, image.rect(), SIZE, one.lens, to_image(taken))
    painter.end()
    made = frames.frame(frame).to_ndarray(format="rgb24").astype(int)
    apart = np.abs(made - rgba_of(image)[..., :3])[: SIZE[1] * 3 // 4]
    frames.close()
    assert np.median(apart) <= 3 and apart.mean() < 6


@given(st.integers(0, 30), st.integers(0, 16), st.integers(1, 33), st.integers(1, 19))
def test_the_box_is_the_narrowest_round_what_moved(left: int, top: int, wide: int, high: int) -> None:
    moved = np.zeros((36, 64), np.float32)
    there = np.zeros((36, 64), bool)
    assert box_of(moved, there) == EVERYWHERE
    moved[top : top + high, left : left + wide] = 9
    box = box_of(moved, there)
    assert left / 64 <= box.left < box.right <= (left + wide) / 64
    assert top / 36 <= box.top < box.bottom <= (top + high) / 36
    there[-1], there[top + high // 2, left + wide // 2 :] = True, True
    reaching = box_of(moved, there)
    assert reaching.right == 1 and reaching.left == box.left and reaching.bottom == box.bottom < 1
    assert (box.right - box.left) * 64 >= 0.93 * wide - 1 and (box.bottom - box.top) * 36 >= 0.93 * high - 1


@given(st.floats(0, 0.9), st.floats(0.02, 1), st.floats(0.4, 2.4), st.floats(0.4, 2.4), st.booleans())
def test_what_moves_stays_in_the_place_and_the_place_is_never_overfilled(
    low: float, size: float, shape: float, aspect: float, mirrored: bool
) -> None:
    high = min(low + size, 1.0)
    near = near_to(Action(low, low, high, high), shape, aspect, mirrored=mirrored)
    assert 1 <= near.zoom <= max(shape / aspect, aspect / shape) + 1e-9
    corner = near.corner[0 if shape > aspect else 1]
    one, other = (1 - high, 1 - low) if mirrored and shape > aspect else (low, high)
    assert corner <= one + 1e-9 and other <= corner + 1 / near.zoom + 1e-9


def test_where_it_moves_is_looked_up_once_and_a_still_stretch_stays_whole(tmp_path: Path) -> None:
    video = FOOTAGE / "table-side-1.mp4"
    assert known_action("0-crop", 80.0, 84.0) is None
    found = find_action(video, "0-crop", 80.0, 84.0)
    assert known_action("0-crop", 80.0, 84.0) == found != EVERYWHERE and 0 < found.right - found.left < 0.9
