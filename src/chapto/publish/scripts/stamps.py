"""Times written beside the words: `[0:23]`, `0:23`, `(1:02:03)`, `00:00:23,400 -->`."""

from __future__ import annotations

import re
from fractions import Fraction

_CLOCK = r"(?:(\d{1,2}):)?(\d{1,3}):([0-5]\d)(?:[.,](\d{1,3}))?"
_PLAIN_CLOCK = re.sub(r"\((?!\?)", "(?:", _CLOCK)
_STAMP = re.compile(
    rf"[\[(]?\s*{_CLOCK}(?P<to>\s*(?P<arrow>-->|–|—|-)\s*{_PLAIN_CLOCK})?(?P<open>\s*-->)?\s*[\])]?"
    r"(?:\s*[-–—|:](?=\s)|(?=\s)|$)"
)
_SETTING = re.compile(r"(?:\s*\b(?:align|position|line|size|vertical|region):\S+)+")
"""What may stand behind the times of a cue."""


def leading_stamp(line: str) -> tuple[Fraction, str] | None:
    """The seconds with which a line begins and the rest of it; None where it begins with no time."""
    found = _STAMP.match(line)
    if found is None:
        return None
    hours, minutes, seconds, part = found.groups()[:4]
    whole = int(hours or 0) * 3600 + int(minutes) * 60 + int(seconds)
    rest = line[found.end() :]
    if found["arrow"] == "-->":
        rest = _SETTING.sub("", rest, count=1)
    return whole + (Fraction(int(part), 10 ** len(part)) if part else Fraction(0)), rest.strip()


def trailing_stamp(line: str) -> tuple[str, Fraction] | None:
    """What stands before a time at the end of a line, and its seconds; None where the line ends with no time."""
    before, _, last = line.rpartition(" ")
    stamp = leading_stamp(last) if before else None
    return None if stamp is None or stamp[1] else (before.rstrip(), stamp[0])


def is_cue_time(line: str) -> bool:
    """Whether a line holds the times of a cue, and nothing that is said."""
    return "-->" in line and leading_stamp(line) is not None
