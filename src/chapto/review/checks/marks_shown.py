"""Marks that never come on the screen, or are gone before their word is out."""

from __future__ import annotations

from collections.abc import Iterator

from chapto.review.finding import Finding, Reviewed, Weight, Where


def find(r: Reviewed) -> Iterator[Finding]:
    """Those that are nowhere, and those that end too early."""
    for lost in r.programme.unplaced:
        yield Finding(Weight.MUST, lost.sentence, Where(item=lost.mark))
    words = {(w.beat, w.word): w for w in r.programme.words}
    for placed in r.programme.marks:
        word = words.get((placed.mark.beat, placed.mark.word))
        if word is None or not placed.mark.beat:
            continue
        missing = word.end - r.seconds(placed.end)
        if missing > 1 / r.programme.fps:
            where = Where(r.seconds(placed.end), word.beat, word.word, placed.mark.id)
            sentence = f"A mark is gone {float(missing):.1f} s before “{word.text}” is out."
            yield Finding(Weight.SHOULD, sentence, where)
