"""The window: stages on the left, clocks above, the next step below."""

from __future__ import annotations

import html
from collections.abc import Callable
from datetime import datetime
from fractions import Fraction
from pathlib import Path

from PyQt6.QtCore import QEvent, QObject, Qt, QTimer
from PyQt6.QtGui import QCloseEvent, QDragEnterEvent, QDropEvent, QHelpEvent, QKeyEvent, QKeySequence, QShortcut
from PyQt6.QtWidgets import (
    QApplication,
    QFileDialog,
    QHBoxLayout,
    QLineEdit,
    QPlainTextEdit,
    QStackedWidget,
    QToolTip,
    QVBoxLayout,
    QWidget,
)

from chapto.app.ask import ask
from chapto.app.footage import page as footage_page
from chapto.app.footage.desk import FootageDesk
from chapto.app.frame.foot import Foot
from chapto.app.frame.keys import KeysPage
from chapto.app.frame.next_step import NextStep, Stage, next_step, open_counts
from chapto.app.frame.off import OffPage
from chapto.app.frame.rail import StageRail
from chapto.app.frame.top import TopBar
from chapto.app.log import page as log_page
from chapto.app.playhead import View
from chapto.app.publish import page as publish_page
from chapto.app.screen.feed import PictureFeed
from chapto.app.screen.player import Player
from chapto.app.screen.screen import Screen
from chapto.app.screen.transport import Transport
from chapto.app.studio import Studio
from chapto.app.write import page as write_page
from chapto.errors import ChaptoError
from chapto.voice.speaker import Speaker

WORKING = {Stage.FOOTAGE, Stage.LOG, Stage.WRITE, Stage.PUBLISH}
KEYS = {
    Stage.FOOTAGE: footage_page.KEYS,
    Stage.LOG: log_page.KEYS,
    Stage.WRITE: write_page.KEYS,
    Stage.PUBLISH: publish_page.KEYS,
}


def _plain_tip(widget: QWidget, event: QHelpEvent) -> bool:
    """Show a tooltip that Qt would take for HTML, since it holds a name with brackets, as the plain text it is."""
    text = widget.toolTip()
    if "<" not in text:
        return False
    QToolTip.showText(event.globalPos(), f"<span>{html.escape(text)}</span>", widget)
    return True


