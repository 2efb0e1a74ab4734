"""The window: stages on the left, clocks above, the next step below."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PyQt6.QtCore import QTimer, pyqtSignal
from PyQt6.QtGui import QCloseEvent, QDragEnterEvent, QDragLeaveEvent, QDropEvent, QKeySequence, QShortcut
from PyQt6.QtWidgets import QStackedWidget, QWidget

from chapto.app import layouts
from chapto.app.ask import ask
from chapto.app.footage_analysis import FootageAnalysis
from chapto.app.frame.drop_hint import DropHint
from chapto.app.frame.header_bar import HeaderBar
from chapto.app.frame.keys import KeysPage
from chapto.app.frame.rail import StageRail
from chapto.app.frame.settings_page import SettingsPage
from chapto.app.frame.status_bar import StatusBar
from chapto.app.frame.title_menu import TitleMenu
from chapto.app.frame.window_files import WindowFiles
from chapto.app.frame.window_keys import WindowKeys
from chapto.app.screen.alone import Alone
from chapto.app.screen.feed import PictureFeed
from chapto.app.screen.player import Player
from chapto.app.screen.screen import Screen
from chapto.app.screen.transport import Transport
from chapto.app.stage import StageContext, StageView
from chapto.app.stages import STAGES, START
from chapto.app.studio import Studio
from chapto.app.time_noting import TimeNoting
from chapto.review.next_step import next_step
from chapto.review.open_work import open_counts
from chapto.review.work import NextStep, Situation, Stage
from chapto.store.session import PROJECT_ENDING
from chapto.voice.speaker import Speaker

BEGIN_AFTER, BEGIN_WITHIN = 10, 500
"""Milliseconds after which background work begins: after the first picture; should there be none."""


class Window(QWidget):
    """One open breakdown. `open_other` is asked to open another file (a new one for None), `quit_all` to close every
    window; `analyse` has the footage looked into. `closing` comes before it closes, `closed` when it has, and `entered`
    carries the page of each stage once."""

    closing = pyqtSignal()
    closed = pyqtSignal()
    entered = pyqtSignal(object)

    def __init__(
        self,
        studio: Studio,
        *,
        speaker: Speaker | None = None,
        open_other: Callable[[Path | None], object] | None = None,
        quit_all: Callable[[], object] | None = None,
        analyse: bool = True,
    ) -> None:
        super().__init__()
        self.studio = studio
        self._files = studio.files
        self.player = Player(studio, speaker=speaker)
        self.feed = PictureFeed(self._files.pictures)
        self.facts = FootageAnalysis(studio, analyse=analyse)
        self.setAcceptDrops(True)
        self.resize(1280, 800)
        self.setMinimumSize(1100, 700)
        self.foot = StatusBar(self._take_step, studio.workers)
        self.files = WindowFiles(self, studio, self.foot.say, open_other)
        context = StageContext(
            studio, self.player, self.facts, self._screen, self.go, self._take_step, self.files.open,
            self.feed,
        )  # fmt: skip
        self.stages: dict[Stage, StageView] = {}
        self._stack = QStackedWidget()
        for make in STAGES:
            view = make(context)
            self.stages[view.stage] = view
        self.stage = next(iter(self.stages))
        self._entered: dict[Stage, StageView] = {}
        self._alone: Alone | None = None
        self.rail = StageRail(self.go)
        self._quit = quit_all or self.close
        menu = TitleMenu(studio, self.files, close=self.close, quit_all=self._quit, settings=self.show_settings)
        self.top = HeaderBar(studio, self.player, menu)
        self.drop_hint = DropHint(self)
        self._lay_out()
        self._shortcuts()
        self._times = TimeNoting(self, studio, lambda: self.stage, lambda: self.player.playing)
        self._keys = WindowKeys(self, self.player, self._times.acted)
        self.feed.failed.connect(studio.message)
        studio.message.connect(self.foot.say)
        studio.touched.connect(self._go_to_touched)
        studio.changed.connect(self._follow)
        studio.compiled.connect(self._follow)
        reviewing = studio.reviewing
        reviewing.reviewed.connect(self._follow)
        self.facts.changed.connect(self._follow)
        self._files.moved.connect(lambda: self.feed.use(self._files.pictures))
        self.go(START if studio.breakdown.footage else self.stage)
        if studio.session.offered is not None:
            QTimer.singleShot(0, self.files.offer_kept_edits)
        if greeting := self.files.greeting():
            self.foot.say(greeting)
        self.feed.arrived.connect(self._begin_soon)
        self._has_picture = False
        self._begin = QTimer(self)
        self._begin.setSingleShot(True)
        self._begin.timeout.connect(studio.begin)
        self._begin.start(BEGIN_WITHIN if studio.files.present else 0)

    def _lay_out(self) -> None:
        outer = layouts.row(self, self.rail, spacing=0)
        column = layouts.column(None, self.top, spacing=0)
        column.addWidget(self._stack, 1)
        column.addWidget(self.foot)
        outer.addLayout(column, 1)

    def _screen(self) -> QWidget:
        """Picture and transport, alike in every stage."""
        holder = QWidget()
        column = layouts.column(holder, spacing=0)
        column.addWidget(Screen(self.studio, self.player, self.feed), 1)
        column.addWidget(Transport(self.studio, self.player, self.picture_alone))
        return holder

    @property
    def entered_stages(self) -> tuple[StageView, ...]:
        """The stages whose pages are built."""
        return tuple(self._entered.values())

    def _begin_soon(self) -> None:
        """The first picture is there: background work may begin once it is painted."""
        if not self._has_picture:
            self._has_picture = True
            self._begin.start(BEGIN_AFTER)

    # ── stages ───────────────────────────────────────────────────────────────────────────────────────────
    def go(self, stage: Stage) -> None:
        """Show a stage; the playhead stays where it is."""
        if self.stage in self._entered:
            self.stages[self.stage].leave()
        self.stage, view = stage, self.stages[stage]
        is_new = stage not in self._entered
        if is_new:
            self._entered[stage] = view
            self._stack.addWidget(view.page)
        self.player.loop = None
        self._stack.setCurrentWidget(view.page)
        view.enter()
        view.page.setFocus()
        if is_new:
            self.entered.emit(view.page)
        self._follow()

    def _take_step(self, step: NextStep) -> None:
        self.go(step.stage)
        self.stages[step.stage].take(step)

    def _go_to_touched(self, where: NextStep) -> None:
        """Show what undo has changed: here where this stage shows it, else in its own."""
        beats_here = where.beat and self.stage in (Stage.VOICE, Stage.MARK)
        if where.stage is not self.stage and not beats_here:
            self.go(where.stage)
        self.stages[self.stage].take(where)

    def _follow(self) -> None:
        studio = self.studio
        self.setWindowTitle(f"{studio.breakdown.title} · Chapto")
        if not studio.compiling.has_compiled:
            self.rail.show_state(self.stage, {})
            return
        undecided = sum(view.waiting() for view in self.stages.values())
        now = Situation(
            studio.breakdown, studio.programme, self._files.missing, undecided,
            clocked=bool(self.facts.placements), recorders=self.facts.recorders(), found=studio.reviewing.open,
        )  # fmt: skip
        self.rail.show_state(self.stage, open_counts(now))
        self.foot.next_is(next_step(now))

    def is_settled(self) -> bool:
        """Whether every picture in view has arrived."""
        screens = [s for s in self.findChildren(Screen) if s.isVisible()]
        return self.stages[self.stage].is_settled() and all(s.is_settled() for s in screens)

    # ── keys ─────────────────────────────────────────────────────────────────────────────────────────────
    def _shortcuts(self) -> None:
        for number, stage in enumerate(self.stages, 1):
            QShortcut(QKeySequence(f"Ctrl+{number}"), self, lambda s=stage: self.go(s))
        for keys, act in (
            ("Ctrl+Space", self.player.toggle),
            ("Ctrl+S", self.files.save),
            ("Ctrl+Shift+S", self.files.save_as),
            ("Ctrl+O", self.files.open_dialog),
            ("Ctrl+N", lambda: self.files.open(None)),
            ("Ctrl+W", self.close),
            ("Ctrl+Q", self._quit),
            ("Ctrl+,", self.show_settings),
            ("F1", self.show_keys),
            ("F2", self.foot.show_messages),
            ("F11", self.picture_alone),
            *(shortcut for view in self.stages.values() for shortcut in view.shortcuts()),
        ):
            QShortcut(QKeySequence(keys), self, act)

    @property
    def is_untouched(self) -> bool:
        """Whether it is a new breakdown that nothing was done with."""
        session = self.studio.session
        return session.path is None and session.is_saved and not session.would_undo

    def picture_alone(self) -> None:
        """The picture on the whole screen, or the window again."""
        if self._alone is not None:
            self._alone.leave()
            return
        focus = self.focusWidget()

        def left() -> None:
            self._alone = None
            (focus or self.stages[self.stage].page).setFocus()

        self._alone = Alone(self, self._screen(), left)

    def show_settings(self) -> None:
        """What is set for all breakdowns, over the window."""
        SettingsPage(self, self.studio.preferences, self.show_keys)

    def show_keys(self) -> None:
        """The keys of this stage over the window."""
        KeysPage(self, self.stage.value, self.stages[self.stage].keys)

    # ── files ────────────────────────────────────────────────────────────────────────────────────────────
    def dragEnterEvent(self, event: QDragEnterEvent | None) -> None:
        """Files may be dropped."""
        assert event is not None
        paths = _dropped(event)
        if paths:
            event.acceptProposedAction()
            self.drop_hint.show_where(*self._landing(paths))

    def dragLeaveEvent(self, event: QDragLeaveEvent | None) -> None:
        """They go elsewhere."""
        self.drop_hint.hide()

    def _landing(self, paths: list[Path]) -> tuple[str, str]:
        """What becomes of files, and the sign of the stage that takes them."""
        project = next((p for p in paths if p.suffix == PROJECT_ENDING), None)
        if project is not None:
            return f"“{project.stem}” is opened in a window of its own.", "sheets"
        taking = ((view.welcome(paths), view.stage) for view in self._takers())
        said, stage = next(((said, stage) for said, stage in taking if said), ("", Stage.FOOTAGE))
        return said, stage.value.lower()

    def _takers(self) -> list[StageView]:
        """The stages in the order in which they are offered files: the one that is open comes first."""
        here = self.stages[self.stage]
        return [here, *(view for view in self.stages.values() if view is not here)]

    def dropEvent(self, event: QDropEvent | None) -> None:
        """A breakdown is opened; of the stages the first that takes the files has them."""
        assert event is not None
        paths = _dropped(event)
        self.drop_hint.hide()
        projects = [p for p in paths if p.suffix == PROJECT_ENDING]
        if projects:
            self.files.open(projects[0])
        else:
            view = next((v for v in self._takers() if v.welcome(paths)), self.stages[Stage.FOOTAGE])
            self.go(view.stage)
            view.take_files(paths)

    def closeEvent(self, event: QCloseEvent | None) -> None:
        """Save, and end all work. Where the last edits can't be kept anywhere, the window stays unless told not to."""
        assert event is not None
        busy = [said for view in self._entered.values() if (said := view.busy())]
        if busy and ask(self, f"{' '.join(busy)} Close all the same?", ("Stop it and close", "Go on")) != 0:
            event.ignore()
            return
        if not self.files.may_close():
            event.ignore()
            return
        self.closing.emit()
        self._begin.stop()
        self._keys.end()
        self._times.close()
        self.player.close()
        for view in self._entered.values():
            view.close()
        self.feed.close()
        self.studio.close()
        super().closeEvent(event)
        self.closed.emit()


def _dropped(event: QDropEvent) -> list[Path]:
    data = event.mimeData()
    return [Path(u.toLocalFile()) for u in data.urls()] if data is not None and data.hasUrls() else []
