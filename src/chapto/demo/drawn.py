"""The marks that Ilka put on the demo; where she pressed is kept in `marks.json`.

`python -m chapto.demo.drawn` puts them down anew: where the generator's joints are, three pixels off as hands are.
"""

from __future__ import annotations

import json
import sys
from collections.abc import Mapping
from dataclasses import dataclass, field
from fractions import Fraction
from pathlib import Path
from typing import Any

import numpy as np

from chapto.document.breakdown import Breakdown
from chapto.document.edit_marks import add_figure, add_joint, add_mark, put_anchor, set_key
from chapto.document.joints import ROW, Joint
from chapto.document.mark_kinds import MarkKind, Sticks
from chapto.document.marks import Until
from chapto.document.people import Side

CLICKS = Path(__file__).parent / "marks.json"
J, K = Joint, MarkKind
FIRST, SECOND = Side.FIRST, Side.SECOND
Place = tuple[float, float]


@dataclass(frozen=True)
class Point:
    """A point by name: on a `joint` of an athlete at each of the mat times, `off` it by shares of the picture; or, with
    no joint, at `off` itself."""

    name: str
    footage: str
    mats: tuple[str, ...]
    side: Side | None = None
    joint: Joint | None = None
    off: Place = (0.0, 0.0)
    sticks: Sticks = Sticks.BODY


@dataclass(frozen=True)
class Body:
    """A whole athlete by name, put down at each of the mat times; `rests` are on the mat."""

    name: str
    footage: str
    mats: tuple[str, ...]
    side: Side
    rests: tuple[Joint, ...] = ()


@dataclass(frozen=True)
class Shown:
    """A mark on a word, by the beat's id and the word's number, with points or a body by name; `more` are fields."""

    kind: MarkKind
    beat: str
    word: int
    of: Side | None
    points: tuple[str, ...] = ()
    body: str = ""
    words: str = ""
    more: Mapping[str, Any] = field(default_factory=dict)


FRAME_TIMES = ("85.0", "86.2", "87.2", "88.0")
LINE_TIMES = ("174.8", "176.2", "177.6")
BODIES = (
    Body("Wren drops", "f1", ("32.9",), FIRST, (J.LEFT_KNEE, J.LEFT_ANKLE, J.RIGHT_ANKLE)),
    Body("Moss stands", "f1", ("32.9",), SECOND, (J.LEFT_ANKLE, J.RIGHT_ANKLE)),
    Body("Wren slides", "f1", ("105.7", "106.4", "107.2", "108.0", "109.0"), FIRST, (J.LEFT_KNEE, J.RIGHT_KNEE)),
    Body("Wren, stopped", "f1", ("87.2",), FIRST, (J.LEFT_KNEE, J.RIGHT_KNEE)),
)
POINTS = (
    Point("hands", "f1", ("34.4", "36.0", "37.2", "38.3"), FIRST, J.RIGHT_WRIST),
    Point("elbow", "f1", FRAME_TIMES, SECOND, J.RIGHT_ELBOW),
    Point("palm", "f1", FRAME_TIMES, SECOND, J.RIGHT_WRIST),
    Point("her chest", "f1", FRAME_TIMES, FIRST, J.NECK, (0.012, 0.05)),
    Point("his chest", "f1", FRAME_TIMES, SECOND, J.NECK, (-0.03, 0.0)),
    Point("pit", "f1", ("104.3",), FIRST, J.LEFT_WRIST),
    Point("her weight", "f3", ("144.9",), FIRST, J.NECK),
    Point("his back", "f3", ("144.9",), SECOND, J.RIGHT_SHOULDER),
    Point("line above", "f2", LINE_TIMES, FIRST, J.LEFT_HIP, (0.05, -0.09)),
    Point("line below", "f2", LINE_TIMES, FIRST, J.LEFT_HIP, (0.04, 0.1)),
    Point("his knee", "f2", LINE_TIMES, SECOND, J.RIGHT_KNEE),
    Point("heel", "f2", ("189.0",), SECOND, J.LEFT_ANKLE),
    Point("his wrist", "f2", ("192.8",), SECOND, J.RIGHT_WRIST),
    Point("across", "f2", ("192.8",), SECOND, J.RIGHT_WRIST, (-0.13, 0.06)),
    Point("forearm", "f2", ("226.4", "227.4", "228.6", "229.9"), FIRST, J.RIGHT_WRIST),
    Point("onlooker", "f1", ("10",), None, None, (0.0555, 0.31), Sticks.STILL),
    Point("onlooker later", "f2", ("150",), None, None, (0.0555, 0.31), Sticks.STILL),
)
BOTH_HIPS = ("Wren drops/left hip", "Wren drops/right hip", "Moss stands/left hip", "Moss stands/right hip")
MARKS = (
    Shown(K.LEVEL, "b4", 13, SECOND, BOTH_HIPS, words="His hips are the higher ones"),
    Shown(
        K.GRIP, "b5", 5, FIRST, ("hands",), words="Hands locked", more={"until": Until.SECONDS, "seconds": Fraction(3)}
    ),
    Shown(K.FRAME, "b8", 6, SECOND, ("elbow", "palm"), words="Far arm, straight"),
    Shown(K.FRAME, "b9", 4, SECOND, ("elbow", "palm"), more={"until": Until.BEAT}),
    Shown(K.GAP, "b9", 9, None, ("her chest", "his chest"), words="Chests", more={"until": Until.BEAT, "fact": True}),
    Shown(K.GRIP, "b10", 10, FIRST, ("pit",), words="Her arm is inside"),
    Shown(K.SPOTLIGHT, "b11", 11, None, body="Wren slides", more={"until": Until.SECONDS, "seconds": Fraction(2)}),
    Shown(K.GHOST, "b11", 22, None, body="Wren slides", more={"fact": True, "before": Fraction(2)}),
    Shown(
        K.PATH, "b11", 22, FIRST, ("Wren slides/left hip",), words="Hips", more={"fact": True, "before": Fraction(2)}
    ),
    Shown(K.WEIGHT, "b15", 11, FIRST, ("her weight", "his back"), words="All on one side"),
    Shown(
        K.KNEE_LINE,
        "b16",
        8,
        FIRST,
        ("line above", "line below", "his knee"),
        words="Knee line",
        more={"until": Until.BEAT},
    ),
    Shown(K.WINDOW, "b17", 15, SECOND, ("heel",), words="The heel, free", more={"zoom": Fraction(5, 2)}),
    Shown(K.FORCE, "b18", 6, FIRST, ("his wrist", "across"), words="Pull across"),
    Shown(
        K.CLOSER,
        "b19",
        18,
        FIRST,
        ("forearm",),
        more={"zoom": Fraction(3, 2), "until": Until.SECONDS, "seconds": Fraction(2)},
    ),
    Shown(K.COVER, "", 0, None, ("onlooker",), more={"size": 0.09}),
    Shown(K.COVER, "", 0, None, ("onlooker later",), more={"size": 0.09}),
)


