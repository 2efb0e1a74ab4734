"""The parts of a package, in the order in which they are made."""

from __future__ import annotations

import base64
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path

from PyQt6.QtGui import QImage

from chapto.paint.study_pdf import write_study_pdf
from chapto.publish.log_csv import to_csv
from chapto.publish.package import SIDECARS
from chapto.publish.roles import Role
from chapto.publish.study import study, study_html
from chapto.publish.timeline import timeline
from chapto.publish.transcript import transcript
from chapto.render.package.making import Making
from chapto.render.package.shorts import write_shorts
from chapto.render.package.stems import write_stems
from chapto.render.package.thumbnails import jpeg, thumbnail
from chapto.render.production import render_production

Made = list[tuple[Path, Role]]
SHEET_WIDE = 900
"""Pixels of a key frame in a study sheet."""
_SIDECAR = {
    ".vtt": Role.WEBVTT,
    ".srt": Role.SUBRIP,
    ".chapters.txt": Role.CHAPTERS,
    ".description.txt": Role.DESCRIPTION,
}


@dataclass(frozen=True)
class Part:
    """Something that stands in a package: what it is called, about how much of the work it is, and how it is made."""

    name: str
    work: float
    make: Callable[[Making], Made]


def _thumbnail(making: Making) -> Made:
    place = making.place(Role.THUMBNAIL)
    chosen = making.b.publishing
    place.write_bytes(jpeg(thumbnail(making, chosen.thumbnail)))
    return [(place, Role.THUMBNAIL)]


def _video(making: Making) -> Made:
    made = _rendered(making, making.video)
    roles = {making.video.with_suffix(s): r for s, r in _SIDECAR.items()}
    return [(p, roles.get(p, Role.VIDEO)) for p in made]


def _archive(making: Making) -> Made:
    """The same pictures and sound with nested chapters, captions and a cover; nothing is encoded for it but sound."""
    place = making.place(Role.ARCHIVE)
    if place == making.video:
        return []
    _rendered(making, place, alone=True)
    return [(place, Role.ARCHIVE)]


def _rendered(making: Making, place: Path, *, alone: bool = False) -> tuple[Path, ...]:
    cover = making.place(Role.THUMBNAIL)
    return render_production(
        making.production,
        making.project,
        place,
        alone=alone,
        cover=cover.read_bytes() if cover.exists() else b"",
        workers=making.workers,
        progress=making.progress,
        ready=making.ready,
        cancelled=making.cancelled,
    )


def _stills(making: Making) -> Made:
    made = []
    pictures = making.pictures(tuple(k.frame for k in making.key_frames))
    for number, image in enumerate(pictures.values(), 1):
        place = making.place(Role.STILL, f"{making.name}-{number:02}.jpg")
        place.write_bytes(jpeg(image))
        made.append((place, Role.STILL))
    return made


def _study(making: Making) -> Made:
    sheet = study(making.b, making.programme)
    wanted = tuple(p.frame for entry in sheet.entries for p in entry.pictures)
    pictures = {n: _small(image) for n, image in making.pictures(wanted).items()}
    page, pages = making.place(Role.STUDY_PAGE), making.place(Role.STUDY_PDF)
    inside = {n: f"data:image/jpeg;base64,{base64.b64encode(jpeg(i)).decode()}" for n, i in pictures.items()}
    page.write_text(study_html(sheet, inside), "utf-8")
    write_study_pdf(pages, sheet, pictures)
    return [(page, Role.STUDY_PAGE), (pages, Role.STUDY_PDF)]


def _small(image: QImage) -> QImage:
    from PyQt6.QtCore import Qt

    return image.scaledToWidth(SHEET_WIDE, Qt.TransformationMode.SmoothTransformation)


def _texts(making: Making) -> Made:
    b, programme = making.b, making.programme
    texts = {
        Role.TRANSCRIPT: transcript(b, programme),
        Role.TIMELINE: timeline(b, programme, making.places),
        Role.LOG: to_csv(b),
    }
    made = []
    for role, text in texts.items():
        place = making.place(role)
        place.write_text(text, "utf-8", newline="")
        made.append((place, role))
    return made


PARTS = (
    Part("Thumbnail", 1, _thumbnail),
    Part("Video, captions, chapters, description", 40, _video),
    Part("Archive copy with nested chapters", 2, _archive),
    Part("Shorts", 8, write_shorts),
    Part("Stills", 1, _stills),
    Part("Study sheet", 1, _study),
    Part("Transcript, timeline, log", 1, _texts),
    Part("Voice, gym and music apart", 3, write_stems),
)
assert set(_SIDECAR) == set(SIDECARS)
