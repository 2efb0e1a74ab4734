"""The programme's frames, one after another, ready for an encoder."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from functools import lru_cache, partial
from pathlib import Path

import av
from PyQt6.QtGui import QGuiApplication

from chapto.document.breakdown import Breakdown
from chapto.media.probe import MediaError
from chapto.media.reader import FrameReader
from chapto.paint.overlay import Box, Overlay
from chapto.programme.programme import Programme
from chapto.render.blend import YuvBox, blend, frame_from_rgb, yuv_box


@lru_cache(maxsize=1)
def ensure_painting() -> object:
    """Qt paints letters only with an application object; make a windowless one, for good, if there is none."""
    return QGuiApplication.instance() or QGuiApplication(["chapto", "-platform", "offscreen"])


class ProgrammeFrames:
    """Makes each frame of a programme as yuv420p. A frame like the one before is handed out again, not remade."""

    def __init__(self, b: Breakdown, programme: Programme, places: dict[str, Path]) -> None:
        ensure_painting()
        self._b, self._programme, self._places = b, programme, places
        self._size = (b.format.width, b.format.height)
        self._overlay = Overlay(b, programme, self._size)
        self._readers: dict[str, FrameReader] = {}
        self._boxes: dict[str, YuvBox] = {}
        self._last: tuple[object, av.VideoFrame] | None = None

    def __iter__(self) -> Iterator[av.VideoFrame]:
        return (self.frame(i) for i in range(self._programme.frames))

    def frame(self, number: int) -> av.VideoFrame:
        """Frame `number`; its time stamp is the caller's to set."""
        card = self._overlay.card(number)
        boxes = self._overlay.boxes(number)
        key: object
        make: Callable[[], av.VideoFrame]
        if card is not None:
            title, image = card
            key, make = ("card", title), lambda: frame_from_rgb(image)
        else:
            passage = self._programme.time_map.passage_at(number)
            footage = self._b.camera(passage.footage)
            reader = self._reader(passage.footage)
            index = reader.index_at(footage.media_time(passage.mat_at(number)))
            key = (passage.footage, index)
            make = partial(reader.picture, index, *self._size, "yuv420p", mirrored=footage.mirrored)
        whole = (key, tuple((box.key, box.x, box.y) for box in boxes))
        if self._last is None or self._last[0] != whole:
            self._last = (whole, self._painted(make(), boxes))
        return self._last[1]

    def close(self) -> None:
        """Give all files back."""
        for reader in self._readers.values():
            reader.close()
        self._readers.clear()

    def _painted(self, frame: av.VideoFrame, boxes: tuple[Box, ...]) -> av.VideoFrame:
        if boxes:
            frame.make_writable()
        for box in boxes:
            if box.key not in self._boxes:
                self._boxes[box.key] = yuv_box(box.image)
            blend(frame, self._boxes[box.key], box.x, box.y)
        return frame

    def _reader(self, footage_id: str) -> FrameReader:
        if footage_id not in self._readers:
            if footage_id not in self._places:
                name = self._b.camera(footage_id).name
                raise MediaError(f"The footage “{name}” is missing; put it back before rendering.")
            self._readers[footage_id] = FrameReader(self._places[footage_id])
        return self._readers[footage_id]
