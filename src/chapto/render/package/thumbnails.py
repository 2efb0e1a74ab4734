"""Proposals for the picture that stands for the video, and that picture itself."""

from __future__ import annotations

from dataclasses import replace as replaced
from fractions import Fraction

import cv2
import numpy as np
from msgspec.structs import replace
from PyQt6.QtCore import QBuffer, QByteArray, QIODevice, QRectF
from PyQt6.QtGui import QImage

from chapto.document.condition import UNUSABLE
from chapto.document.publishing import Thumbnail
from chapto.errors import Cancelled
from chapto.media.coarse_cells import CoarseCells
from chapto.media.following_two import boxes_of
from chapto.media.opening import MediaError
from chapto.paint.photos import Photos
from chapto.paint.thumbnail import thumbnail_image
from chapto.programme.programme import Programme
from chapto.publish.key_frames import KeyFrame
from chapto.publish.thumbnail_choice import Candidate, proposals
from chapto.render.frames import ProgrammeFrames
from chapto.render.package.making import Making, image_of

MOST_BYTES = 2_000_000
"""Bytes that hosting sites take for a thumbnail (common practice)."""
QUALITIES = (92, 86, 78, 68, 55, 40)
MEASURED = 14
WHOLE = 0.99
"""Share of the width from which a box says nothing."""
LOOKED_AT = 640
"""Pixels of the width in which candidates are measured."""


def proposed(making: Making) -> tuple[Candidate, ...]:
    """The best frames of the programme, best first. Raises `Cancelled` when stopped."""
    programme = making.programme
    found = []
    bare, bodies = _bare(making), _Bodies(making)
    try:
        for number, marks, tied in _looked_at(programme, making.key_frames):
            if making.cancelled():
                raise Cancelled
            passage = programme.time_map.passage_at(number)
            mat = passage.mat_at(number)
            candidate = _measured(bare, making, number, passage.footage, mat)
            found.append(replaced(candidate, marks=marks, tied=tied, bodies=bodies.in_view(passage.footage, mat)))
    finally:
        bare.close()
        bodies.close()
    return proposals(found)


