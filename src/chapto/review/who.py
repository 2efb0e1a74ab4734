"""By which words the two athletes are named."""

from __future__ import annotations

from chapto.document.people import Athlete, Side
from chapto.review.texts import read

KIT_PIECES = frozenset(
    {"sleeves", "sleeve", "shorts", "gi", "shirt", "rash", "guard", "belt", "top", "kit", "in", "the"}
)  # fmt: skip


def terms_of(first: Athlete, second: Athlete) -> dict[str, Side]:
    """The words of names and kits by which each of the two is told from the other; none that could be both."""
    found: dict[Side, set[str]] = {}
    for side, who in ((Side.FIRST, first), (Side.SECOND, second)):
        kit = {w for w in read(who.kit).plain if w not in KIT_PIECES}
        found[side] = {w for w in (*read(who.name).plain, *kit) if len(w) > 2}
    both = found[Side.FIRST] & found[Side.SECOND]
    return {w: side for side, words in found.items() for w in words if w not in both}


def bare(word: str) -> str:
    """A plain word without its genitive."""
    return word.removesuffix("'s").removesuffix("'")
