"""Changes of position that hardly ever happen at once: questioned, not forbidden."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction
from itertools import pairwise

from chapto.document.breakdown import Breakdown
from chapto.lexicon.lexicon import Lexicon

UNLIKELY = frozenset(
    {
        ("mount", "standing"), ("mount", "legs"), ("mount", "guard+"), ("back", "standing"), ("back", "guard+"),
        ("passed", "legs"), ("knee on belly", "legs"), ("standing", "knee on belly"), ("legs", "mount"),
        ("legs", "knee on belly"), ("turtle", "knee on belly"), ("guard", "turtle+"),
    }
)  # fmt: skip
"""Pairs of groups (common practice); `+` where the same one has the upper part before and after."""


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
        same = "+" if one.top is other.top else ""
        if (a.group, z.group) in UNLIKELY or (same and (a.group, z.group + "+") in UNLIKELY):
            found.append(
                Jump(other.start, f"From {a.en} straight to {z.en}? Something between is missing, or one is wrong.")
            )
    return tuple(found)
