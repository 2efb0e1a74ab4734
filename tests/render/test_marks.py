"""What marks do to a frame is the same on the screen and in the render, and what is covered stays covered."""

from __future__ import annotations

from fractions import Fraction
from pathlib import Path

import av
import numpy as np
import pytest
from msgspec.structs import replace
from PyQt6.QtCore import QRect
from PyQt6.QtGui import QImage, QPainter

from chapto.app.screen.picture_effects import carry_out
from chapto.demo.generate import FOOTAGE
from chapto.demo.story import demo_breakdown
from chapto.document.bout import Exchange, Moment
from chapto.document.breakdown import Breakdown, Format
from chapto.document.checks import checked
from chapto.document.edit_marks import add_figure, add_mark, put_anchor, set_key
from chapto.document.joints import Joint
from chapto.document.mark_kinds import MarkKind
from chapto.document.people import Side
from chapto.document.script import Beat, Section, Tie
from chapto.document.treatments import Run
from chapto.media.reader import FrameReader
from chapto.paint.effects import Blur, Veil
from chapto.paint.lens import Lens, Near
from chapto.paint.mark_layer import MarkLayer
from chapto.programme.compile import compile_programme, read_anew
from chapto.programme.needed import needed_of
from chapto.render.blend import planes_of, rgba_of, yuv_planes
from chapto.render.file import render
from chapto.render.followed import follow_marks
from chapto.render.frames import ProgrammeFrames
from chapto.render.picture_effects import moved
from chapto.store.outputs import OutputGate

F = Fraction
SIZE = (640, 360)
AT = F(50)


def shown(folder: Path, *, runs: bool = False) -> Breakdown:
    """Three words over four seconds of the guard, the second tied to a hold."""
    b = demo_breakdown(folder)
    beat = Beat(
        id="b1",
        text="Look here now.",
        ties=(Tie(word=1, moment="m1", hold_seconds=None if runs else F(3)),),
        treatment=Run() if runs else None,
    )
    return replace(
        b, moments=(Moment(id="m1", at=AT),), script=(Section(id="s1", exchange="x1", beats=(beat,)),), labels=(),
        exchanges=(Exchange(id="x1", start=F(48), end=F(52)),), cautions=False, score_strip=False,
        format=Format(width=640, height=360),
        naming=replace(b.naming, automatic=False), ruling=replace(b.ruling, points=()), positions=(),
    )  # fmt: skip


def marked(folder: Path, kind: MarkKind, *places: tuple[float, float], **fields: object) -> Breakdown:
    b = shown(folder)
    for place in places:
        b = put_anchor(b, "f1", AT, place)
    ids = tuple(a.id for a in b.anchors)
    return checked(add_mark(b, kind, anchors=ids, beat="b1", word=1, of=Side.FIRST, **fields))


def frames_of(b: Breakdown) -> tuple[ProgrammeFrames, MarkLayer, int]:
    """Frames of a programme, its marks, and a frame in the middle of the first mark."""
    bare = compile_programme(b, {})
    p = read_anew(b, bare, follow_marks(b, None, needed_of(b, bare)).readings)
    places = {c.id: FOOTAGE / Path(c.path).name for c in b.footage}
    middle = (p.marks[0].start + p.marks[0].end) // 2 if p.marks else 0
    return ProgrammeFrames(b, p, places), MarkLayer(b, p, SIZE), middle


def on_screen(b: Breakdown, number: int) -> QImage:
    """The footage of a frame as the screen gets it."""
    passage = compile_programme(b, {}).time_map.passage_at(number)
    camera = b.camera(passage.footage)
    reader = FrameReader(FOOTAGE / Path(camera.path).name)
    picture = reader.picture(reader.index_at(camera.media_time(passage.mat_at(number))), *SIZE, "rgb24").to_ndarray()
    reader.close()
    return QImage(picture.tobytes(), *SIZE, SIZE[0] * 3, QImage.Format.Format_RGB888).convertToFormat(
        QImage.Format.Format_RGB32
    )


