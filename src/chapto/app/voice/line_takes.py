"""The takes of the line that is looked at: how each says it, and the strip of one of them."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from pathlib import Path

from PyQt6.QtCore import QObject, pyqtSignal

from chapto.app.jobs import Job, Progress, Stopped
from chapto.app.studio import Studio
from chapto.app.voice.strip_model import Strip, guide_strip, strip_of
from chapto.document.breakdown import Breakdown
from chapto.document.script import words_of
from chapto.document.takes import Take
from chapto.document.takes_by_beat import takes_of
from chapto.errors import Cancelled, ChaptoError
from chapto.media.sound import FootageSound, Samples, load_sound
from chapto.programme.programme import Programme
from chapto.store.fingerprint import find_media
from chapto.voice.fillers import cuts_for
from chapto.voice.new_take import NewTake
from chapto.voice.take_sound import take_sound
from chapto.voice.taken_line import Span, TakenLine
from chapto.voice.takes import lines_of_take


@dataclass(frozen=True)
class Looked:
    """What was found. `lines` says how each take (by id) says the beat; the rest is of the `take` looked at.

    `sound` is the whole recording, `heard` what is heard of it, and `fillers` where some can be cut. Where there is no
    take the strip is the guide voice's.
    """

    beat: str = ""
    lines: Mapping[str, TakenLine | None] = field(default_factory=dict)
    take: Take | None = None
    strip: Strip | None = None
    sound: FootageSound | None = None
    heard: Samples | None = None
    fillers: tuple[Span, ...] = ()

    @property
    def line(self) -> TakenLine | None:
        """How the take that is looked at says the beat."""
        return self.lines.get(self.take.id) if self.take else None


class LineTakes(QObject):
    """`looked` is the last that was found; `changed` follows it."""

    changed = pyqtSignal()

    def __init__(self, studio: Studio) -> None:
        super().__init__()
        self._studio = studio
        self.looked = Looked()
        self._job: Job[Looked] | None = None
        self._asked: tuple[Breakdown, Programme, str, str] | None = None

    @property
    def is_settled(self) -> bool:
        """Whether what was asked for last is there."""
        return self._job is None

    def look_at(self, beat: str, take: str = "", offered: NewTake | None = None) -> None:
        """Look at a beat, and at one of its takes (the one that counts by default), or one that is only offered."""
        studio = self._studio
        b, programme, project = studio.breakdown, studio.programme, studio.session.path
        production = studio.production
        speech = production.speeches.get(beat)
        asked = (b, programme, beat, f"{take} {id(offered) if offered else ''}")
        if asked == self._asked:
            return
        self._asked = asked
        if self._job is not None:
            self._job.stop()
            self._job = None
        if self.looked.beat != beat:
            self.looked = Looked(beat)
            self.changed.emit()
        known = {x.id for _, x in b.beats()}
        if beat not in known:
            return

        def work(progress: Progress, stopped: Stopped) -> Looked:
            if project is not None and (offered or takes_of(b, beat)):
                return _looked(b, programme, project, beat, take, offered, stopped)
            return Looked(beat, strip=guide_strip(b, programme, beat, speech) if speech else None)

        job = Job("The takes of a line", work)
        self._job = job
        job.ended.connect(lambda: self._ended(job))
        studio.workers.run_short(job.then(self._found))

    def _found(self, looked: Looked) -> None:
        self.looked = looked

    def _ended(self, job: Job[Looked]) -> None:
        if self._job is job:
            self._job = None
            self.changed.emit()


def _looked(
    b: Breakdown,
    programme: Programme,
    project: Path,
    beat: str,
    wanted: str,
    offered: NewTake | None,
    stopped: Stopped,
) -> Looked:
    """Everything about the takes of a beat; what can't be found is left out."""
    lines: dict[str, TakenLine | None] = {}
    places: dict[str, Path] = {}
    takes = takes_of(b, beat)
    for take in takes:
        try:
            places[take.id] = find_media(take.path, take.fingerprint, project, what="take")
            lines[take.id] = lines_of_take(b, take, places[take.id], cancelled=stopped).get(beat)
        except Cancelled:
            raise
        except ChaptoError:
            lines[take.id] = None
    if offered is not None:
        take = offered.as_take(b)
        lines[take.id], places[take.id] = offered.lines.get(beat), project.parent / offered.brought.path
    else:
        shown = next((t for t in takes if t.id == wanted), takes[0] if takes else None)
        if shown is None:
            return Looked(beat, lines)
        take = shown
    line = lines.get(take.id)
    if line is None:
        return Looked(beat, lines, take)
    sound = load_sound(places[take.id], take.fingerprint, cancelled=stopped)
    strip = strip_of(b, programme, beat, take, line, sound)
    fillers = cuts_for(line, words_of(b.find_beat(beat)[1].text), sound)
    clean = take_sound(places[take.id], take, cancelled=stopped)
    heard = line.sound(clean, gain=float(take.gain), channel=take.channel)
    return Looked(beat, lines, take, strip, sound, heard, fillers)
