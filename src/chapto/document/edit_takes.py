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
    channel: int = 0,
) -> Breakdown:
    """With a recording put in, and chosen in place of others of the same."""
    made = Take(
        id=new_id(b, "t"), path=path, fingerprint=fingerprint, seconds=seconds, of=of, subject=subject,
        narrator=narrator, channel=channel,
    )  # fmt: skip
    return choose_take(replace(b, takes=(*b.takes, made), guide_only=False), made.id)


def choose_take(b: Breakdown, take_id: str) -> Breakdown:
    """With a take chosen, and none beside it that is of the same, said by the same narrator."""
    take = by_id(b.takes, take_id, "take")

    def chosen(other: Take) -> bool:
        rivals = take.of is not TakeOf.NOTHING and _what(other) == _what(take)
        return other is take or (other.chosen and not rivals)

    return replace(b, takes=tuple(t if t.chosen is chosen(t) else replace(t, chosen=chosen(t)) for t in b.takes))


def _what(take: Take) -> tuple[TakeOf, str, str]:
    return take.of, take.subject, take.narrator


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


def cut_out(b: Breakdown, take_id: str, start: Fraction, end: Fraction) -> Breakdown:
    """With the seconds `start … end` of a take left out, joined to cuts that they touch."""
    take = by_id(b.takes, take_id, "take")
    start, end = max(start, take.start), min(end, take.until)
    if start >= end:
        raise DocumentError("There is nothing there that could be cut out.")
    apart = [c for c in take.cuts if c[1] < start or c[0] > end]
    touching = [c for c in take.cuts if c not in apart]
    joined = (min([start, *(a for a, _ in touching)]), max([end, *(z for _, z in touching)]))
    return change_take(b, take_id, cuts=tuple(sorted([*apart, joined])))


def take_back_cut(b: Breakdown, take_id: str, at: Fraction) -> Breakdown:
    """With what was cut out round second `at` of a take heard again."""
    take = by_id(b.takes, take_id, "take")
    return change_take(b, take_id, cuts=tuple(c for c in take.cuts if not c[0] <= at < c[1]))


def use_guide_voice(b: Breakdown, only: bool) -> Breakdown:
    """With the guide voice saying everything, or takes where there are some."""
    return replace(b, guide_only=only)
