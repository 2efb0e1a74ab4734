"""The open breakdown as the window sees it: session, compiled programme, files, background work."""

from __future__ import annotations

import contextlib
import time
from collections.abc import Callable
from pathlib import Path

from PyQt6.QtCore import QCoreApplication, QObject, QTimer, pyqtSignal

from chapto.app.jobs import Job, JobQueue
from chapto.app.preferences import Preferences
from chapto.document.breakdown import Breakdown
from chapto.document.footage import Footage
from chapto.errors import ChaptoError
from chapto.lexicon.lexicon import Lexicon
from chapto.media.cache import cache_folders, is_known_whole, make_room
from chapto.media.pictures import FootagePictures
from chapto.media.proxy import make_proxy, proxy_path
from chapto.media.sound import FootageSound, load_sound
from chapto.programme.angles import AngleTrack
from chapto.programme.programme import Programme
from chapto.render.mix import Mix
from chapto.render.production import Production, media_places, produce
from chapto.store.session import Session
from chapto.store.user_files import users_knowledge
from chapto.voice.guide import GuideVoice, SpeechSounds

COMPILE_AFTER = 60
"""Milliseconds of quiet typing before the programme is compiled again."""
SAVE_AFTER = 20_000
"""Milliseconds after the last edit at which the file itself is saved."""


