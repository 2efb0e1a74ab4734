"""The Mark stage, as the window knows it."""

from __future__ import annotations

from functools import cached_property
from typing import TYPE_CHECKING

from chapto.app.stage import Keys, Snap, StageContext, StageView
from chapto.review.work import NextStep, Stage

if TYPE_CHECKING:
    from chapto.app.mark.page import MarkPage


class MarkStage(StageView):
    """Draw what the words point at."""

    stage = Stage.MARK

    def __init__(self, context: StageContext) -> None:
        self._context = context

    @cached_property
    def page(self) -> MarkPage:
        """The picture to draw on, and the words that point."""
        from chapto.app.mark.page import MarkPage

        return MarkPage(self._context.studio, self._context.player, self._context.screen())

    @property
    def keys(self) -> Keys:
        """What its keys do."""
        from chapto.app.mark.keys import SHOWN

        return SHOWN

    def enter(self) -> None:
        """The programme is looked at."""
        self.page.enter()

    def leave(self) -> None:
        """What was being put down is left."""
        self.page.putting.end()

    def take(self, step: NextStep) -> None:
        """The word that is spoken of is the current one."""
        if step.beat:
            self.page.choose_word(step.beat, step.word)
        if step.item:
            self.page.choose_mark(step.item)

    def is_settled(self) -> bool:
        """Whether the points are followed."""
        return self.page.is_settled()

    def pictures(self, snap: Snap) -> None:
        """A mark with its points; another while a figure is put down."""
        page, studio = self.page, self._context.studio
        studio.wait()
        marks = studio.breakdown.marks
        if marks:
            page.choose_mark(next((m.id for m in marks if len(m.anchors) > 1 and m.beat), marks[0].id))
            page.step_point(1)
        snap("mark")
        page.putting.begin_figure()
        snap("mark-figure")
        page.putting.end()

    def close(self) -> None:
        """Nothing runs."""
