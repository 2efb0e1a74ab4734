"""What was pointed at while somebody talked, as marks: a press that stays is a spot, a stroke an arrow."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from fractions import Fraction

from msgspec.structs import replace

from chapto.document.breakdown import Breakdown, fresh_ids
from chapto.document.footage import Footage
from chapto.document.mark_kinds import MarkKind, Sticks
from chapto.document.marks import Anchor, Key, Mark, Until
from chapto.document.talks import Done, Pointed
from chapto.pacing.talked.tidied import Shown
from chapto.programme.angles import AngleTrack

STROKE = 0.04
"""Share of the picture's width from which a press that moved is a stroke."""
SPOT = 0.12
"""Radius of a spot, as a share of the picture's height."""
STAYS = Fraction(2)
"""Watch seconds that something pointed at in a running picture stays."""
LATER = 1.5
"""Seconds of the take after which a word is not said about what was pointed at before it."""


@dataclass(frozen=True, slots=True)
class Stroke:
    """A press from second `start` of the take on, from one place of the picture to another (0…1)."""

    start: float
    first: tuple[float, float]
    last: tuple[float, float]

    @property
    def is_spot(self) -> bool:
        """Whether it stayed where it was."""
        (x, y), (to_x, to_y) = self.first, self.last
        return max(abs(to_x - x), abs(to_y - y)) < STROKE


def strokes(pointer: Sequence[Pointed]) -> Iterator[Stroke]:
    """Every press, in order."""
    row: list[Pointed] = []
    for p in pointer:
        if p.pressed:
            row.append(p)
        elif row:
            yield _stroke(row)
            row = []
    if row:
        yield _stroke(row)


def _stroke(row: Sequence[Pointed]) -> Stroke:
    return Stroke(float(row[0].at), (row[0].x, row[0].y), (row[-1].x, row[-1].y))


def with_pointing(
    b: Breakdown, done: Done, shown: Sequence[Shown], places: Mapping[int, tuple[str, int]]
) -> Breakdown:  # fmt: skip
    """`b` with a mark for each stroke, but for those of what was said again. It comes by the word that was being said,
    or the next one; `places` are beat (by id) and word of each word of the talk (by number). Where nothing was said
    about it there is none."""
    ids, track = fresh_ids(b), AngleTrack(b)
    anchors, marks = list(b.anchors), list(b.marks)
    again = [(float(a.since), float(a.at)) for a in done.acts if a.since is not None]
    for stroke in strokes(done.pointer):
        s = next((s for s in shown if s.word.end > stroke.start), None)
        if s is None or s.word.start - stroke.start > LATER:
            continue
        if any(a <= stroke.start < z <= s.word.start for a, z in again):
            continue
        mat = Fraction(round(s.spell.mat_at(stroke.start) * 1000), 1000)
        camera = _camera(b, track, s.spell.camera, mat)
        if camera is None:
            continue
        made = [_anchor(next(ids["a"]), camera, mat, at) for at in dict.fromkeys((stroke.first, stroke.last))]
        made = made[:1] if stroke.is_spot else made
        anchors += made
        beat, word = places[s.word.number]
        marks.append(
            Mark(
                id=next(ids["k"]), kind=MarkKind.SPOTLIGHT if stroke.is_spot else MarkKind.FORCE,
                anchors=tuple(a.id for a in made), beat=beat, word=word, size=SPOT,
                until=Until.SECONDS if s.spell.rate else Until.HOLD, seconds=STAYS,
            )
        )  # fmt: skip
    return replace(b, anchors=tuple(anchors), marks=tuple(marks))


def _camera(b: Breakdown, track: AngleTrack, name: str, mat: Fraction) -> Footage | None:
    named = next((c for c in b.footage if c.camera_name == name and c.covers(mat)), None)
    return named or track.at(mat)


def _anchor(anchor_id: str, camera: Footage, mat: Fraction, at: tuple[float, float]) -> Anchor:
    return Anchor(id=anchor_id, footage=camera.id, keys=(Key(mat=mat, x=at[0], y=at[1]),), sticks=Sticks.STILL)
