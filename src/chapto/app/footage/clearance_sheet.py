"""May it be shown? Whose footage it is, who is seen and who agreed, beside the picture of the file."""

from __future__ import annotations

from functools import partial

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QWidget

from chapto.app import layouts
from chapto.app.footage.fields import Answer, Line
from chapto.app.studio import Studio
from chapto.app.widgets import button, ground, label
from chapto.document import edit_footage, edit_people
from chapto.document.clearance import Agreement, Person
from chapto.document.clearance_checks import LAW, is_settled, open_points
from chapto.document.footage import Footage
from chapto.paint.colours import TIES
from chapto.programme.programme import TieState

AGREEMENTS = tuple((a, a.value) for a in Agreement)
ANSWER = 98
"""Pixels of an answer, so that all stand in one column."""
MUSIC = ((None, "music?"), (False, "no music"), (True, "music"))
COMMENTARY = ((None, "voices?"), (False, "no voices"), (True, "voices"))
THUMBNAIL = ((None, "thumbnail?"), (True, "thumbnail"), (False, "no thumbnail"))
HURT = (
    ((None, False), "hurt?"),
    ((False, False), "nobody hurt"),
    ((True, False), "hurt: agree?"),
    ((True, True), "hurt, agrees"),
)
ALLOWED = ((False, "allowed?"), (True, "allowed"))
AGES = ((None, "of age?"), (False, "adult"), (True, "minor"))


class PersonRow(QWidget):
    """Somebody who can be seen: name, agreement, how and when; a guardian for a minor."""

    def __init__(self, studio: Studio, footage_id: str, person: Person) -> None:
        super().__init__()
        self._studio, self._id = studio, person.id
        column = layouts.column(self, margins=(0, 2, 0, 6), spacing=3)
        first = layouts.row()
        self._name = Line("Name", lambda t: self._put("rename somebody", name=t) if t else None)
        self.agreed = Answer(AGREEMENTS, lambda a: self._put("note an agreement", agreement=a), tip="Agreement")
        self.agreed.setFixedWidth(ANSWER)
        first.addWidget(self._name, 1)
        first.addWidget(self.agreed)
        first.addWidget(
            button("", lambda: self._unsee(footage_id), tip="Not seen in this file", sign="cross", kind="quiet")
        )
        second = layouts.row()
        self._part = Line("who they are", lambda t: self._put("say who somebody is", part=t))
        self._how = Line("how they said so, and when", lambda t: self._put("note how somebody agreed", how=t))
        self._minor = Answer(AGES, lambda m: self._put("note somebody's age", minor=m), tip="Of age")
        self._minor.setFixedWidth(ANSWER)
        second.addWidget(self._part, 5)
        second.addWidget(self._how, 7)
        second.addWidget(self._minor)
        self._guardian = Line("Which guardian agreed?", lambda t: self._put("note a guardian", guardian=t))
        column.addLayout(first)
        column.addLayout(second)
        self._guardian_how = Line("how the guardian agreed, and when", lambda t: self._put("note how", guardian_how=t))
        self._when = Line("when they withdrew", lambda t: self._put("note a withdrawal", when=t))
        column.addLayout(layouts.row(None, self._guardian, self._guardian_how))
        column.addWidget(self._when)
        self.show_person(person)

    def show_person(self, p: Person) -> None:
        """Take it as the document has it."""
        self._name.show_text(p.name)
        self._part.show_text(p.part)
        self._how.show_text(p.how)
        self._guardian.show_text(p.guardian)
        self._guardian_how.show_text(p.guardian_how)
        self._when.show_text(p.when)
        for line in (self._guardian, self._guardian_how):
            line.setVisible(p.minor is True)
        self._when.setVisible(p.agreement is Agreement.WITHDRAWN)
        self.agreed.show_answer(p.agreement, is_open=not is_settled(p))
        self._minor.show_answer(p.minor, is_open=p.minor is None or (p.minor and not is_settled(p)))

    def _put(self, what: str, **changes: object) -> None:
        self._studio.edit(what, lambda b: edit_people.change_person(b, self._id, **changes))

    def _unsee(self, footage_id: str) -> None:
        self._studio.edit("not seen here", lambda b: edit_people.see(b, footage_id, self._id, seen=False))


