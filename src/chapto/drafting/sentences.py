"""Sentences made from a pattern and the facts, and the memory that keeps them from repeating themselves."""

from __future__ import annotations

import random
import re
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property

from chapto.document.script import plain_word, words_of
from chapto.drafting.called import Called
from chapto.drafting.grammar import Pattern

Seconds = Callable[[str], float]
"""Gives how many seconds some words take to say."""
APART = 5
"""Sentences within which no opener and no verb comes twice."""
LONG_AGO = 20
"""Sentences within which none comes twice."""
SCORE = frozenset({"led", "no score", "leading", "trailing"})
"""Ways to say the score: one of them is enough."""
ONCE = frozenset({"pos", "left", "gap", *SCORE, "again", "attack", "end"})
"""Facts that are told once in an exchange."""
_SLOT = re.compile(r"\{(\w+)(?:([.:])(\w+))?\}")


@dataclass(frozen=True)
class Sentence:
    """What is said: `text` ends with its stop. `word` is the number of its word that points, which is tied to `moment`
    (by id); −1 where it points at nothing. `cost` says how much it is to be avoided. `tells` are the
    facts in it that need no second telling; an `early` one is true only as the exchange begins."""

    text: str
    verb: str = ""
    word: int = -1
    moment: str = ""
    cost: float = 0.0
    tells: frozenset[str] = frozenset()
    early: bool = False

    @cached_property
    def opener(self) -> str:
        """Its first word in small letters, without marks."""
        return plain_word(words_of(self.text)[0])


@dataclass(frozen=True)
class Memory:
    """The openers and verbs of the last sentences, and more of their texts, the latest first."""

    openers: tuple[str, ...] = ()
    verbs: tuple[str, ...] = ()
    texts: tuple[str, ...] = ()

    def after(self, s: Sentence) -> Memory:
        """The memory once a sentence has been said."""
        openers, verbs = (s.opener, *self.openers)[: APART - 1], (s.verb, *self.verbs)[: APART - 1]
        return Memory(openers, verbs, (s.text, *self.texts)[:LONG_AGO])

    def repeats(self, s: Sentence) -> int:
        """How many of its opener and its verb were used within `APART` sentences, and whether all of it was before."""
        return (s.opener in self.openers) + (bool(s.verb) and s.verb in self.verbs) + (s.text in self.texts)


@dataclass(frozen=True)
class Filling:
    """What stands in the slots of the grammar."""

    words: Mapping[str, str]
    people: Mapping[str, Called] = field(default_factory=dict)

    def fill(self, pattern: str) -> str | None:
        """The text with its slots filled; None where something is not known."""
        lacking = False

        def slot(m: re.Match[str]) -> str:
            nonlocal lacking
            who = self.people.get(m[1])
            if who is not None:
                return self._of(who, m[2], m[3])
            if m[1] not in self.words or m[2]:
                lacking = True
                return ""
            return self.words[m[1]]

        text = _SLOT.sub(slot, pattern)
        return None if lacking or not text.strip() else text

    def _of(self, who: Called, mark: str | None, what: str | None) -> str:
        if mark == ":":
            return who.verb(what or "")
        return {None: who.subject, "me": who.me, "my": who.my, "whole": who.whole, "does": "does"}[what]


def stands(pattern: Pattern, knows: frozenset[str], family: str = "") -> bool:
    """Whether the log knows what a pattern needs, and nothing it must not."""
    known = pattern.needs <= knows and not pattern.lacks & knows
    return known and (not pattern.families or family in pattern.families)


def sentence(
    text: str, verb: str = "", *, moment: str = "", cost: float = 0.0, tells: frozenset[str] = frozenset()
) -> Sentence:
    """A sentence with its capital and its stop; a `@` marks the word that points."""
    words = list(words_of(text))
    told = tells | SCORE if tells & SCORE else tells
    word = next((i for i, w in enumerate(words) if "@" in w), -1)
    plain = " ".join(w.replace("@", "") for w in words)
    plain = plain[:1].upper() + plain[1:]
    return Sentence(
        plain if plain[-1:] in ".!?" else f"{plain}.", verb, word, moment if word >= 0 else "", cost, told & ONCE
    )


def shuffled(rows: Sequence[Pattern], rng: random.Random) -> list[Pattern]:
    """The patterns in another order, which is the same for the same seed."""
    made = list(rows)
    rng.shuffle(made)
    return made
