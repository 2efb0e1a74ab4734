"""Time and plan: weeks on dark; on paper the chosen video, what this breakdown still takes, what fits an evening."""

from __future__ import annotations

from collections.abc import Callable
from datetime import date
from functools import partial
from pathlib import Path

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeySequence, QShortcut
from PyQt6.QtWidgets import QLineEdit, QWidget

from chapto.app import layouts
from chapto.app.choosing import Choosing
from chapto.app.shelf.effort_chart import EffortChart
from chapto.app.shelf.weeks_chart import DAYS, WeeksChart
from chapto.app.studio import Studio
from chapto.app.widgets import button, ground, label
from chapto.clock.timecode import clock_text
from chapto.errors import ChaptoError
from chapto.shelf import edit_book
from chapto.shelf.book import Book, Planned
from chapto.shelf.calendar import from_calendar, to_calendar
from chapto.shelf.dates_said import day_said
from chapto.shelf.forecast import fitting
from chapto.shelf.weeks import first_day_for, loads, overdue, weeks
from chapto.shelf.workload import Workload, workload
from chapto.store.outputs import OutputGate

CALENDARS = "iCalendar (*.ics)"
ASKED = (
    "Chapto can note how long each stage takes you and how long the video becomes: on this machine only, in a file you "
    "can read. From that it says what the rest will take, and what fits into an evening."
)


