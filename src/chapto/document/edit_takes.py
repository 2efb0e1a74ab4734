"""Edits of takes: put in, choose, trim, put a word's edges right."""

from __future__ import annotations

from fractions import Fraction
from typing import Any

from msgspec.structs import replace

from chapto.document.breakdown import Breakdown, DocumentError, by_id, new_id
from chapto.document.takes import Take, TakeOf, WordEdge


def add_take(
    b: Breakdown,
    *,
    path: str,
    fingerprint: str,
    seconds: Fraction,
    of: TakeOf = TakeOf.NOTHING,
    subject: str = "",
    narrator: str = "",
) -> Breakdown:
    """With a recording put in, and chosen."""
    made = Take(
        id=new_id(b, "t"), path=path, fingerprint=fingerprint, seconds=seconds, of=of, subject=subject,
        narrator=narrator,
    )  # fmt: skip
    return replace(b, takes=(*b.takes, made))


def change_take(b: Breakdown, take_id: str, **changes: Any) -> Breakdown:
    """With fields of a take changed."""
    by_id(b.takes, take_id, "take")
    return replace(b, takes=tuple(replace(t, **changes) if t.id == take_id else t for t in b.takes))


def remove_take(b: Breakdown, take_id: str) -> Breakdown:
    """Without a take; its file stays where it is."""
    by_id(b.takes, take_id, "take")
    return replace(b, takes=tuple(t for t in b.takes if t.id != take_id))


def set_edge(b: Breakdown, take_id: str, edge: WordEdge) -> Breakdown:
    """With the edges of a word put right by hand; earlier ones of that word are replaced."""
    take = by_id(b.takes, take_id, "take")
    if not 0 <= edge.start < edge.end <= take.seconds:
        raise DocumentError("A word ends after it starts, inside its take.")
    kept = tuple(e for e in take.edges if (e.beat, e.word) != (edge.beat, edge.word))
    return change_take(b, take_id, edges=(*kept, edge))