def bare_light(b: Breakdown, number: int) -> np.ndarray:
    """The light of a rendered frame without any mark."""
    frames, _, _ = frames_of(replace(b, marks=()))
    found = planes_of(frames.frame(number))[0].astype(float)
    frames.close()
    return found


@pytest.mark.parametrize(
    ("kind", "places", "fields"),
    [
        (MarkKind.FRAME, ((0.5, 0.5), (0.6, 0.42)), {"words": "Frame"}),
        (MarkKind.FORCE, ((0.45, 0.3), (0.55, 0.5)), {}),
        (MarkKind.BASE, ((0.42, 0.6), (0.55, 0.64), (0.5, 0.55)), {}),
    ],
)
def test_screen_and_render_differ_by_at_most_a_level(
    qapp: object, tmp_path: Path, kind: MarkKind, places: tuple[tuple[float, float], ...], fields: dict[str, object]
) -> None:
    """In what marks change of the light, over them, in the mean: what is drawn is the very same picture."""
    b = marked(tmp_path, kind, *places, **fields)
    frames, layer, middle = frames_of(b)
    rendered = planes_of(frames.frame(middle))[0].astype(float) - bare_light(b, middle)
    screen = on_screen(b, middle)
    under = yuv_planes(rgba_of(screen)[..., :3])[0]
    painter = QPainter(screen)
    covers = np.zeros(SIZE[::-1], bool)
    for box in layer.boxes(middle):
        painter.drawImage(QRect(box.x, box.y, box.image.width(), box.image.height()), box.image)
        covers[box.y : box.y + box.image.height(), box.x : box.x + box.image.width()] = True
    painter.end()
    light = yuv_planes(rgba_of(screen)[..., :3])[0] - under
    frames.close()
    assert covers.mean() > 0.01
    assert np.abs(light - rendered)[covers].mean() <= 1 and np.abs(light - rendered)[~covers].mean() <= 1


def test_spotlight_and_window_are_the_same_on_the_screen(qapp: object, tmp_path: Path) -> None:
    b = marked(tmp_path, MarkKind.SPOTLIGHT, (0.5, 0.5), size=0.2)
    b = checked(add_mark(b, MarkKind.WINDOW, anchors=("a1",), beat="b1", word=1))
    frames, layer, middle = frames_of(b)
    rendered = planes_of(frames.frame(middle))[0].astype(float)
    image = on_screen(b, middle)
    under = yuv_planes(rgba_of(image)[..., :3])[0]
    carry_out(image, SIZE, layer.effects(middle), layer.windows(middle))
    screen = yuv_planes(rgba_of(image)[..., :3])[0]
    (dimmed,) = [e for e in layer.effects(middle) if isinstance(e, Veil)]
    free = np.kron(dimmed.mask, np.ones((4, 4)))[: SIZE[1], : SIZE[0]] > 150
    for box in layer.boxes(middle):
        free[box.y : box.y + box.image.height(), box.x : box.x + box.image.width()] = False
    (window,) = layer.windows(middle)
    inside = window.target.adjusted(4, 4, -4, -4).toRect()
    rows, columns = slice(inside.top(), inside.bottom()), slice(inside.left(), inside.right())
    frames.close()
    assert free.mean() > 0.2 and np.abs(rendered - screen)[free].mean() <= 1
    assert np.median(np.abs(rendered - screen)[rows, columns]) <= 3, "the window shows the same, not dimmed"
    assert rendered[10, 10] < 0.6 * under[10, 10], "the rest is dimmed"


