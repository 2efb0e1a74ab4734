"""The Publish stage."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path

from PyQt6.QtCore import Qt, QUrl
from PyQt6.QtGui import QDesktopServices, QShowEvent
from PyQt6.QtWidgets import QFileDialog, QHBoxLayout, QScrollArea, QSplitter, QVBoxLayout, QWidget

from chapto.app.jobs import Job
from chapto.app.publish.ribbon import Ribbon
from chapto.app.screen.player import Player
from chapto.app.studio import Studio
from chapto.app.widgets import Pressable, button, ground, label
from chapto.clock.timecode import clock_text
from chapto.document.edit_breakdown import set_shown
from chapto.programme.programme import Programme
from chapto.publish.chapter_list import chapter_problems
from chapto.render.production import produce, render_production

KEYS = (("Ctrl+R", "render"), ("Esc", "stop the render"))
CARE = (
    "Before you publish: ask everyone who can be seen, a guardian for anyone under age, and follow the platform's "
    "rules and your country's law. Where a hold is shown, say that it is practised under a qualified coach."
)


class PublishPage(QWidget):
    """The programme on dark, its chapters and captions on paper, one button to make the file."""

    def __init__(self, studio: Studio, player: Player, screen: QWidget) -> None:
        super().__init__()
        self._studio, self._player = studio, player
        self.job: Job | None = None
        self.made: tuple[Path, ...] = ()
        self.target = self._default_target()
        side = ground(QWidget(), "paper")
        column = QVBoxLayout(side)
        column.setContentsMargins(20, 16, 18, 14)
        column.setSpacing(6)
        column.addWidget(label("Chapters", size="head"))
        self._chapters = QVBoxLayout()
        self._chapters.setSpacing(0)
        holder = QWidget()
        holder.setLayout(self._chapters)
        column.addWidget(holder)
        self._problems = label("", soft=True, wrap=True)
        column.addWidget(self._problems)
        column.addSpacing(8)
        self._caption_head = label("", size="head")
        column.addWidget(self._caption_head)
        area = QScrollArea()
        area.setWidgetResizable(True)
        inner = ground(QWidget(), "paper")
        self._captions = QVBoxLayout(inner)
        self._captions.setContentsMargins(0, 0, 6, 0)
        self._captions.setSpacing(5)
        area.setWidget(inner)
        column.addWidget(area, 1)
        column.addWidget(label(CARE, soft=True, wrap=True))
        column.addSpacing(6)
        column.addLayout(self._foot())
        left = QWidget()
        stack = QVBoxLayout(left)
        stack.setContentsMargins(0, 0, 0, 0)
        stack.setSpacing(0)
        stack.addWidget(screen, 1)
        self.ribbon = Ribbon(studio, player)
        stack.addWidget(self.ribbon)
        split = QSplitter(Qt.Orientation.Horizontal)
        split.setHandleWidth(3)
        split.addWidget(left)
        split.addWidget(side)
        split.setSizes([760, 430])
        split.setStretchFactor(0, 1)
        split.setChildrenCollapsible(False)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.addWidget(split)
        self._shown: Programme | None = None
        studio.compiled.connect(self._follow)
        self._follow()

    def _foot(self) -> QVBoxLayout:
        foot = QVBoxLayout()
        foot.setSpacing(6)
        where = QHBoxLayout()
        self._where = label("", wrap=True)
        where.addWidget(self._where, 1)
        self._strip = button("Control strip", self._toggle_strip, tip="Paint who controls into the picture")
        self._strip.setCheckable(True)
        where.addWidget(self._strip)
        where.addWidget(button("Elsewhere…", self._choose_target, tip="Choose folder, name and kind of file"))
        foot.addLayout(where)
        acts = QHBoxLayout()
        self._render = button(
            "Render", self.start_render, tip="Make the video", key="Ctrl+R", sign="publish", kind="main"
        )
        self._render.setMinimumHeight(38)
        self._stop = button("Stop", self.stop, tip="Stop the render; nothing is left behind", key="Esc", sign="cross")
        acts.addWidget(self._render, 1)
        acts.addWidget(self._stop)
        foot.addLayout(acts)
        self._result = Pressable(self._show_result)
        self._result.setWordWrap(True)
        foot.addWidget(self._result)
        self._show_target()
        self._stop.hide()
        return foot

    def _toggle_strip(self) -> None:
        shown = not self._studio.breakdown.control_strip
        what = "show the control strip" if shown else "leave the control strip out"
        self._studio.edit(what, lambda b: set_shown(b, control_strip=shown))

    # ── rendering ────────────────────────────────────────────────────────────────────────────────────────
    def start_render(self) -> None:
        """Render what the document says now, in the background."""
        if self.job is not None:
            return
        studio, target, b = self._studio, self.target, self._studio.breakdown
        project = studio.session.path

        def work(progress: Callable[[float], None], stopped: Callable[[], bool]) -> object:
            production = produce(b, studio.guide, studio.lexicon)
            return render_production(production, project, target, progress=progress, cancelled=stopped)

        job = Job("Render", work)
        job.progressed.connect(self._progress)
        job.finished.connect(self._finished)
        job.failed.connect(self._failed)
        job.stopped.connect(lambda: self._ended("Stopped; no file was left behind."))
        self.job = job
        self._render.setEnabled(False)
        self._render.setText("Rendering…")
        self._stop.show()
        self._result.setText("")
        studio.run(job)

    def stop(self) -> None:
        """Stop the render."""
        if self.job is not None:
            self.job.stop()

    def _progress(self, share: float) -> None:
        self._render.setText(f"Rendering… {share:.0%}")
        self._studio.work_changed.emit("Render", min(share, 0.999))

    def _finished(self, files: object) -> None:
        assert isinstance(files, tuple)
        self.made = files
        names = ", ".join(f.name for f in files[1:])
        self._ended(f"Made {files[0].name}, with {names} beside it. Press to open the folder.")

    def _failed(self, sentence: str) -> None:
        self._ended(sentence)
        self._studio.said.emit(sentence)

    def _ended(self, sentence: str) -> None:
        self.job = None
        self._render.setEnabled(True)
        self._render.setText("Render")
        self._stop.hide()
        self._result.setText(sentence)
        self._studio.work_changed.emit("Render", 1.0)

    def _show_result(self) -> None:
        if self.made:
            QDesktopServices.openUrl(QUrl.fromLocalFile(str(self.made[0].parent)))

    # ── where to ─────────────────────────────────────────────────────────────────────────────────────────
    def _default_target(self) -> Path:
        path = self._studio.session.path
        return path.with_suffix(".mp4") if path else Path.home() / "breakdown.mp4"

    def _choose_target(self) -> None:
        kinds = "MP4, H.264 and AAC (*.mp4);;WebM, VP9 and Opus (*.webm)"
        name, kind = QFileDialog.getSaveFileName(self, "Where to put the video", str(self.target), kinds)
        if name:
            chosen = Path(name)
            self.target = chosen if chosen.suffix else chosen.with_suffix(".webm" if "webm" in kind else ".mp4")
            self._show_target()

    def _show_target(self) -> None:
        f = self._studio.breakdown.format
        self._where.setText(
            f"{self.target.name} in {self.target.parent}, {f.width}×{f.height}, {float(f.fps):g} pictures a second"
        )

    # ── following the programme ──────────────────────────────────────────────────────────────────────────
    def showEvent(self, event: QShowEvent | None) -> None:
        """What was compiled meanwhile is shown now."""
        super().showEvent(event)
        if self._shown is not self._studio.programme:
            self._follow()

    def _follow(self) -> None:
        if not self.isVisible() and self._shown is not None:
            return
        self._shown = self._studio.programme
        self._strip.setChecked(self._studio.breakdown.control_strip)
        p = self._studio.programme
        _clear(self._chapters)
        for chapter, end in p.chapter_spans():
            row = QWidget()
            line = QHBoxLayout(row)
            line.setContentsMargins(0, 1, 0, 1)
            time = label(clock_text(chapter.start / p.fps), size="time", soft=True)
            time.setFixedWidth(46)
            line.addWidget(time)
            title = Pressable(partial(self._player.show_frame, chapter.start))
            title.setText(chapter.title)
            line.addWidget(title, 1)
            line.addWidget(label(f"{float((end - chapter.start) / p.fps):.0f} s", size="time", soft=True))
            self._chapters.addWidget(row)
        self._problems.setText("\n".join(chapter_problems(p)))
        self._problems.setVisible(bool(chapter_problems(p)))
        self._caption_head.setText(f"Captions, {len(p.captions)}")
        _clear(self._captions)
        for caption in p.captions:
            row = QWidget()
            line = QHBoxLayout(row)
            line.setContentsMargins(0, 0, 0, 0)
            time = label(clock_text(caption.start), size="time", soft=True)
            time.setFixedWidth(46)
            line.addWidget(time, alignment=Qt.AlignmentFlag.AlignTop)
            line.addWidget(label(caption.text), 1)
            self._captions.addWidget(row)
        self._captions.addStretch(1)


def _clear(layout: QVBoxLayout) -> None:
    while item := layout.takeAt(0):
        widget = item.widget()
        if widget is not None:
            widget.hide()
            widget.deleteLater()
