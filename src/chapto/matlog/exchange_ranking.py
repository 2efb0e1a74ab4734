"""Which exchanges are worth explaining, and why. It proposes; the creator picks."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from chapto.document.bout import Exchange, MomentKind, Outcome
from chapto.document.bout_rules import PositionSpan
from chapto.document.breakdown import Breakdown
from chapto.document.edit_positions import position_at
from chapto.document.people import Side
from chapto.lexicon.lexicon import Lexicon
from chapto.matlog.control import controller
from chapto.matlog.ledger import Ledger

WEIGHTS: dict[str, float] = {
    "finish": 4.0,
    "scored": 2.0,
    "landed": 1.0,
    "other outcome": 2.0,
    "change of control": 1.5,
    "lively": 1.0,
    "come back": 3.0,
}
FINISHES = ("strangle", "armlock", "leglock")


@dataclass(frozen=True)
class Worth:
    """One exchange with its score and the reasons for it."""

    exchange: Exchange
    score: float
    reasons: tuple[str, ...]


def worth_explaining(
    b: Breakdown,
    lexicon: Lexicon,
    found: Ledger,
    *,
    weights: Mapping[str, float] = WEIGHTS,
    activity: Mapping[str, float] | None = None,
) -> tuple[Worth, ...]:
    """Every exchange, the most worth first. `activity` is how lively each is against the bout (1: as usual)."""
    rows = [_worth(b, lexicon, found, x, weights, activity or {}) for x in b.exchanges]
    return tuple(sorted(rows, key=lambda w: (-w.score, w.exchange.start)))


def _worth(
    b: Breakdown,
    lexicon: Lexicon,
    found: Ledger,
    x: Exchange,
    weights: Mapping[str, float],
    activity: Mapping[str, float],
) -> Worth:
    reasons: list[tuple[str, str]] = []
    technique = lexicon.technique_named(x.technique)
    landed = x.outcome is Outcome.LANDED
    if landed and technique is not None and technique.family in FINISHES:
        reasons.append(("finish", "it finished the bout"))
    scored = [e for e in found.derived if e.counts and e.side is x.by and x.start <= e.at <= x.end + 4]
    if scored:
        reasons.append(("scored", f"it scored {sum(e.points for e in scored)}"))
    elif landed:
        reasons.append(("landed", "it landed"))
    same = [o for o in b.exchanges if o.id != x.id and o.by is x.by and _name(o, lexicon) == _name(x, lexicon) != ""]
    if any(o.outcome is not x.outcome for o in same):
        reasons.append(("other outcome", "the same was tried again and ended otherwise"))
    before, after = position_at(b, x.start), position_at(b, x.end)
    if before and after and _controls(before, lexicon) is not _controls(after, lexicon):
        reasons.append(("change of control", "control changed hands"))
    if activity.get(x.id, 0.0) > 1.3:
        reasons.append(("lively", "much moved"))
    if any(m.kind is MomentKind.LATER and x.start <= m.at < x.end for m in b.moments):
        reasons.append(("come back", "you marked it to revisit"))
    return Worth(x, sum(weights.get(key, 0.0) for key, _ in reasons), tuple(text for _, text in reasons))


def _name(x: Exchange, lexicon: Lexicon) -> str:
    known = lexicon.technique_named(x.technique)
    return known.id if known else x.technique.casefold()


def _controls(p: PositionSpan, lexicon: Lexicon) -> Side | None:
    return controller(p.position, p.top, lexicon)[0]
