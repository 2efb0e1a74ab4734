"""Cutting to an earlier example: its footage comes in by reference, with whose it is and who agreed, and the picture
turns to it at a word."""

from __future__ import annotations

import os
from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction
from pathlib import Path

from msgspec.structs import replace

from chapto.document.breakdown import Breakdown, by_id, new_id
from chapto.document.clearance import Agreement, Person
from chapto.document.clearance_checks import open_points
from chapto.document.edit_footage import add_footage, change_footage
from chapto.document.edit_turns import turn_between
from chapto.document.footage import Footage
from chapto.document.script import words_of
from chapto.document.treatments import Cutaway, SideBySide, Treatment
from chapto.shelf.errors import ShelfError

LEAD = Fraction(1, 2)
"""Seconds before the exchange with which it is shown, so that one sees where it comes from (common practice)."""
REFUSING = (Agreement.REFUSED, Agreement.WITHDRAWN)


class How(StrEnum):
    """How an example is shown."""

    CUTAWAY = "cutaway"
    INSET = "inset"
    BESIDE = "side by side"


def refusal(source: Breakdown, footage: Footage) -> str:
    """Why a file must not be shown again: somebody in it, or whose it is, said no. Empty where nobody did."""
    for p in source.people:
        if p.id in footage.seen and p.agreement in REFUSING:
            return f"{p.name} {'refused' if p.agreement is Agreement.REFUSED else 'took their agreement back'}."
    if footage.clearance.agreement in REFUSING:
        return f"{footage.clearance.owner or 'Whose it is'} does not allow it any more."
    return ""


def still_open(source: Breakdown, footage: Footage) -> tuple[str, ...]:
    """What is not settled about showing a file, a sentence each."""
    return open_points(source, footage)


@dataclass(frozen=True)
class Shown:
    """Seconds `media_in … media_out` of a file of footage."""

    footage: Footage
    media_in: Fraction
    media_out: Fraction


def shown_of(source: Breakdown, exchange: str, footage: str, fingerprint: str) -> Shown:
    """What of a file shows an exchange, as the breakdown it is in says now: the index may be older than that.
    `ShelfError` where the file is another one by now, or does not show it; `DocumentError` where either is gone."""
    x, file = source.exchange(exchange), by_id(source.footage, footage, "footage")
    start = max(x.start, file.mat_in)
    end = min(x.end, file.mat_out)
    if file.fingerprint != fingerprint or end <= start:
        raise ShelfError("That breakdown was changed meanwhile; look for it again.")
    return Shown(file, file.media_time(start), file.media_time(end))


def cut_to(
    b: Breakdown,
    source: Breakdown,
    shown: Shown,
    *,
    beat: str,
    word: int,
    how: How,
    on_screen: Fraction,
    place: Path,
    project: Path | None,
) -> Breakdown:
    """With the picture turning to what is `shown` of the breakdown `source`, from a word of a beat on. The file lies at
    `place`. It turns back when the example or the sentence ends. Side by side it stands beside
    what is `on_screen` (mat seconds) then. `ShelfError` where somebody said no."""
    file = shown.footage
    if why := refusal(source, file):
        raise ShelfError(f"“{file.name}” can't be shown: {why}")
    b, brought = _with_file(b, source, file, place, project)
    start = max(shown.media_in - LEAD, Fraction(0))
    at = brought.mat_at(start)
    text = words_of(b.find_beat(beat)[1].text)
    treatment: Treatment
    if how is How.BESIDE:
        treatment = SideBySide(one=on_screen, other=at, other_camera=brought.camera_name)
    else:
        treatment = Cutaway(at=at, seconds=shown.media_out - start, inset=how is How.INSET, camera=brought.camera_name)
    return turn_between(b, beat, word, _until(text, word), treatment)


def _with_file(
    b: Breakdown, source: Breakdown, file: Footage, place: Path, project: Path | None
) -> tuple[Breakdown, Footage]:
    """The file in this breakdown: as it is there already, or brought in with its rights and its people."""
    there = next((c for c in b.footage if c.fingerprint == file.fingerprint), None)
    if there is not None:
        return b, there
    where = os.path.abspath(place)
    path = where if project is None else os.path.relpath(where, os.path.abspath(project.parent))
    b = add_footage(
        b, name=_free_name(b, file.name), path=path, fingerprint=file.fingerprint, duration=file.duration, fps=file.fps,
        aspect=file.aspect, lines=file.lines, offset=_far_from_all(b),
    )  # fmt: skip
    made = b.footage[-1]
    people = {p.id: p for p in source.people}
    seen = []
    for one in file.seen:
        b, known = _with_person(b, people[one])
        seen.append(known)
    b = change_footage(
        b, made.id, clearance=file.clearance, seen=tuple(seen), mirrored=file.mirrored, steady=file.steady,
        camera=_free_camera(b, made),
    )  # fmt: skip
    return b, b.camera(made.id)


def _far_from_all(b: Breakdown) -> Fraction:
    """A place on the mat clock where nothing was filmed, a while after everything: nobody takes it for the bout."""
    ends = [c.mat_out for c in b.footage]
    return Fraction(-(-max(ends) // 60) * 60 + 90) if ends else Fraction(0)


def _with_person(b: Breakdown, person: Person) -> tuple[Breakdown, str]:
    """Somebody of the other breakdown in this one. Who is here already stays as they are."""
    same = next((p for p in b.people if p.name.casefold() == person.name.casefold()), None)
    if same is not None:
        return b, same.id
    made = replace(person, id=new_id(b, "p"))
    return replace(b, people=(*b.people, made)), made.id


def _free_name(b: Breakdown, name: str) -> str:
    taken = {c.name for c in b.footage} | {c.camera_name for c in b.footage}
    number, free = 2, name
    while free in taken:
        free, number = f"{name} ({number})", number + 1
    return free


def _free_camera(b: Breakdown, made: Footage) -> str:
    """A camera of its own: the angle track must never take this file for one of the bout's."""
    return made.name if made.name not in {c.camera_name for c in b.footage if c.id != made.id} else ""


def _until(text: tuple[str, ...], word: int) -> int:
    """The end of the sentence that holds a word (half-open)."""
    for i in range(word, len(text)):
        if text[i].rstrip("\"'”’)").endswith((".", "!", "?", "…")):
            return i + 1
    return len(text)
