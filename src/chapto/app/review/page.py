"""The Review stage: the programme on dark, a strip with what was found, the list on paper."""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction
from functools import partial
from pathlib import Path

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeySequence, QShortcut, QShowEvent
from PyQt6.QtWidgets import QHBoxLayout, QWidget

from chapto.app import layouts
from chapto.app.choosing import Choosing
from chapto.app.jobs import Job
from chapto.app.review.card import FindingCard
from chapto.app.review.finding_list import FindingList
from chapto.app.review.rows import Row, rows_of
from chapto.app.review.strip import FindingsStrip
from chapto.app.review.watching_through import WatchThrough
from chapto.app.screen.feed import PictureFeed
from chapto.app.screen.player import Player
from chapto.app.screen.screen import Screen
from chapto.app.studio import Studio
from chapto.app.widgets import button, ground, label
from chapto.clock.rates import frames_from_seconds
from chapto.document import edit_reviewing
from chapto.errors import ChaptoError
from chapto.review.finding import Mend, Mended
from chapto.review.leading import step_of
from chapto.review.notes import note_at
from chapto.review.own_limits import drop_limit, set_limit
from chapto.review.report_html import report_html
from chapto.review.work import NextStep, Stage
from chapto.store.outputs import OutputGate, free_name

KEYS = (
    ("Up, Down", "the finding before or after"),
    ("G, Enter", "go to where it is mended"),
    ("M", "mend it, where one press can"),
    ("L", "leave it with a reason, or open it again"),
    ("W", "watch it as viewers will; N notes what bothers you"),
    ("K", "look at the finished picture and listen"),
    ("B", "it is for beginners, or no longer"),
)
NOTHING = "Once there are words and pictures, what a viewer would stumble over stands here."
WIDEST = 620
"""Pixels of the paper: more only makes its lines long."""
CHANGED = "Something was changed meanwhile; press M once more."


