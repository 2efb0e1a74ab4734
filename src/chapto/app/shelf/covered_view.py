"""What is covered and what is not yet: the map on dark; what stands out and what was pressed on paper."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QWidget

from chapto.app import layouts
from chapto.app.shelf.map_model import Road, Spot, map_of
from chapto.app.shelf.map_view import MapView
from chapto.app.shelf_keeping import PLANNED
from chapto.app.studio import Studio
from chapto.app.widgets import Pressable, button, ground, label
from chapto.shelf.coverage import Coverage, Ended
from chapto.shelf.query import Asks, Filter, Query

MOST_GAPS, MOST_TRIED = 6, 8


class CoveredView(QWidget):
    """`show_examples` shows what is asked for among all that was found."""

    def __init__(self, studio: Studio, show_examples: Callable[[Query], object]) -> None:
        super().__init__()
        self._studio, self._show = studio, show_examples
        self.map = MapView()
        self.map.chosen.connect(self._picked)
        self.title = label("", size="title", wrap=True)
        self.about = label("", wrap=True)
        self.examples = button("Show the examples", self._examples, tip="Show the exchanges", kind="main")
        self._query = Query()
        self._found: Coverage | None = None
        self._page = ground(QWidget(), "paper")
        self._column = layouts.column(self._page, margins=(18, 14, 16, 12), spacing=7)
        side = ground(QWidget(), "paper")
        layouts.column(side, layouts.scrolled(self._page))
        layouts.column(self, layouts.split(Qt.Orientation.Horizontal, self.map, side, sizes=(820, 360), stretch=(1,)))
        self.setFocusProxy(self.map)

    def begin(self) -> None:
        """It is shown."""
        picked, self._found = self.map.picked, self._studio.shelf.shelf().coverage()
        self.map.show_map(map_of(self._found))
        self._fill()
        self.map.pick_again(picked)

    def _fill(self) -> None:
        found = self._found
        if found is None:
            return
        layouts.empty(self._column)
        self.title, self.about = label("", size="title", wrap=True), label("", wrap=True)
        self.examples = button("Show the examples", self._examples, tip="Show the exchanges", kind="main")
        seen = sum(n.seen > 0 for n in found.nodes)
        self.title.setText(f"{seen} of {len(found.nodes)} positions were seen")
        told = sum(t.explained > 0 for t in found.techniques)
        if found.techniques:
            self.about.setText(f"{told} of {len(found.techniques)} techniques that were tried are explained somewhere.")
        self.examples.hide()
        for item in (self.title, self.about, self.examples):
            self._column.addWidget(item)
        gaps = found.gaps()
        self._column.addSpacing(6)
        self._column.addWidget(label("Not explained yet", size="head"))
        for text in gaps[:MOST_GAPS]:
            gap = Pressable(partial(self._plan, text))
            gap.setWordWrap(True)
            gap.setText(f"· {text}")
            gap.setToolTip("Press to plan a video about it")
            self._column.addWidget(gap)
        if not gaps:
            nothing = (
                "What was seen three times or more is explained." if found.techniques else "Nothing is logged yet."
            )
            self._column.addWidget(label(nothing, soft=True, wrap=True))
        if found.techniques:
            self._column.addSpacing(6)
            self._column.addWidget(label("Tried most", size="head"))
        for t in found.techniques[:MOST_TRIED]:
            query = Query((Filter(Asks.TECHNIQUE, t.id, t.name),))
            line = Pressable(lambda query=query: self._show(query))  # type: ignore[misc]
            line.setWordWrap(True)
            told_so = f"explained {t.explained}" if t.explained else "never explained"
            line.setText(f"{t.name}: {_times(t.seen)}, {_ended(t.ended)}; {told_so}")
            self._column.addWidget(line)
        series = self._studio.shelf.shelf().series()
        if series:
            self._column.addSpacing(6)
            self._column.addWidget(label("Series", size="head"))
        for s in series:
            parts = ", ".join(f"{p.number}{'' if p.is_out else ' (not out)'}" for p in s.parts)
            self._column.addWidget(label(f"{s.subject}: parts {parts}. Next is part {s.next}.", wrap=True))
        self._column.addStretch(1)

    def _plan(self, gap: str) -> None:
        """A video about what was never explained, on the first day it could be done by."""
        if self._studio.shelf.plan(gap.rstrip(".")):
            self._studio.message.emit(PLANNED)

    def _picked(self, what: Spot | Road) -> None:
        if isinstance(what, Spot):
            n = what.node
            self.title.setText(n.name[:1].upper() + n.name[1:])
            told = f"{n.explained} of {n.seen} stays are in what was explained" if n.seen else "nobody was in it yet"
            self.about.setText(
                f"{n.seconds:.0f} s in all; {told}. {n.techniques} techniques of the lexicon begin here."
            )
            self._query = Query((Filter(Asks.POSITION, n.id, n.name),))
            count = self._count()
        else:
            w = what.way
            self.title.setText(what.name)
            told = f"explained {_times(w.explained)}" if w.explained else "never explained"
            self.about.setText(f"Seen {_times(w.seen)}, {told}. As an exchange: {_ended(w.ended)}.")
            start, end = what.start.node, what.end.node
            filters = (
                Filter(Asks.BEFORE, start.id, f"from {start.name}"),
                Filter(Asks.AFTER, end.id, f"into {end.name}"),
            )
            self._query = Query(filters)
            count = self._count()
        self.examples.setText(f"Show the {count} examples" if count != 1 else "Show the example")
        self.examples.setVisible(count > 0)

    def _count(self) -> int:
        search = self._studio.shelf.shelf().search
        return search.count(self._query)

    def _examples(self) -> None:
        self._show(self._query)


def _times(count: int) -> str:
    return "once" if count == 1 else f"{count} times"


def _ended(e: Ended) -> str:
    said = [f"{n} {word}" for n, word in ((e.landed, "landed"), (e.stopped, "stopped"), (e.half, "half landed")) if n]
    return ", ".join(said) or "no end logged"
