"""Every kind of mark is drawn where its points are, in the colours of whose it is, and its slip keeps clear."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from PyQt6.QtCore import QPointF, QRectF
from PyQt6.QtGui import QColor

from chapto.app.mark.kind_tiles import KEYS, _sample
from chapto.demo.figures import WREN, limbs_of
from chapto.demo.generate import shipped_motion
from chapto.demo.raster import draw_limbs
from chapto.demo.shots import TABLE
from chapto.demo.truth import fourteen
from chapto.document.joints import Joint
from chapto.document.mark_kinds import RULES, MarkKind
from chapto.document.people import Side
from chapto.paint.colours import FIRST, SECOND
from chapto.paint.lens import Lens, Near
from chapto.paint.marks.drawn import Drawn
from chapto.paint.marks.looks import LOOKS, reach_of
from chapto.paint.marks.slip import Ground, Slip, placed, slip_image
from chapto.paint.marks.spotlight import DIM, veil
from chapto.paint.plates import blank, painter_on
from chapto.render.blend import rgba_of

DRAWN = [k for k in MarkKind if k not in (MarkKind.COVER, MarkKind.CLOSER, MarkKind.SPOTLIGHT)]


def scaled(m: Drawn, by: float) -> Drawn:
    moved = lambda at: QPointF(at.x() * by, at.y() * by)  # noqa: E731
    return replace(
        m,
        points=tuple(moved(p) for p in m.points),
        trail=tuple(moved(p) for p in m.trail),
        before={j: moved(p) for j, p in m.before.items()} if m.before else None,
        box=QRectF(m.box.x() * by, m.box.y() * by, m.box.width() * by, m.box.height() * by) if m.box else None,
        centre=moved(m.centre) if m.centre is not None else None,
        unit=m.unit * by,
        radius=m.radius * by,
    )


def painted(kind: MarkKind, m: Drawn, size: tuple[int, int]) -> np.ndarray:
    image = blank(*size)
    p = painter_on(image)
    LOOKS[kind].paint(p, m)
    p.end()
    return rgba_of(image)


def test_every_kind_has_a_rule_a_look_and_a_key() -> None:
    assert set(LOOKS) == set(RULES) == set(KEYS.values()) == set(MarkKind)


@pytest.mark.parametrize("kind", DRAWN)
def test_a_mark_shows_its_colour_paper_and_a_dark_edge_and_stays_within_its_margin(
    qapp: object, kind: MarkKind
) -> None:
    """At 480 pixels wide too: strokes of paper are still as light as paper there."""
    for by in (1.0, 480 / 1280):
        found = painted(kind, scaled(_sample(kind), by), (round(160 * by) + 80, round(100 * by) + 80))
        solid = found[found[..., 3] > 200][:, :3].astype(int)
        light, dark = (solid.min(1) > 190).mean(), (solid.max(1) < 70).mean()
        assert len(solid) > 60 * by and light > 0.01 and dark > 0.02
        if kind is not MarkKind.GHOST:
            kit = np.array([QColor(FIRST).red(), QColor(FIRST).green(), QColor(FIRST).blue()])
            assert (np.abs(solid - kit).max(1) < 60).any(), "somebody's colour is in it"


@pytest.mark.parametrize("kind", [k for k in DRAWN if RULES[k].states])
def test_each_state_of_a_kind_looks_different(qapp: object, kind: MarkKind) -> None:
    one, other = (painted(kind, replace(_sample(kind), state=s), (240, 180)) for s in RULES[kind].states)
    assert (one != other).any(axis=2).mean() > 0.01


@pytest.mark.parametrize("kind", DRAWN)
def test_nothing_of_a_mark_lies_beyond_its_reach(qapp: object, kind: MarkKind) -> None:
    """What lies beyond would be cut off, since only that part of a frame is painted."""
    shift = QPointF(220, 220)
    for state in RULES[kind].states or (None,):
        m = replace(_sample(kind), state=state)
        m = replace(
            m, points=tuple(p + shift for p in m.points), trail=tuple(p + shift for p in m.trail),
            before={j: p + shift for j, p in m.before.items()} if m.before else None,
            box=m.box.translated(220, 220) if m.box else None, centre=m.centre + shift if m.centre else None,
        )  # fmt: skip
        rows, columns = np.nonzero(painted(kind, m, (620, 560))[..., 3])
        places = [*m.points, *m.trail, *(m.before or {}).values(), *([m.centre] if m.centre else [])]
        places += [m.box.topLeft(), m.box.bottomRight()] if m.box else []
        x, y = [p.x() for p in places], [p.y() for p in places]
        most = reach_of(kind, m)
        assert min(x) - columns.min() <= most and columns.max() - max(x) <= most
        assert min(y) - rows.min() <= most and rows.max() - max(y) <= most


def test_a_guess_is_dotted(qapp: object) -> None:
    sure, guess = (painted(MarkKind.GAP, replace(_sample(MarkKind.GAP), loose=x), (240, 180)) for x in (False, True))
    assert (guess[..., 3] > 200).sum() < (sure[..., 3] > 200).sum()


points = st.tuples(st.floats(0, 1), st.floats(0, 1))


@given(
    points, points, st.floats(1, 4), st.sampled_from([9 / 16, 1.0, 16 / 9, 2.4]), st.booleans(),
    st.sampled_from([(0, 0, 1280, 720), (640, 0, 640, 720), (800, 300, 320, 180)]),
)  # fmt: skip
def test_a_place_goes_through_a_lens_and_back(
    at: tuple[float, float], middle: tuple[float, float], zoom: float, aspect: float, mirrored: bool,
    place: tuple[int, int, int, int],
) -> None:  # fmt: skip
    lens = Lens(place, aspect, mirrored, Near(zoom, *middle))
    assert lens.back(lens.point(*at)) == pytest.approx(at, abs=1e-6)
    left, top = Near(zoom, *middle).corner
    assert 0 <= left <= 1 - 1 / zoom + 1e-9 and 0 <= top <= 1 - 1 / zoom + 1e-9


def test_a_slip_lies_in_the_middle_ninety_percent_and_clear_of_heads_and_boards(qapp: object) -> None:
    """EBU R 95."""
    picture, size = (
        (1280, 720),
        slip_image(Slip("Hands locked behind the knee", "", Side.FIRST, FIRST), (1280, 720)).size(),
    )
    head, board = QRectF(560, 90, 120, 120), QRectF(1060, 60, 200, 140)
    detail = np.zeros((18, 32), np.float32)
    detail[2:8, :12] = 1
    for x, y in ((620, 260), (1100, 240), (200, 160), (60, 700), (1270, 20)):
        ground = Ground(solid=[board], heads=[head], detail=detail)
        box = placed((size.width(), size.height()), [QPointF(x, y)], picture, ground, 1.0)
        assert box.left() >= 63 and box.right() <= 1217 and box.top() >= 35 and box.bottom() <= 685
        assert not box.intersects(head) and not box.intersects(board)


@pytest.mark.parametrize("second", [33.0, 60.0, 105.0, 215.0])
def test_the_spotlight_covers_nine_tenths_of_the_athlete_and_dims_the_rest(qapp: object, second: float) -> None:
    """Against the generator's own picture of Wren alone."""
    joints = shipped_motion("bout").joints(second)[0]
    white = [replace(x, colour=(1.0, 1.0, 1.0)) for x in limbs_of(joints, WREN)]
    picture = np.zeros((720, 1280, 3), np.uint8)
    draw_limbs(picture, white, TABLE)
    body = picture.max(axis=2) > 0
    places = TABLE.project(fourteen(joints))[:, :2]
    figure = {j: QPointF(*places[i]) for i, j in enumerate(Joint)}
    m = Drawn(
        points=tuple(figure.values()), sides=(None,) * 14, of=Side.FIRST, colour=FIRST, other=SECOND, colours={},
        unit=1.0, figure=figure,
    )  # fmt: skip
    mask = np.kron(veil(m, (1280, 720), 1.0), np.ones((4, 4)))[:720, :1280]
    assert (mask[body] < 0.25 * 255 * DIM).mean() >= 0.9
    assert np.median(mask) == pytest.approx(255 * DIM, abs=1)
