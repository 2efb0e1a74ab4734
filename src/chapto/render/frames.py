"""The programme's frames, one after another, ready for an encoder."""

from __future__ import annotations

import hashlib
from collections import OrderedDict
from collections.abc import Callable, Iterator
from fractions import Fraction
from functools import partial
from pathlib import Path

import av
from PyQt6.QtGui import QImage

from chapto.document.breakdown import Breakdown
from chapto.media.opening import MediaError
from chapto.media.quick_reader import QuickReader
from chapto.media.reader import FrameReader
from chapto.paint.application import application
from chapto.paint.box import Box
from chapto.paint.effects import Blur, Effect, Magnified, Veil
from chapto.paint.lens import Lens
from chapto.paint.overlay import Overlay
from chapto.paint.photos import Photos
from chapto.paint.places import Place
from chapto.programme.programme import Programme
from chapto.render.blend import YuvBox, blend, frame_from_rgb, frame_of_ground, put, yuv_box
from chapto.render.picture_effects import apply, fill_bands, magnify, moved

KEPT = 64
"""Boxes kept ready for blending."""
NAMED = 4096
"""Painted pictures whose digest is kept."""
DETAIL = 2
"""A picture is taken so many times as large where something of it is shown larger and the file has it."""


class ProgrammeFrames:
    """Makes each frame of a programme as yuv420p. A frame like the one before is handed out again, not remade.
    It is made from `quick` pictures of the footage, where there are some, if that is said."""

    def __init__(
        self,
        b: Breakdown,
        programme: Programme,
        places: dict[str, Path],
        photos: Photos | None = None,
        *,
        quick: bool = False,
    ) -> None:
        # Qt paints letters only with an application object.
        application(offscreen=True)
        self._b, self._programme, self._places = b, programme, places
        self._size = (b.format.width, b.format.height)
        self._overlay = Overlay(b, programme, self._size, photos)
        self._quick = quick
        self._readers: dict[tuple[str, bool], FrameReader | QuickReader] = {}
        self._boxes: OrderedDict[bytes, YuvBox] = OrderedDict()
        self._digests: OrderedDict[int, bytes] = OrderedDict()
        self._last: tuple[bytes, av.VideoFrame] | None = None

    def __iter__(self) -> Iterator[av.VideoFrame]:
        return (self.frame(i) for i in range(self._programme.frames))

    def content(self, number: int) -> bytes:
        """A digest of all that frame `number` is made of: which pictures of which files, what is done to them, the
        pixels of what is laid over them. Frames of equal content are equal, in whatever programme."""
        return self._asked(number)[0]

    def frame(self, number: int) -> av.VideoFrame:
        """Frame `number`; its time stamp is the caller's to set."""
        content, make, boxes = self._asked(number)
        if self._last is None or self._last[0] != content:
            self._last = (content, self._painted(make(), boxes))
        return self._last[1]

    def _asked(self, number: int) -> tuple[bytes, Callable[[], av.VideoFrame], tuple[tuple[bytes, Box], ...]]:
        """The content of a frame, how the picture under its boxes is made, and these with their digests."""
        card = self._overlay.card(number)
        boxes = tuple((self._named(box.image), box) for box in self._overlay.boxes(number))
        key: object
        make: Callable[[], av.VideoFrame]
        if card is not None:
            image = card[1]
            key, make = ("card", self._named(image)), lambda: frame_from_rgb(image)
        else:
            key, make = self._pictures(number)
        whole = (self._size, key, tuple((name, box.x, box.y) for name, box in boxes))
        return hashlib.blake2b(repr(whole).encode(), digest_size=16).digest(), make, boxes

    def _named(self, image: QImage) -> bytes:
        """A digest of a painted picture."""
        name = self._digests.get(image.cacheKey())
        if name is None:
            bits = image.constBits()
            assert bits is not None
            shape = f"{image.width()}x{image.height()}/{image.format().value}".encode()
            name = hashlib.blake2b(shape + bits.asstring(image.sizeInBytes()), digest_size=16).digest()
            self._digests[image.cacheKey()] = name
            while len(self._digests) > NAMED:
                self._digests.popitem(last=False)
        return name

    def close(self) -> None:
        """Give all files back."""
        for reader in self._readers.values():
            reader.close()
        self._readers.clear()

    def _painted(self, frame: av.VideoFrame, boxes: tuple[tuple[bytes, Box], ...]) -> av.VideoFrame:
        if boxes:
            frame.make_writable()
        for name, box in boxes:
            if name not in self._boxes:
                self._boxes[name] = yuv_box(box.image)
                while len(self._boxes) > KEPT:
                    self._boxes.popitem(last=False)
            self._boxes.move_to_end(name)
            blend(frame, self._boxes[name], box.x, box.y)
        return frame

    def _pictures(self, number: int) -> tuple[object, Callable[[], av.VideoFrame]]:
        """The footage of a frame with what marks do to it, a second picture included; its key, and how it is made."""
        marks = self._overlay.marks
        effects, windows = marks.effects(number), marks.windows(number)
        lenses = [shown.lens for shown in marks.pictures(number)]
        passage = self._programme.time_map.passage_at(number)
        inset = self._programme.inset_at(number)
        mat = passage.mat_at(number)
        key, make = self._one(passage.footage, mat, lenses[0], second=False)
        if inset is not None:
            other = self._one(inset.footage, inset.mat_at(number), lenses[1], second=True)
            key = (key, other[0], inset.beside)
            make = partial(self._both, make, other[1], lenses[1].place, beside=inset.beside)
        if not effects and not windows:
            return key, make
        told = tuple(hashlib.blake2b(e.mask.tobytes()).digest() if isinstance(e, Veil) else e for e in effects)
        spots = tuple((w.source.getRect(), w.target.getRect()) for w in windows)
        large = self._large(passage.footage, mat) if windows and inset is None and lenses[0].is_plain else None
        return (key, told, spots), partial(self._changed, make, effects, windows, large)

    def _changed(
        self,
        make: Callable[[], av.VideoFrame],
        effects: tuple[Effect, ...],
        windows: tuple[Magnified, ...],
        large: Callable[[], av.VideoFrame] | None,
    ) -> av.VideoFrame:
        """A picture with its spots covered, magnified and dimmed, in this order: nothing that is covered shows."""
        frame = make()
        frame.make_writable()
        covers = [e for e in effects if isinstance(e, Blur)]
        for cover in covers:
            apply(frame, cover)
        if windows:
            source, scale = frame, 1
            if large is not None:
                source, scale = large(), DETAIL
                source.make_writable()
                for c in covers:
                    apply(source, Blur(c.x * scale, c.y * scale, c.radius * scale))
            shown = [(w, source if source is not frame else _copy(frame)) for w in windows]
        for effect in effects:
            if isinstance(effect, Veil):
                apply(frame, effect)
        if windows:
            for w, of in shown:
                magnify(frame, of, w, scale)
        return frame

    def _large(self, footage_id: str, mat: Fraction) -> Callable[[], av.VideoFrame] | None:
        """The picture at a mat time `DETAIL` times as large as the programme's; None where the file has no more."""
        footage = self._b.camera(footage_id)
        reader = self._reader(footage_id, False)
        if max(reader.size) < DETAIL * max(self._size):
            return None
        index = reader.index_at(footage.media_time(mat))
        wide, high = self._size[0] * DETAIL, self._size[1] * DETAIL
        return partial(reader.picture, index, wide, high, "yuv420p", mirrored=footage.mirrored)

    def _one(
        self, footage_id: str, mat: Fraction, lens: Lens, *, second: bool
    ) -> tuple[object, Callable[[], av.VideoFrame]]:
        footage = self._b.camera(footage_id)
        reader = self._reader(footage_id, second)
        index = reader.index_at(footage.media_time(mat))
        width, height = lens.place[2:]
        file = (footage.fingerprint, self._quick, footage.mirrored, index, lens.place)
        get = partial(reader.picture, index, pix_fmt="yuv420p", mirrored=footage.mirrored)
        if lens.is_plain and footage_id not in self._programme.readings.two:
            return file, partial(get, width=width, height=height)
        by = DETAIL if lens.near.zoom > 1 and max(reader.size) >= DETAIL * max(width, height) else 1
        box = lens.picture()
        get = partial(get, width=round(box.width()) * by, height=round(box.height()) * by)
        steady = None if lens.steady is None else lens.steady.tobytes()
        banded = footage_id in self._programme.readings.two
        return (*file, lens.aspect, lens.near, steady, banded), lambda: _moved(get(), lens, by, banded=banded)

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
            frame = frame_of_ground(*self._size)
            put(frame, under, 0, 0)
        else:
            frame = under
            frame.make_writable()
        put(frame, other(), place[0], place[1])
        return frame

    def _reader(self, footage_id: str, second: bool) -> FrameReader | QuickReader:
        """A reader of a file; second pictures have their own, so that two places of one file are each read in order."""
        if (footage_id, second) not in self._readers:
            if footage_id not in self._places:
                name = self._b.camera(footage_id).name
                raise MediaError(f"The footage “{name}” is missing; put it back before rendering.")
            place = self._places[footage_id]
            mark = self._b.camera(footage_id).fingerprint
            quick = QuickReader.of(place, mark) if self._quick else None
            self._readers[(footage_id, second)] = quick or FrameReader(place)
        return self._readers[(footage_id, second)]


def _moved(picture: av.VideoFrame, lens: Lens, scale: int, *, banded: bool) -> av.VideoFrame:
    frame = moved(picture, lens, scale)
    if banded:
        fill_bands(frame, lens)
    return frame


def _copy(frame: av.VideoFrame) -> av.VideoFrame:
    made = av.VideoFrame(frame.width, frame.height, "yuv420p")
    put(made, frame, 0, 0)
    return made
