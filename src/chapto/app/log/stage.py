"""The Log stage, as the window knows it."""

from __future__ import annotations

from fractions import Fraction
from functools import cached_property
from pathlib import Path
from typing import TYPE_CHECKING

from chapto.app.choosing import LOG_ENDINGS
from chapto.app.playhead import View
from chapto.app.stage import Keys, Snap, StageContext, StageView
from chapto.review.work import NextStep, Stage

if TYPE_CHECKING:
    from chapto.app.log.page import LogPage


class LogStage(StageView):
    """Watch it through, and say what happened."""

    stage = Stage.LOG

    def __init__(self, context: StageContext) -> None:
        self._context = context

    @cached_property
    def page(self) -> LogPage:
        """Picture, mat clock, and what is logged."""
        from chapto.app.log.page import LogPage

        c = self._context
        return LogPage(c.studio, c.player, c.screen(), c.facts.liveliness)

    @property
    def keys(self) -> Keys:
        """What its keys do."""
        from chapto.app.log.page import KEYS

        return KEYS

    def enter(self) -> None:
        """The log is written at the footage."""
        self._context.player.switch(View.MAT)

    def take(self, step: NextStep) -> None:
        """What is spoken of is chosen."""
        if step.item:
            self.page.choose(step.item)

    def welcome(self, files: list[Path]) -> str:
        """A log that was written elsewhere."""
        log = next((f for f in files if f.suffix.lower() in LOG_ENDINGS), None)
        return f"“{log.stem}” is read into the log." if log is not None else ""

    def take_files(self, files: list[Path]) -> None:
        """It is read in one step; what was not clear in it is said."""
        self.page.read_log(next(f for f in files if f.suffix.lower() in LOG_ENDINGS))

    def is_settled(self) -> bool:
        """Whether the strip has its pictures."""
        return self.page.is_settled()

    def pictures(self, snap: Snap) -> None:
        """The strip, points, figures, two tries side by side."""
        b = self._context.studio.breakdown
        if len(b.exchanges) > 1:
            self.page.choose(b.exchanges[1].id)
            self._context.player.show_mat(b.exchanges[1].start + 2)
        snap("log")
        self.page.show_sheet(1)
        snap("log-points")
        self.page.show_sheet(2)
        snap("log-figures")
        if len(b.exchanges) > 2:
            self.page.compare(b.exchanges[1].id, b.exchanges[2].id)
            self.page.comparison.go(Fraction("3.6"))
            snap("log-compare")
            self.page.end_comparison()
        self.page.show_sheet(0)

    def close(self) -> None:
        """End the threads that fetch pictures."""
        self.page.close_feeds()
