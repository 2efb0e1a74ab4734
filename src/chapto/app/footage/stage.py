"""The Footage stage, as the window knows it."""

from __future__ import annotations

from collections.abc import Callable
from functools import cached_property, partial
from pathlib import Path
from typing import TYPE_CHECKING

from chapto.app.choosing import LOG_ENDINGS, SCRIPT_ENDINGS, SOUND_ENDINGS, Choosing
from chapto.app.playhead import View
from chapto.app.stage import Keys, Snap, StageContext, StageView
from chapto.document.recorders import as_one_camera
from chapto.review.work import ONE_CAMERA, ONE_CLOCK, RIGHTS, NextStep, Stage

if TYPE_CHECKING:
    from chapto.app.footage.page import FootagePage

VIDEOS = (
    "Videos and photos (*.mp4 *.mov *.mkv *.webm *.avi *.mts *.m2ts *.ts *.mpg *.mpeg "
    "*.png *.jpg *.jpeg *.webp);;All (*)"
)


class FootageStage(StageView):
    """Collect files, judge them, bring them onto one clock."""

    stage = Stage.FOOTAGE

    def __init__(self, context: StageContext) -> None:
        self._context = context

    @cached_property
    def page(self) -> FootagePage:
        """Picture, chart and the chosen file."""
        from chapto.app.footage.page import FootagePage
        from chapto.app.footage.start_page import StartPage

        c = self._context
        start = StartPage(self.bring_in, c.open_file, self._demo, self._talk)
        return FootagePage(c.studio, c.player, c.facts, c.screen(), self.bring_in, start)

    def _talk(self) -> None:
        from chapto.demo.talk_project import talk_project

        self._context.open_file(talk_project())

    def _demo(self) -> None:
        from chapto.demo.shelf import shelved
        from chapto.demo.working_copy import demo_project

        self._context.open_file(shelved(demo_project()))

    @property
    def keys(self) -> Keys:
        """What its keys do."""
        from chapto.app.footage.page import KEYS

        return KEYS

    def enter(self) -> None:
        """The footage is looked at file by file."""
        self._context.player.switch(View.MAT)
        self._context.player.look_through(self.page.chart.chosen_file)

    def leave(self) -> None:
        """The angle track says again which camera is looked through."""
        self._context.player.look_through("")

    def shortcuts(self) -> tuple[tuple[str, Callable[[], object]], ...]:
        """Videos can be brought in from anywhere."""
        return (("Ctrl+I", self.bring_in),)

    def waiting(self) -> int:
        """Stretches that something was found in."""
        return self._context.facts.waiting()

    def take(self, step: NextStep) -> None:
        """A file that is spoken of is chosen; where there is none, one is brought in."""
        if not self._context.studio.breakdown.footage and step.sentence:
            self.bring_in()
        if step.footage:
            self.page.chart.choose_file(step.footage)
        if step.item == ONE_CLOCK:
            self.page.one_clock()
        elif step.item == ONE_CAMERA:
            row = next((r for r in self._context.facts.recorders() if step.footage in r), ())
            self._context.studio.edit("one camera", partial(as_one_camera, files=row)) if row else None
        elif step.item == RIGHTS and step.sentence:
            self.page.open_rights()

    def welcome(self, files: list[Path]) -> str:
        """Whatever is of no other stage may be a video."""
        if all(f.suffix.lower() in SOUND_ENDINGS | SCRIPT_ENDINGS | LOG_ENDINGS for f in files):
            return ""
        return "A video comes into Footage." if len(files) == 1 else f"{len(files)} files come into Footage."

    def take_files(self, files: list[Path]) -> None:
        """Every file may be a video; what is none is named in a sentence."""
        self._context.facts.bring_in(files)

    def bring_in(self) -> None:
        """Choose videos to bring in."""
        choosing = Choosing(self.page, self._context.studio.preferences, "video")
        self.take_files(choosing.files("Bring in videos and photos", VIDEOS))

    def is_settled(self) -> bool:
        """Whether the chart has its pictures and every file was looked into."""
        return self.page.is_settled()

    def pictures(self, snap: Snap) -> None:
        """The chart, and a stretch to decide on."""
        snap("footage")
        waiting = self.page.waiting()
        if waiting:
            self.page.chart.choose(waiting[0])
            snap("footage-decide")

    def close(self) -> None:
        """End the threads that fetch pictures."""
        self.page.close_feeds()