class ClearanceSheet(QWidget):
    """The clearance of one file. `all_asked` when those of all files are wanted at once."""

    all_asked = pyqtSignal()

    def __init__(self, studio: Studio) -> None:
        super().__init__()
        self._studio, self._file = studio, ""
        ground(self, "paper")
        column = layouts.column(self, spacing=5)
        head = layouts.row(None, label("May it be shown?", size="head"))
        head.addStretch(1)
        head.addWidget(
            button("All at once…", self.all_asked.emit, tip="The rights of all files and people", key="R", kind="quiet")
        )
        column.addLayout(head)
        self.open_text = label("", wrap=True)
        self.open_text.setStyleSheet(f"color: {TIES[TieState.BROKEN]};")
        column.addWidget(self.open_text)
        rights = layouts.row()
        self._owner = Line("Whose footage is it?", lambda t: self._put("note whose footage it is", owner=t))
        self.agreed = Answer(AGREEMENTS, lambda a: self._put("note an agreement", agreement=a), tip="Agreement")
        self.agreed.setFixedWidth(ANSWER)
        rights.addWidget(self._owner, 1)
        rights.addWidget(self.agreed)
        column.addLayout(rights)
        more = layouts.row()
        self._how = Line("how, and when", lambda t: self._put("note how it was agreed", how=t))
        self._music = Answer(MUSIC, lambda m: self._put("note music", music=m), tip="Music in the sound")
        self._music.setFixedWidth(ANSWER)
        self._commentary = Answer(
            COMMENTARY,
            lambda m: self._put("note commentary", commentary=m),
            tip="Somebody else's commentary in it",
        )
        self._commentary.setFixedWidth(ANSWER)
        more.addWidget(self._how, 1)
        more.addWidget(self._commentary)
        more.addWidget(self._music)
        column.addLayout(more)
        event = layouts.row()
        self._organiser = Line("whose event, if another's", lambda t: self._put("note whose event", organiser=t))
        self._allowed = Answer(ALLOWED, lambda a: self._put("note a permission", organiser_agreed=a), tip="Permission")
        self._allowed.setFixedWidth(ANSWER)
        event.addWidget(self._organiser, 1)
        event.addWidget(self._allowed)
        column.addLayout(event)
        limits = layouts.row()
        self._scope = Line("allowed for what", lambda t: self._put("note what for", scope=t))
        self._until = Line("until when", lambda t: self._put("note until when", until=t))
        self._hurt = Answer(HURT, self._put_hurt, tip="Somebody hurt in it")
        self._hurt.setFixedWidth(ANSWER)
        limits.addWidget(self._scope, 5)
        limits.addWidget(self._until, 3)
        limits.addWidget(self._hurt)
        column.addLayout(limits)
        shown = layouts.row()
        self._credit = Line("Credit line, as it will be shown", lambda t: self._put("write the credit", credit=t))
        self._thumbnail = Answer(THUMBNAIL, lambda a: self._put("note a thumbnail", thumbnail=a), tip="As thumbnail")
        self._thumbnail.setFixedWidth(ANSWER)
        shown.addWidget(self._credit, 1)
        shown.addWidget(self._thumbnail)
        column.addLayout(shown)
        column.addSpacing(4)
        column.addWidget(label("Who can be seen", soft=True))
        self._rows = layouts.column(spacing=0)
        column.addLayout(self._rows)
        self.new_person = Line("Somebody else: write the name, press Return", self._add)
        column.addWidget(self.new_person)
        column.addWidget(label(LAW, soft=True, wrap=True))
        self._people: dict[str, PersonRow] = {}

    def show_file(self, c: Footage) -> None:
        """The clearance of this file as the document has it."""
        b, rights = self._studio.breakdown, c.clearance
        seen = [p for p in b.people if p.id in c.seen]
        if self._file != c.id or [p.id for p in seen] != list(self._people):
            self._file = c.id
            for row in self._people.values():
                self._rows.removeWidget(row)
                row.hide()
                row.deleteLater()
            self._people = {p.id: PersonRow(self._studio, c.id, p) for p in seen}
            for row in self._people.values():
                self._rows.addWidget(row)
        for p in seen:
            self._people[p.id].show_person(p)
        points = open_points(b, c)
        self.open_text.setText("\n".join(points))
        self.open_text.setVisible(bool(points))
        self._owner.show_text(rights.owner)
        self._how.show_text(rights.how)
        self._credit.show_text(rights.credit)
        self.agreed.show_answer(rights.agreement, is_open=rights.agreement is not Agreement.AGREED)
        self._music.show_answer(rights.music, is_open=rights.music is not False)
        self._commentary.show_answer(rights.commentary, is_open=rights.commentary is not False)
        self._thumbnail.show_answer(rights.thumbnail, is_open=rights.thumbnail is None)
        self._organiser.show_text(rights.organiser)
        allowed = rights.organiser_agreed
        self._allowed.show_answer(allowed, is_open=not allowed)
        self._allowed.setVisible(bool(rights.organiser))
        self._scope.show_text(rights.scope)
        self._until.show_text(rights.until)
        hurt = rights.hurt, rights.hurt_agreed
        self._hurt.show_answer(hurt, is_open=hurt in ((None, False), (True, False)))

    def _put(self, what: str, **changes: object) -> None:
        self._studio.edit(what, lambda b: edit_footage.change_clearance(b, self._file, **changes))

    def _put_hurt(self, answer: object) -> None:
        hurt, agreed = answer if isinstance(answer, tuple) else (None, False)
        self._put("note whether somebody is hurt", hurt=hurt, hurt_agreed=agreed)

    def _add(self, name: str) -> None:
        if name:
            self._studio.edit(f"{name} can be seen", partial(edit_people.add_person, name=name, footage_id=self._file))
        self.new_person.clear()
        self.new_person.show_text("")
