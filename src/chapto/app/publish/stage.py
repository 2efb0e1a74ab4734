"""The Publish stage, as the window knows it."""

from __future__ import annotations

from collections.abc import Callable
from functools import cached_property
from typing import TYPE_CHECKING

from chapto.app.let_run import let_run
from chapto.app.playhead import View
from chapto.app.stage import Keys, Snap, StageContext, StageView
from chapto.review.work import DESCRIPTION, NextStep, Stage

if TYPE_CHECKING:
    from chapto.app.publish.page import PublishPage


class PublishStage(StageView):
    """See what goes out, and render it."""

    stage = Stage.PUBLISH

    def __init__(self, context: StageContext) -> None:
        self._context = context

    @cached_property
    def page(self) -> PublishPage:
        """What goes out."""
        from chapto.app.publish.page import PublishPage

        c = self._context
        return PublishPage(c.studio, c.player, c.screen(), c.show)

    @property
    def keys(self) -> Keys:
        """What its keys do."""
        from chapto.app.publish.page import KEYS

        return KEYS

    def enter(self) -> None:
        """The programme is looked at."""
        self._context.player.switch(View.WATCH)

    def shortcuts(self) -> tuple[tuple[str, Callable[[], object]], ...]:
        """Making is asked for from anywhere."""
        return (("Ctrl+R", self._make), ("Ctrl+Shift+R", self._render))

    def _make(self) -> None:
        self._context.go(self.stage)
        self.page.make()

    def _render(self) -> None:
        self._context.go(self.stage)
        self.page.start_render()

    def busy(self) -> str:
        """What is being made."""
        return "What goes out is still being made." if self.page.job is not None else ""

    def take(self, step: NextStep) -> None:
        """What stands under the video, where that is spoken of."""
        if step.item == DESCRIPTION:
            self.page.describe()

    def pictures(self, snap: Snap) -> None:
        """A frame of the programme, the video as a viewer meets it, and what goes out."""
        self._context.player.show_frame(self._context.studio.programme.frames // 6)
        self.page.show_thumbnails()
        let_run(lambda: not self.page.looked_at.is_old)
        snap("publish")

    def close(self) -> None:
        """What is being made is stopped, and what lies over the window is put away."""
        self.page.close_all()
