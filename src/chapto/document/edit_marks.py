"""Edits of marks, of the points they hang on, and of whole figures."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from fractions import Fraction
from typing import Any

from msgspec.structs import replace

from chapto.document.breakdown import Breakdown, DocumentError, by_id, fresh_ids, new_id
from chapto.document.joints import ROW, Joint
from chapto.document.mark_kinds import MarkKind, Sticks
from chapto.document.marks import Anchor, Figure, Key, Mark
from chapto.document.people import Side

Place = tuple[float, float]
"""x and y, 0…1 of the upright picture as it was filmed."""
FINEST = 5
"""Decimals of a place on the picture: a hundredth of a pixel in a picture of full size."""


# ── points ───────────────────────────────────────────────────────────────────────────────────────────────────
def put_anchor(
    b: Breakdown,
    footage: str,
    mat: Fraction,
    place: Place,
    *,
    sticks: Sticks = Sticks.BODY,
    side: Side | None = None,
    joint: Joint | None = None,
) -> Breakdown:
    """With a new point of a footage, put down at `mat`; `place` is x and y, 0…1 of the picture as it was filmed."""
    by_id(b.footage, footage, "footage")
    made = Anchor(
        id=new_id(b, "a"), footage=footage, keys=(_key(mat, place),), sticks=sticks, side=side, joint=joint
    )  # fmt: skip
    return replace(b, anchors=(*b.anchors, made))


def set_key(b: Breakdown, anchor_id: str, mat: Fraction, place: Place, *, seen: bool = True) -> Breakdown:
    """With a point put down at another `mat`, or elsewhere at the same."""
    made = _key(mat, place, seen)

    def change(anchor: Anchor) -> Anchor:
        return replace(anchor, keys=_sorted((*(k for k in anchor.keys if k.mat != mat), made)))

    return _change_anchor(b, anchor_id, change)


def remove_key(b: Breakdown, anchor_id: str, mat: Fraction) -> Breakdown:
    """Without the key of a point at `mat`; the last one stays."""

    def change(anchor: Anchor) -> Anchor:
        kept = tuple(k for k in anchor.keys if k.mat != mat)
        if not kept:
            raise DocumentError("A point keeps at least one place; take the mark away instead.")
        return replace(anchor, keys=kept)

    return _change_anchor(b, anchor_id, change)


def hide_between(
    b: Breakdown,
    anchor_id: str,
    hidden: tuple[Fraction, Place],
    seen: tuple[Fraction, Place],
) -> Breakdown:
    """With a point hidden from one mat time to another, where it is seen again; each with the place it has there. Keys
    in between go."""
    if hidden[0] >= seen[0]:
        raise DocumentError("A point is hidden from one picture to a later one.")

    def change(anchor: Anchor) -> Anchor:
        kept = [k for k in anchor.keys if not hidden[0] <= k.mat <= seen[0]]
        return replace(anchor, keys=_sorted((*kept, _key(*hidden, False), _key(*seen))))

    return _change_anchor(b, anchor_id, change)


def move_keys(b: Breakdown, footage: str, moved: Callable[[Fraction], Fraction]) -> Breakdown:
    """With every mat time of what is drawn on one footage `moved`, as the footage itself was on the mat clock."""
    if all(a.footage != footage for a in b.anchors):
        return b

    def change(anchor: Anchor) -> Anchor:
        if anchor.footage != footage:
            return anchor
        return replace(anchor, keys=tuple(replace(k, mat=moved(k.mat)) for k in anchor.keys))

    on = {a.id for a in b.anchors if a.footage == footage}
    marks = tuple(
        replace(m, span=(moved(m.span[0]), moved(m.span[1]))) if m.span and on.intersection(m.anchors) else m
        for m in b.marks
    )
    return replace(b, anchors=tuple(change(a) for a in b.anchors), marks=marks)


def _key(mat: Fraction, place: Place, seen: bool = True) -> Key:
    return Key(mat=mat, x=round(place[0], FINEST), y=round(place[1], FINEST), seen=seen)


def _sorted(keys: tuple[Key, ...]) -> tuple[Key, ...]:
    return tuple(sorted(keys, key=lambda k: k.mat))


def _change_anchor(b: Breakdown, anchor_id: str, change: Callable[[Anchor], Anchor]) -> Breakdown:
    by_id(b.anchors, anchor_id, "point")
    return replace(b, anchors=tuple(change(a) if a.id == anchor_id else a for a in b.anchors))


# ── figures ──────────────────────────────────────────────────────────────────────────────────────────────────
def add_figure(
    b: Breakdown,
    footage: str,
    side: Side,
    mat: Fraction,
    places: Mapping[Joint, Place],
    *,
    rests: tuple[Joint, ...] = (),
) -> Breakdown:
    """With one athlete put down at `mat`: joints with their places; `rests` are those that rest on the mat."""
    if not places:
        raise DocumentError("A figure needs at least one point.")
    ids = fresh_ids(b)
    made = tuple(
        Anchor(id=next(ids["a"]), footage=footage, keys=(_key(mat, places[joint]),), side=side, joint=joint)
        for joint in sorted(places, key=ROW.__getitem__)
    )
    figure = Figure(
        id=next(ids["g"]), footage=footage, side=side, anchors=tuple(a.id for a in made),
        rests=tuple(j for j in rests if j in places),
    )  # fmt: skip
    return replace(b, anchors=(*b.anchors, *made), figures=(*b.figures, figure))


def add_joint(b: Breakdown, figure_id: str, joint: Joint, mat: Fraction, place: Place) -> Breakdown:
    """With one more joint of a figure put down, or one that it has put elsewhere at `mat`."""
    figure = by_id(b.figures, figure_id, "figure")
    here = next((a for a in b.anchors if a.id in figure.anchors and a.joint is joint), None)
    if here is not None:
        return set_key(b, here.id, mat, place)
    with_it = put_anchor(b, figure.footage, mat, place, side=figure.side, joint=joint)
    return change_figure(with_it, figure_id, anchors=(*figure.anchors, with_it.anchors[-1].id))


def change_figure(b: Breakdown, figure_id: str, **changes: Any) -> Breakdown:
    """With fields of a figure changed."""
    by_id(b.figures, figure_id, "figure")
    return replace(b, figures=tuple(replace(f, **changes) if f.id == figure_id else f for f in b.figures))


def copy_figure(b: Breakdown, figure_id: str, mat: Fraction, places: Mapping[Joint, Place]) -> Breakdown:
    """With a figure like another at `mat`, to be put right there: `places` say where its joints begin."""
    figure = by_id(b.figures, figure_id, "figure")
    return add_figure(b, figure.footage, figure.side, mat, places, rests=figure.rests)


def remove_figure(b: Breakdown, figure_id: str) -> Breakdown:
    """Without a figure and the marks that stand on the whole of it; points that other marks use stay."""
    by_id(b.figures, figure_id, "figure")
    left = replace(b, figures=tuple(f for f in b.figures if f.id != figure_id))
    return without_marks(left, lambda m: m.figure == figure_id)


# ── marks ────────────────────────────────────────────────────────────────────────────────────────────────────
def add_mark(b: Breakdown, kind: MarkKind, **fields: Any) -> Breakdown:
    """With a mark; `fields` are those of `Mark`."""
    return replace(b, marks=(*b.marks, Mark(id=new_id(b, "k"), kind=kind, **fields)))


def change_mark(b: Breakdown, mark_id: str, **changes: Any) -> Breakdown:
    """With fields of a mark changed."""
    by_id(b.marks, mark_id, "mark")
    return replace(b, marks=tuple(replace(m, **changes) if m.id == mark_id else m for m in b.marks))


def remove_mark(b: Breakdown, mark_id: str) -> Breakdown:
    """Without a mark, and without points that nothing else uses."""
    by_id(b.marks, mark_id, "mark")
    return without_marks(b, lambda m: m.id == mark_id)


def without_marks(b: Breakdown, lost: Callable[[Mark], bool]) -> Breakdown:
    """Without the marks that are `lost`, and without points that neither a mark nor a figure uses any more."""
    marks = tuple(m for m in b.marks if not lost(m))
    used = {a for m in marks for a in m.anchors} | {a for f in b.figures for a in f.anchors}
    anchors = tuple(a for a in b.anchors if a.id in used)
    if len(marks) == len(b.marks) and len(anchors) == len(b.anchors):
        return b
    return replace(b, marks=marks, anchors=anchors)


def without_footage(b: Breakdown, footage: str) -> Breakdown:
    """Without everything that is drawn on one footage."""
    gone = {a.id for a in b.anchors if a.footage == footage}
    figures = {f.id for f in b.figures if f.footage == footage}
    left = replace(b, figures=tuple(f for f in b.figures if f.id not in figures))
    return without_marks(left, lambda m: m.figure in figures or bool(gone.intersection(m.anchors)))


def carry_marks(b: Breakdown, beat_id: str, place: Callable[[int], tuple[str, int] | None]) -> Breakdown:
    """With the marks of a beat's words where `place` says: the beat and number of the word that took an old word's
    place. Marks of words that are gone go too."""
    if all(m.beat != beat_id for m in b.marks):
        return b
    kept, lost = [], set()
    for mark in b.marks:
        to = place(mark.word) if mark.beat == beat_id else (mark.beat, mark.word)
        if to is None:
            lost.add(mark.id)
        kept.append(mark if to is None or to == (mark.beat, mark.word) else replace(mark, beat=to[0], word=to[1]))
    return without_marks(replace(b, marks=tuple(kept)), lambda m: m.id in lost)
