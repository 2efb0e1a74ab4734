"""Whose voice the lines of a shared recording seem to be: proposed, and put right by hand."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import QObject, pyqtSignal

from chapto.app.jobs import Job, Stopped
from chapto.app.studio import Studio
from chapto.document.breakdown import Breakdown
from chapto.document.edit_script import set_narrator
from chapto.document.takes import Take, TakeOf
from chapto.errors import Cancelled, ChaptoError
from chapto.media.sound import load_sound
from chapto.store.fingerprint import find_media
from chapto.voice.takes import known_lines
from chapto.voice.who_speaks import proposed_narrators


class WhoSpeaks(QObject):
    """`proposed` has the narrator (by id) of each beat that seems to be another's; `changed` follows it."""

    changed = pyqtSignal()

    def __init__(self, studio: Studio) -> None:
        super().__init__()
        self._studio = studio
        self.proposed: dict[str, str] = {}
        self._job: Job[dict[str, str]] | None = None
        self._asked: object = None

    def look(self) -> None:
        """Look again where a recording holds lines of several people, if something is other than last time."""
        studio = self._studio
        b, project = studio.breakdown, studio.session.path
        shared = [t for t in b.takes if t.chosen and t.of in (TakeOf.SECTION, TakeOf.WHOLE) and not t.narrator]
        asked = (tuple(shared), b.narrators, b.script)
        if asked == self._asked:
            return
        self._asked = asked
        if self._job is not None:
            self._job.stop()
        if len(b.narrators) < 2 or not shared or project is None:
            self._found({})
            return
        job = Job("Who speaks", lambda _, stopped: _looked(b, shared, project, stopped))
        self._job = studio.workers.run_unseen(job.then(self._found))

    def put_right(self, beat_id: str) -> None:
        """The line is whose it seems to be; where nothing is proposed, the next narrator's."""
        b = self._studio.breakdown
        if len(b.narrators) < 2 or not beat_id:
            return
        order = [n.id for n in b.narrators]
        now = b.narrator(b.find_beat(beat_id)[1]).id
        other = self.proposed.get(beat_id) or order[(order.index(now) + 1) % len(order)]
        self._studio.edit("change who says it", lambda b: set_narrator(b, beat_id, other))

    def _found(self, proposed: dict[str, str]) -> None:
        if proposed != self.proposed:
            self.proposed = proposed
            self.changed.emit()


def _looked(b: Breakdown, shared: list[Take], project: Path, stopped: Stopped) -> dict[str, str]:
    """What is proposed for the lines whose words have been found; what can't be read proposes nothing."""
    found: dict[str, str] = {}
    for take in shared:
        lines = known_lines(b, take)
        if lines is None:
            continue
        try:
            path = find_media(take.path, take.fingerprint, project, what="take")
            found |= proposed_narrators(b, lines, load_sound(path, take.fingerprint, cancelled=stopped))
        except Cancelled:
            raise
        except ChaptoError:
            continue
    return found
