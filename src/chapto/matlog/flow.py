"""How the bout went from position to position."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass
from fractions import Fraction
from itertools import pairwise

from chapto.document.bout import Round
from chapto.document.breakdown import Breakdown
from chapto.document.people import Side
from chapto.lexicon.lexicon import Lexicon

GROUPS = ("standing", "guard", "legs", "turtle", "passed", "knee on belly", "mount", "back")
"""Groups in the order in which they are drawn, by how dominant they are."""
Node = tuple[str, Side | None]


@dataclass(frozen=True)
class Step:
    """From one group and side on top to another, so many times, first at mat `at`."""

    start: Node
    end: Node
    count: int
    at: Fraction


def steps(b: Breakdown, lexicon: Lexicon, within: Round) -> tuple[Step, ...]:
    """Every change of group or of who is on top inside a round; scrambles and unlogged stretches are passed over."""
    nodes: list[tuple[Node, Fraction]] = []
    for p in b.positions:
        known = lexicon.position(p.position)
        if known is None or known.group == "scramble" or not within.start <= p.start < within.end:
            continue
        node = (known.group, None if known.group == "standing" else p.top)
        if not nodes or nodes[-1][0] != node:
            nodes.append((node, p.start))
    pairs = [(one, other, at) for (one, _), (other, at) in pairwise(nodes)]
    counts = Counter((one, other) for one, other, _ in pairs)
    first = {}
    for one, other, at in reversed(pairs):
        first[(one, other)] = at
    return tuple(Step(one, other, n, first[(one, other)]) for (one, other), n in counts.items())
