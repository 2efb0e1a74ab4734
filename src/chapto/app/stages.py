"""All stages, in the order of the work. The one list a new stage is added to."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from chapto.app.footage.stage import FootageStage
from chapto.app.frame.off import OffStage
from chapto.app.log.stage import LogStage
from chapto.app.publish.stage import PublishStage
from chapto.app.stage import StageContext, StageView
from chapto.app.write.stage import WriteStage
from chapto.review.work import Stage

STAGES: tuple[Callable[[StageContext], StageView], ...] = (
    FootageStage,
    LogStage,
    WriteStage,
    partial(OffStage, Stage.MARK),
    partial(OffStage, Stage.VOICE),
    partial(OffStage, Stage.REVIEW),
    PublishStage,
    partial(OffStage, Stage.SHELF),
)
START = Stage.WRITE
"""Shown first where there is footage; without any it is the first of all."""
