"""Names that stand for a name nobody gave yet. They never reach the video."""

from __future__ import annotations

import re
from collections.abc import Iterator

from chapto.document.breakdown import Breakdown

NAMES = frozenset({"first", "second", "narrator", "mine", "me", "camera"})
_NUMBERED = re.compile(r"(voice|speaker|narrator)\s*\d*", re.IGNORECASE)
TITLE = "New breakdown"


def is_placeholder(name: str) -> bool:
    """Whether a name is none: empty, as a new breakdown has it, or numbered."""
    return not name.strip() or name.strip().casefold() in NAMES or bool(_NUMBERED.fullmatch(name.strip()))


def shown_name(name: str) -> str:
    """A name as the video shows it: none rather than one that is none."""
    return "" if is_placeholder(name) else name


def placeholders(b: Breakdown) -> Iterator[str]:
    """A sentence for each name that is still to be given, the weightiest first."""
    if b.title.strip() in ("", TITLE):
        yield "The video has no title yet."
    for which, athlete in (("first", b.first), ("second", b.second)):
        if is_placeholder(athlete.name):
            yield f"The {which} of the two has no name yet: press the score over the picture in Log."
    if len(b.narrators) > 1:
        for n in b.narrators:
            if is_placeholder(n.name):
                yield f"The voice “{n.name}” has no name yet."
    for c in b.footage:
        if c.clearance.owner and is_placeholder(c.clearance.owner):
            yield f"Whose footage “{c.name}” is, is not told by “{c.clearance.owner}”."
