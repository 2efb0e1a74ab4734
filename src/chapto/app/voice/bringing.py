"""Recordings made elsewhere, and those that a kill cut off."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path

from PyQt6.QtCore import QPoint
from PyQt6.QtWidgets import QMenu, QWidget

from chapto.app.choosing import Choosing
from chapto.app.jobs import Job, Progress, Stopped
from chapto.app.studio import Studio
from chapto.app.voice.booth import READ_ONLY, UNSAVED, Booth, State
from chapto.app.voice.talking.booth import TalkBooth, TalkState
from chapto.document.takes import TakeOf
from chapto.document.talks import Done
from chapto.errors import ChaptoError
from chapto.lexicon.spelling import Spelling
from chapto.publish.talks.events_file import read_events
from chapto.voice.new_take import Subject
from chapto.voice.recording.talk_recorder import events_of
from chapto.voice.recording.unfinished import TALK, WHOLE, Unfinished, unfinished
from chapto.voice.written_down import WrittenDown, captions_of, written_down

SOUNDS = "Sound or video (*.wav *.flac *.mp3 *.m4a *.ogg *.opus *.aac *.mp4 *.mov *.mkv *.webm *.avi *.mts)"


class BringingIn:
    """Hands files to the booths, which offer or lay them out; `current` is the beat that is looked at, by id."""

    def __init__(
        self, owner: QWidget, studio: Studio, booth: Booth, talks: TalkBooth, current: Callable[[], str]
    ) -> None:  # fmt: skip
        self._owner, self._studio, self._booth, self._current = owner, studio, booth, current
        self._talks = talks

    def ask_for_file(self) -> None:
        """Choose a recording and what it is of."""
        path = Choosing(self._owner, self._studio.preferences, "recording").file("Bring in a recording", SOUNDS)
        if path is not None:
            self.ask_what_of(path)

    def ask_what_of(self, path: Path) -> None:
        """Ask of what a recording is."""
        owner = self._owner
        self.menu(path).exec(owner.mapToGlobal(QPoint(owner.width() // 2, owner.height() // 2)))

    def menu(self, path: Path) -> QMenu:
        """What it can be of."""
        menu, b, beat = QMenu(self._owner), self._studio.breakdown, self._current()
        menu.addAction("It is of everything", lambda: self.bring_in(path, Subject(TakeOf.WHOLE)))
        for n in b.narrators if len(b.narrators) > 1 else ():
            said = Subject(TakeOf.WHOLE, "", n.id)
            menu.addAction(f"It is all that {n.name} says", partial(self.bring_in, path, said))
        if len(b.narrators) == 2:
            left, right = (n.name for n in b.narrators)
            menu.addAction(f"{left} is on the left, {right} on the right", partial(self.bring_in_two, path))
        if beat:
            section = b.find_beat(beat)[0]
            menu.addAction("It is of this section", partial(self.bring_in, path, Subject(TakeOf.SECTION, section.id)))
            menu.addAction("It is of this line", partial(self.bring_in, path, Subject(TakeOf.BEAT, beat)))
        menu.addSeparator()
        known = " of its captions" if captions_of(path) else " that are said in it"
        menu.addAction(f"Write down the words{known}, as a section of their own", partial(self.write_down, path))
        return menu

    def bring_in(self, path: Path, subject: Subject) -> None:
        """Have the words of a file found, and offer it."""
        self._booth.take_up([(path, subject)], recorded=False)

    def bring_in_two(self, path: Path) -> None:
        """A file with one narrator on each channel."""
        first, second = self._studio.breakdown.narrators[:2]
        sides = [Subject(TakeOf.WHOLE, "", n.id, channel) for channel, n in enumerate((first, second), 1)]
        self._booth.take_up([(path, side) for side in sides], recorded=False)

    def write_down(self, path: Path) -> None:
        """What is said in a file becomes beats, and the file speaks them."""
        studio, project = self._studio, self._studio.session.path
        if project is None or studio.session.read_only:
            studio.message.emit(READ_ONLY if project else UNSAVED)
            return
        spelling, beat = Spelling(studio.known.lexicon), self._current()
        section = studio.breakdown.find_beat(beat)[0].id if beat else ""

        def work(progress: Progress, stopped: Stopped) -> WrittenDown:
            return written_down(path, project, spelling, progress=progress, cancelled=stopped)

        def put(found: WrittenDown) -> None:
            if found.parts:
                studio.edit("write down a recording", lambda b: found.put_into(b, section))
            else:
                studio.message.emit(f"No words were understood in “{path.name}”.")

        studio.workers.run_asked(Job("Writing down what is said", work).then(put))

    # ── cut off ──────────────────────────────────────────────────────────────────────────────────────────
    def _cut_off(self) -> Unfinished | None:
        project = self._studio.session.path
        if project is None or self._studio.session.read_only or self._booth.state is not State.IDLE:
            return None
        if self._talks.state is not TalkState.IDLE:
            return None
        return next(iter(unfinished(project)), None)

    def _subject(self, cut_off: Unfinished) -> Subject:
        b = self._studio.breakdown
        if cut_off.subject == WHOLE:
            return Subject(TakeOf.WHOLE)
        for section, beat in b.read_beats():
            if beat.id == cut_off.subject:
                return Subject(TakeOf.BEAT, beat.id)
            if section.id == cut_off.subject:
                return Subject(TakeOf.SECTION, section.id)
        return Subject(TakeOf.NOTHING)

    def cut_off_beat(self) -> str:
        """The beat of which a recording was cut off, by id; empty for none."""
        found = self._cut_off()
        subject = self._subject(found) if found else Subject(TakeOf.NOTHING)
        return subject.id if subject.of is TakeOf.BEAT else ""

    def offer_cut_off(self) -> None:
        """A recording that a kill cut off is offered, and a talk laid out."""
        if (found := self._cut_off()) is None:
            return
        if found.subject == TALK:
            self._studio.message.emit(f"A talk of {float(found.seconds):.0f} s was cut off; what there is is laid out.")
            self._talks.take_up(found.path, _done_during(found.path))
        else:
            self._studio.message.emit(
                f"A recording of {float(found.seconds):.1f} s was cut off; Return keeps what there is."
            )
            self._booth.take_up([(found.path, self._subject(found))], recorded=True)


def _done_during(recording: Path) -> Done:
    """What was written down during a recording, as far as it can be read."""
    try:
        return read_events(events_of(recording))
    except ChaptoError:
        return Done()
