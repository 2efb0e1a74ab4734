"""What is still to be decided about a file: what was found in it, less what the creator has decided already."""

from __future__ import annotations

from collections.abc import Iterable
from typing import TYPE_CHECKING

from chapto.document.breakdown import Breakdown
from chapto.document.condition import ConditionKind
from chapto.document.footage import Footage
from chapto.media.judging import Proposal

if TYPE_CHECKING:
    from chapto.media.signals import Signal

KNOWN = 1.0
"""Mat seconds within which a whistle is the edge of a round that is in the log already."""


def from_signals(signals: Iterable[Signal]) -> tuple[Proposal, ...]:
    """Tones as proposals."""
    return tuple(Proposal(ConditionKind.SIGNAL, s.start, s.end) for s in signals)


def open_proposals(b: Breakdown, footage: Footage, found: Iterable[Proposal]) -> tuple[Proposal, ...]:
    """Those of `found` in `footage` that wait for a decision.

    Decided is what a taken or thrown-away stretch of the same kind overlaps by half of the shorter one. A quiet
    stretch that touches a logged exchange is none: a strangle is quiet too. A whistle at the edge of a logged round
    says nothing new.
    """
    return tuple(p for p in found if not _is_decided(b, footage, p) and not _is_known(b, footage, p))


def _is_decided(b: Breakdown, footage: Footage, p: Proposal) -> bool:
    for c in b.conditions:
        if c.footage == footage.id and c.kind is p.kind:
            overlap = min(float(c.end), p.end) - max(float(c.start), p.start)
            if overlap >= 0.5 * min(float(c.end - c.start), p.end - p.start):
                return True
    return False


def _is_known(b: Breakdown, footage: Footage, p: Proposal) -> bool:
    start, end = (float(footage.offset) + (1 + float(footage.drift)) * t for t in (p.start, p.end))
    if p.kind is ConditionKind.IDLE:
        return any(x.start < end and x.end > start for x in b.exchanges)
    if p.kind is ConditionKind.SIGNAL:
        return any(min(abs(start - float(r.start)), abs(start - float(r.end))) <= KNOWN for r in b.rounds)
    return False
