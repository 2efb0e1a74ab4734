"""What is still open before footage may be shown."""

from __future__ import annotations

from collections.abc import Iterator

from chapto.document.breakdown import Breakdown
from chapto.document.clearance import Agreement, Person
from chapto.document.footage import Footage

LAW = "The platform's rules and your country's law decide what may be shown; this is only your own record."
_ASKING = {Agreement.NOT_ASKED: "has not been asked", Agreement.ASKED: "has not answered", Agreement.REFUSED: "refused"}


def open_points(b: Breakdown, footage: Footage) -> tuple[str, ...]:
    """What is not settled for one file, a short sentence each, the weightiest first."""
    return tuple(_open(b, footage))


def _open(b: Breakdown, c: Footage) -> Iterator[str]:
    rights = c.clearance
    people = [p for p in b.people if p.id in c.seen]
    yield from (_of_person(p) for p in people if not is_settled(p))
    if not rights.owner:
        yield "Whose footage is it?"
    elif rights.agreement is not Agreement.AGREED:
        yield f"{rights.owner}, whose footage it is, {_ASKING[rights.agreement]}."
    if not people:
        yield "Nobody is named who can be seen."
    if rights.music is None:
        yield "Is there music to be heard?"
    elif rights.music:
        yield "Music is audible: hosting sites may mute or block it."


def is_settled(p: Person) -> bool:
    """Whether somebody agreed; for a minor, whether a guardian is named who did."""
    return p.agreement is Agreement.AGREED and (not p.minor or bool(p.guardian.strip()))


def _of_person(p: Person) -> str:
    if p.agreement is Agreement.AGREED:
        return f"{p.name} is a minor: which guardian agreed?"
    return f"{p.name} {_ASKING[p.agreement]}."
