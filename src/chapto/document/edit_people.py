"""Edits of the people who can be seen."""

from __future__ import annotations

from typing import Any

from msgspec.structs import replace

from chapto.document.breakdown import Breakdown, DocumentError, by_id, new_id
from chapto.document.clearance import Person
from chapto.document.edit_footage import change_footage


def add_person(b: Breakdown, name: str, *, footage_id: str = "") -> Breakdown:
    """With one more person, seen in a file if one is named; somebody of that name is not added twice."""
    if not name.strip():
        raise DocumentError("Somebody who can be seen needs a name.")
    known = next((p for p in b.people if p.name.casefold() == name.strip().casefold()), None)
    if known is None:
        known = Person(id=new_id(b, "p"), name=name.strip())
        b = replace(b, people=(*b.people, known))
    return see(b, footage_id, known.id, seen=True) if footage_id else b


def change_person(b: Breakdown, person_id: str, **changes: Any) -> Breakdown:
    """With fields of a person changed."""
    by_id(b.people, person_id, "person")
    return replace(b, people=tuple(replace(p, **changes) if p.id == person_id else p for p in b.people))


def see(b: Breakdown, footage_id: str, person_id: str, *, seen: bool) -> Breakdown:
    """With a person seen in a file, or not; somebody seen nowhere any more is forgotten."""
    c = by_id(b.footage, footage_id, "footage")
    kept = tuple(p for p in c.seen if p != person_id)
    b = change_footage(b, footage_id, seen=(*kept, person_id) if seen else kept)
    if any(person_id in c.seen for c in b.footage):
        return b
    return replace(b, people=tuple(p for p in b.people if p.id != person_id))
