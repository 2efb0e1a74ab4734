"""Who speaks, as scripts mark it: `HOST:`, `Ilka:`, `- Bram:` before the words."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Collection, Iterable

from chapto.lexicon.ordinary import is_ordinary

_LABEL = re.compile(r"(?:(?:>>|-)\s*)?([^\W\d_][\w.'’-]*(?: [\w.'’-]+){0,2})\s?:(?=\s|$)")
LONGEST = 30
"""Letters of the longest mark."""
ROLES = frozenset({"host", "guest", "coach", "narrator", "interviewer", "athlete", "speaker", "commentator", "partner"})
NO_SPEAKERS = frozenset({"note", "style", "region", "warning", "tip", "rule", "step", "part", "chapter", "round", "ps"})
CHANGES = ">>"
"""Captions set this before the words of somebody else."""


def speakers_in(lines: Iterable[str], known: Collection[str] = ()) -> frozenset[str]:
    """The marks of `lines` that name who speaks: capitals, a part in a talk, or a name in `known`. A name that is no
    ordinary word is one if it comes more than once, or beside others."""
    count = Counter(label for line in lines if (label := _label(line)))
    names = {name.casefold() for name in known}
    sure = {label for label, times in count.items() if _speaks(label, names) or (times > 1 and _is_a_name(label))}
    return frozenset(sure | {label for label in count if sure and _is_a_name(label)})


def split_speaker(line: str, speakers: frozenset[str]) -> tuple[str, str]:
    """Who speaks (empty where nobody is named) and what is said."""
    label = _label(line)
    if label in speakers:
        found = _LABEL.match(line)
        assert found is not None
        return label, line[found.end() :].strip()
    return "", line.removeprefix(CHANGES).lstrip() if line.startswith(CHANGES) else line


def _label(line: str) -> str:
    found = _LABEL.match(line)
    return found[1] if found and len(found[1]) <= LONGEST else ""


def _speaks(label: str, known: set[str]) -> bool:
    first = label.casefold().split()[0]
    capitals = label.isupper() and len(label) > 1 and first not in NO_SPEAKERS
    return label.casefold() in known or first in ROLES or capitals


def _is_a_name(label: str) -> bool:
    words = label.split()
    capital = all(w[:1].isupper() for w in words)
    return capital and words[0].casefold() not in NO_SPEAKERS and not all(map(is_ordinary, words))
