"""Pictures of places on the shelf: where their files lie is looked up off the interface thread."""

from __future__ import annotations

from collections.abc import Iterable
from fractions import Fraction
from itertools import chain
from pathlib import Path

from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtGui import QImage

from chapto.app.jobs import Job, Progress, Stopped
from chapto.app.screen.feed import PictureFeed, Want
from chapto.app.studio import Studio
from chapto.document.footage import Footage
from chapto.media.pictures import FootagePictures
from chapto.shelf.search import Found
from chapto.store.errors import StoreError
from chapto.store.fingerprint import find_media

SIZE = (256, 144)
"""Pixels of a picture."""
PER_SECOND = 12
"""Pictures shown of what plays."""
CACHE = 60_000_000
INTO = 0.4
"""Share of an exchange after which its still is taken: something happens then."""
Id = tuple[str, str]


class ShelfPictures(QObject):
    """`arrived` comes when a picture is there, or when it is known where files lie."""

    arrived = pyqtSignal()

    def __init__(self, studio: Studio) -> None:
        super().__init__()
        self._studio = studio
        self._places: dict[str, Path] = {}
        self._footage: dict[Id, Footage | None] = {}
        self._asked: set[Id] = set()
        self._pictures = FootagePictures(self._places, cache_bytes=CACHE)
        self._stills_feed, self._moving_feed = PictureFeed(self._pictures), PictureFeed(self._pictures)
        self._stills: dict[Id, QImage] = {}
        self._wanted: dict[int, list[Found]] = {}
        self._last: tuple[int, QImage] | None = None
        for feed in (self._stills_feed, self._moving_feed):
            feed.arrived.connect(lambda _: self.arrived.emit())
            feed.lost.connect(lambda _: self.arrived.emit())

    def is_here(self, place: Found) -> bool | None:
        """Whether a place's file is there; None while nobody has looked."""
        return None if (key := _file(place)) not in self._footage else self._footage[key] is not None

    def file_of(self, place: Found) -> Path | None:
        """Where the file of a place lies; None where that is not known."""
        footage = self._footage.get(_file(place))
        return self._places.get(footage.id) if footage is not None else None

    def locate(self, places: Iterable[Found]) -> None:
        """Look for the files of places."""
        wanted = {_file(p): p.path for p in places if p.footage and _file(p) not in self._asked}
        if not wanted:
            return
        self._asked |= set(wanted)
        shelf = self._studio.shelf.shelf()
        rows = {path: shelf.files_of(path) for path in set(wanted.values())}

        def work(progress: Progress, stopped: Stopped) -> dict[Id, tuple[Path, str, bool] | None]:
            found: dict[Id, tuple[Path, str, bool] | None] = {}
            for key, path in wanted.items():
                stored, mark, mirrored = rows[path].get(key[1], ("", "", False))
                try:
                    found[key] = (find_media(stored, mark, path), mark, mirrored)
                except StoreError:
                    found[key] = None
            return found

        job = Job("Looking for earlier footage", work)
        self._studio.workers.run_thought(job.then(self._located))

    def still(self, place: Found) -> QImage | None:
        """A place's picture, if it is there already."""
        key = (str(place.path), place.key)
        if key not in self._stills and (want := self._want(place, place.media_in + INTO * _long(place))) is not None:
            image = self._stills_feed.image(want)
            if image is not None:
                self._stills[key] = image
        return self._stills.get(key)

    def moving(self, place: Found, second: float) -> QImage | None:
        """The picture so many seconds after a place's start, or the last that came of it."""
        want = self._want(place, place.media_in + _on_step(second))
        image = self._moving_feed.image(want) if want is not None else None
        if image is not None:
            self._last = (place.id, image)
        return self._last[1] if self._last is not None and self._last[0] == place.id else None

    def ask_stills(self, asker: object, places: Iterable[Found]) -> None:
        """Fetch the pictures of these, in order, instead of what the same `asker` asked for before."""
        self._wanted[id(asker)] = list(places)
        wants = [
            w
            for p in chain.from_iterable(self._wanted.values())
            if (str(p.path), p.key) not in self._stills
            and (w := self._want(p, p.media_in + INTO * _long(p))) is not None
        ]
        self._stills_feed.ask(wants)

    def ask_moving(self, place: Found, seconds: Iterable[float]) -> None:
        """Fetch pictures so many seconds after a place's start."""
        wants = (self._want(place, place.media_in + _on_step(s)) for s in seconds)
        self._moving_feed.ask([w for w in wants if w is not None])

    def is_settled(self, places: Iterable[Found]) -> bool:
        """Whether nothing more is to come of the pictures of these."""
        for p in places:
            if not p.footage:
                continue
            if _file(p) not in self._footage:
                return False
            want = self._want(p, p.media_in + INTO * _long(p))
            if want is not None and (str(p.path), p.key) not in self._stills and not self._stills_feed.is_done(want):
                return False
        return True

    def close(self) -> None:
        """End the threads and give the files back."""
        self._stills_feed.close()
        self._moving_feed.close()
        self._pictures.close()

    def _want(self, place: Found, second: float) -> Want | None:
        footage = self._footage.get(_file(place))
        if footage is None:
            return None
        # A thousandth is finer than any file's pictures.
        return Want(footage, Fraction(round(second * 1000), 1000), *SIZE)

    def _located(self, found: dict[Id, tuple[Path, str, bool] | None]) -> None:
        for key, row in found.items():
            if row is None:
                self._footage[key] = None
                continue
            path, mark, mirrored = row
            name = f"{key[0]}#{key[1]}"
            self._places[name] = path
            self._footage[key] = Footage(
                id=name, name=path.name, path=str(path), fingerprint=mark, duration=Fraction(0), fps=Fraction(25),
                mirrored=mirrored,
            )  # fmt: skip
        self.arrived.emit()


def _on_step(second: float) -> float:
    """Seconds on the grid of pictures that are shown: what was fetched ahead is what is asked for."""
    return int(second * PER_SECOND) / PER_SECOND


def _file(place: Found) -> Id:
    return str(place.path), place.footage


def _long(place: Found) -> float:
    return max(place.media_out - place.media_in, 0.0)
