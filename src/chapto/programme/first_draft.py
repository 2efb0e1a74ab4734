"""A first draft of the script, with what is known beside the log: names, rules, and how long words take."""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction

from chapto.document.breakdown import Breakdown
from chapto.drafting.draft import draft, draft_anew
from chapto.matlog.ledger import Ledger, ledger
from chapto.matlog.rules import RuleSet
from chapto.pacing.spoken import estimate
from chapto.programme.knowledge import Knowledge


def first_draft(b: Breakdown, known: Knowledge, *, progress: Callable[[float], None] = lambda share: None) -> Breakdown:
    """The breakdown laid out and told from its log; see `draft`."""
    return draft(b, known.lexicon, _ledger(b, known), _seconds, progress=progress)


def section_anew(b: Breakdown, section: str, known: Knowledge) -> Breakdown:
    """One section told in other words; see `draft_anew`."""
    return draft_anew(b, section, known.lexicon, _ledger(b, known), _seconds)


def _seconds(text: str, pace: int) -> Fraction:
    return estimate(text, pace).seconds


def _ledger(b: Breakdown, known: Knowledge) -> Ledger:
    rules: RuleSet = known.rules.get(b.ruling.rules) or next(iter(known.rules.values()))
    return ledger(b, known.lexicon, rules)
