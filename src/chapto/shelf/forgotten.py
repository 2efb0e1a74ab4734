"""People who are to be forgotten: nothing on the shelf names them any more, though breakdowns may."""

from __future__ import annotations

import hashlib
import re
from dataclasses import dataclass, replace

from chapto.shelf.indexed import Indexed, Place


@dataclass(frozen=True)
class Forgotten:
    """Known by digests of their names: what says whom to forget must not name them."""

    marks: frozenset[str] = frozenset()

    def has(self, name: str) -> bool:
        """Whether that one is to be forgotten."""
        return bool(self.marks) and mark_of(name) in self.marks


NOBODY = Forgotten()


def mark_of(name: str) -> str:
    """A digest of a name, whatever its capitals and spaces."""
    return hashlib.sha256(" ".join(name.casefold().split()).encode()).hexdigest()


def without(found: Indexed, forgotten: Forgotten) -> Indexed:
    """What is known of a breakdown without those people: their names, and the words of them that are said."""
    named = {p.name for p in found.people} | {found.first, found.second}
    named |= {n for p in found.places for n in (p.who, p.against)}
    gone = {n for n in named if n and forgotten.has(n)}
    if not gone:
        return found
    words = sorted({w for n in gone for w in (n, *n.split()) if len(w) > 1}, key=len, reverse=True)
    pattern = re.compile(rf"\b({'|'.join(map(re.escape, words))})(['’]s)?\b", re.IGNORECASE)

    def clean(text: str) -> str:
        return pattern.sub("", text)

    def shown(name: str) -> str:
        return "" if name in gone else name

    def place(p: Place) -> Place:
        return replace(
            p, who=shown(p.who), against=shown(p.against), said=clean(p.said), noted=clean(p.noted),
            answer_after=None if gone & {p.who, p.against} else p.answer_after,
        )  # fmt: skip

    return replace(
        found,
        title=clean(found.title),
        part=clean(found.part),
        about=clean(found.about),
        first=shown(found.first),
        second=shown(found.second),
        sections=tuple(map(clean, found.sections)),
        places=tuple(map(place, found.places)),
        stays=tuple(replace(s, top=shown(s.top)) for s in found.stays),
        people=tuple(p for p in found.people if p.name not in gone),
        outs=tuple(replace(o, title=clean(o.title)) for o in found.outs),
        promises=tuple(replace(p, quote=clean(p.quote), sentence=clean(p.sentence)) for p in found.promises),
    )
