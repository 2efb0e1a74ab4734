"""Who speaks, as scripts mark it: `HOST:`, `Ilka:`, `- Bram:` before the words."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Collection, Iterable
from functools import lru_cache

from chapto.lexicon.lexicon import shipped_lexicon
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
    sure = {label for label, times in count.items() if _speaks(label, names) or (times > 1 and is_a_name(label))}
    return frozenset(sure | {label for label in count if sure and is_a_name(label)})


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


def is_a_name(label: str) -> bool:
    """Whether a mark is a name of somebody: capitals, no ordinary words, and nothing of the sport."""
    words = label.split()
    named = _is_capital(words) and words[0].casefold() not in NO_SPEAKERS and not all(map(is_ordinary, words))
    return named and label.casefold() not in _names_of_the_sport()


def _speaks(label: str, known: set[str]) -> bool:
    words = label.split()
    first = words[0].casefold()
    capitals = label.isupper() and len(label) > 1 and first not in NO_SPEAKERS
    return label.casefold() in known or (first in ROLES and _is_capital(words)) or capitals


def _is_capital(words: list[str]) -> bool:
    return all(w[:1].isupper() or w.isdigit() for w in words)


@lru_cache(maxsize=1)
def _names_of_the_sport() -> frozenset[str]:
    lexicon = shipped_lexicon()
    named = (*lexicon.techniques.values(), *lexicon.positions.values())
    return frozenset(name.casefold() for item in named for name in item.names())
