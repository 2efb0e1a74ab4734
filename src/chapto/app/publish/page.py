"""The Publish stage: left the video as a viewer will meet it, right all that goes out with it."""

from __future__ import annotations

from fractions import Fraction
from functools import partial
from pathlib import Path

from PyQt6.QtCore import Qt, QTimer, QUrl
from PyQt6.QtGui import QDesktopServices, QKeySequence, QShortcut, QShowEvent
from PyQt6.QtWidgets import QStackedWidget, QWidget

from chapto.app import layouts
from chapto.app.publish.description_sheet import DescriptionSheet
from chapto.app.publish.foot import PublishFoot
from chapto.app.publish.format_pane import FormatPane
from chapto.app.publish.line_menus import Show, caption_menu, chapter_menu
from chapto.app.publish.looked_at import LookedAt
from chapto.app.publish.making import PackageMaking
from chapto.app.publish.part_list import PartList
from chapto.app.publish.part_rows import Entry, details, rows_of
from chapto.app.publish.ribbon import Ribbon
from chapto.app.publish.shorts_pane import ShortsPane
from chapto.app.publish.thumbnail_pane import ThumbnailPane
from chapto.app.publish.timed_list import TimedLine, TimedList
from chapto.app.publish.viewer_card import ViewerCard
from chapto.app.publish.words_pane import WordsPane
from chapto.app.screen.player import Player
from chapto.app.studio import Studio
from chapto.app.widgets import ground, label
from chapto.clock.rates import frames_from_seconds
from chapto.document.placeholders import placeholders
from chapto.paint.thumbnail import fits
from chapto.programme.programme import Programme
from chapto.publish.chapter_list import chapter_problems
from chapto.publish.description import DescriptionError, description
from chapto.publish.roles import ENDINGS, Role
from chapto.publish.site.viewer import viewer_page
from chapto.review.work import NextStep, Stage

KEYS = (
    ("Ctrl+R", "make everything that goes out"),
    ("Ctrl+Shift+R", "make the video alone"),
    ("Ctrl+Alt+R", "make a small preview of it soon"),
    ("Ctrl+D", "what stands under the video"),
    ("Ctrl+Return", "send it to the site, once it is made"),
    ("Up Down", "from one part to the next"),
    ("Esc", "stop what is being made, after asking"),
)
CARE = (
    "Ask everyone who can be seen, a guardian for anyone under age; follow the platform's rules and your country's "
    "law. What is shown is practised under a qualified coach."
)
PANE_OF = {"thumbnail": Entry.THUMBNAIL, "chapters": Entry.CHAPTERS}


