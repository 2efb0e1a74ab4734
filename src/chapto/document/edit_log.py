"""Edits of the log: rounds, exchanges, moments and their labels."""

from __future__ import annotations

from fractions import Fraction
from typing import Any

from msgspec.structs import replace

from chapto.document.bout import Exchange, Moment, MomentKind, Outcome, Round
from chapto.document.breakdown import Breakdown, DocumentError, Label, new_id
from chapto.document.edit_marks import without_marks
from chapto.document.people import Side
from chapto.document.script import Beat, Section

SHORTEST_SPAN = Fraction(1, 10)
SAME_MOMENT = Fraction(1, 20)
"""Mat seconds within which a time means the moment that is there."""


def add_round(b: Breakdown, start: Fraction, end: Fraction, *, name: str = "") -> Breakdown:
    """With a round from `start` to `end` (mat seconds), named by its number unless a name is given."""
    made = Round(id=new_id(b, "r"), name=name or f"Round {len(b.rounds) + 1}", start=start, end=end)
    return replace(b, rounds=tuple(sorted((*b.rounds, made), key=lambda r: r.start)))


def add_exchange(
    b: Breakdown,
    start: Fraction,
    end: Fraction,
    *,
    technique: str = "",
    by: Side | None = None,
    outcome: Outcome | None = None,
) -> Breakdown:
    """With an exchange from `start` to `end` (mat seconds)."""
    made = Exchange(id=new_id(b, "x"), start=start, end=end, technique=technique, by=by, outcome=outcome)
    return replace(b, exchanges=tuple(sorted((*b.exchanges, made), key=lambda x: x.start)))


def add_moment(b: Breakdown, at: Fraction, *, kind: MomentKind = MomentKind.POINT, note: str = "") -> Breakdown:
    """With a moment at `at` (mat seconds)."""
    made = Moment(id=new_id(b, "m"), at=at, kind=kind, note=note)
    return replace(b, moments=tuple(sorted((*b.moments, made), key=lambda m: m.at)))


def moment_at(b: Breakdown, at: Fraction, *, within: Fraction = SAME_MOMENT) -> Moment | None:
    """The moment nearest to `at`, if one lies within `within` seconds of it."""
    near = min(b.moments, key=lambda m: abs(m.at - at), default=None)
    return near if near and abs(near.at - at) <= within else None


def change_exchange(b: Breakdown, exchange_id: str, **changes: Any) -> Breakdown:
    """With fields of an exchange changed; refuses a span that ends before it starts."""
    made = replace(b.exchange(exchange_id), **changes)
    if made.end - made.start < SHORTEST_SPAN:
        raise DocumentError("An exchange has to last at least a tenth of a second.")
    kept = tuple(made if x.id == exchange_id else x for x in b.exchanges)
    return replace(b, exchanges=tuple(sorted(kept, key=lambda x: x.start)))


def split_exchange(b: Breakdown, exchange_id: str, at: Fraction) -> Breakdown:
    """With an exchange cut in two at `at`; the second part takes the outcome, the script stays with the first."""
    x = b.exchange(exchange_id)
    if not x.start + SHORTEST_SPAN <= at <= x.end - SHORTEST_SPAN:
        raise DocumentError("An exchange can only be split inside it.")
    second = replace(x, id=new_id(b, "x"), start=at)
    return _with_exchanges(b, [*(o for o in b.exchanges if o.id != x.id), replace(x, end=at, outcome=None), second])


def join_exchange(b: Breakdown, exchange_id: str) -> Breakdown:
    """With an exchange and the next one made one, the next one's outcome kept; sections of the next come along."""
    x = b.exchange(exchange_id)
    following = next((o for o in b.exchanges if o.start > x.start), None)
    if following is None:
        raise DocumentError("There is no exchange after this one to join it with.")
    joined = replace(
        x, end=max(x.end, following.end), outcome=following.outcome, technique=x.technique or following.technique
    )
    script = tuple(replace(s, exchange=x.id) if s.exchange == following.id else s for s in b.script)
    kept = [o for o in b.exchanges if o.id not in (x.id, following.id)]
    return _with_exchanges(replace(b, script=script), [*kept, joined])


