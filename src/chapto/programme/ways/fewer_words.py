"""Whole phrases cut."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial
from itertools import pairwise

from chapto.document import edit_script
from chapto.document.script import Beat, words_of
from chapto.pacing.spoken import phrase_starts, without
from chapto.programme.ways.way import Trouble, Try

NEXT_BEST = 1.5
"""A clause cut out of the middle costs so many times one that ends its sentence."""
TO_SPARE = 0.1
"""Seconds that cut words must save beyond what is lacking: what is left is not said in quite the same time."""


def fewer_words(t: Trouble, seconds: float, *, until: int | None) -> Iterator[Try]:
    """The cheapest run of whole phrases without a tie that is long enough. It lies in the beat of the shortfall, before
    its word, or in the beats before; anywhere in the section when `until` is None."""
    found: list[tuple[float, Try]] = []
    for beat in t.section.beats:
        here = beat.id == t.beat.id
        runs = _phrase_runs(beat, until if here else None)
        for first, end in runs:
            line = t.lines[beat.id]
            shorter = without(line, first, end)
            if float(line.seconds - shorter.seconds) < seconds + TO_SPARE:
                continue
            words = words_of(beat.text)[first:end]
            price = t.weights.word * len(words) * (1.0 if words[-1][-1] in ".!?…" else NEXT_BEST)
            change = partial(edit_script.cut_words, beat_id=beat.id, first=first, end=end)
            moved = t.lack.word - len(words) if here and end <= t.lack.word else None
            counted = f"{len(words)} word{'s' if len(words) != 1 else ''}"
            found.append(
                (price, Try("cut", f"Cut “{short(words)}” ({counted})", change, price, {beat.id: shorter}, moved))
            )  # fmt: skip
        if here and until is not None:
            break
    yield from (tried for _, tried in sorted(found, key=lambda row: row[0])[:2])


def _phrase_runs(beat: Beat, until: int | None) -> list[tuple[int, int]]:
    """Runs of whole phrases of a beat that carry no tie, ending at word `until` at the latest."""
    count = len(words_of(beat.text))
    edges = [*phrase_starts(beat.text), count]
    last = count if until is None else until
    tied = {tie.word for tie in beat.ties}
    phrases = [(a, z) for a, z in pairwise(edges) if z <= last]
    runs = [(phrases[i][0], phrases[j][1]) for i in range(len(phrases)) for j in range(i, len(phrases))]
    return [(a, z) for a, z in runs if not tied & set(range(a, z))]


def short(words: tuple[str, ...]) -> str:
    """The words, or the first and the last of many."""
    said = " ".join(words).rstrip(".,;:")
    return said if len(words) <= 6 else f"{' '.join(words[:3])} … {' '.join(words[-2:])}".rstrip(".,;:")
