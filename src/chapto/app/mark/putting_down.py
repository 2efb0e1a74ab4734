"""Putting down what is asked for, point by point: a mark on the current word, or a whole figure."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from PyQt6.QtCore import QObject, QPointF, pyqtSignal

from chapto.app.mark.acts import MarkActs
from chapto.app.mark.points import Handle, Points
from chapto.app.mark.run import Put, Run
from chapto.app.mark.words_model import WordCell
from chapto.app.studio import Studio
from chapto.document.mark_kinds import RULES, MarkKind
from chapto.document.marks import Figure
from chapto.document.people import Side

SHARED = 10.0 / 720
"""A press so near to a point that is there already takes that point; a share of the picture's height."""


class PuttingDown(QObject):
    """`run` is what is being put down, None while nothing is. `begun` comes when one begins, `changed` when it goes on.
    `made` carries the mark or the figure that came of it, both empty where it was left."""

    begun = pyqtSignal()
    changed = pyqtSignal()
    made = pyqtSignal(str, str)

    def __init__(
        self, studio: Studio, points: Points, acts: MarkActs, word: Callable[[], WordCell | None],
        frame: Callable[[], int], figure: Callable[[], str],
    ) -> None:  # fmt: skip
        """`word` is the current word, `frame` the frame on the screen, `figure` the chosen figure (by id)."""
        super().__init__()
        self._studio, self._points, self._acts = studio, points, acts
        self._word, self._frame, self._figure = word, frame, figure
        self.run: Run | None = None

    def begin(self, kind: MarkKind) -> None:
        """Begin to put a mark of a kind down on the current word; one of a figure that lies here is made at once."""
        word = self._word()
        if kind is not MarkKind.COVER and word is None:
            self._studio.message.emit("Choose the mark’s word first: Up and Down go from word to word.")
            return
        figure = self._figure_here()
        if RULES[kind].figure and figure is not None and word is not None:
            self.made.emit(self._acts.make_of_figure(kind, figure.id, word.beat, word.number), "")
            return
        self.run = Run(kind, self._side_here())
        self.begun.emit()

    def begin_proposed(self) -> None:
        """Begin the kind that the moment of the current word wants."""
        word = self._word()
        if word is None or word.proposed is None:
            self._studio.message.emit("This word is not tied to a moment; choose a kind by its key.")
        else:
            self.begin(word.proposed)

    def begin_figure(self) -> None:
        """Begin to put a whole athlete down, or to put the chosen figure right in this picture."""
        figure = next((f for f in self._studio.breakdown.figures if f.id == self._figure()), None)
        side = figure.side if figure is not None else self._side_here() or Side.FIRST
        rests = figure.rests if figure is not None else ()
        self.run = Run(None, side, rests=rests, figure=figure.id if figure is not None else "")
        self.begun.emit()

    def put_down(self, at: QPointF) -> None:
        """Put the next point of the run down, at a place of the programme's picture, 0…1."""
        if self.run is None:
            return
        put = self._points.put(self._frame(), at)
        if put is None:
            self._studio.message.emit("There is no footage here to put a point on.")
            return
        first = self.run.points[0] if self.run.points else None
        if first is not None and (first.footage, first.mat) != (put.footage, put.mat):
            self._studio.message.emit("All points of a mark are put down in one picture; it can be moved afterwards.")
            return
        shared = self._shared(at, put) if self.run.kind is not None else ""
        self.change(self.run.with_point(replace(put, anchor=shared)))
        if self.run.is_full:
            self.end(keep=True)

    def end(self, *, keep: bool = False) -> None:
        """Leave the run, or keep what was put down."""
        run, self.run = self.run, None
        if run is None:
            return
        mark = figure = ""
        if keep and run.may_end:
            word = self._word()
            if run.kind is None:
                figure = self._acts.make_figure(run)
            elif word is not None or run.kind is MarkKind.COVER:
                mark = self._acts.make(run, word.beat if word else "", word.number if word else 0)
        self.made.emit(mark, figure)

    def change(self, run: Run) -> None:
        """The run goes on otherwise."""
        self.run = run
        self.changed.emit()

    def next_side(self) -> None:
        """What is put down is the other athlete's."""
        if self.run is not None:
            order: tuple[Side | None, ...] = (Side.FIRST, Side.SECOND)
            order = order if self.run.kind is None else (*order, None)
            place = order.index(self.run.side) if self.run.side in order else -1
            self.change(replace(self.run, side=order[(place + 1) % len(order)]))

    def copy_figure(self) -> None:
        """The chosen figure, or the last one, is copied to this picture as a start."""
        b = self._studio.breakdown
        figure = next((f for f in b.figures if f.id == self._figure()), None) or next(iter(reversed(b.figures)), None)
        put = self._points.put(self._frame(), QPointF(0.5, 0.5))
        if figure is None or put is None:
            self._studio.message.emit("There is no figure to copy yet; J puts one down.")
            return
        if put.footage != figure.footage:
            self._studio.message.emit("A figure is copied within one file.")
            return
        anchors = [a for a in b.anchors if a.id in figure.anchors]
        near = [(a, min(a.keys, key=lambda k: abs(k.mat - put.mat))) for a in anchors]
        self.made.emit("", self._acts.copy_figure(figure.id, put, {a.joint: (k.x, k.y) for a, k in near}))

    def handles(self) -> tuple[Handle, ...]:
        """What has been put down so far, on the picture."""
        if self.run is None:
            return ()
        found, size = [], self._points.layer.size
        for number, put in enumerate(self.run.points):
            one = next((s for s in self._points.pictures(self._frame()) if s.footage.id == put.footage), None)
            if one is not None:
                at = one.lens.point(put.x, put.y)
                place = QPointF(at.x() / size[0], at.y() / size[1])
                found.append(Handle(f"run{number}", place, self.run.side_of(number), str(put.joint or ""), False))
        return tuple(found)

    def _shared(self, at: QPointF, put: Put) -> str:
        """A point that lies there already; the mark takes it."""
        mine = tuple(a for a in self._studio.breakdown.anchors if a.footage == put.footage)
        size = self._points.layer.size
        for handle in self._points.handles(self._frame(), mine, guess=False):
            x, y = (handle.at.x() - at.x()) * size[0] / size[1], handle.at.y() - at.y()
            if (x * x + y * y) ** 0.5 < SHARED:
                return handle.anchor
        return ""

    def _figure_here(self) -> Figure | None:
        """The figure that lies in this picture: the chosen one, else the first found."""
        here = {s.footage.id for s in self._points.pictures(self._frame())}
        figures = [f for f in self._studio.breakdown.figures if f.footage in here]
        figures.sort(key=lambda f: f.id != self._figure())
        by_id = {a.id: a for a in self._studio.breakdown.anchors}
        for f in figures:
            if self._points.handles(self._frame(), tuple(by_id[a] for a in f.anchors), guess=False):
                return f
        return None

    def _side_here(self) -> Side | None:
        """Whose exchange the current word is about."""
        b, word = self._studio.breakdown, self._word()
        sections = [s for s in b.script if word is not None and any(beat.id == word.beat for beat in s.beats)]
        return next((x.by for x in b.exchanges if sections and x.id == sections[0].exchange), None)
