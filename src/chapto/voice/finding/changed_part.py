"""A script that was changed a little: only what is other is looked for again, between words that are known."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from difflib import SequenceMatcher

from chapto.voice.finding.comparing import FoundWord, Said
from chapto.voice.finding.phrases import RATE, Phrase, Sound
from chapto.voice.finding.words_found import WordsFound, find_words

CONTEXT = 4
"""Words on each side of a change that are looked for again with it."""
FEWEST = 60
"""Words under which everything is looked for again."""
MOST = 0.4
"""Share of the words from which on it is no small change."""


@dataclass(frozen=True)
class ChangedPart:
    """Words `first … old_end` (half-open) of what was `known` became `first … new_end`; what lies round them is kept.
    They are said between the seconds `start` and `end`."""

    known: WordsFound
    first: int
    old_end: int
    new_end: int
    start: float
    end: float

    def found_again(
        self, sound: Sound, words: Sequence[str], offset: float, cancelled: Callable[[], bool]
    ) -> WordsFound:
        """All `words` with only those looked for that changed; `sound` begins at second `offset` of the times."""
        a, z = round((self.start - offset) * RATE), round((self.end - offset) * RATE)
        part = find_words(sound[max(a, 0) : z], words[self.first : self.new_end], cancelled=cancelled)
        part = later(part, offset + max(a, 0) / RATE)
        shift = self.new_end - self.old_end
        before = [x for x in self.known.added if x.before < self.first]
        behind = [replace(x, before=x.before + shift) for x in self.known.added if x.before > self.old_end]
        inside = [replace(x, before=x.before + self.first) for x in part.added]
        return WordsFound(
            (*self.known.words[: self.first], *part.words, *self.known.words[self.old_end :]),
            (*before, *inside, *behind),
            self.known.phrases,
        )


def changed_part(old: Sequence[str], new: Sequence[str], known: WordsFound) -> ChangedPart | None:
    """What of `old` became other in `new`; None where too much did, or nothing sure lies round it."""
    if len(new) < FEWEST or len(known.words) != len(old):
        return None
    changes = [c for c in SequenceMatcher(None, old, new, autojunk=False).get_opcodes() if c[0] != "equal"]
    if not changes:
        return None
    first, old_end, new_end = changes[0][1], changes[-1][2], changes[-1][4]
    first = max(first - CONTEXT, 0)
    reach = min(CONTEXT, len(old) - old_end)
    old_end, new_end = old_end + reach, new_end + reach
    if new_end - first > MOST * len(new):
        return None
    before = _sure(known.words[first - 1]) if first else (0.0, 0.0)
    behind = _sure(known.words[old_end]) if old_end < len(old) else (float("inf"), float("inf"))
    if before is None or behind is None:
        return None
    end = behind[0] if old_end < len(old) else max((p.end for p in known.phrases), default=0.0) + 1.0
    start = before[1] if first else max(min((p.start for p in known.phrases), default=0.0) - 1.0, 0.0)
    return ChangedPart(known, first, old_end, new_end, start, end) if end > start else None


def _sure(word: FoundWord) -> tuple[float, float] | None:
    return word.span if word.state is Said.AS_WRITTEN else None


def later(found: WordsFound, by: float) -> WordsFound:
    """The same words `by` seconds later."""

    def moved(span: tuple[float, float]) -> tuple[float, float]:
        return span[0] + by, span[1] + by

    return WordsFound(
        tuple(replace(w, span=moved(w.span) if w.span else None) for w in found.words),
        tuple(replace(a, span=moved(a.span)) for a in found.added),
        tuple(Phrase(*moved((p.start, p.end))) for p in found.phrases),
    )