class Studio(QObject):
    """One open document. Every edit goes through `edit`; `compiled` follows with the new programme."""

    changed = pyqtSignal()
    compiled = pyqtSignal()
    said = pyqtSignal(str)
    media_ready = pyqtSignal()
    media_moved = pyqtSignal()
    work_changed = pyqtSignal(str, float)
    _sound_damaged = pyqtSignal(str)

    def __init__(self, session: Session, *, guide: GuideVoice | None = None, proxies: bool = True) -> None:
        super().__init__()
        self.session = session
        self.guide = guide or GuideVoice()
        self.preferences = Preferences()
        self.known = users_knowledge()
        for trouble in self.known.troubles[:1]:
            self._say_soon(trouble)
        self._voices = JobQueue("voices")
        self._media = JobQueue("media")
        self._asked = JobQueue("asked")
        self._looking = JobQueue("looking")
        self._thinking = JobQueue("thinking")
        self._compile_job: Job | None = None
        self._want_proxies = proxies
        self._making: set[str] = set()
        self._working: dict[str, Job] = {}
        self.production = _silent_production(session.breakdown)
        self._compiled_for: Breakdown | None = None
        self.places: dict[str, Path] = {}
        self.missing: tuple[str, ...] = ()
        self.pictures = FootagePictures({})
        self.sounds: dict[str, FootageSound] = {}
        self._sound_of: dict[str, tuple[str, str]] = {}
        self._media_for: dict[str, tuple[str, str]] = {}
        self._angles = AngleTrack(session.breakdown)
        self._angles_for = session.breakdown
        self._sound_damaged.connect(self._load_sound_again)
        session.listeners.append(self._on_change)
        self._compile_timer = _timer(self, COMPILE_AFTER, self._compile, once=True)
        self._journal_timer = _timer(self, 250, session.keep_safe, once=False)
        self._save_timer = _timer(self, SAVE_AFTER, self.save_quietly, once=True)
        self._journal_timer.start()
        self.find_media()
        self._compile()
        self.make_room()
        self.preferences.changed.connect(self.make_room)
        self.preferences.failed.connect(self.said)

    # ── the document ─────────────────────────────────────────────────────────────────────────────────────
    @property
    def breakdown(self) -> Breakdown:
        """The document as it is now."""
        return self.session.breakdown

    @property
    def programme(self) -> Programme:
        """The last compiled programme; it follows the document within a moment."""
        return self.production.programme

    @property
    def angles(self) -> AngleTrack:
        """Which camera shows each mat time, in the document as it is now."""
        if self._angles_for is not self.breakdown:
            self._angles, self._angles_for = AngleTrack(self.breakdown), self.breakdown
        return self._angles

    @property
    def is_compiled(self) -> bool:
        """Whether the programme belongs to the document as it is now."""
        return self._compiled_for is self.session.breakdown

    def edit(self, what: str, change: Callable[[Breakdown], Breakdown], *, merge: str = "") -> bool:
        """Change the document; a refused edit is said in a sentence. Whether it was made."""
        try:
            self.session.edit(what, change, merge=merge)
        except ChaptoError as error:
            self.said.emit(str(error))
            return False
        return True

    @property
    def lexicon(self) -> Lexicon:
        """Names of techniques and positions, the user's own included."""
        return self.known.lexicon

    def know_again(self) -> None:
        """Read the user's own files again, a house style was changed, and compile the same document anew."""
        self.known = users_knowledge()
        self._compiled_for = None
        self._compile_timer.start()

    def save_quietly(self) -> None:
        """Save to the project's own file, if it has one."""
        if self.session.path is not None and not self.session.is_saved and not self.session.read_only:
            try:
                if said := self.session.save():
                    self.said.emit(said)
            except ChaptoError as error:
                self.said.emit(str(error))
                self._save_timer.start()

    def mix(self) -> Mix:
        """The programme's sound as it is now."""
        sounds = SpeechSounds(self.production.speeches)
        return Mix(self.production.breakdown, self.programme, sounds, self.sounds)

    def wait(self, *, seconds: float = 30.0) -> bool:
        """Let events run until the programme is compiled and the sound is there; False when time is up."""
        end = time.monotonic() + seconds
        while time.monotonic() < end:
            QCoreApplication.processEvents()
            if self.is_compiled and len(self.sounds) >= len(self.places):
                return True
            time.sleep(0.005)
        return False

    def keep_everything(self) -> None:
        """Save, or keep the edits at once, before closing; `StoreError` where neither can be done."""
        self.session.close()

    def on_fault(self, sentence: str) -> None:
        """Something failed inside Chapto: what was edited is kept at once, and it is said."""
        self.session.keep_safe(at_once=True)
        self.said.emit(sentence)

    def close(self) -> None:
        """Stop all work, give files back. What could not be kept by `keep_everything` before is lost."""
        self._journal_timer.stop()
        self._compile_timer.stop()
        self._save_timer.stop()
        self.session.listeners.remove(self._on_change)
        with contextlib.suppress(ChaptoError):
            self.session.close()
        self.session.let_go()
        self._voices.close()
        self._media.close()
        self._asked.close()
        self._looking.close()
        self._thinking.close()
        self.pictures.close()

    # ── media ────────────────────────────────────────────────────────────────────────────────────────────
    def find_media(self) -> None:
        """Look for the footage and begin sound and proxies of what is there."""
        self._media_for = _files(self.breakdown)
        self.places, self.missing = media_places(self.breakdown, self.session.path)
        self.sounds = {k: v for k, v in self.sounds.items() if self._sound_of.get(k) == self._media_for.get(k)}
        self.pictures.close()
        self.pictures = FootagePictures(self.places)
        self.media_moved.emit()
        there = [c for c in self.breakdown.footage if c.id in self.places]
        for footage in there:
            if footage.id not in self.sounds:
                self._load_sound(footage)
        for footage in there:
            if not self.has_proxy(footage) and footage.fingerprint not in self._making:
                self._making.add(footage.fingerprint)
                self._make_proxy(footage.id, footage.name, footage.fingerprint)
        if self.missing:
            self.said.emit(self.missing[0])

    def make_room(self) -> None:
        """Have quick pictures, sound and guide voice together take no more than the limit."""
        room = self._room()
        self._media.add(Job("Making room", lambda progress, stopped: make_room(*cache_folders(), limit=room)))

    def _room(self) -> int:
        return self.preferences.now.proxy_gigabytes * 10**9

    def run(self, job: Job, *, asked: bool = True) -> Job:
        """Run long media work; the foot shows how far it is. What the creator asked for (a render) does not wait for
        what is done in the background (proxies, judging the picture)."""
        self._working[job.title] = job
        job.progressed.connect(lambda share: self.work_changed.emit(job.title, min(share, 0.999)))
        for ended in (job.finished, job.failed, job.stopped):
            ended.connect(lambda *_: self._ended(job))
        return (self._asked if asked else self._media).add(job)

    def stop_work(self, title: str) -> None:
        """Stop the work called `title`. Of what is done in the background everything stops; what was half made is
        kept, and goes on from there with `go_on`."""
        job = self._working.get(title)
        if job is not None and job in self._media:
            self._media.stop()
            self._making.clear()
            self.media_ready.emit()
        elif job is not None:
            job.stop()

    def _ended(self, job: Job) -> None:
        if self._working.get(job.title) is job:
            del self._working[job.title]
        self.work_changed.emit(job.title, 1.0)

    def go_on(self) -> None:
        """Take up what was stopped."""
        self.find_media()

    @property
    def is_waiting_for_proxies(self) -> bool:
        """Whether quick pictures are missing and nobody is making them."""
        there = [c for c in self.breakdown.footage if c.id in self.places]
        return any(not self.has_proxy(c) and c.fingerprint not in self._making for c in there)

    def look(self, job: Job) -> Job:
        """Run short work off the interface thread."""
        return self._looking.add(job)

    def think(self, job: Job) -> Job:
        """Run work of well under a second that needs no footage, and so never waits for work that does."""
        return self._thinking.add(job)

    def has_proxy(self, footage: Footage) -> bool:
        """Whether quick pictures of a file are there, or none are wanted."""
        return not self._want_proxies or is_known_whole(proxy_path(footage.fingerprint))

    def _load_sound(self, footage: Footage, *, anew: bool = False) -> None:
        place, file = self.places[footage.id], self._media_for[footage.id]
        job = Job(
            f"Sound of {footage.name}",
            lambda progress, stopped: load_sound(
                place, footage.fingerprint, cancelled=stopped, remade=lambda: self.said.emit(again), anew=anew
            ),
        )
        again = f"The kept sound of {footage.name} was damaged; it is made again."

        def arrived(sound: object) -> None:
            assert isinstance(sound, FootageSound)
            # Meanwhile the file may have been taken out, and another may have its id.
            if self._media_for.get(footage.id) == file:
                sound.on_damage = lambda: self._sound_damaged.emit(footage.id)
                self.sounds[footage.id], self._sound_of[footage.id] = sound, file
                self.media_ready.emit()

        job.finished.connect(arrived)
        job.failed.connect(self.said)
        self._voices.add(job)

    def _load_sound_again(self, footage_id: str) -> None:
        """The kept copy turned out to be damaged while it was read."""
        footage = next((c for c in self.breakdown.footage if c.id == footage_id), None)
        if footage is not None and footage_id in self.places:
            self.sounds.pop(footage_id, None)
            self._load_sound(footage, anew=True)

    def _make_proxy(self, footage_id: str, name: str, key: str) -> None:
        place, room = self.places[footage_id], self._room()
        job = Job(
            f"Quick pictures of {name}",
            lambda progress, stopped: make_proxy(
                place,
                key,
                limit=room,
                remade=lambda: self.said.emit(f"The quick pictures of {name} were damaged; they are made again."),
                progress=progress,
                cancelled=stopped,
            ),
        )

        def arrived(_: object) -> None:
            self.pictures.proxy_made(footage_id)
            self.media_ready.emit()

        job.finished.connect(arrived)
        job.failed.connect(self.said)
        self.run(job, asked=False)

    # ── compiling ────────────────────────────────────────────────────────────────────────────────────────
    def _on_change(self) -> None:
        if _files(self.breakdown) != self._media_for:
            self.find_media()
        if self.breakdown is not self._compiled_for:
            self._compile_timer.start()
        if not self.session.is_saved:
            self._save_timer.start()
        self.changed.emit()

    def _compile(self) -> None:
        wanted, known = self.breakdown, self.known
        if self._compile_job is not None:
            self._compile_job.stop()
        job = Job("Guide voice", lambda progress, stopped: produce(wanted, self.guide, known, cancelled=stopped))
        job.finished.connect(self._arrived)
        job.failed.connect(self.said)
        self._compile_job = self._voices.add(job)

    def _arrived(self, production: object) -> None:
        assert isinstance(production, Production)
        if production.breakdown is self.breakdown:
            self.production, self._compiled_for = production, production.breakdown
            self.compiled.emit()

    def _say_soon(self, sentence: str) -> None:
        """Say it once the window is there to show it."""
        QTimer.singleShot(0, lambda: self.said.emit(sentence))


def _files(b: Breakdown) -> dict[str, tuple[str, str]]:
    """Place and fingerprint of every file, by footage id: what files, sounds and pictures hang on."""
    return {c.id: (c.path, c.fingerprint) for c in b.footage}


def _silent_production(b: Breakdown) -> Production:
    """The programme by estimated pace, until the guide voice has spoken."""
    from chapto.programme.compile import compile_programme

    return Production(b, compile_programme(b, {}), {})


def _timer(owner: QObject, milliseconds: int, act: Callable[[], object], *, once: bool) -> QTimer:
    timer = QTimer(owner)
    timer.setInterval(milliseconds)
    timer.setSingleShot(once)
    timer.timeout.connect(lambda: act())
    return timer
