"""What is known about the files of a breakdown beyond the document: facts, sound, readings, what was found.

Worked out in the background, kept by file, and told with `changed`.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from fractions import Fraction
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING, Any

import numpy as np
from PyQt6.QtCore import QFileSystemWatcher, QObject, QTimer, pyqtSignal

from chapto.app.jobs import Job, Stopped
from chapto.app.studio import Studio
from chapto.document.edit_footage import change_footage, place_footage, stored_path
from chapto.document.edit_photos import add_photo
from chapto.document.footage import Footage
from chapto.document.recorders import of_one_recorder
from chapto.errors import Cancelled, ChaptoError
from chapto.media.judging import Levels, Proposal, judged
from chapto.media.loud_and_tones import LoudAndTones, loud_and_tones
from chapto.media.opening import MediaError
from chapto.media.photo_file import is_photo, photo_size
from chapto.media.probe import MediaInfo, probe
from chapto.media.proposals import from_signals, open_proposals
from chapto.media.readings import Readings, readings
from chapto.render.new import with_footage
from chapto.store.fingerprint import fingerprint

if TYPE_CHECKING:
    from chapto.media.one_clock import Placement
    from chapto.media.sound import FootageSound


@dataclass(frozen=True)
class Brought:
    """A file that was dropped or chosen: what it holds (the size of a photo), or the sentence why it is not
    taken; its fingerprint."""

    video: Path
    info: MediaInfo | tuple[int, int] | str
    mark: str


class FootageAnalysis(QObject):
    """Looks into every file of the open breakdown, one after another."""

    changed = pyqtSignal()

    def __init__(self, studio: Studio, *, analyse: bool = True) -> None:
        super().__init__()
        self._studio, self._analyse = studio, analyse
        self._files, self._workers = studio.files, studio.workers
        self.facts: dict[str, MediaInfo] = {}
        self.dates: dict[str, datetime] = {}
        self.heard: dict[str, LoudAndTones] = {}
        self.readings: dict[str, Readings] = {}
        self.placements: dict[str, Placement] = {}
        self._preferences = studio.preferences
        self.levels = Levels(quiet=self._preferences.now.quiet)
        self._judged: dict[str, tuple[Readings, Levels, tuple[Proposal, ...]]] = {}
        self._begun: set[tuple[str, str]] = set()
        self._job: Job[tuple[Placement, ...]] | None = None
        self._watcher = QFileSystemWatcher()
        self._moved = QTimer(self)
        self._moved.setSingleShot(True)
        self._moved.setInterval(400)
        self._moved.timeout.connect(self._look_for_moved)
        self._watcher.fileChanged.connect(lambda _: self._moved.start())
        self._watcher.directoryChanged.connect(lambda _: self._moved.start())
        self._preferences.changed.connect(self._preferred)
        self._files.moved.connect(self._begin)
        self._files.ready.connect(self._begin)
        self._begin()

    # ── what was found ───────────────────────────────────────────────────────────────────────────────────
    def proposals(self, footage: Footage) -> tuple[Proposal, ...]:
        """What waits for a decision in one file."""
        found: list[Proposal] = []
        known = self.readings.get(footage.id)
        if known is not None:
            kept = self._judged.get(footage.id)
            if kept is None or kept[0] is not known or kept[1] is not self.levels:
                kept = known, self.levels, judged(known, self.levels)
                self._judged[footage.id] = kept
            found += kept[2]
        if footage.id in self.heard:
            found += from_signals(self.heard[footage.id].signals)
        return open_proposals(self._studio.breakdown, footage, sorted(found, key=lambda p: p.start))

    def waiting(self) -> int:
        """How many stretches of all files wait for a decision."""
        return sum(len(self.proposals(c)) for c in self._studio.breakdown.footage)

    def recorders(self) -> tuple[tuple[str, ...], ...]:
        """Rows of files (by id) that seem to be of one recorder, by their names and by when they were filmed."""
        began: dict[str, datetime] = {}
        for c in self._studio.breakdown.footage:
            info, written = self.facts.get(c.id), self.dates.get(c.id)
            if info is not None and info.made is not None:
                began[c.id] = info.made
            elif info is not None and written is not None:
                began[c.id] = written - timedelta(seconds=float(c.duration))
        if len({at.tzinfo is None for at in began.values()}) > 1:
            return ()
        return of_one_recorder(self._studio.breakdown, began)

    def busiest(self, start: Fraction, end: Fraction) -> Fraction | None:
        """The mat second between two others at which most moves in the picture on the angle track; None while that
        has not been measured."""
        best: tuple[float, Fraction] | None = None
        for a, z, camera in self._studio.angles.within(start, end):
            known = self.readings.get(camera.id) if camera is not None else None
            if camera is None or known is None:
                continue
            first, last = float(camera.media_time(a)), float(camera.media_time(z))
            inside = np.flatnonzero((known.at >= first) & (known.at < last))
            if len(inside):
                top = inside[int(np.argmax(known.activity[inside]))]
                found = (
                    float(known.activity[top]),
                    camera.mat_at(Fraction(float(known.at[top])).limit_denominator(1000)),
                )
                best = found if best is None or found[0] > best[0] else best
        return best[1] if best else None

    def liveliness(self) -> dict[str, float]:
        """How much moves in each exchange against the whole file it is seen in: 1 is as usual."""
        found = {}
        for x in self._studio.breakdown.exchanges:
            c = self._studio.angles.at(x.start)
            known = self.readings.get(c.id) if c else None
            if c is None or known is None:
                continue
            inside = (known.at >= float(c.media_time(x.start))) & (known.at < float(c.media_time(x.end)))
            usual = float(np.mean(known.activity))
            if inside.any() and usual > 0:
                found[x.id] = float(known.activity[inside].mean()) / usual
        return found

    def is_done(self) -> bool:
        """Whether everything that can be looked into has been."""
        there = [c.id for c in self._studio.breakdown.footage if c.id in self._files.places]
        return all(c in self.facts and c in self.heard and (c in self.readings or not self._analyse) for c in there)

    def _preferred(self) -> None:
        """Judge by other levels from now on."""
        quiet = self._preferences.now.quiet
        if quiet != self.levels.quiet:
            self.levels = replace(self.levels, quiet=quiet)
            self.changed.emit()

    # ── looking ──────────────────────────────────────────────────────────────────────────────────────────
    def _begin(self) -> None:
        """Start what has not been started for files that are there; watch where they are."""
        if not self._files.has_begun:
            return
        wanted = [str(p) for p in self._files.places.values()]
        wanted += sorted({str(p.parent) for p in self._files.places.values()})
        watched = {*self._watcher.files(), *self._watcher.directories()}
        if new := [p for p in wanted if p not in watched]:
            self._watcher.addPaths(new)
        for c in self._studio.breakdown.footage:
            if c.id not in self._files.places:
                continue
            place = self._files.places[c.id]
            self._once("facts", c, partial(_facts, place), self.facts)
            self._once("date", c, partial(_file_date, place), self.dates)
            sound = self._files.sounds.get(c.id)
            if sound is not None:
                self._once("sound", c, partial(_listened, sound, c.fingerprint), self.heard)
            if self._analyse and self._files.has_proxy(c):
                self._read(c, place)

    def _once(self, what: str, c: Footage, work: Callable[[Stopped], object], into: dict[str, Any]) -> None:
        if (what, c.id) in self._begun:
            return
        self._begun.add((what, c.id))
        job = Job(f"Looking into {c.name}", lambda progress, stopped: work(stopped))
        job.stopped.connect(lambda: self._begun.discard((what, c.id)))
        self._workers.run_short(job.then(partial(self._arrived, into, c.id)))

    def _read(self, c: Footage, place: Path) -> None:
        if ("picture", c.id) in self._begun:
            return
        self._begun.add(("picture", c.id))
        job = Job(
            f"Judging the picture of {c.name}",
            lambda progress, stopped: readings(place, c.fingerprint, progress=progress, cancelled=stopped),
        )
        job.stopped.connect(lambda: self._begun.discard(("picture", c.id)))
        self._workers.run_in_background(job.then(partial(self._arrived, self.readings, c.id)))

    def _arrived(self, into: dict[str, Any], footage_id: str, found: object) -> None:
        into[footage_id] = found
        self.changed.emit()

    # ── bringing in ──────────────────────────────────────────────────────────────────────────────────────
    def bring_in(self, videos: list[Path]) -> None:
        """Bring in each file that is a video; each other one is named in a sentence. Off the interface thread."""
        if not videos:
            return

        def look(progress: Callable[[float], None], stopped: Callable[[], bool]) -> list[Brought]:
            found: list[Brought] = []
            for i, video in enumerate(videos):
                if stopped():
                    raise Cancelled
                progress(i / len(videos))
                try:
                    info = photo_size(video) if is_photo(video) else probe(video)
                    found.append(Brought(video, info, fingerprint(video)))
                except ChaptoError as error:
                    found.append(Brought(video, str(error), ""))
            return found

        self._workers.run_short(Job("Bringing in videos", look).then(self._brought))

    def _brought(self, found: list[Brought]) -> None:
        refused = []
        folder = self._studio.session.folder
        for one in found:
            if isinstance(one.info, str):
                refused.append(one.info)
                continue
            if isinstance(one.info, tuple):
                self._put_photo(one.video, one.info, one.mark)
                continue
            put = partial(with_footage, video=one.video, info=one.info, project_folder=folder, mark=one.mark)
            self._studio.edit(f"bring in {one.video.name}", put)
        self._files.find()
        if refused:
            taken = f"{len(refused)} files were not taken.\n" if len(refused) > 1 else ""
            self._studio.message.emit(taken + "\n".join(refused))

    def _put_photo(self, path: Path, size: tuple[int, int], mark: str) -> None:
        add = partial(
            add_photo, name=path.stem, path=stored_path(path, self._studio.session.folder), fingerprint=mark,
            width=size[0], height=size[1],
        )  # fmt: skip
        if self._studio.edit(f"bring in {path.name}", add):
            self._studio.message.emit(f"“{path.stem}” is a photo: show it under a beat with Ctrl+E in Write.")

    # ── files that move ──────────────────────────────────────────────────────────────────────────────────
    def _look_for_moved(self) -> None:
        """A watched file or folder changed: find what moved, by its fingerprint."""
        if any(not p.exists() for p in self._files.places.values()) or self._files.missing:
            self._files.find()
            for c in self._studio.breakdown.footage:
                place = self._files.places.get(c.id)
                if place is not None:
                    self._remember(c, place)

    def _remember(self, c: Footage, place: Path) -> None:
        stored = stored_path(place, self._studio.session.folder)
        if stored != c.path:
            self._studio.edit(f"follow {c.name} to {place.name}", lambda b: change_footage(b, c.id, path=stored))

    def relink(self, footage_id: str, place: Path) -> None:
        """Take `place` for a missing file, if it is that very file."""
        c = self._studio.breakdown.camera(footage_id)
        try:
            same = fingerprint(place) == c.fingerprint
        except ChaptoError as error:
            self._studio.message.emit(str(error))
            return
        if not same:
            self._studio.message.emit(f"“{place.name}” is another file than “{c.name}” was; nothing was changed.")
            return
        self._remember(c, place)
        self._files.find()

    # ── one clock ────────────────────────────────────────────────────────────────────────────────────────
    def one_clock(self) -> Job[tuple[Placement, ...]]:
        """Find where every file lies by its sound (or picture) and put those there that are clearly found."""
        footage, sounds, pictures = self._studio.breakdown.footage, dict(self._files.sounds), dict(self.readings)
        stamps = {k: v.made for k, v in self.facts.items()}

        def work(progress: Callable[[float], None], stopped: Callable[[], bool]) -> tuple[Placement, ...]:
            from chapto.media.one_clock import one_clock
            from chapto.media.sync import listening

            heard = {k: listening(s) for k, s in sounds.items() if len(s)}
            return one_clock(footage, heard, pictures, stamps=stamps, progress=progress, cancelled=stopped)

        job = Job("Bringing the files onto one clock", work)
        self._job = self._workers.run_asked(job.then(self._clocked))
        return job

    def _clocked(self, found: tuple[Placement, ...]) -> None:
        self.placements = {p.footage: p for p in found}
        there = {c.id for c in self._studio.breakdown.footage}
        places = {p.footage: (p.offset, p.drift) for p in found if p.is_trusted and p.footage in there}
        self._studio.edit("bring the files onto one clock", lambda b: place_footage(b, places))
        unsure = [p.sentence for p in found if not p.is_trusted]
        done = f"{len(places)} of {len(found)} files were brought onto the clock of the first."
        self._studio.message.emit("  ".join([done, *unsure]))
        self.changed.emit()


def _facts(place: Path, _: Stopped) -> MediaInfo:
    return probe(place)


def _file_date(place: Path, _: Stopped) -> datetime:
    try:
        return datetime.fromtimestamp(place.stat().st_mtime).astimezone()
    except OSError as error:
        raise MediaError(f"“{place.name}” can't be looked at: {error.strerror or error}.") from None


def _listened(sound: FootageSound, fingerprint: str, stopped: Stopped) -> LoudAndTones:
    return loud_and_tones(sound, fingerprint, cancelled=stopped)
