"""Which moment a sentence names: by the words of its kind, and by those of its note."""

from __future__ import annotations

from collections.abc import Sequence

from chapto.document.bout import Moment
from chapto.document.script import plain_word, words_of
from chapto.lexicon.trade_words import trade_word
from chapto.pacing.pointing_words import pointing, sentences

KIND, NOTE = 2.0, 1.0
"""Weights of a word that names the kind, and of one that stands in the note too."""
TELLING = 4
"""Letters of the shortest word of a note that tells anything."""
_SILENT = frozenset(
    {"with", "from", "that", "this", "then", "there", "here", "under", "over", "behind", "before", "into", "onto"}
)


def sentence_round(text: str, word: int) -> tuple[str, ...]:
    """The plain words of the sentence that holds word number `word`."""
    words = words_of(text)
    first, end = next((a, z) for a, z in sentences(words) if a <= word < z)
    return tuple(plain_word(w) for w in words[first:end])


def named_by(sentence: Sequence[str], moments: Sequence[Moment]) -> Moment | None:
    """The moment that the words name best, the first of equals; None where they name none."""
    if not moments:
        return None
    named = [_named(sentence, m) for m in moments]
    best = max(named)
    return moments[named.index(best)] if best > 0 else None


def _named(sentence: Sequence[str], moment: Moment) -> float:
    said = f" {' '.join(sentence)} "
    kinds = (*pointing().kinds.get(moment.kind.value, ()), trade_word(moment.kind))
    # A longer name tells more: “knee line” is not “line”, nor “knee”.
    kind = max((KIND + 0.1 * len(k.split()) for k in kinds if f" {k} " in said), default=0.0)
    stems = {_stem(w) for w in sentence}
    noted = {_stem(plain_word(w)) for w in words_of(moment.note) if _tells(plain_word(w))}
    return kind + NOTE * len(noted & stems)


def _tells(word: str) -> bool:
    return len(word) >= TELLING and word not in _SILENT


def _stem(word: str) -> str:
    """A word without the endings of English that most often part two forms of it."""
    for ending in ("ing", "ed", "es", "s"):
        if word.endswith(ending) and len(word) - len(ending) >= 3:
            return word.removesuffix(ending)
    return word
