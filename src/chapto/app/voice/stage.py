"""The Voice stage, as the window knows it."""

from __future__ import annotations

from functools import cached_property
from pathlib import Path
from typing import TYPE_CHECKING

from chapto.app.choosing import SOUND_ENDINGS
from chapto.app.stage import Keys, Snap, StageContext, StageView
from chapto.review.work import NextStep, Stage

if TYPE_CHECKING:
    from chapto.app.voice.page import VoicePage

SHOWN_BEAT = "b4"


class VoiceStage(StageView):
    """Read it, and let every word be found."""

    stage = Stage.VOICE

    def __init__(self, context: StageContext) -> None:
        self._context = context

    @cached_property
    def page(self) -> VoicePage:
        """The lines to read, and their takes."""
        from chapto.app.voice.page import VoicePage

        c = self._context
        return VoicePage(c.studio, c.player, c.screen(), c.feed)

    @property
    def keys(self) -> Keys:
        """What its keys do."""
        from chapto.app.voice.keys import KEYS

        return KEYS

    def enter(self) -> None:
        """The programme is looked at."""
        self.page.enter()

    def leave(self) -> None:
        """A take is heard no longer; a recording ends and is offered."""
        self.page.stop()

    def take(self, step: NextStep) -> None:
        """The line that is spoken of is the current one."""
        if step.beat:
            self.page.choose(step.beat)

    def welcome(self, files: list[Path]) -> str:
        """Recordings."""
        sounds = any(f.suffix.lower() in SOUND_ENDINGS for f in files)
        return "A recording comes into Voice; you are asked what is read in it." if sounds else ""

    def take_files(self, files: list[Path]) -> None:
        """Recordings that are dropped are brought in, one at a time."""
        self.page.bringing.ask_what_of(next(f for f in files if f.suffix.lower() in SOUND_ENDINGS))

    def is_settled(self) -> bool:
        """Whether the takes of the line are there."""
        return self.page.is_settled()

    def pictures(self, snap: Snap) -> None:
        """A line with its take."""
        page = self.page
        page.choose(SHOWN_BEAT)
        self._context.studio.wait()
        snap("voice")

    def close(self) -> None:
        """A recording that runs ends; its file stays."""
        self.page.close_booth()