class ReviewPage(QWidget):
    """Follows the review of the open breakdown. `show_step` leads to another stage."""

    def __init__(
        self,
        studio: Studio,
        player: Player,
        screen: QWidget,
        feed: PictureFeed,
        show_step: Callable[[NextStep], object],
    ) -> None:
        super().__init__()
        self._studio, self._player, self._feed, self._show = studio, player, feed, show_step
        self._reviewing = studio.reviewing
        self.rows: tuple[Row, ...] = ()
        self.chosen: Row | None = None
        self.watching: WatchThrough | None = None
        self._mending: Job[Mended] | None = None
        side = ground(QWidget(), "paper")
        column = layouts.column(side, margins=(0, 14, 0, 0))
        self.verdict = label("", size="title", wrap=True)
        self.verdict.setContentsMargins(16, 0, 14, 0)
        column.addWidget(self.verdict)
        column.addLayout(self._acts())
        self.list = FindingList(self.choose, self.go)
        column.addWidget(self.list, 1)
        rule = ground(QWidget(), "rule")
        rule.setFixedHeight(1)
        column.addWidget(rule)
        self.card = FindingCard()
        column.addWidget(self.card)
        side.setMaximumWidth(WIDEST)
        left = QWidget()
        stack = layouts.column(left, spacing=0)
        stack.addWidget(screen, 1)
        self.strip = FindingsStrip(studio, player, self.choose)
        stack.addWidget(self.strip)
        layouts.column(self, layouts.split(Qt.Orientation.Horizontal, left, side, sizes=(700, 496), stretch=(1,)))
        # Up, Down and Enter are the list's; a line that is typed in keeps its Enter.
        self.setFocusProxy(self.list)
        self._connect()
        self._follow()

    def _acts(self) -> QHBoxLayout:
        row = layouts.row(margins=(16, 0, 14, 0))
        self.watch_button = button(
            "Watch it as they will", self.watch, tip="Small, with captions, once through", key="W", sign="play"
        )
        self.look_button = button("Look and listen", self.look, tip="Measure the finished picture and sound", key="K")
        self.beginners = button("For beginners", self.toggle_beginners, tip="Words of the trade are explained", key="B")
        self.beginners.setCheckable(True)
        self._begin = button(
            "Write the first words", lambda: self._show(NextStep("", Stage.WRITE)), kind="main", sign="write"
        )  # fmt: skip
        # Before it is laid out: it would make the paper as wide as all buttons together.
        self._begin.hide()
        row.addWidget(self._begin)
        self._page = button("As a page…", self.write_page, tip="Write the review down as a page", kind="quiet")
        for made in (self.watch_button, self.look_button, self.beginners):
            row.addWidget(made)
        row.addStretch(1)
        row.addWidget(self._page)
        return row

    def _connect(self) -> None:
        card = self.card
        card.go.connect(self.go)
        card.mend.connect(self.mend)
        card.leave.connect(self.leave)
        card.open_again.connect(self.open_again)
        card.answer.connect(self.answer)
        card.look.connect(self.look)
        card.limit.connect(self.change_limit)
        self._reviewing.reviewed.connect(self._follow)
        self._studio.changed.connect(self._follow_document)
        for key, act in (
            ("G", self.go), ("M", self.mend), ("L", card.ask_reason), ("W", self.watch), ("K", self.look),
            ("B", self.toggle_beginners), ("Esc", self._escape),
        ):  # fmt: skip
            made = QShortcut(QKeySequence(key), self, act)
            made.setContext(Qt.ShortcutContext.WidgetWithChildrenShortcut)

    # ── choosing and going ───────────────────────────────────────────────────────────────────────────────
    def choose(self, row: Row) -> None:
        """Show a finding: the picture goes to it."""
        self._mark(row)
        x = row.finding
        if x is not None and x.at is not None:
            self._player.show_frame(frames_from_seconds(x.at, self._studio.programme.fps))

    def go(self) -> None:
        """Go to where the chosen finding is mended by hand."""
        if self.chosen is not None and self.chosen.found is not None:
            self._show(step_of(self.chosen.found))

    def _mark(self, row: Row | None) -> None:
        self.chosen = row
        self.card.show_row(row)
        self.strip.show_rows(self.rows, row)
        if row is not None:
            self.list.mark(row)

    # ── mending and leaving ──────────────────────────────────────────────────────────────────────────────
    def mend(self) -> None:
        """Mend the chosen finding, where one press can; what takes long is worked out off the interface thread."""
        x = self.chosen.finding if self.chosen is not None and self.chosen.waiver is None else None
        if x is None or x.mend is None or self._mending is not None:
            return
        if x.mend.slow:
            self._mend_slowly(x.mend)
            return
        try:
            mended = x.mend.make(self._studio.breakdown)
        except ChaptoError as error:
            self._studio.message.emit(str(error))
            return
        self._put(mended)

    def _mend_slowly(self, mend: Mend) -> None:
        before = self._studio.breakdown
        job = Job(mend.words, lambda progress, stopped: mend.make(before))
        self._mending = job
        self.card.mend_button.setEnabled(False)

        def arrived(mended: Mended) -> None:
            if self._studio.breakdown is before:
                self._put(mended)
            else:
                self._studio.message.emit(CHANGED)

        def ended() -> None:
            self._mending = None
            self.card.mend_button.setEnabled(True)

        job.ended.connect(ended)
        self._studio.workers.run_thought(job.then(arrived))

    def _put(self, mended: Mended) -> None:
        if self._studio.edit(f"mend: {mended.done}", lambda b: mended.breakdown):
            self._studio.message.emit(f"{mended.done}. Ctrl+Z takes it back.")

    def leave(self, reason: str) -> None:
        """Leave the chosen finding as it is, for a reason."""
        if self.chosen is not None and self.chosen.found is not None:
            waiver = self.chosen.found.waiver_for(reason)
            self._studio.edit("leave a finding as it is", partial(edit_reviewing.waive, waiver=waiver))
            self.setFocus()

    def open_again(self) -> None:
        """What was left is a finding again."""
        if self.chosen is not None and self.chosen.waiver is not None:
            change = partial(edit_reviewing.open_again, waiver=self.chosen.waiver)
            self._studio.edit("open a finding again", change)

    def answer(self, text: str) -> None:
        """Put in what the chosen finding asks for."""
        x = self.chosen.finding if self.chosen is not None else None
        if x is not None and x.ask is not None:
            take = x.ask.answer
            self._studio.edit("answer a finding", lambda b: take(b, text))
            self.setFocus()

    def change_limit(self, name: str, typed: str) -> None:
        """A limit of one's own, or the one that ships where nothing was typed."""
        try:
            if typed:
                set_limit(name, typed)
            else:
                drop_limit(name)
        except ChaptoError as error:
            self._studio.message.emit(str(error))
            return
        self._reviewing.know_again()
        self.setFocus()

    def toggle_beginners(self) -> None:
        """Made for beginners, or no longer."""
        wanted = not self._studio.breakdown.for_beginners
        change = partial(edit_reviewing.set_for_beginners, for_beginners=wanted)
        self._studio.edit("make it for beginners" if wanted else "make it for people who train", change)
        self.beginners.setChecked(self._studio.breakdown.for_beginners)

    # ── looking, watching, writing down ──────────────────────────────────────────────────────────────────
    def look(self) -> None:
        """Look at the finished picture and listen to the sound."""
        if self._studio.programme.frames:
            self._reviewing.look()

    def watch(self) -> None:
        """Watch it as viewers will, from the start."""
        if self.watching is None and self._studio.programme.frames:
            screen = Screen(self._studio, self._player, self._feed)
            self.watching = WatchThrough(
                self.window() or self, self._studio, self._player, screen, self.note, self._watched
            )  # fmt: skip

    def note(self, seconds: Fraction) -> None:
        """Note that something bothers at a watch second."""
        made = note_at(self._studio.programme, seconds)
        self._studio.edit("note what bothers", partial(edit_reviewing.add_note, note=made))

    def _watched(self) -> None:
        self.watching = None
        self.setFocus()

    def write_page(self) -> None:
        """Write the review down as a page, where the creator wants it."""
        studio = self._studio
        project = studio.session.path
        folder, name = (project.parent, project.stem) if project is not None else (Path.home(), "breakdown")
        choosing = Choosing(self, studio.preferences, "review written")
        chosen, _ = choosing.new_file(
            "Where to write the review", free_name(folder / f"{name} review.html"), "Page (*.html)"
        )
        review = self._reviewing.review
        if chosen is None or review is None:
            return
        try:
            gate = OutputGate(studio.breakdown, project, replacing=True)
            gate.write(chosen, report_html(review, studio.breakdown.title).encode())
        except ChaptoError as error:
            studio.message.emit(str(error))
        else:
            studio.message.emit(f"Written to {chosen}.")

    # ── following ────────────────────────────────────────────────────────────────────────────────────────
    def showEvent(self, event: QShowEvent | None) -> None:
        """What was found meanwhile is shown now."""
        super().showEvent(event)
        self._follow()

    def begin_at_the_top(self) -> None:
        """Choose the first row where nothing that is open is chosen."""
        if self.chosen is None or self.chosen.found is None or self.chosen.waiver is not None:
            self._mark(next((r for r in self.rows if not r.is_heading), None))

    def is_settled(self) -> bool:
        """Whether the review is that of the document as it is."""
        return self._reviewing.reviewed_for is self._studio.production and self._mending is None

    def close_watching(self) -> None:
        """Stop watching through."""
        if self.watching is not None:
            self.watching.leave()

    def _follow(self) -> None:
        if not self.isVisible() and self.rows:
            return
        review = self._reviewing.review
        is_there = bool(self._studio.programme.frames)
        before, rows = self.rows, rows_of(review) if is_there and review is not None else ()
        self.verdict.setText(review.verdict if is_there and review is not None else "" if is_there else NOTHING)
        self.rows = rows
        self.list.show_rows(rows)
        looking = self._reviewing.is_looking
        self.look_button.setText("Looking…" if looking else "Look and listen")
        self.look_button.setEnabled(not looking)
        for part in (self.look_button, self.watch_button, self.beginners, self._page, self.card):
            part.setVisible(is_there)
        self._begin.setVisible(not is_there)
        self.beginners.setChecked(self._studio.breakdown.for_beginners)
        self._mark(self._same_or_next(before))

    def _same_or_next(self, before: tuple[Row, ...]) -> Row | None:
        """The row that was chosen, or the one that took its place: a list is followed from top to bottom."""
        open_rows = [r for r in self.rows if not r.is_heading]
        if not open_rows:
            return None
        if self.chosen is None:
            return open_rows[0]
        same = next((r for r in open_rows if r.key == self.chosen.key), None)
        if same is not None and (same.waiver is None) == (self.chosen.waiver is None):
            return same
        keys = [r.key for r in before]
        at = keys.index(self.chosen.key) if self.chosen.key in keys else 0
        still = {r.key: r for r in open_rows if r.waiver is None}
        following = [*keys[at + 1 :], *reversed(keys[:at])]
        return next((still[k] for k in following if k in still), open_rows[0])

    def _follow_document(self) -> None:
        if self.isVisible():
            self.beginners.setChecked(self._studio.breakdown.for_beginners)

    def _escape(self) -> None:
        if self.card.cancel():
            self.setFocus()
