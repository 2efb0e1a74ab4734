"""Where a finding is mended by hand: the stage, and what of it."""

from __future__ import annotations

from chapto.review.finding import Group
from chapto.review.review import Found
from chapto.review.work import DESCRIPTION, RIGHTS, NextStep, Stage


def step_of(f: Found) -> NextStep:
    """The step that leads to what a finding is about."""
    x, where = f.finding, f.finding.where
    stage = x.stage or f.check.stage
    if stage is Stage.FOOTAGE:
        item = RIGHTS if f.check.group is Group.CARE else ""
        return NextStep(x.sentence, stage, footage=where.item, item=item)
    if stage is Stage.PUBLISH:
        return NextStep(x.sentence, stage, item=DESCRIPTION if f.check.group is Group.FILE else "")
    # A tie or a beat says it all in Write; what has an id of its own is chosen in the stages that know it.
    item = where.item if stage in (Stage.LOG, Stage.MARK) else ""
    return NextStep(x.sentence, stage, where.beat, where.word, item=item)
