"""The Review stage, as the window knows it."""

from __future__ import annotations

from functools import cached_property
from typing import TYPE_CHECKING

from chapto.app.let_run import let_run
from chapto.app.playhead import View
from chapto.app.stage import Keys, Snap, StageContext, StageView
from chapto.document import edit_breakdown, edit_script
from chapto.document.breakdown import Breakdown
from chapto.document.script import BeatKind
from chapto.review.work import Stage

if TYPE_CHECKING:
    from chapto.app.review.page import ReviewPage

REVIEWED_WITHIN = 20.0
"""Seconds in which a review is made."""


class ReviewStage(StageView):
    """See what a viewer would stumble over, before they do."""

    stage = Stage.REVIEW

    def __init__(self, context: StageContext) -> None:
        self._context = context

    @cached_property
    def page(self) -> ReviewPage:
        """What was found."""
        from chapto.app.review.page import ReviewPage

        c = self._context
        return ReviewPage(c.studio, c.player, c.screen(), c.feed, c.show)

    @property
    def keys(self) -> Keys:
        """What its keys do."""
        from chapto.app.review.page import KEYS

        return KEYS

    def enter(self) -> None:
        """The programme is looked at; what was measured stays up to date."""
        self._context.player.switch(View.WATCH)
        self.page.begin_at_the_top()
        self._context.studio.reviewing.watch(True)

    def leave(self) -> None:
        """Nothing is measured in the background any more."""
        self._context.studio.reviewing.watch(False)

    def is_settled(self) -> bool:
        """Whether what is shown was found in the document as it is."""
        return self.page.is_settled()

    def pictures(self, snap: Snap) -> None:
        """What is found once a few things are wrong."""
        page, studio = self.page, self._context.studio
        if not studio.programme.frames:
            return
        studio.edit("a few things go wrong", _with_faults)
        studio.wait()
        let_run(lambda: studio.reviewing.open > 1, longest=REVIEWED_WITHIN)
        page.begin_at_the_top()
        page.list.step(1)
        snap("review")
        studio.session.undo()
        studio.wait()

    def close(self) -> None:
        """Nobody watches any more."""
        self.page.close_watching()


def _with_faults(b: Breakdown) -> Breakdown:
    """With what happens to everybody: a claim too many, another name, a promise, no lines of care."""
    told = {
        BeatKind.ASK: "The link below has more.",
        BeatKind.RULE: "Look at this grip.",
        BeatKind.HAPPENED: "Wrenn is up.",
    }
    for _, beat in tuple(b.read_beats()):
        if more := told.pop(beat.kind, ""):
            b = edit_script.rewrite(b, beat.id, f"{beat.text} {more}")
    return edit_breakdown.set_shown(b, cautions=False)
