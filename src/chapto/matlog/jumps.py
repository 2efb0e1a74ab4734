"""Changes of position that hardly ever happen at once: questioned, not forbidden."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction
from itertools import pairwise

from chapto.document.breakdown import Breakdown
from chapto.lexicon.lexicon import Lexicon

UNLIKELY = frozenset(
    {
        ("mount", "standing"), ("back", "standing"), ("back", "closed"), ("passed", "legs"), ("knee on belly", "legs"),
        ("standing", "knee on belly"), ("legs", "mount"), ("legs", "knee on belly"), ("turtle", "knee on belly"),
    }
)  # fmt: skip
"""Pairs of groups, or a group and a family of guards (common practice). What the usual escapes do is not among them:
elbow to knee, kipping, bridge, heel drag, turning to turtle; nor an arm drag to the back or a truck entry."""


@dataclass(frozen=True)
class Jump:
    """A change at mat `at` worth a second look, in a sentence."""

    at: Fraction
    sentence: str


def unlikely_jumps(b: Breakdown, lexicon: Lexicon) -> tuple[Jump, ...]:
    """Every unlikely change between positions that touch."""
    found = []
    for one, other in pairwise(b.positions):
        a, z = lexicon.position(one.position), lexicon.position(other.position)
        if a is None or z is None or one.end != other.start:
            continue
        if (a.group, z.group) in UNLIKELY or (one.top is other.top and (a.group, z.family) in UNLIKELY):
            found.append(
                Jump(other.start, f"From {a.en} straight to {z.en}? Something between is missing, or one is wrong.")
            )
    return tuple(found)
