"""Everybody on the shelf: the months on dark, and on paper what one agreed to, their figures, and what may be done."""

from __future__ import annotations

from collections import Counter
from datetime import date
from functools import partial

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QGuiApplication
from PyQt6.QtWidgets import QWidget

from chapto.app import layouts
from chapto.app.ask import ask
from chapto.app.shelf.figures_chart import FiguresChart
from chapto.app.shelf.people_chart import PeopleChart
from chapto.app.studio import Studio
from chapto.app.widgets import Pressable, button, ground, label
from chapto.document.clearance import Agreement
from chapto.shelf.dates_said import day_said
from chapto.shelf.people import Known

SAID = {
    Agreement.AGREED: "agreed", Agreement.ASKED: "was asked and has not answered",
    Agreement.NOT_ASKED: "was not asked", Agreement.REFUSED: "refused", Agreement.WITHDRAWN: "took it back",
}  # fmt: skip
MOST_SAID, MOST_VIDEOS = 4, 5
LAW = "It is your own record; the platform's rules and your country's law decide."


class PeopleView(QWidget):
    """Follows the shelf when it is shown."""

    def __init__(self, studio: Studio) -> None:
        super().__init__()
        self._studio = studio
        self.chart = PeopleChart()
        self.chart.chosen.connect(self._show)
        self._page = ground(QWidget(), "paper")
        self._column = layouts.column(self._page, margins=(18, 14, 16, 12), spacing=6)
        self.figures: FiguresChart | None = None
        side = ground(QWidget(), "paper")
        layouts.column(side, layouts.scrolled(self._page))
        dark = layouts.scrolled(self.chart)
        ground(dark, "dark")
        layouts.column(self, layouts.split(Qt.Orientation.Horizontal, dark, side, sizes=(780, 400), stretch=(1,)))
        self.setFocusProxy(self.chart)

    def begin(self) -> None:
        """It is shown."""
        shelf = self._studio.shelf.shelf()
        days = {str(b["path"]): date.fromisoformat(str(b["day"])) for b in shelf.breakdowns() if b["day"]}
        self.chart.show_people(shelf.people(date.today()), days)

    @property
    def chosen(self) -> Known | None:
        """The chosen one."""
        found: Known | None = self.chart.item
        return found

    def taken_back(self) -> None:
        """Say what it means that the chosen one takes their agreement back."""
        if (one := self.chosen) is not None:
            lines = "\n".join(f"“{v.title}”, {day_said(v.at[:10])}: {v.address}" for v in one.videos)
            ask(
                self,
                f"{one.taken_back()}\n{lines}\n\nWrite it down in each breakdown, in Footage. {LAW}".strip(),
                ("Close",),
            )

    def forget(self) -> None:
        """Let nothing on the shelf name the chosen one any more, after asking."""
        one = self.chosen
        if one is None:
            return
        said = (
            f"Nothing on the shelf will name {one.name} any more: not what is found, no figures, no times. "
            "Their breakdowns, and what you wrote in requests and the plan, stay as they are. This can't be undone."
        )
        if ask(self, said, (f"Forget {one.name}", "Leave it")) != 0:
            return
        self._studio.shelf.forget(one.name)

    def _show(self, one: Known | None) -> None:
        layouts.empty(self._column)
        self.figures = None
        if one is None:
            self._column.addWidget(label("Nobody stands on the shelf yet", size="title", wrap=True))
            self._column.addStretch(1)
            return
        self._column.addWidget(label(one.name, size="title", wrap=True))
        counts = Counter(a.agreement for a in one.said)
        counted = ", ".join(f"{agreement.value} in {n}" for agreement, n in counts.most_common())
        whole = f"In {len(one.said)} breakdown{'s' if len(one.said) != 1 else ''}: {counted}."
        self._column.addWidget(label(whole + (f" Ask again: {one.again}." if one.again else ""), wrap=True))
        for a in one.said[:MOST_SAID]:
            how = f", {a.how}" if a.how else ""
            when = f", {day_said(a.when)}" if a.when else ""
            until = f", until {day_said(a.until)}" if a.until else ""
            self._column.addWidget(label(f"“{a.title}”: {SAID[a.agreement]}{how}{when}{until}.", soft=True, wrap=True))
        if len(one.said) > MOST_SAID:
            self._column.addWidget(label(f"and {len(one.said) - MOST_SAID} more", soft=True))
        if one.thanks:
            self._column.addWidget(label(f"Thanks: {'; '.join(one.thanks)}.", wrap=True))
        self._show_figures(one)
        if one.videos:
            self._column.addSpacing(4)
            self._column.addWidget(label("Out", size="head"))
        for v in one.videos[:MOST_VIDEOS]:
            line = Pressable(partial(self._copy, v.address))
            line.setText(f"{v.title}, {day_said(v.at[:10])}")
            line.setToolTip(f"{v.address}  (press to copy it)")
            self._column.addWidget(line)
        if len(one.videos) > MOST_VIDEOS:
            self._column.addWidget(label(f"and {len(one.videos) - MOST_VIDEOS} more", soft=True))
        acts = layouts.row()
        acts.addWidget(button("They take it back…", self.taken_back, tip="List every video they are in"))
        acts.addWidget(button("Forget them…", self.forget, tip="Let nothing on the shelf name them", kind="quiet"))
        acts.addStretch(1)
        self._column.addSpacing(6)
        self._column.addLayout(acts)
        self._column.addStretch(1)

    def _copy(self, address: str) -> None:
        clipboard = QGuiApplication.clipboard()
        if clipboard is not None:
            clipboard.setText(address)
            self._studio.message.emit(f"Copied: {address}")

    def _show_figures(self, one: Known) -> None:
        shelf = self._studio.shelf.shelf()
        if one.name not in shelf.with_figures():
            return
        figures = shelf.figures(one.name)
        self._column.addSpacing(4)
        self._column.addWidget(label("On the mat", size="head"))
        self.figures = made = FiguresChart()
        made.show_figures(figures)
        self._column.addWidget(made)
        said = list(figures.sentences())[-1]
        self._column.addWidget(
            label(f"{said} Bands hold the true share with 95 % (Wilson 1927).", soft=True, wrap=True)
        )
