"""Which part of a breakdown a step of undo changed, to go there."""

from __future__ import annotations

from chapto.document.breakdown import Breakdown
from chapto.document.script import Beat
from chapto.review.work import NextStep, Stage


def touched_part(before: Breakdown, after: Breakdown) -> NextStep | None:
    """The stage in which the difference is seen, with its beat, file or logged thing where there is one to go to; None
    where it shows in every stage. What was taken away leads to what stood before it."""
    if before.footage != after.footage or before.conditions != after.conditions or before.angles != after.angles:
        return NextStep("", Stage.FOOTAGE, footage=_changed(before.footage, after.footage))
    log = ("exchanges", "moments", "rounds", "positions", "ruling")
    # A script tied anew takes its moments along: then the words are what was meant.
    if before.script != after.script:
        return NextStep("", Stage.WRITE, beat=_beat(before, after))
    for part in log:
        if getattr(before, part) != getattr(after, part):
            items = () if part == "ruling" else (getattr(before, part), getattr(after, part))
            return NextStep("", Stage.LOG, item=_changed(*items) if items else "")
    if before.takes != after.takes or before.guide_only != after.guide_only:
        return NextStep("", Stage.VOICE)
    if (before.marks, before.anchors, before.figures) != (after.marks, after.anchors, after.figures):
        return NextStep("", Stage.MARK, item=_changed(before.marks, after.marks))
    return None


def _beat(before: Breakdown, after: Breakdown) -> str:
    """The first beat that differs, or the one before it where none is left."""
    was: dict[str, Beat] = {beat.id: beat for _, beat in before.beats()}
    now = [beat for _, beat in after.beats()]
    for beat in now:
        if was.get(beat.id) != beat:
            return beat.id
    gone = next((i for i, (_, beat) in enumerate(before.beats()) if beat.id not in {x.id for x in now}), 0)
    return now[min(max(gone - 1, 0), len(now) - 1)].id if now else ""


def _changed(before: tuple[object, ...], after: tuple[object, ...]) -> str:
    """The id of the first that differs and is there after; empty where there is none."""
    was = {_id(x): x for x in before}
    return next((_id(x) for x in after if was.get(_id(x)) != x), "")


def _id(item: object) -> str:
    return str(getattr(item, "id", ""))
