"""Whether photos, and what shows them, make sense."""

from __future__ import annotations

from collections.abc import Iterator

from chapto.document.bounds import text_problem
from chapto.document.breakdown import Breakdown
from chapto.document.clearance import Agreement, Person
from chapto.document.photos import Photo
from chapto.document.script import Section

MOST_PIXELS = 20_000
"""Pixels of a side at most: no camera makes larger ones."""


def photo_problems(b: Breakdown) -> Iterator[str]:
    """What is wrong with the photos themselves."""
    people = {p.id for p in b.people}
    for photo in b.photos:
        if not (0 < photo.width <= MOST_PIXELS and 0 < photo.height <= MOST_PIXELS):
            yield f"The photo “{photo.name[:30]}” can't have that size."
        for text in (photo.name, photo.path, photo.fingerprint):
            if problem := text_problem(text):
                yield f"The photo “{text[:30].encode('utf-8', 'replace').decode()}…” {problem}."
        if not people.issuperset(photo.seen):
            yield f"Somebody is seen in the photo “{photo.name[:30]}” who is not among the people."


def photos_shown(section: Section, photos: set[str]) -> Iterator[str]:
    """Beats of a section that show photos that are not there."""
    for beat in section.beats:
        for treatment in beat.treatments():
            if not photos.issuperset(treatment.photos()):
                yield f"The beat “{beat.text[:30]}” shows a photo that is not there."


def photos_open(b: Breakdown) -> tuple[str, ...]:
    """What is not settled about photos that are shown, a sentence each."""
    shown = {i for _, beat in b.beats() for treatment in beat.treatments() for i in treatment.photos()}
    found = []
    for photo in b.photos:
        if photo.id not in shown:
            continue
        if not photo.clearance.owner:
            found.append(f"Whose picture is “{photo.name}”?")
        elif photo.clearance.agreement is not Agreement.AGREED:
            found.append(f"{photo.clearance.owner} has not agreed to “{photo.name}” being shown.")
        found += [f"{p.name} did not agree to be seen in “{photo.name}”." for p in b.people if _refuses(p, photo)]
    return tuple(found)


def _refuses(person: Person, photo: Photo) -> bool:
    return person.id in photo.seen and person.agreement in (Agreement.REFUSED, Agreement.WITHDRAWN)
