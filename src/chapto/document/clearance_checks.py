"""What is still open before footage may be shown."""

from __future__ import annotations

from collections.abc import Iterator

from chapto.document.breakdown import Breakdown
from chapto.document.clearance import Agreement, Person
from chapto.document.footage import Footage

LAW = "The platform's rules and your country's law decide what may be shown; this is only your own record."
_ASKING = {
    Agreement.NOT_ASKED: "has not been asked",
    Agreement.ASKED: "has not answered",
    Agreement.REFUSED: "refused",
    Agreement.WITHDRAWN: "withdrew",
}
TAKE_DOWN = "cut them out or take the video down, and write down what you did"
"""What a withdrawal asks for (common practice; the law where you are decides)."""


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
        when = f" on {rights.when}" if rights.agreement is Agreement.WITHDRAWN and rights.when else ""
        yield f"{rights.owner}, whose footage it is, {_ASKING[rights.agreement]}{when}."
    if rights.organiser and not rights.organiser_agreed:
        yield f"Does {rights.organiser} allow pictures of the event?"
    if rights.hurt is None:
        yield "Is somebody hurt here?"
    elif rights.hurt and not rights.hurt_agreed:
        yield "Somebody is hurt here: do they agree to it being shown?"
    if not people:
        yield "Nobody is named who can be seen."
    if rights.music is None:
        yield "Is there music to be heard?"
    elif rights.music:
        yield "Music is audible: hosting sites may mute or block it."
    if rights.commentary is None:
        yield "Is somebody else's commentary to be heard?"
    elif rights.commentary:
        yield "Somebody else's commentary is audible: it is theirs, so ask them, or leave that sound out."
    if rights.thumbnail is None:
        yield "May a still of it stand as the thumbnail?"


def is_settled(p: Person) -> bool:
    """Whether somebody of known age agreed; for a minor, whether a guardian is named who did, with how and when."""
    if p.agreement is not Agreement.AGREED or p.minor is None:
        return False
    return not p.minor or bool(p.guardian.strip() and p.guardian_how.strip())


def _of_person(p: Person) -> str:
    if p.agreement is Agreement.WITHDRAWN:
        return f"{p.name} withdrew{f' on {p.when}' if p.when else ''}: {TAKE_DOWN}."
    if p.agreement is not Agreement.AGREED:
        return f"{p.name} {_ASKING[p.agreement]}."
    if p.minor is None:
        return f"Is {p.name} of age?"
    if not p.guardian.strip():
        return f"{p.name} is a minor: which guardian agreed?"
    return f"{p.name} is a minor: how and when did {p.guardian.strip()} agree?"