class PublishPage(QWidget):
    """What is pressed in the list or on the card is shown below it, to look at or to mend."""

    def __init__(self, studio: Studio, player: Player, screen: QWidget, show: Show) -> None:
        super().__init__()
        self._studio, self._player, self._show = studio, player, show
        self.making = PackageMaking(studio)
        self.foot = PublishFoot(studio, self.making, lambda: show(NextStep("", Stage.REVIEW)))
        self.render_button, self.result = self.foot.render_button, self.foot.result
        self.looked_at = LookedAt(studio)
        self.described: DescriptionSheet | None = None
        self._shown: Programme | None = None
        self._details: dict[Entry, str] = {}
        left = QWidget()
        stack = layouts.column(left, spacing=0)
        stack.addWidget(screen, 1)
        self.ribbon = Ribbon(studio, player)
        stack.addWidget(self.ribbon)
        self.card = ViewerCard(self._pressed)
        rule = ground(QWidget(), "rule")
        rule.setFixedHeight(1)
        stack.addWidget(rule)
        stack.addWidget(self.card)
        side = ground(QWidget(), "paper")
        column = layouts.column(side, margins=(20, 12, 18, 12))
        self.parts = PartList(self._open)
        column.addWidget(self.parts)
        self._panes = QStackedWidget()
        column.addWidget(self._panes, 1)
        self._build_panes()
        column.addWidget(label(CARE, soft=True, wrap=True))
        column.addWidget(self.foot)
        layouts.column(self, layouts.split(Qt.Orientation.Horizontal, left, side, sizes=(730, 460), stretch=(1,)))
        self._follow_soon = QTimer(self)
        self._follow_soon.setSingleShot(True)
        self._follow_soon.setInterval(0)
        self._follow_soon.timeout.connect(self._follow)
        studio.compiled.connect(self._follow_soon.start)
        studio.changed.connect(self._edited)
        reviewing = studio.reviewing
        reviewing.reviewed.connect(self.foot.show_open)
        self.making.told.connect(self._show_rows)
        self.making.ready.connect(self.ribbon.show_ready)
        self.looked_at.found.connect(self._show_looked_at)
        for keys, act in (
            ("Ctrl+D", self.describe),
            ("Ctrl+Return", self.send),
            ("Ctrl+Alt+R", self.foot.preview),
            ("Esc", self.foot.ask_to_stop),
        ):
            QShortcut(QKeySequence(keys), self, act).setContext(Qt.ShortcutContext.WidgetWithChildrenShortcut)
        self._follow()

    def _build_panes(self) -> None:
        studio, show = self._studio, self._show
        self.chapters = TimedList(
            "Chapters", self._go, lambda line: chapter_menu(self, studio.programme, line, self._go, show)
        )
        self.captions = TimedList(
            "Captions", self._go, lambda line: caption_menu(self, studio.programme, line, self._go, show), rows_high=2
        )
        chapters = QWidget()
        inside = layouts.column(chapters, self.chapters)
        self._problems = label("", soft=True, wrap=True)
        inside.addWidget(self._problems)
        self.format = FormatPane(studio, self.play)
        self.thumbnail = ThumbnailPane(studio, self._player, fits)
        self.shorts = ShortsPane(studio)
        self.words = WordsPane()
        self.pane_of: dict[Entry, QWidget] = {
            Entry.THUMBNAIL: self.thumbnail,
            Entry.VIDEO: self.format,
            Entry.CAPTIONS: self.captions,
            Entry.CHAPTERS: chapters,
            Entry.DESCRIPTION: self.words,
            Entry.SHORTS: self.shorts,
            Entry.STUDY: self.words,
            Entry.KEPT: self.words,
        }
        for pane in dict.fromkeys(self.pane_of.values()):
            self._panes.addWidget(pane)
        self._panes.setCurrentWidget(chapters)

    # ── what the foot does, for others ───────────────────────────────────────────────────────────────────────
    @property
    def job(self) -> object | None:
        """What is being made; None while nothing is."""
        return self.making.job

    @property
    def made(self) -> tuple[Path, ...]:
        """The files that were made last."""
        return self.making.files

    @property
    def target(self) -> Path:
        """Where the video alone goes."""
        return self.foot.target

    @target.setter
    def target(self, chosen: Path) -> None:
        self.foot.target = chosen

    def make(self) -> None:
        """Make everything that goes out."""
        self.foot.make()

    def start_render(self) -> None:
        """Make the video alone."""
        self.foot.start_render()

    def stop(self) -> None:
        """Stop what is being made."""
        self.foot.stop()

    def send(self) -> None:
        """What is sent where, over the window."""
        self.foot.send()

    def close_all(self) -> None:
        """The window closes."""
        self.making.close()
        self.looked_at.close()
        for sheet in (self.described, self.foot.sending):
            if sheet is not None:
                sheet.leave()

    # ── looking and mending ──────────────────────────────────────────────────────────────────────────────────
    def describe(self) -> None:
        """What stands under the video, over the window."""
        if self.described is None:
            self.described = DescriptionSheet(self.window() or self, self._studio, self._left_describing)

    def show_thumbnails(self) -> None:
        """Show what could stand for the video."""
        self.parts.choose(Entry.THUMBNAIL)

    def _left_describing(self) -> None:
        self.described = None
        self.setFocus()

    def _pressed(self, what: str) -> None:
        """Something on the viewer's card."""
        if what == "description":
            self.parts.choose(Entry.DESCRIPTION)
            self.describe()
        elif what == "title":
            self.send()
        else:
            self.parts.choose(PANE_OF[what])

    def _open(self, entry: Entry) -> None:
        """Show the detail of an entry."""
        self._panes.setCurrentWidget(self.pane_of[entry])
        if entry is Entry.VIDEO:
            self.looked_at.estimate(self._studio.encoders.count)
            self.format.show_estimate(self.looked_at.estimated)
        if self.pane_of[entry] is self.words:
            self._show_words(entry)

    def _show_words(self, entry: Entry) -> None:
        if entry is Entry.DESCRIPTION:
            try:
                self.words.say(
                    description(self._studio.breakdown, self._studio.programme, self._studio.production.kept),
                    "Write it…",
                    self.describe,
                )
            except DescriptionError as error:
                self.words.say(str(error), "Write it…", self.describe)
        elif entry is Entry.STUDY:
            ready = any(_is(p, Role.STUDY_PDF) for p in self.made)
            self.words.say(STUDY, "Look at it", partial(self._look, Role.STUDY_PDF) if ready else None)
        else:
            self.words.say(KEPT, "Open the folder", self.foot.show_result if self.making.package else None)

    def play(self) -> None:
        """Play the video that was made with what the desktop plays it with."""
        found = next((p for p in self.made if p.suffix in (".mp4", ".mkv", ".webm")), None)
        video = next((p for p in self.made if p.name == f"{self._name()}{self.target.suffix}"), found)
        if video is not None:
            QDesktopServices.openUrl(QUrl.fromLocalFile(str(video)))

    def _name(self) -> str:
        project = self._studio.session.path
        return project.stem if project is not None else ""

    def _look(self, role: Role) -> None:
        """Open a file that was made with what the desktop opens it with."""
        found = next((p for p in self.made if _is(p, role)), None)
        if found is not None:
            QDesktopServices.openUrl(QUrl.fromLocalFile(str(found)))

    # ── following ────────────────────────────────────────────────────────────────────────────────────────────
    def showEvent(self, event: QShowEvent | None) -> None:
        """What was compiled meanwhile is shown now."""
        super().showEvent(event)
        self.foot.show_target()
        if self._shown is not self._studio.programme or self.looked_at.is_old:
            self._follow()

    def _edited(self) -> None:
        self.foot.show_target()
        self.making.changed()
        for pane in (self.format, self.thumbnail, self.shorts):
            pane.follow()

    def _follow(self) -> None:
        if not self.isVisible() and self._shown is not None:
            return
        studio, p = self._studio, self._studio.programme
        self._shown = p
        self.chapters.show_lines(
            tuple(
                TimedLine(chapter.start / p.fps, chapter.title, f"{float((end - chapter.start) / p.fps):.0f} s")
                for chapter, end in p.chapter_spans()
            )
        )
        problems = (*chapter_problems(p), *placeholders(studio.breakdown)) if p.frames else ()
        self._problems.setText("\n".join(problems))
        self._problems.setVisible(bool(problems))
        self.captions.show_lines(tuple(TimedLine(c.start, c.text) for c in p.captions))
        self._details = details(studio.breakdown, p)
        self._show_rows()
        self.foot.show_open()
        if self.isVisible():
            self.looked_at.look()
            if self.parts.chosen is Entry.VIDEO:
                self.looked_at.estimate(self._studio.encoders.count)
        if self.pane_of[self.parts.chosen] is self.words:
            self._show_words(self.parts.chosen)
        self._show_card()

    def _show_rows(self) -> None:
        making = self.making
        self.parts.show_rows(rows_of(self._details, making.states, making.now, making.share))
        self.format.play_button.setEnabled(bool(self.made))
        self.foot.show_share()

    def _show_card(self) -> None:
        b, p = self._studio.breakdown, self._studio.programme
        try:
            text = description(b, p, self._studio.production.kept) if p.frames else ""
        except DescriptionError:
            text = b.about
        self.card.show_page(viewer_page(b.title, text, p, self.foot.site.limits), self.looked_at.thumbnail)

    def _show_looked_at(self) -> None:
        """A thumbnail, proposals or an estimate were found."""
        self.thumbnail.show_proposals(self.looked_at.proposals)
        self.format.show_estimate(self.looked_at.estimated)
        self._show_card()

    def _go(self, at: Fraction) -> None:
        self._player.show_frame(frames_from_seconds(at, self._studio.programme.fps))


STUDY = (
    "For whoever trains with you: key frames with their marks, what happened and why, the slip, the other option, the "
    "rule of thumb, and where it is in the video. As a page and as a PDF to print; the frames as pictures too."
)
KEPT = (
    "For you: the same video as Matroska with the techniques as chapters inside chapters, voice, gym and music apart, "
    "the timeline in an open format, the transcript, the log as a table, and a list of all files with their digests."
)


def _is(place: Path, role: Role) -> bool:
    return place.name.endswith(ENDINGS.get(role, "\0"))
