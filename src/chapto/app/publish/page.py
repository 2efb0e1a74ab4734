"""The Publish stage."""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction
from functools import partial
from pathlib import Path

from PyQt6.QtCore import QPoint, Qt, QUrl
from PyQt6.QtGui import QDesktopServices, QKeySequence, QShortcut, QShowEvent
from PyQt6.QtWidgets import QMenu, QVBoxLayout, QWidget

from chapto.app import layouts
from chapto.app.ask import ask
from chapto.app.choosing import Choosing
from chapto.app.jobs import Job
from chapto.app.menus import choice
from chapto.app.publish.description_sheet import DescriptionSheet
from chapto.app.publish.line_menus import Show, caption_menu, chapter_menu
from chapto.app.publish.ribbon import Ribbon
from chapto.app.publish.timed_list import TimedLine, TimedList
from chapto.app.screen.player import Player
from chapto.app.studio import Studio
from chapto.app.widgets import Elided, Pressable, button, ground, label
from chapto.clock.rates import frames_from_seconds
from chapto.document.edit_breakdown import set_loudness, set_shown
from chapto.document.placeholders import placeholders
from chapto.errors import ChaptoError
from chapto.programme.programme import Programme
from chapto.publish.chapter_list import chapter_problems
from chapto.publish.package import default_video, places_of
from chapto.render.production import produce, render_production
from chapto.store.errors import AlreadyThere
from chapto.store.outputs import OutputGate

KEYS = (("Ctrl+R", "render"), ("Ctrl+D", "what stands under the video"), ("Esc", "stop the render, after asking"))
CARE = (
    "Before you publish: ask everyone who can be seen, a guardian for anyone under age, and follow the platform's "
    "rules and your country's law. Where a hold is shown, say that it is practised under a qualified coach."
)
LOUDNESSES = {-14: "as hosting sites play it", -16: "for listening", -23: "as broadcasters want it"}
"""Integrated loudness: common practice of hosting sites, of talk to listen to, and EBU R 128."""
MOST_CHAPTERS = 9
"""Chapters in sight at once; more are scrolled."""


