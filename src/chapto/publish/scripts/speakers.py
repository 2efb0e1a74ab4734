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
    """The marks of `lines` that name who speaks: written in capitals, a part in a talk, a name in `known`, or a name
    that is no ordinary word and comes more than once."""
    count = Counter(label for line in lines if (label := _label(line)))
    names = {name.casefold() for name in known}
    return frozenset(label for label, times in count.items() if _speaks(label, times, names))


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


def _speaks(label: str, times: int, known: set[str]) -> bool:
    words = label.casefold().split()
    if label.casefold() in known or words[0] in ROLES:
        return True
    if words[0] in NO_SPEAKERS:
        return False
    if label.isupper() and len(label) > 1:
        return True
    return times > 1 and all(w[:1].isupper() for w in label.split()) and not all(map(is_ordinary, words))
