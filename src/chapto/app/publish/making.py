"""Making a package, or the video alone, in the background: what is made, how far, and what came of it."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from msgspec.structs import replace
from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from chapto.app.jobs import Job, Progress, Stopped
from chapto.app.publish.part_rows import MADE_BY, Entry, State
from chapto.app.studio import Studio
from chapto.document.breakdown import Breakdown
from chapto.publish.manifest import Manifest
from chapto.render.package.make import Progress as PackageProgress
from chapto.render.package.make import make_package
from chapto.render.package.parts import PARTS
from chapto.render.production import Production, produce, render_production

PREVIEW = "Preview"
Work = Callable[[Production, Progress, Stopped], object]
IDLE = 180_000
"""Milliseconds after which encoding processes that had nothing to do are ended."""


class PackageMaking(QObject):
    """`states` says how far each entry is, `now` which are being made, `share` how far those are and `whole` all.
    `told` comes when any of it changes, `ended` with a sentence when it is over."""

    told = pyqtSignal()
    ended = pyqtSignal(str)
    ready = pyqtSignal(object)
    """Spans of frames that are encoded; none when it begins anew."""
    _progressed = pyqtSignal(object)

    def __init__(self, studio: Studio) -> None:
        super().__init__()
        self._studio = studio
        self.job: Job[object] | None = None
        self._of: Breakdown | None = None
        self.states: dict[Entry, State] = {}
        self.now: tuple[Entry, ...] = ()
        self.share = self.whole = 0.0
        self.package: Path | None = None
        self.files: tuple[Path, ...] = ()
        self.previewed: Path | None = None
        self._preview_made: tuple[object, ...] | None = None
        self._progressed.connect(self._hear)
        self._idle = QTimer(self)
        self._idle.setSingleShot(True)
        self._idle.setInterval(IDLE)
        self._idle.timeout.connect(self._rest)

    def make(self, folder: Path, suffix: str) -> None:
        """Make the whole package of what the document says now."""
        encoders, project, guide = self._studio.encoders, self._studio.session.path, self._studio.compiling.guide
        left_out: list[str] = []

        def work(production: Production, progress: Progress, stopped: Stopped) -> object:
            def told(p: PackageProgress) -> None:
                progress(p.whole)
                self._progressed.emit(p)

            return make_package(
                production,
                project,
                folder,
                guide,
                suffix=suffix,
                workers=encoders,
                told=told,
                ready=self.ready.emit,
                say=left_out.append,
                cancelled=stopped,
            )

        def done(manifest: Manifest) -> None:
            self.package = folder
            self.files = tuple(folder / f.path for f in manifest.files)
            self.states = dict.fromkeys(Entry, State.MADE)
            self._over(" ".join((f"Made “{folder.name}”, {len(manifest.files)} files.", *left_out)))

        self._begin("Package", work, done)

    def render(self, target: Path, *, replacing: bool) -> None:
        """Make the video alone, with what stands beside it."""

        def done(files: tuple[Path, ...]) -> None:
            self.files = files
            for entry in MADE_BY[1]:
                self.states[entry] = State.MADE
            names = ", ".join(f.name for f in files[1:])
            self._over(f"Made {files[0].name}, with {names} beside it.")

        self.now = MADE_BY[1]
        self._begin("Render", self._video(target, replacing=replacing, preview=False), done)

    def preview(self, target: Path, *, replacing: bool) -> None:
        """Make a small video soon, from quick pictures, to be looked through; what goes out is not touched by it."""

        def done(files: tuple[Path, ...]) -> None:
            self.previewed, self._preview_made = files[0], _mark_of(files[0])
            self._over(f"Made {files[0].name}, small and from quick pictures.")

        self._begin(PREVIEW, self._video(target, replacing=replacing, preview=True), done)

    def made_preview(self, target: Path) -> bool:
        """Whether `target` is the preview this window made last, as it left it."""
        return self._preview_made is not None and self._preview_made == _mark_of(target)

    def _video(self, target: Path, *, replacing: bool, preview: bool) -> Work:
        project, encoders = self._studio.session.path, self._studio.encoders

        def work(production: Production, progress: Progress, stopped: Stopped) -> object:
            return render_production(
                production,
                project,
                target,
                replacing=replacing,
                alone=preview,
                preview=preview,
                workers=encoders,
                progress=progress,
                # What of the video itself is encoded, a preview says nothing of.
                ready=(lambda spans: None) if preview else self.ready.emit,
                cancelled=stopped,
            )

        return work

    def stop(self) -> None:
        """Stop what is being made; pieces that are ready are kept for the next time."""
        if self.job is not None:
            self.job.stop()

    def changed(self) -> None:
        """The document is another: what was made is no longer what it says, unless it is again what it was."""
        if self.job is None and self._of is not None and self.states:
            now = State.MADE if _what_goes_out(self._studio.breakdown) == self._of else State.CHANGED
            self.states = {e: now if s in (State.MADE, State.CHANGED) else s for e, s in self.states.items()}
            self.told.emit()

    def close(self) -> None:
        """Stop, and end the processes."""
        self.stop()
        self._idle.stop()

    def _rest(self) -> None:
        """Nothing was made for a while: ending the processes takes a moment."""
        encoders = self._studio.encoders
        self._studio.workers.run_thought(Job("Resting", lambda progress, stopped: encoders.close()))

    def _begin(self, title: str, work: Work, done: Callable[..., object]) -> None:
        studio, b = self._studio, self._studio.breakdown
        project, known, guide = studio.session.path, studio.known, studio.compiling.guide

        def all_of_it(progress: Progress, stopped: Stopped) -> object:
            progress(0.0)
            return work(produce(b, guide, known, project=project, cancelled=stopped), progress, stopped)

        self._idle.stop()
        self.share = self.whole = 0.0
        self.previewed = None
        job: Job[object] = Job(title, all_of_it)
        job.progressed.connect(self._hear_share)
        job.failed.connect(self._over)
        job.stopped.connect(self._stopped)
        self.job = job
        if title != PREVIEW:
            self._of = _what_goes_out(b)
            self.ready.emit(())
        self._studio.workers.run_asked(job.then(done))
        self.told.emit()

    def _hear(self, p: PackageProgress) -> None:
        if self.job is None:
            return
        if p.part >= len(PARTS):
            self.now = ()
        else:
            made = {e for i in range(p.part) for e in MADE_BY[i]} - set(MADE_BY[p.part])
            later = {e for i in range(p.part, len(PARTS)) for e in MADE_BY[i]}
            self.states.update(dict.fromkeys(made - later, State.MADE))
            self.now, self.share = MADE_BY[p.part], p.share
        self.told.emit()

    def _hear_share(self, share: float) -> None:
        self.whole = share
        if self.now == MADE_BY[1] and self.job is not None and self.job.title == "Render":
            self.share = share
        self.told.emit()

    def _stopped(self) -> None:
        self.states = {e: s for e, s in self.states.items() if s is State.CHANGED}
        self._over("")

    def _over(self, sentence: str) -> None:
        self.job, self.now = None, ()
        # What was encoded takes room that has a limit.
        self._studio.files.make_room()
        self._idle.start()
        self.told.emit()
        self.ended.emit(sentence)


def _mark_of(place: Path) -> tuple[object, ...] | None:
    """By what a file is known again; None where there is none."""
    try:
        found = place.stat()
    except OSError:
        return None
    return place, found.st_ino, found.st_mtime_ns, found.st_size


def _what_goes_out(b: Breakdown) -> Breakdown:
    """A document without what does not change any file: the record of what went out, and what was decided in review."""
    return replace(b, publishing=replace(b.publishing, published=()), waivers=(), notes=())
