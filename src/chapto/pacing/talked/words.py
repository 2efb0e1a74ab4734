"""Which words of a talk stay: what was said to be wrong, fillers, and a sentence begun twice go."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

from chapto.document.script import plain_word
from chapto.document.talks import Act, Acted, SaidWord

FILLERS = frozenset({"um", "uh", "er", "erm", "uhm", "ehm", "hm", "hmm", "mm"})
"""Sounds that only fill a pause."""
ENDS, CLOSING = (".", "!", "?"), "\"'”’)"
SENTENCE_GAP = 0.7
"""Seconds of silence that end a sentence which no mark ends."""
BEHIND = 0.3
"""Seconds by which a key is pressed before the last word is out."""
FOUND_EARLY = 0.06
"""Seconds before a phrase in which its first word may be found."""
BEGUN = 6
"""Words of a beginning that is made twice, at most."""
STUMBLE = 0.12
"""Seconds of silence before a beginning, and before it is made again, at least: without them it is emphasis."""


class Reason(StrEnum):
    """Why something of the take is not in the programme."""

    WRONG = "said to be wrong"
    AGAIN = "said again"
    FILLER = "only filled a pause"
    TWICE = "begun again"
    SILENT = "nothing was said"
    HUNTING = "looking for the place"


@dataclass(frozen=True, slots=True)
class Word:
    """Word number `number` of a talk, with its half-open seconds of the take, and which of two people says it."""

    number: int
    text: str
    start: float
    end: float
    voice: int = 0


def words_of_talk(said: Sequence[SaidWord]) -> tuple[Word, ...]:
    """All words in the order of their seconds."""
    rows = sorted(said, key=lambda w: (w.start, w.end))
    return tuple(Word(i, w.text, float(w.start), float(max(w.end, w.start)), w.voice) for i, w in enumerate(rows))


def going(words: Sequence[Word], acts: Sequence[Acted]) -> dict[int, Reason]:
    """By number the words that go, and why; the strongest reason counts."""
    found = _begun_twice(words)
    found |= {w.number: Reason.FILLER for w in words if plain_word(w.text) in FILLERS}
    for act in acts:
        if act.act is Act.WRONG:
            found |= {w.number: Reason.WRONG for w in _sentence_before(words, float(act.at), found)}
        elif act.act is Act.AGAIN and act.since is not None:
            found |= {w.number: Reason.AGAIN for w in words if act.since - FOUND_EARLY <= w.start < act.at}
    return found


def _sentence_before(words: Sequence[Word], second: float, gone: dict[int, Reason]) -> list[Word]:
    """The sentence that was being said at a second, or the last one before it."""
    said = [w for w in words if w.start < second - BEHIND or w.end <= second]
    said = [w for w in said if gone.get(w.number) not in (Reason.WRONG, Reason.AGAIN)]
    found: list[Word] = []
    for word in reversed(said):
        if found and (
            word.voice != found[-1].voice
            or word.text.rstrip(CLOSING).endswith(ENDS)
            or found[-1].start - word.end > SENTENCE_GAP
        ):
            break
        found.append(word)
    return found


def _begun_twice(words: Sequence[Word]) -> dict[int, Reason]:
    """Beginnings that were broken off: some words, a short silence, and the same words once more."""
    plain = [plain_word(w.text) for w in words]
    found: dict[int, Reason] = {}
    i = 0
    while i < len(words):
        n = next((n for n in range(min(BEGUN, (len(words) - i) // 2), 0, -1) if _is_begun(words, plain, i, n)), 0)
        found |= {words[k].number: Reason.TWICE for k in range(i, i + n)}
        i += max(n, 1)
    return found


def _is_begun(words: Sequence[Word], plain: Sequence[str], first: int, count: int) -> bool:
    second = first + count
    fresh = not first or words[first].start - words[first - 1].end >= STUMBLE
    same = plain[first:second] == plain[second : second + count] and all(plain[first:second])
    ended = any(words[k].text.endswith(ENDS) for k in range(first, second))
    same = same and len({words[k].voice for k in range(first, second + count)}) == 1
    return fresh and same and not ended and words[second].start - words[second - 1].end >= STUMBLE