class PublishPage(QWidget):
    """The programme on dark, its chapters and captions on paper, one button to make the file."""

    def __init__(self, studio: Studio, player: Player, screen: QWidget, show: Show) -> None:
        super().__init__()
        self._studio, self._player = studio, player
        self.job: Job[tuple[Path, ...]] | None = None
        self.described: DescriptionSheet | None = None
        self.made: tuple[Path, ...] = ()
        self._chosen: Path | None = None
        self._there_before = False
        side = ground(QWidget(), "paper")
        column = layouts.column(side, margins=(20, 16, 18, 14))
        column.addWidget(label("Chapters", size="head"))
        self.chapters = TimedList(
            "Chapters", self._go, lambda line: chapter_menu(self, studio.programme, line, self._go, show)
        )
        column.addWidget(self.chapters)
        self._problems = label("", soft=True, wrap=True)
        column.addWidget(self._problems)
        column.addSpacing(8)
        self._caption_head = label("", size="head")
        column.addWidget(self._caption_head)
        self.captions = TimedList(
            "Captions", self._go, lambda line: caption_menu(self, studio.programme, line, self._go, show), rows_high=2
        )
        column.addWidget(self.captions, 1)
        column.addSpacing(6)
        column.addWidget(label(CARE, soft=True, wrap=True))
        column.addSpacing(6)
        column.addLayout(self._foot())
        left = QWidget()
        stack = layouts.column(left, spacing=0)
        stack.addWidget(screen, 1)
        self.ribbon = Ribbon(studio, player)
        stack.addWidget(self.ribbon)
        layouts.column(self, layouts.split(Qt.Orientation.Horizontal, left, side, sizes=(760, 430), stretch=(1,)))
        self._shown: Programme | None = None
        studio.compiled.connect(self._follow)
        studio.changed.connect(self._show_target)
        under = QShortcut(QKeySequence("Ctrl+D"), self, self.describe)
        under.setContext(Qt.ShortcutContext.WidgetWithChildrenShortcut)
        esc = QShortcut(QKeySequence("Esc"), self, self._asked_to_stop)
        esc.setContext(Qt.ShortcutContext.WidgetWithChildrenShortcut)
        self._follow()

    def _foot(self) -> QVBoxLayout:
        foot = layouts.column()
        self._where = label("", size="head")
        self._folder, self._size = Elided(), label("", soft=True)
        self._folder.setAlignment(Qt.AlignmentFlag.AlignLeft)
        for line in (self._where, self._folder, self._size):
            foot.addWidget(line)
        where = layouts.row()
        self._strip = button("Control strip", self._toggle_strip, tip="Paint who controls into the picture")
        self._strip.setCheckable(True)
        where.addWidget(self._strip)
        self._loudness = button("", self._choose_loudness, tip="Loudness of the whole video")
        where.addWidget(self._loudness)
        where.addWidget(button("Description…", self.describe, tip="What stands under the video", key="Ctrl+D"))
        where.addStretch(1)
        where.addWidget(button("Elsewhere…", self._choose_target, tip="Choose folder, name and kind of file"))
        foot.addLayout(where)
        acts = layouts.row()
        self.render_button = button(
            "Render", self.start_render, tip="Make the video", key="Ctrl+R", sign="publish", kind="main"
        )
        self.render_button.setMinimumHeight(38)
        self._stop = button("Stop", self.stop, tip="Stop the render; what was there stays as it is", sign="cross")
        acts.addWidget(self.render_button, 1)
        acts.addWidget(self._stop)
        foot.addLayout(acts)
        self.result = Pressable(self._show_result)
        self.result.setWordWrap(True)
        foot.addWidget(self.result)
        self._show_target()
        self._stop.hide()
        return foot

    def _choose_loudness(self) -> None:
        self.loudness_menu().exec(self._loudness.mapToGlobal(QPoint(0, 0)))

    def loudness_menu(self) -> QMenu:
        """What loudness can be chosen."""
        menu, studio = QMenu(self), self._studio
        f = studio.breakdown.format
        for lufs, use in LOUDNESSES.items():
            change = partial(set_loudness, lufs=lufs)
            edit = partial(studio.edit, "change the loudness", change)
            choice(menu, f"{lufs} LUFS, {use}".replace("-", "−"), edit, checked=f.loudness == lufs)
        return menu

    def describe(self) -> None:
        """What stands under the video, over the window."""
        if self.described is None:
            self.described = DescriptionSheet(self.window() or self, self._studio, self._described)

    def _described(self) -> None:
        self.described = None
        self.setFocus()

    def _toggle_strip(self) -> None:
        shown = not self._studio.breakdown.control_strip
        what = "show the control strip" if shown else "leave the control strip out"
        self._studio.edit(what, lambda b: set_shown(b, control_strip=shown))

    # ── rendering ────────────────────────────────────────────────────────────────────────────────────────
    def start_render(self) -> None:
        """Render what the document says now, in the background. What must not be replaced is refused before, and what
        may be is asked about."""
        if self.job is not None:
            return
        studio, target, b = self._studio, self.target, self._studio.breakdown
        project, known = studio.session.path, studio.known
        replacing = self._may_write(target)
        if replacing is None:
            return
        self._there_before = replacing

        def work(progress: Callable[[float], None], stopped: Callable[[], bool]) -> tuple[Path, ...]:
            production = produce(b, studio.compiling.guide, known, project=project, cancelled=stopped)
            return render_production(
                production, project, target, replacing=replacing, progress=progress, cancelled=stopped
            )

        job = Job("Render", work)
        job.progressed.connect(self._progress)
        job.failed.connect(self._failed)
        job.stopped.connect(self._stopped)
        self.job = job
        self.render_button.setEnabled(False)
        self.render_button.setText("Rendering…")
        self._stop.show()
        self.result.setText("")
        studio.workers.run_asked(job.then(self._finished))

    def stop(self) -> None:
        """Stop the render."""
        if self.job is not None:
            self.job.stop()

    def _asked_to_stop(self) -> None:
        if self.job is not None and ask(self, "Stop the render?", ("Stop it", "Go on")) == 0:
            self.stop()

    def _may_write(self, target: Path) -> bool | None:
        """Whether files are replaced; None when nothing may be written there, or it was not agreed to."""
        gate = OutputGate(self._studio.breakdown, self._studio.session.path)
        try:
            gate.check(*places_of(target))
        except AlreadyThere as there:
            # One of the others may be footage all the same.
            try:
                OutputGate(self._studio.breakdown, self._studio.session.path, replacing=True).check(*places_of(target))
            except ChaptoError as error:
                self._refused(str(error))
                return None
            names = ", ".join(p.name for p in there.places)
            answer = ask(self, f"In {target.parent} there is already: {names}.", ("Replace", "Leave as it is"))
            return True if answer == 0 else None
        except ChaptoError as error:
            self._refused(str(error))
            return None
        return False

    def _progress(self, share: float) -> None:
        self.render_button.setText(f"Rendering… {share:.0%}")

    def _stopped(self) -> None:
        kept = "the files that were there are as they were" if self._there_before else "nothing was written"
        self._ended(f"Stopped; {kept}.")

    def _finished(self, files: tuple[Path, ...]) -> None:
        self.made = files
        names = ", ".join(f.name for f in files[1:])
        self._ended(f"Made {files[0].name}, with {names} beside it. Press to open the folder.")

    def _failed(self, sentence: str) -> None:
        self._ended(sentence)

    def _refused(self, sentence: str) -> None:
        self._ended(sentence)
        self._studio.message.emit(sentence)

    def _ended(self, sentence: str) -> None:
        self.job = None
        self.render_button.setEnabled(True)
        self.render_button.setText("Render")
        self._stop.hide()
        self.result.setText(sentence)
        self._show_target()

    def _show_result(self) -> None:
        if self.made:
            QDesktopServices.openUrl(QUrl.fromLocalFile(str(self.made[0].parent)))

    # ── where to ─────────────────────────────────────────────────────────────────────────────────────────
    @property
    def target(self) -> Path:
        """Where the video goes: as chosen, else beside the breakdown under a name that is free."""
        return self._chosen or default_video(self._studio.session.path)

    @target.setter
    def target(self, chosen: Path) -> None:
        self._chosen = chosen
        self._show_target()

    def _choose_target(self) -> None:
        kinds = "MP4, H.264 and AAC (*.mp4);;WebM, VP9 and Opus (*.webm)"
        # What is there already is asked about once, when the render begins.
        choosing = Choosing(self, self._studio.preferences, "video made")
        chosen, kind = choosing.new_file("Where to put the video", self.target, kinds)
        if chosen is not None:
            self.target = chosen if chosen.suffix else chosen.with_suffix(".webm" if "webm" in kind else ".mp4")

    def _show_target(self) -> None:
        if self.job is None and (self.isVisible() or not self._where.text()):
            f, target = self._studio.breakdown.format, self.target
            self._loudness.setText(f"{f.loudness} LUFS".replace("-", "−"))
            self._where.setText(target.name)
            self._folder.say(f"in {target.parent}")
            self._size.setText(f"{f.width}×{f.height}, {float(f.fps):g} pictures a second")

    # ── following the programme ──────────────────────────────────────────────────────────────────────────
    def showEvent(self, event: QShowEvent | None) -> None:
        """What was compiled meanwhile is shown now."""
        super().showEvent(event)
        self._show_target()
        if self._shown is not self._studio.programme:
            self._follow()

    def _follow(self) -> None:
        if not self.isVisible() and self._shown is not None:
            return
        self._shown = self._studio.programme
        self._strip.setChecked(self._studio.breakdown.control_strip)
        p = self._studio.programme
        self.chapters.show_lines(
            tuple(
                TimedLine(chapter.start / p.fps, chapter.title, f"{float((end - chapter.start) / p.fps):.0f} s")
                for chapter, end in p.chapter_spans()
            )
        )
        self.chapters.setFixedHeight(self.chapters.row_height * min(max(len(p.chapters), 1), MOST_CHAPTERS) + 2)
        problems = (*chapter_problems(p), *placeholders(self._studio.breakdown)) if p.frames else ()
        self._problems.setText("\n".join(problems))
        self._problems.setVisible(bool(problems))
        self._caption_head.setText(f"Captions, {len(p.captions)}")
        self.captions.show_lines(tuple(TimedLine(c.start, c.text) for c in p.captions))

    def _go(self, at: Fraction) -> None:
        self._player.show_frame(frames_from_seconds(at, self._studio.programme.fps))
