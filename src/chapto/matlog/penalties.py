"""What penalties lead to, step by step, as the rule set says: a warning, an advantage or points to the other, out."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

from chapto.document.bout_rules import CallKind, RefereeCall
from chapto.document.people import Side
from chapto.matlog.rules import RuleSet
from chapto.matlog.stays import other_side


@dataclass(frozen=True)
class Consequence:
    """`points` and `advantages` that `side` gets for the other's penalty at mat `at`; `out` ends the bout. `sentence`
    says it."""

    at: Fraction
    side: Side
    points: int
    advantages: int
    out: bool
    sentence: str


def consequences(calls: tuple[RefereeCall, ...], rules: RuleSet) -> tuple[Consequence, ...]:
    """The consequence of each penalty, by time; nothing where the rule set names no steps."""
    counts: dict[Side, int] = {Side.FIRST: 0, Side.SECOND: 0}
    found = []
    for call in sorted(calls, key=lambda c: c.at):
        if call.kind is not CallKind.PENALTY or not rules.penalties:
            continue
        step = rules.penalties[min(counts[call.side], len(rules.penalties) - 1)]
        counts[call.side] += 1
        number = int(step.split()[0]) if step.endswith("points") else 0
        what = {"warning": "a warning", "advantage": "an advantage to the other", "out": "out"}.get(
            step, f"{number} points to the other"
        )
        found.append(
            Consequence(
                call.at,
                other_side(call.side),
                number,
                int(step == "advantage"),
                step == "out",
                f"Penalty {counts[call.side]}: {what}.",
            )
        )
    return tuple(found)