def test_coming_closer_shows_what_was_asked_for_larger(tmp_path: Path) -> None:
    frame = av.VideoFrame(640, 360, "yuv420p")
    planes = planes_of(frame)
    planes[0][:] = 40
    planes[0][90:110, 470:490] = 220
    near = moved(frame, Lens((0, 0, *SIZE), 16 / 9, near=Near(2.0, 0.75, 0.28)), 1)
    bright = np.argwhere(planes_of(near)[0] > 130)
    height, width = bright.max(0) - bright.min(0) + 1
    assert (height, width) == (pytest.approx(40, abs=2), pytest.approx(40, abs=2))
    assert bright.mean(0)[1] == pytest.approx((480 / 640 - 0.5) * 2 * 640, abs=2)


def test_no_frame_of_its_stretch_goes_uncovered_in_the_rendered_file(qapp: object, tmp_path: Path) -> None:
    """A face that is followed through a run: the rendered file is decoded again, and nothing of the face's detail is
    left in any of its frames."""
    b = put_anchor(shown(tmp_path, runs=True), "f1", F(48), (0.55, 0.42))
    b = set_key(b, "a1", F(52), (0.55, 0.43))
    covered = checked(add_mark(b, MarkKind.COVER, anchors=("a1",), size=0.12))
    detail = {}
    for name, made in (("bare", replace(b, anchors=())), ("covered", covered)):
        bare = compile_programme(made, {})
        p = read_anew(made, bare, follow_marks(made, None, needed_of(made, bare)).readings)
        places = {c.id: FOOTAGE / Path(c.path).name for c in made.footage}
        target = tmp_path / f"{name}.mp4"
        render(made, p, places, {}, {}, target, OutputGate(made, None))
        layer = MarkLayer(covered, p, SIZE)
        with av.open(str(target)) as media:
            rows = []
            for number, frame in enumerate(media.decode(video=0)):
                spots = [e for e in MarkLayer(covered, p, SIZE).effects(number) if isinstance(e, Blur)]
                passage = p.time_map.passage_at(number)
                assert not passage.footage or passage.footage != "f1" or name == "bare" or len(spots) == 1
                grey = frame.to_ndarray(format="gray").astype(float)
                x, y, r = (spots[0].x, spots[0].y, spots[0].radius) if spots else (352, 151, 43)
                half = int(r * 0.6)
                part = grey[int(y) - half : int(y) + half, int(x) - half : int(x) + half]
                slope = np.hypot(np.diff(part, axis=0)[:, :-1], np.diff(part, axis=1)[:-1])
                rows.append(float(np.percentile(slope, 99)))
            detail[name] = np.array(rows)
        del layer
    assert len(detail["covered"]) == len(detail["bare"]) > 60
    assert detail["covered"].max() < 0.5 * np.median(detail["bare"]), "an edge is left somewhere"


def test_a_mark_that_stands_still_is_made_once(qapp: object, tmp_path: Path) -> None:
    frames, _, middle = frames_of(marked(tmp_path, MarkKind.GRIP, (0.5, 0.5)))
    assert frames.frame(middle) is frames.frame(middle + 1)
    frames.close()


def test_a_figure_is_followed_and_drawn_in_the_small_second_picture_too(qapp: object, tmp_path: Path) -> None:
    places = {j: (0.45 + 0.01 * i, 0.4 + 0.015 * i) for i, j in enumerate(Joint)}
    b = add_figure(shown(tmp_path), "f1", Side.FIRST, AT, places)
    b = checked(add_mark(b, MarkKind.SPOTLIGHT, figure=b.figures[0].id, beat="b1", word=1))
    frames, layer, middle = frames_of(b)
    (placed, drawn) = layer.drawn(middle)[0]
    assert placed.mark.kind is MarkKind.SPOTLIGHT and drawn.figure is not None and len(drawn.figure) == 14
    mirrored = replace(b, footage=tuple(replace(c, mirrored=True) for c in b.footage))
    _, other, _ = frames_of(mirrored)
    turned = other.drawn(middle)[0][1]
    assert turned.points[0].x() == pytest.approx(SIZE[0] - drawn.points[0].x(), abs=1)
    frames.close()
