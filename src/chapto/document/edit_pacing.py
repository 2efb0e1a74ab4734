"""Edits of what one section is allowed, leaves out and weighs in the fit."""

from __future__ import annotations

from fractions import Fraction

from msgspec.structs import replace

from chapto.document.breakdown import Breakdown, by_id
from chapto.document.edit_script import change_section
from chapto.document.script import Allowance

ZERO = Fraction(0)


def allow_more(
    b: Breakdown, section_id: str, *, hold: Fraction = ZERO, silence: Fraction = ZERO, rate: Fraction | None = None
) -> Breakdown:
    """With so many seconds more of holding or silence allowed in a section, and a slower rate."""
    allow = by_id(b.script, section_id, "section").allow
    rates = allow.rates if rate is None or rate in allow.rates else tuple(sorted((*allow.rates, rate), reverse=True))
    more = replace(
        allow, hold_seconds=allow.hold_seconds + hold, silence_seconds=allow.silence_seconds + silence, rates=rates
    )
    return change_section(b, section_id, allow=more)


def allow_nothing(b: Breakdown, section_id: str) -> Breakdown:
    """With the house style's limits only."""
    return change_section(b, section_id, allow=Allowance())


def skip_span(b: Breakdown, section_id: str, start: Fraction, end: Fraction) -> Breakdown:
    """With a mat span (half-open) left out of a section; spans that touch become one."""
    spans = sorted((*by_id(b.script, section_id, "section").skips, (start, end)))
    joined = [spans[0]]
    for a, z in spans[1:]:
        if a <= joined[-1][1]:
            joined[-1] = (joined[-1][0], max(joined[-1][1], z))
        else:
            joined.append((a, z))
    return change_section(b, section_id, skips=tuple(joined))


def skip_nothing(b: Breakdown, section_id: str) -> Breakdown:
    """With nothing left out of a section by hand."""
    return change_section(b, section_id, skips=())
