"""Words of the trade that a video for beginners never explains."""

from __future__ import annotations

from collections.abc import Iterator

from chapto.review.finding import Finding, Weight, Where
from chapto.review.phrases import found_in, phrases
from chapto.review.reviewed import Reviewed
from chapto.review.texts import Text, names_in, read

MARKS = ("–", "—", "(", ":")
"""Marks after a word behind which it is explained."""


def find(r: Reviewed) -> Iterator[Finding]:
    """The first mention of each name that nothing near it explains."""
    if not r.b.for_beginners:
        return
    lexicon = r.lexicon
    said: dict[str, tuple[str, str, int]] = {}
    explained: set[str] = set()
    for _, beat in r.b.read_beats():
        text = read(beat.text)
        for n in names_in(lexicon, beat.text):
            said.setdefault(n.item.id, (text.quote(n.first, n.end), beat.id, n.first))
            if _explains(text, n.first, n.end):
                explained.add(n.item.id)
    for item, (quote, beat_id, word) in said.items():
        if item not in explained:
            sentence = f"“{quote}” is never explained, and this is for beginners."
            yield Finding(Weight.SHOULD, sentence, Where(r.said_at(beat_id, word), beat_id, word), quote)


def _explains(text: Text, first: int, end: int) -> bool:
    """Whether the sentence of a name, or the next one, says what it is."""
    begins, ends = text.sentence_of(first)
    after = next((z for a, z in text.sentences if a == ends), ends)
    if any(m in w for w in text.words[end - 1 : ends] for m in MARKS):
        return True
    data = phrases()["explains"]
    if any(w in data["words"] for w in text.plain[begins:after]):
        return True
    return any(first - 4 <= a < after and a >= begins for a, _ in found_in(text, data["phrases"]))
