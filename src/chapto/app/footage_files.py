"""The files of the open breakdown: where they are, their pictures, sound and quick pictures."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import QObject, pyqtSignal

from chapto.app.jobs import Job
from chapto.app.preferences import Preferences
from chapto.app.workers import Workers
from chapto.document.breakdown import Breakdown
from chapto.document.footage import Footage
from chapto.document.music import Music
from chapto.media.cache import cache_folders, is_known_whole, make_room
from chapto.media.pictures import FootagePictures
from chapto.media.proxy import make_proxy, proxy_path
from chapto.media.sound import FootageSound, load_sound
from chapto.paint.photos import Photos
from chapto.render.media_places import media_places, music_places, photo_places
from chapto.store.session import Session


class FootageFiles(QObject):
    """`places` by footage id are the files that are there, `missing` sentences about the others.

    `moved` comes when files may lie elsewhere (`pictures` is another object then), `ready` when sound or quick pictures
    of one have arrived; `message` carries sentences.
    """

    moved = pyqtSignal()
    ready = pyqtSignal()
    message = pyqtSignal(str)
    _sound_damaged = pyqtSignal(str)

    def __init__(self, session: Session, workers: Workers, preferences: Preferences, *, proxies: bool = True) -> None:
        super().__init__()
        self._session, self._workers, self._preferences = session, workers, preferences
        self._want_proxies = proxies
        self._making: set[str] = set()
        self.has_begun = False
        self._found_for: dict[str, tuple[str, str]] = {}
        self._sound_of: dict[str, tuple[str, str]] = {}
        self.places, self.missing = media_places(session.breakdown, session.path)
        self.photos = Photos(photo_places(session.breakdown, session.path)[0])
        self._music: dict[str, Path] = {}
        self.pictures = FootagePictures({})
        self.sounds: dict[str, FootageSound] = {}
        self._sound_damaged.connect(self._load_sound_again)
        workers.dropped.connect(self._dropped)
        self._room_was = self._room()
        preferences.changed.connect(self._preferred)

    @property
    def present(self) -> tuple[Footage, ...]:
        """The footage whose files are there."""
        return tuple(c for c in self._session.breakdown.footage if c.id in self.places)

    def follow(self) -> None:
        """Look again if the document names other files than before."""
        if _files(self._session.breakdown) != self._found_for:
            self.find()

    def find(self) -> None:
        """Look for the files; sound and quick pictures of what is there are begun or taken up again, but nothing before
        `begin`."""
        b = self._session.breakdown
        self._found_for = _files(b)
        self.places, self.missing = media_places(b, self._session.path)
        photos, without = photo_places(b, self._session.path)
        self._music, silent = music_places(b, self._session.path)
        self.photos, self.missing = Photos(photos), (*self.missing, *without, *silent)
        self.sounds = {k: v for k, v in self.sounds.items() if self._sound_of.get(k) == self._found_for.get(k)}
        self.pictures.close()
        self.pictures = FootagePictures(self.places)
        self.moved.emit()
        if self.has_begun:
            self._work()
        if self.missing:
            self.message.emit(self.missing[0])

    def begin(self) -> None:
        """Read sound and photos, and make quick pictures, from now on."""
        self.has_begun = True
        self._work()
        self.ready.emit()

    def _work(self) -> None:
        if self.photos.places:
            self._read_photos(self.photos)
        for footage in self.present:
            if footage.id not in self.sounds:
                self._load_sound(footage)
        for piece in self._session.breakdown.music:
            if piece.id in self._music and piece.id not in self.sounds:
                self._load_sound(piece)
        for footage in self.present:
            if not self.has_proxy(footage) and footage.fingerprint not in self._making:
                self._make_proxy(footage)

    def has_proxy(self, footage: Footage) -> bool:
        """Whether quick pictures of a file are there, or none are wanted."""
        return not self._want_proxies or is_known_whole(proxy_path(footage.fingerprint))

    @property
    def is_waiting_for_proxies(self) -> bool:
        """Whether quick pictures are missing and nobody is making them."""
        return any(not self.has_proxy(c) and c.fingerprint not in self._making for c in self.present)

    @property
    def is_sound_there(self) -> bool:
        """Whether the sound of every file that is there can be heard."""
        return len(self.sounds) >= len(self.places) + len(self._music)

    def make_room(self) -> None:
        """Have quick pictures, sound and guide voice together take no more than the limit."""
        room = self._room()
        self._workers.run_unseen(Job("Making room", lambda progress, stopped: make_room(*cache_folders(), limit=room)))

    def _preferred(self) -> None:
        """Only another limit asks for room."""
        if self._room() != self._room_was:
            self._room_was = self._room()
            self.make_room()

    def close(self) -> None:
        """Give the files back."""
        self.pictures.close()

    def _room(self) -> int:
        return self._preferences.now.proxy_gigabytes * 10**9

    def _dropped(self) -> None:
        self._making.clear()
        self.ready.emit()

    def _read_photos(self, photos: Photos) -> None:
        """Have them decoded before they are painted."""
        job = Job("Photos", lambda progress, stopped: [photos.image(i) for i in photos.places])
        self._workers.run_unseen(job.then(lambda _: self.ready.emit()))

    def _load_sound(self, footage: Footage | Music, *, anew: bool = False) -> None:
        place, file = (self.places | self._music)[footage.id], self._found_for[footage.id]
        again = f"The kept sound of {footage.name} was damaged; it is made again."

        def arrived(sound: FootageSound) -> None:
            # Meanwhile the file may have been taken out, and another may have its id.
            if self._found_for.get(footage.id) == file:
                sound.on_damage = lambda: self._sound_damaged.emit(footage.id)
                self.sounds[footage.id], self._sound_of[footage.id] = sound, file
                self.ready.emit()

        job = Job(
            f"Sound of {footage.name}",
            lambda progress, stopped: load_sound(
                place, footage.fingerprint, cancelled=stopped, remade=lambda: self.message.emit(again), anew=anew
            ),
        )
        self._workers.run_for_programme(job.then(arrived))

    def _load_sound_again(self, footage_id: str) -> None:
        """The kept copy turned out to be damaged while it was read."""
        pieces = [m for m in self._session.breakdown.music if m.id in self._music]
        files: list[Footage | Music] = [*self.present, *pieces]
        for file in files:
            if file.id == footage_id:
                self.sounds.pop(footage_id, None)
                self._load_sound(file, anew=True)

    def _make_proxy(self, footage: Footage) -> None:
        place, room = self.places[footage.id], self._room()
        again = f"The quick pictures of {footage.name} were damaged; they are made again."
        self._making.add(footage.fingerprint)

        def arrived(_: object) -> None:
            self.pictures.proxy_made(footage.id)
            self.ready.emit()

        job = Job(
            f"Quick pictures of {footage.name}",
            lambda progress, stopped: make_proxy(
                place,
                footage.fingerprint,
                limit=room,
                remade=lambda: self.message.emit(again),
                progress=progress,
                cancelled=stopped,
            ),
        )
        self._workers.run_in_background(job.then(arrived))


def _files(b: Breakdown) -> dict[str, tuple[str, str]]:
    """Place and fingerprint of every file, by footage id: what files, sounds and pictures hang on."""
    footage = {c.id: (c.path, c.fingerprint) for c in b.footage}
    beside = {p.id: (p.path, p.fingerprint) for p in b.photos} | {m.id: (m.path, m.fingerprint) for m in b.music}
    return footage | beside
