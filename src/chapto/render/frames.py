"""The programme's frames, one after another, ready for an encoder."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from fractions import Fraction
from functools import partial
from pathlib import Path

import av

from chapto.document.breakdown import Breakdown
from chapto.media.opening import MediaError
from chapto.media.reader import FrameReader
from chapto.paint.application import application
from chapto.paint.overlay import Box, Overlay
from chapto.paint.places import Place, first_place, second_place
from chapto.programme.programme import Programme
from chapto.render.blend import YuvBox, blend, frame_from_rgb, frame_of_black, put, yuv_box


class ProgrammeFrames:
    """Makes each frame of a programme as yuv420p. A frame like the one before is handed out again, not remade."""

    def __init__(self, b: Breakdown, programme: Programme, places: dict[str, Path]) -> None:
        # Qt paints letters only with an application object.
        application(offscreen=True)
        self._b, self._programme, self._places = b, programme, places
        self._size = (b.format.width, b.format.height)
        self._overlay = Overlay(b, programme, self._size)
        self._readers: dict[tuple[str, bool], FrameReader] = {}
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
            key, make = self._pictures(number)
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

    def _pictures(self, number: int) -> tuple[object, Callable[[], av.VideoFrame]]:
        """The footage of a frame, a second picture included; its key, and how it is made."""
        passage = self._programme.time_map.passage_at(number)
        inset = self._programme.inset_at(number)
        first = self._one(passage.footage, passage.mat_at(number), first_place(self._size, inset), second=False)
        if inset is None:
            return first
        place = second_place(self._size, inset)
        other = self._one(inset.footage, inset.mat_at(number), place, second=True)
        return (first[0], other[0], inset.beside), partial(self._both, first[1], other[1], place, beside=inset.beside)

    def _one(
        self, footage_id: str, mat: Fraction, place: Place, *, second: bool
    ) -> tuple[object, Callable[[], av.VideoFrame]]:
        footage = self._b.camera(footage_id)
        reader = self._reader(footage_id, second)
        index = reader.index_at(footage.media_time(mat))
        return (footage_id, index), partial(
            reader.picture, index, place[2], place[3], "yuv420p", mirrored=footage.mirrored
        )

    def _both(
        self,
        first: Callable[[], av.VideoFrame],
        other: Callable[[], av.VideoFrame],
        place: Place,
        *,
        beside: bool,
    ) -> av.VideoFrame:
        """Two pictures in one frame."""
        under = first()
        if beside:
            frame = frame_of_black(*self._size)
            put(frame, under, 0, 0)
        else:
            frame = under
            frame.make_writable()
        put(frame, other(), place[0], place[1])
        return frame

    def _reader(self, footage_id: str, second: bool) -> FrameReader:
        """A reader of a file; second pictures have their own, so that two places of one file are each read in order."""
        if (footage_id, second) not in self._readers:
            if footage_id not in self._places:
                name = self._b.camera(footage_id).name
                raise MediaError(f"The footage “{name}” is missing; put it back before rendering.")
            self._readers[(footage_id, second)] = FrameReader(self._places[footage_id])
        return self._readers[(footage_id, second)]