class Window(QWidget):
    """One open breakdown. `open_other` is asked to open another file; `analyse` has the footage looked into."""

    def __init__(
        self,
        studio: Studio,
        *,
        speaker: Speaker | None = None,
        open_other: Callable[[Path], object] | None = None,
        analyse: bool = True,
    ) -> None:
        super().__init__()
        self.studio = studio
        self._open_other = open_other
        self.player = Player(studio, speaker=speaker)
        self.feed = PictureFeed(studio.pictures)
        self.feed.failed.connect(studio.said)
        self.setWindowTitle(f"{studio.breakdown.title} · Chapto")
        self.setAcceptDrops(True)
        self.resize(1280, 800)
        self.setMinimumSize(1100, 700)
        self.stage = Stage.WRITE
        self._pages: dict[Stage, QWidget] = {}
        self.desk = FootageDesk(studio, analyse=analyse)
        self.footage_page = footage_page.FootagePage(studio, self.player, self.desk, self._screen(), self.bring_in)
        self.log_page = log_page.LogPage(studio, self.player, self._screen(), self.desk.liveliness)
        self.write_page = write_page.WritePage(studio, self.player, self._screen(), self.desk.busiest)
        self.publish_page = publish_page.PublishPage(studio, self.player, self._screen())
        pages = {Stage.FOOTAGE: self.footage_page, Stage.LOG: self.log_page, Stage.WRITE: self.write_page,
                 Stage.PUBLISH: self.publish_page}  # fmt: skip
        self._stack = QStackedWidget()
        for stage in Stage:
            self._pages[stage] = pages.get(stage) or OffPage(stage)
            self._stack.addWidget(self._pages[stage])
        self.rail = StageRail(WORKING, self.go)
        self.top = TopBar(studio, self.player, save=self.save, save_as=self.save_as)
        self.foot = Foot(self._take_step, studio.stop_work)
        outer = QHBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.setSpacing(0)
        outer.addWidget(self.rail)
        column = QVBoxLayout()
        column.setSpacing(0)
        column.addWidget(self.top)
        column.addWidget(self._stack, 1)
        column.addWidget(self.foot)
        outer.addLayout(column, 1)
        self._shortcuts()
        studio.said.connect(self.foot.say)
        studio.work_changed.connect(self.foot.work)
        studio.changed.connect(self._follow)
        studio.compiled.connect(self._follow)
        self.desk.changed.connect(self._follow)
        studio.media_moved.connect(lambda: self.feed.use(studio.pictures))
        app = QApplication.instance()
        assert app is not None
        app.installEventFilter(self)
        self.go(Stage.WRITE if studio.breakdown.footage else Stage.FOOTAGE)
        session = studio.session
        if session.offered is not None:
            QTimer.singleShot(0, self._offer_kept_edits)
        if session.read_only:
            self.foot.say(f"This breakdown is being edited elsewhere ({session.read_only}); here it can be looked at.")
        elif session.recovered:
            self.foot.say("Edits from before the last end were kept and are here again; undo takes them back.")
        elif studio.missing:
            self.foot.say(studio.missing[0])

    def _screen(self) -> QWidget:
        """Picture and transport, alike in every stage."""
        holder = QWidget()
        column = QVBoxLayout(holder)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(Screen(self.studio, self.player, self.feed), 1)
        column.addWidget(Transport(self.player, lambda: self.studio.programme.seconds))
        return holder

    # ── stages ───────────────────────────────────────────────────────────────────────────────────────────
    def go(self, stage: Stage) -> None:
        """Show a stage; the playhead stays where it is."""
        self.stage = stage
        self.player.loop = None
        self._stack.setCurrentWidget(self._pages[stage])
        if stage in (Stage.LOG, Stage.FOOTAGE):
            self.player.switch(View.MAT)
        elif stage is Stage.PUBLISH:
            self.player.switch(View.WATCH)
        self.player.look_through(self.footage_page.chart.chosen_file if stage is Stage.FOOTAGE else "")
        self._pages[stage].setFocus()
        self._follow()

    def _take_step(self, step: NextStep) -> None:
        self.go(step.stage)
        if step.stage is Stage.FOOTAGE and not self.studio.breakdown.footage:
            self.bring_in()
        if step.footage:
            self.footage_page.chart.choose_file(step.footage)
        if step.beat:
            self.write_page.script.choose(step.beat, step.word)
            self.write_page.go_to_word()

    def _follow(self) -> None:
        b, p, missing = self.studio.breakdown, self.studio.programme, self.studio.missing
        self.setWindowTitle(f"{b.title} · Chapto")
        undecided = len(self.footage_page.chart.model.open_stretches)
        self.rail.show_state(self.stage, open_counts(b, p, missing, undecided=undecided))
        self.foot.next_is(next_step(b, p, missing, undecided=undecided))

    def is_settled(self) -> bool:
        """Whether every picture in view has arrived."""
        screens = [s for s in self.findChildren(Screen) if s.isVisible()]
        looked_at = self.stage is not Stage.LOG or self.log_page.is_settled()
        looked_into = self.stage is not Stage.FOOTAGE or self.footage_page.is_settled()
        written = self.stage is not Stage.WRITE or self.write_page.sight.film.is_settled()
        return looked_at and looked_into and written and all(s.is_settled() for s in screens)

    # ── keys ─────────────────────────────────────────────────────────────────────────────────────────────
    def _shortcuts(self) -> None:
        for number, stage in enumerate(Stage, 1):
            QShortcut(QKeySequence(f"Ctrl+{number}"), self, lambda s=stage: self.go(s))
        for keys, act in (
            ("Ctrl+Space", self.player.toggle),
            ("Ctrl+S", self.save),
            ("Ctrl+Shift+S", self.save_as),
            ("Ctrl+O", self.open_dialog),
            ("Ctrl+I", self.bring_in),
            ("Ctrl+R", self._render),
            ("F1", self.show_keys),
        ):
            QShortcut(QKeySequence(keys), self, act)

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """Keys that work everywhere but where words are being written."""
        # Asked of every event there is: telling the class is quicker than asking Qt for the type.
        if isinstance(event, QHelpEvent) and event.type() == QEvent.Type.ToolTip and isinstance(watched, QWidget):
            return _plain_tip(watched, event)
        if not isinstance(event, QKeyEvent) or event.type() != QEvent.Type.KeyPress or not self.isActiveWindow():
            return False
        focus = QApplication.focusWidget()
        if isinstance(focus, (QLineEdit, QPlainTextEdit, KeysPage)) or focus is None or focus.window() is not self:
            return False
        if focus.property("ownKeys"):
            return False
        shift = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
        if event.modifiers() & (Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.AltModifier):
            return False
        acts: dict[int, Callable[[], object]] = {
            Qt.Key.Key_Space: self.player.toggle,
            Qt.Key.Key_Left: lambda: self.player.jump(Fraction(-1)) if shift else self.player.step(-1),
            Qt.Key.Key_Right: lambda: self.player.jump(Fraction(1)) if shift else self.player.step(1),
            Qt.Key.Key_B: lambda: self.player.jump(Fraction(-5)),
            Qt.Key.Key_V: self._other_view,
        }
        act = acts.get(event.key())
        if act is None or (event.isAutoRepeat() and event.key() == Qt.Key.Key_Space):
            return False
        act()
        return True

    def _render(self) -> None:
        self.go(Stage.PUBLISH)
        self.publish_page.start_render()

    def _other_view(self) -> None:
        self.player.switch(View.MAT if self.player.head.view is View.WATCH else View.WATCH)

    def show_keys(self) -> None:
        """The keys of this stage over the window."""
        KeysPage(self, self.stage.value, KEYS.get(self.stage, ()))

    # ── files ────────────────────────────────────────────────────────────────────────────────────────────
    def save(self) -> None:
        """Save; asks for a place the first time, and where others edit the file."""
        session = self.studio.session
        if session.path is None or session.read_only:
            self.save_as()
            return
        try:
            if said := session.save():
                self.foot.say(said)
        except ChaptoError as error:
            self.foot.say(str(error))

    def save_as(self) -> None:
        """Save under another name and go on there. Another breakdown is never written over."""
        session = self.studio.session
        offered = session.path or Path(f"{self.studio.breakdown.title.replace('/', ' ')}.chapto")
        name, _ = QFileDialog.getSaveFileName(
            self, "Save the breakdown", str(offered), "Chapto breakdown (*.chapto)",
            options=QFileDialog.Option.DontConfirmOverwrite,
        )  # fmt: skip
        if not name:
            return
        path = Path(name) if name.endswith(".chapto") else Path(name + ".chapto")
        try:
            session.save(path)
            self.foot.say(f"Saved as {session.path}.")
        except ChaptoError as error:
            self.foot.say(str(error))

    def _offer_kept_edits(self) -> None:
        session = self.studio.session
        if session.offered is None:
            return
        at = datetime.fromtimestamp(session.offered.at)
        question = (
            f"Edits from {at:%d %B, %H:%M} were kept when Chapto ended, but they were made on another state of this "
            "file than the one that is here now. Look at them? Undo goes back to the file."
        )
        if ask(self, question, ("Look at them", "Leave them among the earlier states")) == 0:
            session.take_offered()
        else:
            session.set_offered_aside()

    def open_dialog(self) -> None:
        """Open another breakdown."""
        name, _ = QFileDialog.getOpenFileName(self, "Open a breakdown", "", "Chapto breakdown (*.chapto)")
        if name and self._open_other is not None:
            self._open_other(Path(name))

    def bring_in(self) -> None:
        """Choose videos to bring in."""
        names, _ = QFileDialog.getOpenFileNames(
            self,
            "Bring in videos",
            "",
            "Videos (*.mp4 *.mov *.mkv *.webm *.avi *.mts *.m2ts *.ts *.mpg *.mpeg);;All (*)",
        )
        self.add_videos([Path(n) for n in names])

    def add_videos(self, videos: list[Path]) -> None:
        """Bring in each file that is a video; the others are named in a sentence each."""
        self.desk.bring_in(videos)

    def dragEnterEvent(self, event: QDragEnterEvent | None) -> None:
        """Files may be dropped."""
        assert event is not None
        data = event.mimeData()
        if data is not None and data.hasUrls():
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent | None) -> None:
        """A breakdown is opened, videos are brought in."""
        assert event is not None
        data = event.mimeData()
        paths = [Path(u.toLocalFile()) for u in data.urls()] if data is not None else []
        projects = [p for p in paths if p.suffix == ".chapto"]
        if projects and self._open_other is not None:
            self._open_other(projects[0])
        else:
            self.add_videos(paths)

    def _may_close(self) -> bool:
        while True:
            try:
                self.studio.keep_everything()
            except ChaptoError as error:
                answer = ask(self, str(error), ("Save elsewhere…", "Close without them", "Go back"))
                if answer == 1:
                    return True
                if answer == 2:
                    return False
                self.save_as()
            else:
                return True

    def closeEvent(self, event: QCloseEvent | None) -> None:
        """Save, and end all work. Where the last edits can't be kept anywhere, the window stays unless told not to."""
        assert event is not None
        if not self._may_close():
            event.ignore()
            return
        app = QApplication.instance()
        if app is not None:
            app.removeEventFilter(self)
        self.player.close()
        self.publish_page.stop()
        self.feed.close()
        self.log_page.close_feeds()
        self.write_page.sight.film.close()
        self.footage_page.close_feeds()
        self.studio.close()
        super().closeEvent(event)