def with_marks(b: Breakdown) -> Breakdown:
    """The demo with Ilka's marks."""
    clicks: dict[str, dict[str, Place]] = json.loads(CLICKS.read_text("utf-8"))
    ids: dict[str, str] = {}
    figures: dict[str, str] = {}
    for body in BODIES:
        first, *later = body.mats
        b = add_figure(b, body.footage, body.side, Fraction(first), _joints(clicks, body, first), rests=body.rests)
        figures[body.name] = b.figures[-1].id
        for mat in later:
            for joint, place in _joints(clicks, body, mat).items():
                b = add_joint(b, figures[body.name], joint, Fraction(mat), place)
        by_id = {a.id: a for a in b.anchors}
        ids |= {f"{body.name}/{by_id[a].joint}": a for a in b.figures[-1].anchors}
    for point in POINTS:
        first, *later = point.mats
        spots = clicks[point.name]
        b = put_anchor(
            b, point.footage, Fraction(first), _pair(spots[first]), sticks=point.sticks, side=point.side
        )  # fmt: skip
        ids[point.name] = b.anchors[-1].id
        for mat in later:
            b = set_key(b, ids[point.name], Fraction(mat), _pair(spots[mat]))
    for m in MARKS:
        bound = {"beat": m.beat, "word": m.word} if m.beat else {}
        anchors = tuple(ids[name] for name in m.points)
        figure = figures.get(m.body, "")
        b = add_mark(b, m.kind, anchors=anchors, figure=figure, of=m.of, words=m.words, **bound, **m.more)
    return b


def _joints(clicks: Mapping[str, Mapping[str, Place]], body: Body, mat: str) -> dict[Joint, Place]:
    return {joint: _pair(clicks[f"{body.name}/{joint}"][mat]) for joint in Joint}


def _pair(place: Place) -> Place:
    return place[0], place[1]


def put_down() -> dict[str, dict[str, Place]]:
    """Where everything lies on the pictures, by name and mat time."""
    from chapto.demo.shots import BOUT
    from chapto.demo.truth import truth_at

    shots = {f"f{i}": shot for i, shot in enumerate(BOUT, 1)}
    hand = np.random.default_rng(7)

    def press(footage: str, mat: str, side: Side, joint: Joint, off: Place) -> Place:
        shot = shots[footage]
        second = (float(mat) - shot.mat_in) / (1 + shot.drift)
        at = truth_at(shot, int(second * shot.fps + 1e-6) / shot.fps).places[int(side is SECOND), ROW[joint]]
        at = at + hand.normal(0, 3, 2) * (shot.camera.width / 1280)
        return round(float(at[0]) / shot.camera.width + off[0], 5), round(float(at[1]) / shot.camera.height + off[1], 5)

    found: dict[str, dict[str, Place]] = {}
    for body in BODIES:
        for joint in Joint:
            spots = {mat: press(body.footage, mat, body.side, joint, (0.0, 0.0)) for mat in body.mats}
            found[f"{body.name}/{joint}"] = spots
    for point in POINTS:
        whose, what = point.side, point.joint
        if whose is not None and what is not None:
            found[point.name] = {mat: press(point.footage, mat, whose, what, point.off) for mat in point.mats}
        else:
            found[point.name] = dict.fromkeys(point.mats, point.off)
    return found


if __name__ == "__main__":
    CLICKS.write_text(json.dumps(put_down(), indent=0) + "\n", "utf-8")
    sys.exit(0)
