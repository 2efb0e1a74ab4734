"""A review as lines of text."""

from __future__ import annotations

from chapto.clock.timecode import clock_text
from chapto.review.review import Found, Review


def report_text(reviewed: Review) -> str:
    """The verdict, a line for each finding, then what is left with a reason and what could not be checked."""
    lines = [reviewed.verdict, *map(_line, reviewed.found)]
    lines += [f"{_line(f)} Left: {f.waiver.reason}" for f in reviewed.waived if f.waiver is not None]
    lines += [
        f"{'–':6}  {'':>7}  {u.check.group}: {u.check.name} could not be checked. {u.why}" for u in reviewed.unchecked
    ]
    return "\n".join(lines)


def _line(f: Found) -> str:
    x = f.finding
    place = "" if x.at is None else clock_text(x.at, tenths=True)
    return f"{x.weight.said:6}  {place:>7}  {f.check.group}: {x.sentence}"
