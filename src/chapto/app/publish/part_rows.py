"""What goes out, as it is listed: what each part is, and how far it is. Free of Qt."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from chapto.document.breakdown import Breakdown
from chapto.document.publishing import Shape
from chapto.programme.programme import Programme
from chapto.programme.short import shorts_wanted
from chapto.publish.description import DescriptionError, description
from chapto.publish.key_frames import key_frames
from chapto.render.encodings import PICTURES

NAMES = {Shape.TALL: "upright", Shape.SQUARE: "square", Shape.WIDE: "wide"}


class Entry(StrEnum):
    """A row of the list."""

    THUMBNAIL = "Thumbnail"
    VIDEO = "Video"
    CAPTIONS = "Captions"
    CHAPTERS = "Chapters"
    DESCRIPTION = "Description"
    SHORTS = "Shorts"
    STUDY = "Study sheet and stills"
    KEPT = "For later"


MADE_BY = {0: (Entry.THUMBNAIL,), 1: (Entry.VIDEO, Entry.CAPTIONS, Entry.CHAPTERS, Entry.DESCRIPTION), 2: (Entry.KEPT,),
           3: (Entry.SHORTS,), 4: (Entry.STUDY,), 5: (Entry.STUDY,), 6: (Entry.KEPT,), 7: (Entry.KEPT,)}  # fmt: skip
"""Which rows each part of a package (by number in `PARTS`) fills."""


class State(StrEnum):
    """How far a row is."""

    WAITING = "waiting"
    MAKING = "being made"
    MADE = "made"
    CHANGED = "changed since it was made"


@dataclass(frozen=True)
class Row:
    """An entry with what it is, how far it is, and the share done while it is being made."""

    entry: Entry
    detail: str
    state: State = State.WAITING
    share: float = 0.0


def details(b: Breakdown, programme: Programme) -> dict[Entry, str]:
    """What each entry is, in a few words."""
    f, chosen = b.format, b.publishing.thumbnail
    said = PICTURES[f.codec].said
    captions = "painted in" if f.burnt_captions else "inside and beside"
    pictures = len(key_frames(programme)) if programme.frames else 0
    return {
        Entry.THUMBNAIL: f"“{chosen.title or b.title}”",
        Entry.VIDEO: f"{f.width}×{f.height}, {float(f.fps):.5g} a second, {said}",
        Entry.CAPTIONS: f"{len(programme.captions)}, {captions}",
        Entry.CHAPTERS: f"{len(programme.chapters)}",
        Entry.DESCRIPTION: _described(b, programme),
        Entry.SHORTS: _shorts(b),
        Entry.STUDY: f"{pictures} key frame{'s' if pictures != 1 else ''}",
        Entry.KEPT: "archive, stems, timeline, log",
    }


def rows_of(
    told: dict[Entry, str], states: dict[Entry, State], making: tuple[Entry, ...] = (), share: float = 0.0
) -> tuple[Row, ...]:
    """The whole list; what is in `making` has `share` done."""
    return tuple(
        Row(e, told.get(e, ""), State.MAKING, share)
        if e in making
        else Row(e, told.get(e, ""), states.get(e, State.WAITING))
        for e in Entry
    )


def _described(b: Breakdown, programme: Programme) -> str:
    try:
        return f"{len(description(b, programme))} letters"
    except DescriptionError:
        return "your template can't be used"


def _shorts(b: Breakdown) -> str:
    titles = {s.id: s.title for s in b.script}
    wanted = shorts_wanted(b)
    if not wanted:
        return "none"
    if len(wanted) == 1:
        return f"{NAMES[wanted[0].shape]}: {titles.get(wanted[0].section) or 'untitled'}"
    return f"{len(wanted)}: {', '.join(dict.fromkeys(NAMES[s.shape] for s in wanted))}"