def _with_exchanges(b: Breakdown, exchanges: list[Exchange]) -> Breakdown:
    return replace(b, exchanges=tuple(sorted(exchanges, key=lambda x: x.start)))


def change_moment(b: Breakdown, moment_id: str, **changes: Any) -> Breakdown:
    """With fields of a moment changed; ties and labels stay on it."""
    made = replace(b.moment(moment_id), **changes)
    kept = tuple(made if m.id == moment_id else m for m in b.moments)
    return replace(b, moments=tuple(sorted(kept, key=lambda m: m.at)))


def change_athlete(b: Breakdown, side: Side, round_id: str = "", **changes: Any) -> Breakdown:
    """With fields of an athlete changed: of one round's own when it is named, else of the whole breakdown's."""
    field = side.value
    if not round_id:
        return replace(b, **{field: replace(getattr(b, field), **changes)})
    here = next((r for r in b.rounds if r.id == round_id), None)
    if here is None:
        raise DocumentError(f"There is no round “{round_id}” in this breakdown.")
    own = getattr(here, field) or getattr(b, field)
    return change_round(b, round_id, **{field: replace(own, **changes)})


def change_round(b: Breakdown, round_id: str, **changes: Any) -> Breakdown:
    """With fields of a round changed."""
    kept = (replace(r, **changes) if r.id == round_id else r for r in b.rounds)
    return replace(b, rounds=tuple(sorted(kept, key=lambda r: r.start)))


def remove_logged(b: Breakdown, item_id: str) -> Breakdown:
    """Without a round, exchange or moment; ties, holds, labels and marks on a removed moment go with it.

    Beats of a removed exchange stay, over a title card.
    """
    left = replace(
        b,
        script=tuple(_letting_go(section, item_id) for section in b.script),
        rounds=tuple(r for r in b.rounds if r.id != item_id),
        exchanges=tuple(x for x in b.exchanges if x.id != item_id),
        moments=tuple(m for m in b.moments if m.id != item_id),
        labels=tuple(x for x in b.labels if x.moment != item_id),
    )
    return without_marks(left, lambda m: m.moment == item_id)


def shift_logged(b: Breakdown, item_id: str, by: Fraction) -> Breakdown:
    """With a round, exchange or moment `by` seconds later (earlier below 0), no earlier than the clock's begin; what
    is tied to a moment stays tied to it."""
    spans: tuple[Round | Exchange, ...] = (*b.rounds, *b.exchanges)
    for item in spans:
        if item.id == item_id:
            change = change_round if isinstance(item, Round) else change_exchange
            by = max(by, -item.start)
            return change(b, item_id, start=item.start + by, end=item.end + by)
    return change_moment(b, item_id, at=max(b.moment(item_id).at + by, Fraction(0)))


def _letting_go(section: Section, item_id: str) -> Section:
    """A section without what hangs on something logged; the very same where nothing does."""

    def treated(beat: Beat) -> Beat:
        return beat.with_treatments(lambda treatment: treatment.without(item_id))

    beats = tuple(
        replace(
            beat,
            ties=tuple(t for t in beat.ties if t.moment != item_id),
        )
        for beat in map(treated, section.beats)
    )
    made = replace(section, beats=beats, exchange="" if section.exchange == item_id else section.exchange)
    return section if made == section else made


def set_label(b: Breakdown, moment_id: str, text: str) -> Breakdown:
    """With `text` as the label of a moment; an empty text takes the label away."""
    b.moment(moment_id)
    kept = tuple(x for x in b.labels if x.moment != moment_id)
    if not text.strip():
        return replace(b, labels=kept)
    old = [x.id for x in b.labels if x.moment == moment_id]
    return replace(b, labels=(*kept, Label(id=old[0] if old else new_id(b, "l"), moment=moment_id, text=text.strip())))
