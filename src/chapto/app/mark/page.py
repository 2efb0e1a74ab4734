"""The Mark stage: the picture large with its points, the script with its marks beside it, their stretch below."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

from PyQt6.QtCore import QEvent, QPoint, QPointF, Qt
from PyQt6.QtGui import QKeyEvent, QShowEvent
from PyQt6.QtWidgets import QWidget

from chapto.app import layouts
from chapto.app.mark.acts import MarkActs
from chapto.app.mark.canvas import Canvas
from chapto.app.mark.keys import MarkKeys
from chapto.app.mark.kind_tiles import KindTiles
from chapto.app.mark.mark_menu import mark_menu
from chapto.app.mark.points import Handle, Points
from chapto.app.mark.putting_down import PuttingDown
from chapto.app.mark.run import Put, Run
from chapto.app.mark.seeking import frame_of_mark, frame_of_word, frame_showing
from chapto.app.mark.slip_line import SlipLine
from chapto.app.mark.stretch_strip import StretchStrip
from chapto.app.mark.strip_model import anchors_of, key_beside, shown_of, stretch_of
from chapto.app.mark.word_list import WordList
from chapto.app.mark.words_model import BeatWords, WordCell, beats_with_marks, stop_beside, stops
from chapto.app.playhead import View
from chapto.app.screen.player import Player
from chapto.app.screen.screen import Screen
from chapto.app.studio import Studio
from chapto.app.widgets import button, ground, label
from chapto.document.marks import Anchor, Mark
from chapto.document.people import Side
from chapto.programme.mark_facts import fact_words, figure_facts
from chapto.programme.placed_marks import footage_of


class MarkPage(QWidget):
    """One word is `at`; one `mark`, or one `figure`, and one of its points (`anchor`) are chosen; `putting` puts
    points down."""

    def __init__(self, studio: Studio, player: Player, screen: QWidget) -> None:
        super().__init__()
        self._studio, self._player = studio, player
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Mark")
        self.acts, self.points = MarkActs(studio), Points(studio)
        self.at: tuple[str, int] = ("", -1)
        self.mark, self.figure, self.anchor = "", "", ""
        self._dragged: QPointF | None = None
        self._beats: tuple[BeatWords, ...] = ()
        picture = screen.findChild(Screen)
        assert picture is not None
        self.putting = PuttingDown(studio, self.points, self.acts, self.cell, lambda: self.frame, lambda: self.figure)
        self.keys = MarkKeys(self)
        self.canvas = Canvas(picture, self.keys.press)
        self.tiles, self.words, self.strip = KindTiles(), WordList(), StretchStrip()
        self.slip = SlipLine(self.acts, self.setFocus)
        self._said = label("", soft=True, wrap=True)
        self._lay_out(screen)
        self._connect()

    def _lay_out(self, screen: QWidget) -> None:
        left = layouts.split(Qt.Orientation.Vertical, screen, self.strip, sizes=(600, 130), stretch=(1,))
        side = ground(QWidget(), "paper")
        column = layouts.column(side, spacing=0)
        column.addWidget(self.tiles)
        foot = layouts.row(None, self._said, margins=(16, 2, 10, 4))
        foot.addStretch(1)
        foot.addWidget(
            button(
                "Figure", self.putting.begin_figure, tip="Put down a whole athlete", key="J", sign="plus", kind="quiet"
            )
        )
        column.addLayout(foot)
        self.scrolled = layouts.scrolled(self.words)
        column.addWidget(self.scrolled, 1)
        column.addWidget(self.slip)
        layouts.column(self, layouts.split(Qt.Orientation.Horizontal, left, side, sizes=(840, 400), stretch=(1,)))

    def _connect(self) -> None:
        self._studio.compiled.connect(self.follow)
        self._studio.changed.connect(self.follow)
        self._player.moved.connect(self._follow_picture)
        self._player.playing_changed.connect(self._follow_picture)
        self.words.word_chosen.connect(self.choose_word)
        self.words.mark_chosen.connect(self.choose_mark)
        self.words.menu_asked.connect(self._open_menu)
        self.tiles.chosen.connect(self.putting.begin)
        self.putting.begun.connect(self._begun)
        self.putting.changed.connect(self._follow_picture)
        self.putting.made.connect(self._made)
        self.canvas.pressed.connect(self._pressed)
        self.canvas.dragged.connect(self._drag)
        self.canvas.dropped.connect(self._drop)
        self.strip.sought.connect(self._seek)

    # ── what is chosen ───────────────────────────────────────────────────────────────────────────────────
    @property
    def chosen(self) -> Mark | None:
        """The mark that is chosen."""
        return next((m for m in self._studio.breakdown.marks if m.id == self.mark), None)

    @property
    def frame(self) -> int:
        """The frame of the programme on the screen."""
        return min(self._player.head.frame, max(self._studio.programme.frames - 1, 0))

    def enter(self) -> None:
        """The stage is shown: the tied word at the playhead is the current one."""
        self._player.switch(View.WATCH)
        self.follow()
        if not self.at[0]:
            p = self._studio.programme
            now = self.frame / p.fps
            said = [w for w in p.words if w.start <= now + Fraction(1, 10)]
            near = next(((w.beat, w.word) for w in reversed(said)), None)
            marked = stops(self._beats)
            if near is None and marked:
                near = marked[0].beat, marked[0].number
            if near is not None:
                self.at = near
        self.follow()

    def choose_word(self, beat: str, number: int) -> None:
        """Make a word the current one, and show its picture; the first mark under it is chosen."""
        self.putting.end()
        self.at = (beat, number)
        cell = self.cell()
        self.mark, self.figure, self.anchor = (cell.marks[0].mark if cell is not None and cell.marks else ""), "", ""
        self.show_at(frame_of_word(self._studio.programme, *self.at, self.mark))
        self.follow()

    def choose_mark(self, mark: str) -> None:
        """Choose a mark, and show the picture of its word."""
        self.putting.end()
        found = next((m for m in self._studio.breakdown.marks if m.id == mark), None)
        if found is None:
            return
        self.mark, self.figure, self.anchor = mark, "", ""
        if found.beat:
            self.at = (found.beat, found.word)
        self.show_at(frame_of_mark(self._studio.breakdown, self._studio.programme, found))
        self.follow()

    def show_at(self, frame: int | None) -> None:
        """Show a frame of the programme, standing still."""
        if frame is not None:
            self._player.pause()
            self._player.switch(View.WATCH)
            self._player.show_frame(frame)

    def cell(self) -> WordCell | None:
        """The current word."""
        return next((w for beat in self._beats for w in beat.words if (w.beat, w.number) == self.at), None)

    def step_word(self, by: int) -> None:
        """To the tied or marked word before or after."""
        cell = stop_beside(self._beats, self.at, by)
        if cell is not None:
            self.choose_word(cell.beat, cell.number)

    # ── putting down ─────────────────────────────────────────────────────────────────────────────────────
    @property
    def run(self) -> Run | None:
        """What is being put down."""
        return self.putting.run

    def _begun(self) -> None:
        self._player.pause()
        self.mark, self.anchor = "", ""
        self.canvas.setFocus()
        self.follow()

    def _made(self, mark: str, figure: str) -> None:
        self.canvas.place_cross(None)
        self.mark, self.anchor = mark or ("" if figure else self.mark), ""
        self.figure = figure or ("" if mark else self.figure)
        self.setFocus()
        self.follow()

    def write_slip(self) -> None:
        """Write on the slip of the chosen mark."""
        if self.chosen is not None and self.slip.words.isVisible():
            self.slip.words.setFocus()
            self.slip.words.selectAll()

    def let_go(self) -> None:
        """Of the point, then of the mark."""
        if self.anchor:
            self.anchor = ""
        else:
            self.mark, self.figure = "", ""
        self.setFocus()
        self.follow()

    def play(self) -> None:
        """Play or stop."""
        self._player.toggle()

    def mat_of(self, mark: Mark) -> Fraction | None:
        """The mat time of the picture on the screen, if it is one of the mark's footage."""
        return self.points.mat(self.frame, footage_of(self._studio.breakdown, mark))

    # ── points ───────────────────────────────────────────────────────────────────────────────────────────
    def anchors(self) -> tuple[Anchor, ...]:
        """The points that can be taken hold of: those of the chosen mark or figure."""
        return anchors_of(self._studio.breakdown, self.chosen, self.figure)

    def step_point(self, by: int) -> None:
        """From point to point."""
        ids = [a.id for a in self.anchors()]
        if ids:
            place = (ids.index(self.anchor) + by) % len(ids) if self.anchor in ids else 0 if by > 0 else len(ids) - 1
            self.anchor = ids[place]
            self.canvas.setFocus()
            self._follow_picture()

    def nudge(self, dx: int, dy: int) -> None:
        """Move the cross, or the chosen point, by pixels of the programme's picture."""
        size = self.points.layer.size
        by = QPointF(dx / size[0], dy / size[1])
        if self.run is not None:
            cross = self.canvas.cross or QPointF(0.5, 0.5)
            self.canvas.place_cross(QPointF(min(max(cross.x() + by.x(), 0), 1), min(max(cross.y() + by.y(), 0), 1)))
            return
        handle = next((h for h in self.canvas.handles if h.anchor == self.anchor), None)
        if handle is not None:
            self._move(self.anchor, handle.at + by, merge=f"nudge/{self.anchor}")

    def step_key(self, by: int) -> None:
        """To the picture of the key before or after."""
        mat = self._player.head.seen_mat(self._studio.programme)
        mine = [a for a in self.anchors() if not self.anchor or a.id == self.anchor]
        wanted = key_beside(mine, mat, by)
        if wanted is not None:
            self._seek(float(wanted))

    def hide(self) -> None:
        """From here on the chosen point is hidden; or it is seen again."""
        handle = next((h for h in self.canvas.handles if h.anchor == self.anchor), None)
        put = self._put(self.anchor, handle.at) if handle is not None else None
        if put is not None:
            self.acts.hide(self.anchor, put.mat, (put.x, put.y))

    def _open_menu(self, at: QPoint) -> None:
        if self.chosen is not None:
            mark_menu(self, self.acts, self.chosen).exec(at)

    def remove(self) -> None:
        """Of the chosen point the key in this picture goes; with no point chosen the mark, or the figure."""
        if self.anchor:
            a = next((a for a in self.anchors() if a.id == self.anchor), None)
            mat = self.points.mat(self.frame, a.footage) if a is not None else None
            if a is not None and any(k.mat == mat for k in a.keys) and mat is not None:
                self.acts.remove_key(self.anchor, mat)
                return
            self._studio.message.emit("The point was not put down in this picture; , and . go from key to key.")
            return
        if (mark := self.chosen) is not None:
            self.mark = ""
            self.acts.remove(mark)
        elif self.figure:
            figure, self.figure = self.figure, ""
            self.acts.remove_figure(figure)

    def _move(self, anchor: str, at: QPointF, *, merge: str = "") -> None:
        put = self._put(anchor, at)
        if put is not None:
            self.acts.move_point(anchor, put.mat, (put.x, put.y), merge=merge)

    def _put(self, anchor: str, at: QPointF) -> Put | None:
        put = self.points.put_of(self.frame, anchor, at)
        if put is None:
            self._studio.message.emit("The point belongs to another camera’s picture.")
        return put

    def _pressed(self, at: QPointF) -> None:
        if self.run is not None:
            self.putting.put_down(at)
            return
        handle = self.canvas.handle_at(at)
        if handle is not None:
            self.anchor, self._dragged = handle.anchor, at
        elif self.anchor:
            self.anchor = ""
        elif (mark := self.points.mark_at(self.frame, at)) is not None:
            self.mark, self.figure = mark, ""
            self.follow()
        else:
            self._player.toggle()
        self._follow_picture()

    def _drag(self, at: QPointF) -> None:
        if self._dragged is not None:
            self._dragged = at
            self._follow_picture()

    def _drop(self, at: QPointF) -> None:
        held, self._dragged = self._dragged, None
        handle = next((h for h in self.canvas.handles if h.anchor == self.anchor), None)
        if held is not None and self.anchor and handle is not None:
            before = next((h.at for h in self._handles() if h.anchor == self.anchor), handle.at)
            if (before - at).manhattanLength() > 0.002:
                self._move(self.anchor, at)
        self._follow_picture()

    def _seek(self, second: float) -> None:
        """Show the picture of a mat second: in the programme where it is shown nearest to here."""
        mine = frozenset(a.footage for a in self.anchors())
        frame = frame_showing(self._studio.programme, mine, Fraction(second).limit_denominator(100_000), self.frame)
        self._player.pause()
        if frame is not None:
            self._player.show_frame(frame)

    # ── following ────────────────────────────────────────────────────────────────────────────────────────
    def showEvent(self, event: QShowEvent | None) -> None:
        """What changed meanwhile is shown now."""
        super().showEvent(event)
        self.follow()

    def event(self, event: QEvent | None) -> bool:
        """Tab goes from point to point, and not to another widget."""
        if isinstance(event, QKeyEvent) and event.type() == QEvent.Type.KeyPress:
            is_tab = event.key() in (Qt.Key.Key_Tab, Qt.Key.Key_Backtab)
            if is_tab and self.anchors() and self.keys.press(event):
                return True
        return super().event(event)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Every key of the stage goes one way."""
        if event is None or not self.keys.press(event):
            super().keyPressEvent(event)

    def follow(self) -> None:
        """Show how things stand."""
        if not self.isVisible():
            return
        b, p = self._studio.breakdown, self._studio.programme
        if self.mark and self.chosen is None:
            self.mark = ""
        if all(f.id != self.figure for f in b.figures):
            self.figure = ""
        if all(a.id != self.anchor for a in self.anchors()):
            self.anchor = ""
        unplaced = {u.mark: u.sentence for u in p.unplaced}
        self._beats = beats_with_marks(b, unplaced)
        self.words.show_beats(self._beats, self.at, self.mark, self._colours())
        place = self.words.place_of_chosen()
        if place is not None:
            self.scrolled.ensureVisible(round(place.x()), round(place.center().y()), 10, 60)
        cell = self.cell()
        self.tiles.propose(cell.proposed if cell is not None and not cell.marks else None)
        self.slip.show_mark(b, self.chosen, self._fact(), unplaced.get(self.mark, ""))
        self._say()
        self._follow_picture()

    def _say(self) -> None:
        b = self._studio.breakdown
        figure = next((f for f in b.figures if f.id == self.figure), None)
        if figure is not None:
            mat = self._player.head.seen_mat(self._studio.programme)
            facts = figure_facts(b, self._studio.programme.readings.tracks, figure, mat)
            whose = b.athlete(figure.side, mat).name
            self._said.setText("  ·  ".join(facts) or f"{whose}, {len(figure.anchors)} of 14 points")
            return
        count = len(b.marks)
        self._said.setText(f"{count} mark{'s' if count != 1 else ''}" if count else "Up, Down: the word; M: its mark")

    def _fact(self) -> str:
        mark, p = self.chosen, self._studio.programme
        placed = next((m for m in p.marks if m.mark.id == self.mark), None)
        if mark is None or placed is None:
            return ""
        return placed.fact or fact_words(
            self._studio.production.breakdown, p.readings.tracks, placed.mark, p.time_map.mat_at(placed.start)
        )

    def _colours(self) -> dict[Side, str]:
        mat = self._player.head.seen_mat(self._studio.programme)
        return {side: self._studio.breakdown.athlete(side, mat).kit_colour for side in Side}

    def _handles(self) -> tuple[Handle, ...]:
        if self.run is not None:
            return ()
        return self.points.handles(self.frame, self.anchors()) if self._studio.programme.frames else ()

    def _follow_picture(self) -> None:
        """The points of this picture, and the strip's place."""
        if not self.isVisible():
            return
        b, p = self._studio.breakdown, self._studio.programme
        handles = self._handles() if not self._player.playing else ()
        if self._dragged is not None:
            handles = tuple(replace(h, at=self._dragged) if h.anchor == self.anchor else h for h in handles)
        names = {side: b.athlete(side).name for side in Side}
        self.canvas.colours = self._colours()
        hint = self.run.prompt(names) if self.run is not None else ""
        self.canvas.show_points((*handles, *self.putting.handles()), self.anchor, hint, placing=self.run is not None)
        anchors = self.anchors()
        c = b.camera(anchors[0].footage) if anchors else None
        now = self._player.head.seen_mat(p)
        stretch = stretch_of(b, anchors, p.readings.tracks, c, shown_of(p, self.mark), now, self.chosen)
        self.strip.show_stretch(stretch, self.anchor, now, self._colours())

    def is_settled(self) -> bool:
        """Whether the points of the document are followed."""
        return not self._studio.production.untracked
