"""Pictures of all footage by mat time, from proxies where there are any, through one bounded cache."""

from __future__ import annotations

import threading
from collections import OrderedDict
from fractions import Fraction
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from chapto.document.footage import Footage
from chapto.media.cache import is_known_whole, used_now
from chapto.media.opening import MediaError
from chapto.media.proxy import LONG_SIDE, proxy_path
from chapto.media.reader import FrameReader

Picture = NDArray[np.uint8]
Key = tuple[str, int, int, int, bool]
CACHE_BYTES = 320_000_000


class FootagePictures:
    """`picture` gives the frame on show at a mat time. Safe from several threads; one decodes at a time."""

    def __init__(self, places: dict[str, Path], *, cache_bytes: int = CACHE_BYTES) -> None:
        self._places = places
        self._limit = cache_bytes
        self._readers: dict[str, FrameReader] = {}
        self._proxies: dict[str, FrameReader | None] = {}
        self._kept: OrderedDict[Key, Picture] = OrderedDict()
        self.kept_bytes = 0
        self._lock = threading.Lock()

    def index_at(self, footage: Footage, mat: Fraction) -> int:
        """Number of the picture of `footage` on show at `mat`."""
        with self._lock:
            return self._reader(footage).index_at(footage.media_time(mat))

    def step(self, footage: Footage, mat: Fraction, by: int) -> Fraction:
        """Mat time of the picture `by` pictures after the one on show at `mat`, kept inside the file.

        Never waits for a picture that is being decoded; meanwhile, in a file not opened yet, it steps by its mean rate.
        """
        if footage.id not in self._readers and self._lock.acquire(blocking=False):
            try:
                self._reader(footage)
            finally:
                self._lock.release()
        reader = self._readers.get(footage.id)
        if reader is None:
            seconds = footage.media_time(mat) + by / footage.fps
            return footage.mat_at(min(max(seconds, Fraction(0)), footage.duration - 1 / footage.fps))
        index = min(max(reader.index_at(footage.media_time(mat)) + by, 0), reader.frames - 1)
        return footage.mat_at(reader.seconds_at(index))

    def picture(self, footage: Footage, mat: Fraction, width: int, height: int, *, rough: bool = False) -> Picture:
        """The picture at `mat`, (height, width, 3) uint8 RGB; `MediaError` when the file can't be read.

        A `rough` one is the key picture at or before it, quick to find in any file.
        """
        with self._lock:
            reader = self._reader(footage)
            index = reader.index_at(footage.media_time(mat))
            if rough:
                index = reader.key_before(index)
            key = (footage.id, index, width, height, footage.mirrored)
            found = self._kept.get(key)
            if found is None:
                reader = self._best(footage, width, height)
                shaped = reader.picture(index, width, height, mirrored=footage.mirrored)
                found = shaped.to_ndarray().astype(np.uint8, copy=False)
                self._keep(key, found)
            self._kept.move_to_end(key)
            return found

    def proxy_made(self, footage_id: str) -> None:
        """Use the proxy of a file from now on; pictures kept from before are forgotten."""
        with self._lock:
            self._proxies.pop(footage_id, None)

    def close(self) -> None:
        """Give all files back."""
        with self._lock:
            for reader in [*self._readers.values(), *(p for p in self._proxies.values() if p)]:
                reader.close()
            self._readers.clear()
            self._proxies.clear()
            self._kept.clear()
            self.kept_bytes = 0

    def _reader(self, footage: Footage) -> FrameReader:
        if footage.id not in self._readers:
            if footage.id not in self._places:
                raise MediaError(f"The footage “{footage.name}” is missing.")
            self._readers[footage.id] = FrameReader(self._places[footage.id])
        return self._readers[footage.id]

    def _best(self, footage: Footage, width: int, height: int) -> FrameReader:
        """The proxy if there is a whole one and it is sharp enough for the size, else the file itself."""
        full = self._reader(footage)
        if max(width, height) > LONG_SIDE:
            return full
        if footage.id not in self._proxies:
            place = proxy_path(footage.fingerprint)
            self._proxies[footage.id] = _whole_proxy(place, full.frames) if is_known_whole(place) else None
            used_now(place)
        return self._proxies[footage.id] or full

    def _keep(self, key: Key, picture: Picture) -> None:
        self._kept[key] = picture
        self.kept_bytes += picture.nbytes
        while self.kept_bytes > self._limit and len(self._kept) > 1:
            _, old = self._kept.popitem(last=False)
            self.kept_bytes -= old.nbytes


def _whole_proxy(place: Path, frames: int) -> FrameReader | None:
    try:
        reader = FrameReader(place, threads=False)
    except MediaError:
        return None
    if reader.frames == frames:
        return reader
    reader.close()
    return None
