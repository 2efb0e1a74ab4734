"""Positions as the one who begins an exchange sees them: half guard on top is another thing than half guard below."""

from __future__ import annotations

from chapto.document.bout_rules import PositionSpan
from chapto.document.people import Side
from chapto.lexicon.lexicon import Lexicon

ABOVE, BELOW = "+", "-"


def viewed(span: PositionSpan, by: Side | None) -> str:
    """The position's id, with `+` where the one who begins is on top, `-` where the other one is."""
    if span.top is None or by is None:
        return span.position
    return span.position + (ABOVE if span.top is by else BELOW)


def position_of(view: str) -> str:
    """The position's id alone."""
    return view.rstrip(ABOVE + BELOW)


def part_of(view: str) -> str:
    """`+`, `-`, or nothing."""
    return view[len(position_of(view)) :]


def said(view: str, lexicon: Lexicon) -> str:
    """A position as it is said: “half guard, on top”."""
    known = lexicon.position(position_of(view))
    name = known.en if known is not None else position_of(view)
    return name + {ABOVE: ", on top", BELOW: ", below"}.get(part_of(view), "")