class PlanView(QWidget):
    """Follows the shelf and the open breakdown."""

    def __init__(self, studio: Studio) -> None:
        super().__init__()
        self._studio = studio
        self.evening = 2.0
        self.chart = WeeksChart()
        self.chart.moved.connect(self.put_on)
        self.chart.chosen.connect(lambda _: self._show_chosen())
        self.chart.asked.connect(self.begin_new)
        self.chart.freed.connect(self.free)
        self.subject = QLineEdit()
        self.subject.setPlaceholderText("What the next video is to be about")
        self.subject.setAccessibleName("What the next video is to be about")
        self.subject.returnPressed.connect(self.plan)
        self._day: date | None = None
        self._page = ground(QWidget(), "paper")
        self._chosen = layouts.column(spacing=6)
        self._here = layouts.column(spacing=6)
        self._effort = EffortChart()
        self._falls = label("", wrap=True, soft=True)
        self._lay_out()
        for keys, act in (("D", self.done), ("Delete", self.drop), ("H", self.of_this), ("N", self.subject.setFocus)):
            QShortcut(QKeySequence(keys), self.chart, act).setContext(Qt.ShortcutContext.WidgetShortcut)
        self.setFocusProxy(self.chart)

    def _lay_out(self) -> None:
        column = layouts.column(self._page, margins=(18, 14, 16, 12), spacing=7)
        column.addWidget(self.subject)
        column.addLayout(self._chosen)
        column.addSpacing(8)
        column.addLayout(self._here)
        column.addSpacing(8)
        column.addWidget(self._effort)
        column.addWidget(self._falls)
        column.addStretch(1)
        outside = layouts.row()
        outside.addWidget(button("As a calendar…", self.write_calendar, tip="Write the plan as iCalendar"))
        outside.addWidget(
            button("From a calendar…", self.read_calendar, tip="Take planned videos from iCalendar", kind="quiet")
        )
        outside.addStretch(1)
        column.addLayout(outside)
        side = ground(QWidget(), "paper")
        layouts.column(side, layouts.scrolled(self._page))
        layouts.column(self, layouts.split(Qt.Orientation.Horizontal, self.chart, side, sizes=(780, 400), stretch=(1,)))

    def begin(self) -> None:
        """It is shown."""
        book, today = self._studio.shelf.shelf().book, date.today()
        self._show_here(book)
        self.chart.show_plan(weeks(book, today), loads(book, today), today)

    # ── the plan ─────────────────────────────────────────────────────────────────────────────────────────────
    @property
    def chosen(self) -> Planned | None:
        """The planned video that is chosen."""
        book = self._studio.shelf.shelf().book
        return next((p for p in book.plan if p.id == self.chart.current), None)

    def begin_new(self, day: date) -> None:
        """A day asks for a video: its subject is written next."""
        self._day = day
        self.subject.setPlaceholderText(f"What the video of {day_said(day)} is to be about")
        self.subject.setFocus()

    def plan(self) -> None:
        """Plan what the line says, on the day that was pressed, else on the first by which it can be done."""
        subject, today, minutes = self.subject.text(), date.today(), self._work().usual_minutes

        def change(book: Book) -> Book:
            day = self._day or first_day_for(book, minutes, today)
            return edit_book.plan(book, subject, day, minutes=minutes)

        if self._studio.shelf.change(change):
            self.subject.clear()
            self._day = None
            self.subject.setPlaceholderText("What the next video is to be about")

    def put_on(self, planned: str, day: date) -> None:
        """Move a planned video to another day."""
        self._studio.shelf.change(lambda book: edit_book.change_planned(book, planned, day=day))

    def done(self) -> None:
        """The chosen one is done, or is not after all."""
        if (one := self.chosen) is not None:
            self._studio.shelf.change(lambda book: edit_book.change_planned(book, one.id, done=not one.done))

    def drop(self) -> None:
        """The chosen one is not planned any more."""
        if (one := self.chosen) is not None:
            self._studio.shelf.change(lambda book: edit_book.drop_planned(book, one.id))

    def of_this(self) -> None:
        """The chosen one is made of the open breakdown: its footage is at hand."""
        one, project = self.chosen, self._studio.session.path
        if one is not None and project is not None:
            footage = tuple(dict.fromkeys((*one.footage, str(project))))
            self._studio.shelf.change(lambda book: edit_book.change_planned(book, one.id, footage=footage))

    def free(self, weekday: int, more: float) -> None:
        """More or less hours are free on a weekday."""
        self._studio.shelf.change(lambda book: edit_book.set_free(book, weekday, book.free[weekday] + more))

    def write_calendar(self) -> None:
        """Write the plan as iCalendar."""
        choosing = Choosing(self, self._studio.preferences, "calendar")
        place, _ = choosing.new_file("The plan as a calendar", Path("plan.ics"), CALENDARS, asks=True)
        if place is not None:
            place = place if place.suffix else place.with_suffix(".ics")
            gate = OutputGate(self._studio.breakdown, self._studio.session.path, replacing=True)
            self._try(lambda: gate.write(place, to_calendar(self._studio.shelf.shelf().book.plan)))

    def read_calendar(self) -> None:
        """Take what a calendar plans that is not planned yet."""
        place = Choosing(self, self._studio.preferences, "calendar").file("A calendar", CALENDARS)
        if place is None:
            return

        def change(book: Book) -> Book:
            there = {(p.subject, p.day) for p in book.plan}
            for p in from_calendar(place):
                if (p.subject, p.day) not in there:
                    day = date.fromisoformat(p.day)
                    book = edit_book.plan(book, p.subject, day, minutes=p.minutes, footage=p.footage, done=p.done)
            return book

        self._studio.shelf.change(change)

    def _try(self, act: Callable[[], object]) -> bool:
        try:
            act()
        except ChaptoError as error:
            self._studio.message.emit(str(error))
            return False
        return True

    # ── on paper ─────────────────────────────────────────────────────────────────────────────────────────────
    def _show_chosen(self) -> None:
        layouts.empty(self._chosen)
        one, today = self.chosen, date.today()
        book = self._studio.shelf.shelf().book
        if one is None:
            self._chosen.addWidget(
                label("Nothing is planned. Write a subject, or press a day twice.", soft=True, wrap=True)
            )
            return
        self._chosen.addWidget(label(one.subject, size="title", wrap=True))
        load = next((x for x in loads(book, today) if x.planned.id == one.id), None)
        said = f"Out on {day_said(one.day)}."
        if one.done:
            said += " It is done."
        elif one in overdue(book, today):
            said += " That day is past."
        elif load is not None and one.minutes:
            said += f" About {_hours(one.minutes * 60)} of work; {_hours(load.hours * 3600)} are free until then"
            said += f": {_hours(load.missing * 3600)} too few." if load.missing else "."
        self._chosen.addWidget(label(said, wrap=True))
        for path in one.footage:
            self._chosen.addWidget(label(f"At hand: {Path(path).name}", soft=True, wrap=True))
        acts = layouts.row()
        acts.addWidget(
            button("Not done after all" if one.done else "It is done", self.done, tip="Done, or not", key="D")
        )
        project = self._studio.session.path
        if project is not None and str(project) not in one.footage:
            acts.addWidget(button("Of this breakdown", self.of_this, tip="It is made of the open breakdown", key="H"))
        acts.addWidget(button("Drop it", self.drop, tip="Take it out of the plan", key="Delete", kind="quiet"))
        acts.addStretch(1)
        self._chosen.addLayout(acts)
        weekday = date.fromisoformat(one.day).weekday()
        hours = f"{DAYS[weekday]}: {book.free[weekday]:g} h free"
        self._chosen.addWidget(
            label(f"{hours}; + and − change that. Drag it, or Alt with arrows, to another day.", soft=True, wrap=True)
        )

    def _show_here(self, book: Book) -> None:
        """What this breakdown still takes, and what fits into the evening."""
        layouts.empty(self._here)
        if book.note_times is not True:
            self._here.addWidget(label("How long it takes", size="head"))
            self._here.addWidget(label(ASKED, wrap=True))
            row = layouts.row()
            row.addWidget(button("Note them", partial(self._note, True), tip="Note times on this machine", kind="main"))
            if book.note_times is None:
                row.addWidget(button("No", partial(self._note, False), tip="Note nothing", kind="quiet"))
            row.addStretch(1)
            self._here.addLayout(row)
        now = self._work()
        found = now.learning
        self._effort.show_efforts(now.done, found)
        self._effort.setVisible(bool(now.done))
        falls = ""
        if found is not None:
            falls = f"Each time twice as many are made, one takes {found.rate:.0%} of what it took"
            falls += f" (Wright 1936, {found.count} breakdowns)."
        if now.done:
            shortest, longest = (clock_text(f(e.length for e in now.done)) for f in (min, max))
            falls = f"{falls} The videos are {shortest} to {longest} long.".strip()
        self._falls.setText(falls)
        self._falls.setVisible(bool(falls))
        if now.rest:
            self._show_rest(now)
        elif book.note_times:
            said = f"From three finished breakdowns on, what the rest takes is said here; {len(now.done)} are noted."
            self._here.addWidget(label(said, soft=True, wrap=True))
        if book.note_times:
            stop = button("Note no more", partial(self._note, False), tip="Note no times any more", kind="quiet")
            row = layouts.row(None, stop)
            row.addStretch(1)
            self._here.addLayout(row)

    def _show_rest(self, now: Workload) -> None:
        whole = now.whole
        self._here.addWidget(label("This breakdown", size="head"))
        said = f"About {_hours(whole.middle)} more, most likely {_hours(whole.low)} to {_hours(whole.high)}."
        self._here.addWidget(label(said, wrap=True))
        stages = ", ".join(f"{s} {_hours(x.middle)}" for s, x in now.rest.items() if x.middle >= 60)
        if stages:
            self._here.addWidget(label(stages, soft=True, wrap=True))
        row = layouts.row()
        row.addWidget(label(f"An evening of {self.evening:g} h"))
        for sign, by in (("−", -0.5), ("+", 0.5)):
            row.addWidget(button(sign, partial(self.set_evening, by), tip="Half an hour more or less", kind="quiet"))
        row.addStretch(1)
        self._here.addLayout(row)
        chosen = fitting(now.choices, self.evening * 3600)
        if not now.choices:
            self._here.addWidget(label("Every exchange that is logged is told already.", soft=True, wrap=True))
        elif not chosen:
            self._here.addWidget(label("No exchange more fits into that.", soft=True, wrap=True))
        for c in (c for c in now.choices if c.id in chosen):
            x = now.exchanges[c.id]
            name = f"{x.technique or 'an exchange'}, {clock_text(x.start)}"
            self._here.addWidget(label(f"· {name}: about {_hours(c.seconds)}", wrap=True))

    def set_evening(self, more: float) -> None:
        """An evening is so many hours longer."""
        self.evening = min(max(self.evening + more, 0.5), 12.0)
        self._show_here(self._studio.shelf.shelf().book)

    def _note(self, wanted: bool) -> None:
        self._studio.shelf.change(lambda book: edit_book.note_times(book, wanted=wanted))

    def _work(self) -> Workload:
        studio = self._studio
        notes = studio.shelf.shelf().times()
        return workload(studio.breakdown, float(studio.programme.seconds), notes, studio.session.path, studio.known)


def _hours(seconds: float) -> str:
    minutes = round(seconds / 60)
    if minutes < 90:
        return f"{minutes} min"
    hours = round(minutes / 30) / 2
    return f"{hours:g} h"
