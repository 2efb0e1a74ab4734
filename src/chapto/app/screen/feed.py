"""Pictures for the screen, fetched off the interface thread, ahead of the playhead while playing."""

from __future__ import annotations

import threading
import time
from collections import OrderedDict
from dataclasses import dataclass
from fractions import Fraction

import numpy as np
from numpy.typing import NDArray
from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtGui import QImage

from chapto.app.playhead import Playhead, View
from chapto.document.footage import Footage
from chapto.media.opening import MediaError
from chapto.media.pictures import FootagePictures
from chapto.programme.angles import AngleTrack
from chapto.programme.programme import Programme
from chapto.store.fault_log import record_fault

AHEAD = 10
"""Pictures fetched before they are needed, while it plays."""
READY = 5
"""The same while it stands: playing begins at once then."""
AGAIN_AFTER = 2.0
"""Seconds after which a picture that could not be had may be tried again."""
Key = tuple[Footage | None, Fraction, int, int]


@dataclass(frozen=True)
class Want:
    """A picture to fetch: which file, which mat time, at which size. `footage` None means there is none; a `rough`
    one may be the key picture before it, which is found much sooner."""

    footage: Footage | None
    mat: Fraction
    width: int
    height: int
    rough: bool = False

    @property
    def key(self) -> Key:
        """Tells equal wants. The whole footage counts: the same file elsewhere on the clock shows something else."""
        return (self.footage, self.mat, self.width, self.height)


def wanted(
    head: Playhead, footage: tuple[Footage, ...], track: AngleTrack, programme: Programme, size: tuple[int, int]
) -> Want:
    """What the screen should show for `head`; no footage for cards and where nothing was filmed."""
    if head.view is View.MAT or not programme.frames:
        return Want(head.camera(footage, track), head.mat, *size)
    frame = min(head.frame, programme.frames - 1)
    passage = programme.time_map.passage_at(frame)
    camera = next((c for c in footage if c.id == passage.footage), None)
    return Want(camera, passage.mat_at(frame), *size)


class PictureFeed(QObject):
    """Fetches the newest list of wants; older unfinished ones are dropped.

    `arrived` carries the key, and so does `lost` where a picture can't be had; `failed` says why.
    """

    arrived = pyqtSignal(object)
    lost = pyqtSignal(object)
    failed = pyqtSignal(str)

    def __init__(self, pictures: FootagePictures) -> None:
        super().__init__()
        self._pictures = pictures
        self._list: list[Want] = []
        self._ready: OrderedDict[Key, QImage] = OrderedDict()
        self._lost: dict[Key, float] = {}
        self._told = ""
        self._change = threading.Condition()
        self._open = True
        self._thread = threading.Thread(target=self._work, name="pictures", daemon=True)
        self._thread.start()

    def use(self, pictures: FootagePictures) -> None:
        """Take pictures from another place from now on."""
        with self._change:
            self._pictures = pictures
            self._ready.clear()
            self._lost.clear()

    def ask(self, wants: list[Want]) -> None:
        """Fetch these, in order, instead of what was asked before."""
        with self._change:
            now = time.monotonic()
            self._lost = {key: when for key, when in self._lost.items() if now - when < AGAIN_AFTER}
            wanted = ((w, w.key) for w in wants if w.footage is not None)
            self._list = [w for w, key in wanted if key not in self._ready and key not in self._lost]
            self._change.notify()

    def image(self, want: Want) -> QImage | None:
        """The picture if it is there already."""
        with self._change:
            return self._ready.get(want.key)

    def is_lost(self, want: Want) -> bool:
        """Whether the picture could not be had a moment ago."""
        with self._change:
            return want.key in self._lost

    def is_done(self, want: Want) -> bool:
        """Whether nothing more is to come of a want: it is there, or can't be had."""
        with self._change:
            return want.footage is None or want.key in self._ready or want.key in self._lost

    def close(self) -> None:
        """End the thread."""
        with self._change:
            self._open = False
            self._change.notify()
        self._thread.join()

    def _work(self) -> None:
        while True:
            with self._change:
                while self._open and not self._list:
                    self._change.wait()
                if not self._open:
                    return
                want, pictures = self._list.pop(0), self._pictures
            assert want.footage is not None
            try:
                image = to_image(pictures.picture(want.footage, want.mat, want.width, want.height, rough=want.rough))
            except MediaError as error:
                self._tell(want, str(error))
                continue
            except Exception as error:
                self._tell(want, record_fault(error, f"Fetching a picture of “{want.footage.name}”"))
                continue
            with self._change:
                self._ready[want.key] = image
                self._told = ""
                while len(self._ready) > 4 * AHEAD:
                    self._ready.popitem(last=False)
            self.arrived.emit(want.key)

    def _tell(self, want: Want, sentence: str) -> None:
        """What keeps going wrong is said once."""
        with self._change:
            self._lost[want.key] = time.monotonic()
        self.lost.emit(want.key)
        if sentence != self._told:
            self._told = sentence
            self.failed.emit(sentence)


def to_image(picture: NDArray[np.uint8]) -> QImage:
    """(height, width, 3) RGB as a QImage of its own, in the format that is painted soonest."""
    height, width, _ = picture.shape
    data = np.ascontiguousarray(picture).tobytes()
    packed = QImage(data, width, height, width * 3, QImage.Format.Format_RGB888)
    return packed.convertToFormat(QImage.Format.Format_RGB32)