def _looked_at(programme: Programme, keys: tuple[KeyFrame, ...]) -> list[tuple[int, int, bool]]:
    """The frames that are measured, `MEASURED` of them at most: number, marks on it, whether a word points there. What
    is drawn on comes first, spread over the programme."""
    tied = {int(t.shown * programme.fps) for t in programme.ties if t.shown is not None}
    near = {f for t in tied for f in range(t - 3, t + 4)}
    rows = [(k.frame, k.marks, k.frame in near) for k in keys]
    rows += [(f, 0, True) for f in sorted(tied) if f < programme.frames and programme.time_map.passage_at(f).footage]
    rows.sort(key=lambda r: (-(r[1] > 0) - r[2], r[0]))
    best = rows[: 2 * MEASURED]
    return sorted(best[:: max(len(best) // MEASURED, 1)][:MEASURED])


def pictures_of(making: Making, candidates: tuple[Candidate, ...]) -> tuple[tuple[Candidate, QImage], ...]:
    """Candidates with their frames, as they would stand under a title. Raises `Cancelled` when stopped."""
    found = []
    bare = _bare(making)
    try:
        for c in candidates:
            if making.cancelled():
                raise Cancelled
            number = _frame_of(making.programme, Thumbnail(footage=c.footage, at=c.at))
            if number is not None:
                found.append((c, image_of(bare, number)))
    finally:
        bare.close()
    return tuple(found)


def thumbnail(making: Making, chosen: Thumbnail) -> QImage:
    """The picture as the creator chose it, or by the best proposal."""
    b = making.b
    if not any(c.id == chosen.footage for c in b.footage):
        best = proposed(making)
        chosen = replace(chosen, footage=best[0].footage, at=best[0].at) if best else chosen
    title = chosen.title or b.title
    laces = b.first.kit_colour, b.second.kit_colour
    number = _frame_of(making.programme, chosen)
    bare, bodies = _bare(making), _Bodies(making)
    try:
        picture = image_of(bare, number if number is not None else 0)
        return thumbnail_image(picture, title, laces, bodies.box(chosen.footage, chosen.at))
    finally:
        bare.close()
        bodies.close()


def jpeg(image: QImage, most: int = MOST_BYTES) -> bytes:
    """A picture as JPEG, as good as fits into `most` bytes."""
    for quality in QUALITIES:
        data = QByteArray()
        buffer = QBuffer(data)
        buffer.open(QIODevice.OpenModeFlag.WriteOnly)
        image.save(buffer, "JPEG", quality)
        if data.size() <= most:
            break
    return data.data()


def _bare(making: Making) -> ProgrammeFrames:
    """The programme without names, score and lines of words: what is drawn stays."""
    b = making.b
    plain = replace(b, score_strip=False, control_strip=False, format=replace(b.format, burnt_captions=False))
    programme = replaced(making.programme, labels=(), names=(), cautions=())
    return ProgrammeFrames(plain, programme, making.places, Photos(making.photos))


def _frame_of(programme: Programme, chosen: Thumbnail) -> int | None:
    """The frame of the programme that shows the chosen moment from its file, or the nearest one."""
    best: tuple[Fraction, int] | None = None
    for p in programme.passages:
        if p.footage != chosen.footage:
            continue
        step = Fraction(0) if p.rate == 0 else (chosen.at - p.mat_in) / p.rate * p.fps
        number = p.watch_in + min(max(int(step), 0), p.frames - 1)
        off = abs(p.mat_at(number) - chosen.at)
        if best is None or off < best[0]:
            best = off, number
    return best[1] if best is not None else None


def _measured(bare: ProgrammeFrames, making: Making, number: int, footage: str, mat: Fraction) -> Candidate:
    grey = bare.frame(number).to_ndarray(format="gray")
    high = round(LOOKED_AT * grey.shape[0] / grey.shape[1])
    small = cv2.resize(grey, (LOOKED_AT, high), interpolation=cv2.INTER_AREA)
    second = making.b.camera(footage).media_time(mat)
    stretches = (x for x in making.b.conditions if x.footage == footage and x.accepted and x.kind in UNUSABLE)
    return Candidate(
        footage,
        mat,
        sharpness=float(cv2.Laplacian(small, cv2.CV_32F).var()),
        bodies=0.0,
        light=float(np.asarray(small).mean()),
        covered=any(x.start <= second < x.end for x in stretches),
    )


class _Bodies:
    """How much of the picture the two take, in whichever file."""

    def __init__(self, making: Making) -> None:
        self._making = making
        self._files: dict[str, CoarseCells | None] = {}

    def box(self, footage: str, mat: Fraction) -> QRectF:
        """The box round them, 0…1 of the picture as it is shown; an empty one where that can't be told."""
        if not any(c.id == footage for c in self._making.b.footage):
            return QRectF()
        c = self._making.b.camera(footage)
        if footage not in self._files:
            try:
                self._files[footage] = CoarseCells(self._making.places[footage], c.fingerprint)
            except (MediaError, KeyError):
                self._files[footage] = None
        cells = self._files[footage]
        look = cells.look(float(c.media_time(mat))) if cells is not None else None
        if look is None:
            return QRectF()
        left, top, right, foot = boxes_of([look])[0]
        if c.mirrored:
            left, right = 1 - right, 1 - left
        return QRectF(left, top, right - left, foot - top) if right - left < WHOLE else QRectF()

    def in_view(self, footage: str, mat: Fraction) -> float:
        """The share of the picture that it takes."""
        box = self.box(footage, mat)
        return float(box.width() * box.height())

    def close(self) -> None:
        """Give the files back."""
        for cells in self._files.values():
            if cells is not None:
                cells.close()
