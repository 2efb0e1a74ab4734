"""Edits of what was decided in a review."""

from __future__ import annotations

from msgspec.structs import replace

from chapto.document.breakdown import Breakdown, DocumentError, by_id, new_id
from chapto.document.reviewing import Waiver, WatchNote


def _same(a: Waiver, b: Waiver) -> bool:
    return (a.check, a.beat, a.item, a.quote, a.nth) == (b.check, b.beat, b.item, b.quote, b.nth)


def waive(b: Breakdown, waiver: Waiver) -> Breakdown:
    """With a finding left as it is; an earlier decision on the same is replaced. `DocumentError` without a reason."""
    if not waiver.reason.strip():
        raise DocumentError("Say why it may stay as it is.")
    kept = tuple(w for w in b.waivers if not _same(w, waiver))
    return replace(b, waivers=(*kept, replace(waiver, reason=waiver.reason.strip())))


def open_again(b: Breakdown, waiver: Waiver) -> Breakdown:
    """With a finding no longer left as it is."""
    return replace(b, waivers=tuple(w for w in b.waivers if not _same(w, waiver)))


def add_note(b: Breakdown, note: WatchNote) -> Breakdown:
    """With one more note; its id is given here."""
    return replace(b, notes=(*b.notes, replace(note, id=new_id(b, "w"))))


def say_note(b: Breakdown, note_id: str, text: str) -> Breakdown:
    """With another text of a note."""
    by_id(b.notes, note_id, "note")
    return replace(b, notes=tuple(replace(n, text=text.strip()) if n.id == note_id else n for n in b.notes))


def remove_note(b: Breakdown, note_id: str) -> Breakdown:
    """Without a note: what bothered does no longer."""
    by_id(b.notes, note_id, "note")
    return replace(b, notes=tuple(n for n in b.notes if n.id != note_id))


def set_for_beginners(b: Breakdown, *, for_beginners: bool) -> Breakdown:
    """Made for beginners, or for people who train."""
    return replace(b, for_beginners=for_beginners)
