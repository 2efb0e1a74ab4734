"""Scores that were said, compared with the log's."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Sequence
from dataclasses import dataclass
from fractions import Fraction

from chapto.document.breakdown import Breakdown
from chapto.document.script import plain_word, words_of
from chapto.drafting.said_numbers import number
from chapto.lexicon.lexicon import Lexicon
from chapto.matlog.bout_clock import BoutClock
from chapto.matlog.ledger import Ledger, ledger
from chapto.matlog.rules import RuleSet
from chapto.publish.talks.named_in_talk import mat_at_word, names_of

_NUMBERS = {number(n): n for n in range(1, 60)} | {str(n): n for n in range(60)}
_NOTHING = ("nil", "zero", "nothing", "0")
_CUES = frozenset(
    {"up", "down", "ahead", "behind", "score", "leads", "lead", "leading", "is", "its", "it's", "still", "now"}
)  # fmt: skip
"""Words before a score without which “two to three” may be anything (common practice)."""
_UNITS = frozenset({"second", "seconds", "minute", "minutes", "times", "weeks", "inches", "of"})
CUED = 4
"""Words before a score in which one of them stands."""


@dataclass(frozen=True)
class ScoreSaid:
    """A score `said` with words `first ≤ i < end` of a beat, over mat second `at`, where the log has another one that
    `stands` there: points of the first and second athlete."""

    beat: str
    first: int
    end: int
    at: Fraction
    said: tuple[int, int]
    stands: tuple[int, int]
    words: str

    @property
    def sentence(self) -> str:
        """Both of them."""
        return f"You said “{self.words}”; the log has {self.stands[0]}–{self.stands[1]} there."


def scores_said(b: Breakdown, sections: Collection[str], lexicon: Lexicon, rules: RuleSet) -> tuple[ScoreSaid, ...]:
    """The scores said in `sections` (by id) that are not those of the log at that place, in either order. Outside
    of a round there is no score."""
    clock, names = BoutClock(b), names_of(lexicon)
    found: list[ScoreSaid] = []
    ledgers: dict[str, Ledger] = {}
    for section in (s for s in b.script if s.id in sections):
        for beat in section.beats:
            words = words_of(beat.text)
            named = {i for n in names.within(words) for i in range(n.first, n.end)}
            for first, end, said in scores_in(words, named):
                at = mat_at_word(b, beat, first)
                here = clock.round_at(at) if at is not None else None
                if at is None or here is None:
                    continue
                if here.id not in ledgers:
                    ledgers[here.id] = ledger(b, lexicon, rules, here)
                stands = ledgers[here.id].score(at)
                if said not in (stands, stands[::-1]):
                    text = " ".join(words[first:end]).strip(".,;:!?")
                    found.append(ScoreSaid(beat.id, first, end, at, said, stands, text))
    return tuple(found)


def scores_in(words: Sequence[str], named: Collection[int] = ()) -> Iterator[tuple[int, int, tuple[int, int]]]:
    """Scores among the words of a text, as (first word, end, score): “two nil” and “2–0” anywhere, “four to two” and
    “two all” where it is said that somebody leads, or that it is the score. Words that are `named` (by number) are
    none: 50-50."""
    plain = [plain_word(w) for w in words]
    i = 0
    while i < len(plain):
        count, score = _score_at(words, plain, i)
        if score is not None and i not in named:
            yield i, i + count, score
        i += max(count, 1)


def _score_at(words: Sequence[str], plain: Sequence[str], i: int) -> tuple[int, tuple[int, int] | None]:
    written = words[i].strip(".,;:!?()").replace("–", "-").split("-")
    if len(written) == 2 and all(part.isdecimal() and len(part) < 3 for part in written):
        return 1, (int(written[0]), int(written[1]))
    one = _NUMBERS.get(plain[i])
    after = [*plain[i + 1 : i + 3], "", ""]
    if one is None:
        return 1, None
    if after[0] in _NOTHING:
        return 2, (one, 0)
    if not any(w in _CUES for w in plain[max(i - CUED, 0) : i]):
        return 1, None
    if after[0] == "all":
        return 2, (one, one)
    other = 0 if after[1] in _NOTHING else _NUMBERS.get(after[1])
    counts = after[0] == "to" and other is not None and not _UNITS & set(plain[i + 3 : i + 4])
    return (3, (one, other)) if counts and other is not None else (1, None)
