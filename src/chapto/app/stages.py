"""All stages, in the order of the work. The one list a new stage is added to."""

from __future__ import annotations

from collections.abc import Callable

from chapto.app.footage.stage import FootageStage
from chapto.app.log.stage import LogStage
from chapto.app.mark.stage import MarkStage
from chapto.app.publish.stage import PublishStage
from chapto.app.review.stage import ReviewStage
from chapto.app.shelf.stage import ShelfStage
from chapto.app.stage import StageContext, StageView
from chapto.app.voice.stage import VoiceStage
from chapto.app.write.stage import WriteStage
from chapto.review.work import Stage

STAGES: tuple[Callable[[StageContext], StageView], ...] = (
    FootageStage,
    LogStage,
    WriteStage,
    MarkStage,
    VoiceStage,
    ReviewStage,
    PublishStage,
    ShelfStage,
)
START = Stage.WRITE
"""Shown first where there is footage; without any it is the first of all."""
