"""Answers about rights for all files and people at once: only what is still open is answered."""

from __future__ import annotations

from typing import Any

from msgspec.structs import replace

from chapto.document.breakdown import Breakdown, DocumentError
from chapto.document.clearance import Agreement, Clearance
from chapto.document.edit_footage import change_clearance
from chapto.document.edit_people import add_person
from chapto.document.placeholders import is_placeholder

QUESTIONS = ("music", "commentary", "hurt", "thumbnail")
"""Fields of a clearance that are None until somebody answers."""
WAITING = (Agreement.NOT_ASKED, Agreement.ASKED)


def open_files(b: Breakdown, question: str) -> int:
    """How many files a question is open for: one of `QUESTIONS`, or "owner" or "people"."""
    if question == "owner":
        return sum(not _owned(c.clearance) for c in b.footage)
    if question == "people":
        return sum(not c.seen for c in b.footage)
    return sum(getattr(c.clearance, question) is None for c in b.footage)


def not_agreed(b: Breakdown) -> int:
    """How many people were not asked, or have not answered."""
    return sum(p.agreement in WAITING for p in b.people)


def of_unknown_age(b: Breakdown) -> int:
    """Of how many people it is not told whether they are of age."""
    return sum(p.minor is None for p in b.people)


def answer_all(b: Breakdown, question: str, answer: bool) -> Breakdown:
    """With one of `QUESTIONS` answered for every file in which it is open."""
    for c in b.footage:
        if getattr(c.clearance, question) is None:
            changes: dict[str, Any] = {question: answer}
            b = change_clearance(b, c.id, **changes)
    return b


def own_all(b: Breakdown, name: str) -> Breakdown:
    """With every file of which it is not told whose it is the creator's own, who agrees. `DocumentError` without a
    name: it stands in the credits."""
    if is_placeholder(name):
        raise DocumentError("Write your name first: it stands beside your footage.")
    for c in b.footage:
        if not _owned(c.clearance):
            b = change_clearance(b, c.id, owner=name.strip(), agreement=Agreement.AGREED, how="my own footage")
    return b


def seen_in_all(b: Breakdown) -> Breakdown:
    """With the two on the mat named as seen in every file in which nobody is. `DocumentError` while they have none."""
    pairs = [(b.first, b.second), *((r.first or b.first, r.second or b.second) for r in b.rounds)]
    names = [who.name for pair in pairs for who in pair if not is_placeholder(who.name)]
    if not names:
        raise DocumentError("Name the two first: press the score over the picture in Log.")
    for c in b.footage:
        if not c.seen:
            for name in dict.fromkeys(names):
                b = add_person(b, name, footage_id=c.id)
    return b


def agreed_all(b: Breakdown, how: str) -> Breakdown:
    """With everybody who was not asked or has not answered agreeing; who refused or withdrew stays so."""
    people = tuple(
        replace(p, agreement=Agreement.AGREED, how=p.how or how) if p.agreement in WAITING else p for p in b.people
    )
    return replace(b, people=people)


def adults_all(b: Breakdown) -> Breakdown:
    """With everybody whose age was not asked of age."""
    return replace(b, people=tuple(replace(p, minor=False) if p.minor is None else p for p in b.people))


def _owned(c: Clearance) -> bool:
    return bool(c.owner) and not is_placeholder(c.owner) and c.agreement is Agreement.AGREED
