"""The Shelf stage, as the window knows it."""

from __future__ import annotations

from functools import cached_property
from typing import TYPE_CHECKING

from chapto.app.let_run import let_run
from chapto.app.stage import Keys, Snap, StageContext, StageView
from chapto.review.work import EXAMPLE, NextStep, Stage

if TYPE_CHECKING:
    from chapto.app.shelf.page import ShelfPage

SHOWN = "knee slide"


class ShelfStage(StageView):
    """Find an earlier example, see what is covered, keep promises, plan."""

    stage = Stage.SHELF

    def __init__(self, context: StageContext) -> None:
        self._context = context

    @cached_property
    def page(self) -> ShelfPage:
        """All breakdowns."""
        from chapto.app.shelf.page import ShelfPage

        c = self._context
        return ShelfPage(c.studio, c.show, c.open_file)

    @property
    def keys(self) -> Keys:
        """What its keys do."""
        from chapto.app.shelf.page import KEYS

        return KEYS

    def enter(self) -> None:
        """Look through the folders."""
        self.page.begin()

    def take(self, step: NextStep) -> None:
        """A word of the script waits for an example."""
        if step.item == EXAMPLE:
            self.page.wait_for(step.beat, step.word)

    def is_settled(self) -> bool:
        """Whether the pictures in view are there."""
        return self.page.is_settled()

    def pictures(self, snap: Snap) -> None:
        """What is found, and what is covered."""
        from chapto.app.shelf.page import View

        page = self.page
        let_run(page.is_settled)
        page.finding.look_for_line(SHOWN)
        let_run(page.is_settled)
        snap("shelf")
        page.look(View.COVERED)
        snap("shelf-covered")

    def close(self) -> None:
        """Give files back."""
        self.page.close_all()
