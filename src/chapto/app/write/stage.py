"""The Write stage, as the window knows it."""

from __future__ import annotations

from functools import cached_property
from pathlib import Path
from typing import TYPE_CHECKING

from msgspec.structs import replace
from PyQt6.QtCore import QTimer

from chapto.app.choosing import SCRIPT_ENDINGS
from chapto.app.let_run import let_run
from chapto.app.stage import Keys, Snap, StageContext, StageView
from chapto.clock.timecode import clock_text
from chapto.document.begin_script import spread_over_exchanges
from chapto.document.breakdown import Breakdown
from chapto.review.work import SPREAD, NextStep, Stage

if TYPE_CHECKING:
    from chapto.app.write.page import WritePage

SHOWN_BEAT, SHOWN_WORD = "b8", 6
WAYS_WITHIN = 10.0
"""Seconds in which ways out are found."""


class WriteStage(StageView):
    """Say what happened, and let picture and words meet."""

    stage = Stage.WRITE

    def __init__(self, context: StageContext) -> None:
        self._context = context

    @cached_property
    def page(self) -> WritePage:
        """Picture and lacing, and the script."""
        from chapto.app.write.page import WritePage

        c = self._context
        return WritePage(c.studio, c.player, c.screen(), c.facts.busiest, c.facts.bring_in, c.show)

    @property
    def keys(self) -> Keys:
        """What its keys do."""
        from chapto.app.write.page import KEYS

        return KEYS

    def enter(self) -> None:
        """On an empty sheet the caret waits."""
        QTimer.singleShot(0, self.page.script.begin)

    def take(self, step: NextStep) -> None:
        """The word that is spoken of is at the caret; what one press does is done."""
        if step.item == SPREAD:
            self._context.studio.edit("spread the words over the exchanges", spread_over_exchanges)
        elif step.item:
            self.page.script.choose_title(step.item)
        if step.beat:
            self.page.script.choose(step.beat, step.word)
            self.page.go_to_word()

    def welcome(self, files: list[Path]) -> str:
        """A script."""
        script = next((f for f in files if f.suffix.lower() in SCRIPT_ENDINGS), None)
        return f"“{script.stem}” comes into the script." if script is not None else ""

    def take_files(self, files: list[Path]) -> None:
        """A script is brought in behind the beat that is written; what is to be asked is asked there."""
        script = next(f for f in files if f.suffix.lower() in SCRIPT_ENDINGS)
        self.page.elsewhere.read(script, self.page.script.current)

    def is_settled(self) -> bool:
        """Whether the small pictures of ties are there."""
        return self.page.is_settled()

    def pictures(self, snap: Snap) -> None:
        """The lacing, and words that come too late with their ways out."""
        page, studio = self.page, self._context.studio
        page.lacing.show_all()
        if SHOWN_BEAT in page.script.cards:
            page.script.choose(SHOWN_BEAT, SHOWN_WORD)
            page.go_to_word()
        snap("write")
        style = studio.breakdown.style
        page.bar.set_style("run-through")
        studio.wait()
        lacking = studio.programme.shortfalls
        if lacking:
            page.script.choose(lacking[0].beat, lacking[0].word)
            page.go_to_word()
            let_run(lambda: bool(page.script.cards[page.script.current].ways.ways), longest=WAYS_WITHIN)
            snap("write-ways")
        page.bar.set_style(style)
        studio.wait()
        self._from_nothing(snap)

    def _from_nothing(self, snap: Snap) -> None:
        """What stands there without a script: one from elsewhere that asks."""
        page, studio = self.page, self._context.studio
        script = _written_elsewhere(studio.breakdown)
        if not script:
            return
        studio.edit("begin without a script", lambda b: replace(b, script=(), takes=(), marks=()))
        page.elsewhere.paste(script, "")
        studio.wait()
        snap("write-script-in")
        page.leave_incoming()
        studio.session.undo()
        studio.wait()

    def close(self) -> None:
        """End the thread that fetches pictures."""
        self.page.close_feed()


def _written_elsewhere(b: Breakdown) -> str:
    """The tied beats of a script as somebody writes them down elsewhere: a time, who speaks, the words."""
    times = ((clock_text(b.moment(x.ties[0].moment).at), x) for _, x in b.beats() if x.ties)
    return "\n".join(f"[{at}] SPEAKER {1 + b.narrators.index(b.narrator(x))}: {x.text}" for at, x in times)
