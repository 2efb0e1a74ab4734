"""Sending a package to the site, and the record of what went out."""

from __future__ import annotations

from collections.abc import Callable
from datetime import UTC, datetime
from functools import partial
from pathlib import Path

from PyQt6.QtCore import QDateTime, Qt
from PyQt6.QtWidgets import QDateTimeEdit, QLineEdit, QVBoxLayout, QWidget

from chapto.app import layouts
from chapto.app.ask import ask
from chapto.app.frame.over_sheet import OverSheet
from chapto.app.jobs import Job, Progress, Stopped
from chapto.app.own_keys import EscIsMine
from chapto.app.studio import Studio
from chapto.app.widgets import Elided, button, ground, label
from chapto.document.edit_publishing import note_published, note_withdrawn
from chapto.document.publishing import Published
from chapto.errors import ChaptoError
from chapto.publish.site.site import Site
from chapto.publish.site.upload import draft_of, send, thumbnail_of, utc

SIZE = (720, 560)


class SendSheet(EscIsMine, OverSheet):
    """`package` is the folder that was made, None where none was in this session; `left` is called when it closes."""

    def __init__(
        self, window: QWidget, studio: Studio, site: Site, package: Path | None, left: Callable[[], object]
    ) -> None:
        super().__init__(window, "Sending it out", SIZE)
        self._studio, self._site, self._package, self._left = studio, site, package, left
        self.job: Job[Published] | None = None
        column = layouts.column(self.sheet, margins=(24, 18, 24, 16), spacing=10)
        column.addWidget(label(f"To {site.name[:1].lower()}{site.name[1:]}", size="title"))
        column.addWidget(label("It stands in for a hosting site: nothing leaves this machine.", soft=True, wrap=True))
        named = layouts.row()
        self.title = QLineEdit(studio.breakdown.title)
        self.title.setAccessibleName("Title on the site")
        self.title.textChanged.connect(self._count)
        named.addWidget(self.title, 1)
        self._letters = label("", soft=True)
        named.addWidget(self._letters)
        column.addLayout(named)
        dated = layouts.row()
        self.later = button("At once", self._toggle_later, tip="Let it be seen at once, or from a time on")
        self.later.setCheckable(True)
        dated.addWidget(self.later)
        self.when = QDateTimeEdit(QDateTime.currentDateTime().addDays(1))
        self.when.setDisplayFormat("d MMMM yyyy, HH:mm")
        self.when.setAccessibleName("When it can be seen")
        self.when.hide()
        dated.addWidget(self.when)
        dated.addStretch(1)
        column.addLayout(dated)
        acts = layouts.row()
        self.send_button = button("Send it", self.send, tip="Send the package", key="Ctrl+Return", kind="main")
        self.send_button.setShortcut("Ctrl+Return")
        acts.addWidget(self.send_button, 1)
        self._stop = button(
            "Stop", self.stop, tip="Stop; what arrived stays there, and the next try goes on", sign="cross"
        )
        self._stop.hide()
        acts.addWidget(self._stop)
        column.addLayout(acts)
        self.told = label("", wrap=True)
        column.addWidget(self.told)
        rule = ground(QWidget(), "rule")
        rule.setFixedHeight(1)
        column.addWidget(rule)
        column.addWidget(label("What went out", size="head"))
        inner = ground(QWidget(), "paper")
        self._record: QVBoxLayout = layouts.column(inner)
        column.addWidget(layouts.scrolled(inner), 1)
        done = layouts.row()
        done.addStretch(1)
        done.addWidget(button("Done", self.leave, tip="Back to Publish", key="Esc"))
        column.addLayout(done)
        studio.changed.connect(self._show)
        self._count()
        self._show()
        self.show_over()
        self.title.setFocus()

    def send(self) -> None:
        """Send it; where an earlier try broke off it goes on."""
        if self.job is not None:
            return
        if self._package is None:
            self.told.setText("Make the package first; then it can be sent.")
            return
        package, title, site = self._package, self.title.text().strip(), self._site
        when = self.when.dateTime().toPyDateTime().astimezone(UTC) if self.later.isChecked() else None

        def work(progress: Progress, stopped: Stopped) -> Published:
            return send(site, package, draft_of(package, title, when), progress=progress, cancelled=stopped)

        self.job = Job("Sending", work)
        self.job.progressed.connect(self._progress)
        self.job.failed.connect(self._ended)
        self.job.stopped.connect(
            partial(self._ended, "Stopped; what arrived is kept, and the next try goes on from there.")
        )
        self.send_button.setEnabled(False)
        self._stop.show()
        self.told.setText("")
        self._studio.workers.run_asked(self.job.then(self._sent))

    def stop(self) -> None:
        """Stop sending."""
        if self.job is not None:
            self.job.stop()

    def leave(self) -> None:
        """What is being sent goes on no longer."""
        self.stop()
        self._studio.changed.disconnect(self._show)
        super().leave()
        self._left()

    def _sent(self, published: Published) -> None:
        self._studio.edit("write down what went out", partial(note_published, published=published))
        seen = "at once" if not published.goes_public else f"from {_day(published.goes_public)} on"
        self._ended(f"It can be seen {seen} at {published.address}.")

    def _progress(self, share: float) -> None:
        self.send_button.setText(f"Sending… {share:.0%}" if share < 0.9 else "The site is processing it…")

    def _ended(self, sentence: str) -> None:
        self.job = None
        self.send_button.setEnabled(True)
        self.send_button.setText("Send it")
        self._stop.hide()
        self.told.setText(sentence)

    def _toggle_later(self) -> None:
        self.when.setVisible(self.later.isChecked())
        self.later.setText("From a time on" if self.later.isChecked() else "At once")

    def _count(self) -> None:
        most = self._site.limits.title
        self._letters.setText(f"{len(self.title.text())} of {most}")

    # ── the record ───────────────────────────────────────────────────────────────────────────────────────────
    def _show(self) -> None:
        while (item := self._record.takeAt(0)) is not None:
            if (widget := item.widget()) is not None:
                widget.deleteLater()
        for p in reversed(self._studio.breakdown.publishing.published):
            self._record.addWidget(self._row(p))
        if not self._studio.breakdown.publishing.published:
            self._record.addWidget(label("Nothing yet.", soft=True))
        self._record.addStretch(1)

    def _row(self, p: Published) -> QWidget:
        row = QWidget()
        inside = layouts.row(row)
        words = Elided()
        words.setAlignment(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter)
        words.say(f"{_day(p.at)}  “{p.title}”, {p.address}{_since(p)}")
        inside.addWidget(words, 1)
        if not p.withdrawn:
            replace = button("New thumbnail", partial(self._new_thumbnail, p), tip="Put the package's thumbnail there")
            replace.setEnabled(self._package is not None)
            inside.addWidget(replace)
            inside.addWidget(
                button("Withdraw", partial(self._withdraw, p), tip="Take it back: nobody sees it any more")
            )
        return row

    def _new_thumbnail(self, p: Published) -> None:
        if self._package is None:
            return
        try:
            self._site.change(_video(p), thumbnail=thumbnail_of(self._package))
        except (ChaptoError, OSError) as error:
            self.told.setText(str(error))
            return
        self.told.setText("The thumbnail there is the new one.")

    def _withdraw(self, p: Published) -> None:
        if ask(self, f"Take “{p.title}” back from the site?", ("Withdraw", "Leave it there")) != 0:
            return
        try:
            self._site.withdraw(_video(p))
        except ChaptoError as error:
            self.told.setText(str(error))
            return
        at = utc(datetime.now(UTC))
        self._studio.edit("write down what was withdrawn", partial(note_withdrawn, address=p.address, at=at))
        self.told.setText("It was taken back.")


def _video(p: Published) -> str:
    return p.address.rsplit("/", 1)[-1]


def _day(iso: str) -> str:
    try:
        return f"{datetime.fromisoformat(iso).astimezone():%-d %B %Y, %H:%M}"
    except ValueError:
        return iso


def _since(p: Published) -> str:
    if p.withdrawn:
        return f", withdrawn {_day(p.withdrawn)}"
    return f", to be seen from {_day(p.goes_public)}" if p.goes_public else ""
