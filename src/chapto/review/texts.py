"""The words of a script as checks read them: plain, in sentences, with the names of the lexicon in them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

from chapto.document.script import plain_word, words_of
from chapto.lexicon.lexicon import Lexicon
from chapto.lexicon.named import NameInText
from chapto.pacing.pointing_words import sentences
from chapto.publish.talks.named_in_talk import names_of


@dataclass(frozen=True)
class Text:
    """`words` as they are written, `plain` in small letters without marks, and half-open `sentences` of them."""

    words: tuple[str, ...]
    plain: tuple[str, ...]
    sentences: tuple[tuple[int, int], ...]

    def quote(self, first: int, end: int) -> str:
        """Words `first … end` (half-open) as they are written, without the marks round them."""
        return " ".join(self.words[first:end]).strip(" .,;:!?“”\"'()–—")

    def places(self, phrase: Sequence[str], first: int = 0, end: int | None = None) -> list[int]:
        """Where the plain words of a phrase stand among words `first … end`."""
        last, long, wanted = len(self.plain) if end is None else end, len(phrase), tuple(phrase)
        return [i for i in range(first, last - long + 1) if self.plain[i : i + long] == wanted]

    def sentence_of(self, word: int) -> tuple[int, int]:
        """The half-open range of the sentence that holds a word."""
        return next((a, z) for a, z in self.sentences if a <= word < z)


@lru_cache(maxsize=8192)
def read(text: str) -> Text:
    """The words of a text."""
    words = words_of(text)
    return Text(words, tuple(plain_word(w) for w in words), tuple(sentences(words)))


@lru_cache(maxsize=8192)
def names_in(lexicon: Lexicon, text: str) -> tuple[NameInText, ...]:
    """The names of techniques and positions in a text."""
    return names_of(lexicon).within(words_of(text))
