"""Lines that are said too fast to follow, or not as fast as the same voice says the others."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator
from fractions import Fraction
from functools import lru_cache, partial
from itertools import groupby, pairwise
from statistics import median

from chapto.document import edit_breakdown
from chapto.document.script import plain_word
from chapto.document.takes_by_beat import takes_by_beat
from chapto.programme.block import Block
from chapto.review.finding import Finding, Mend, Weight, Where, mend_by
from chapto.review.reviewed import Part, Reviewed

FEWEST = 8
"""Words of a line from which its pace can be told."""
EVEN = 20
"""Words of a line from which its pace can be compared: shorter ones vary by what they say."""
BREATH = 0.25
"""Seconds of silence that count as a pause where only the talking is compared."""
LINES = 4
"""Lines of a voice from which it has a pace of its own."""


def find(part: Part) -> Iterator[Finding]:
    """Lines over the pace that anybody follows."""
    limit = part.limits["pace-most"]
    for beat, pace, start, begins in _paces(part, FEWEST):
        if pace > limit.value:
            sentence = f"“{begins} …” is hurried: {limit.said(pace)}."
            yield Finding(
                Weight.SHOULD, sentence, Where(start, beat), "fast", pace, limit, _slower(part.r, beat, limit.value)
            )


def uneven(r: Reviewed) -> Iterator[Finding]:
    """Lines that are off the voice's own pace, pauses apart. Letters are counted, as some have longer words."""
    limit, most = r.limits["pace-off"], float(r.limits["pace-most"].value)
    lines: defaultdict[str, list[tuple[float, Part, str, Fraction, str]]] = defaultdict(list)
    for part in r.parts:
        voices = {x.id: r.b.narrator(x).id for x in part.section.beats} if len(r.b.narrators) > 1 else {}
        for beat, letters, pace, start, begins in _letters(part.block):
            # What is hurried is told already.
            if pace <= most:
                lines[voices.get(beat, "")].append((letters, part, beat, start, begins))
    for rows in lines.values():
        if len(rows) < LINES:
            continue
        own, most_off = median(row[0] for row in rows), float(limit.value)
        for pace, part, beat, start, begins in rows:
            off = Fraction(round(abs(pace / own - 1) * 1000), 10) if 100 * abs(pace / own - 1) > most_off else None
            if off is not None and off > limit.value:
                where = Where(start + r.seconds(part.start), beat)
                how = "faster" if pace > own else "slower"
                sentence = f"“{begins} …” is {limit.said(off)} {how} than the same voice elsewhere."
                yield Finding(Weight.MAY, sentence, where, "uneven", off, limit)


@lru_cache(maxsize=1024)
def _letters(block: Block) -> tuple[tuple[str, float, float, Fraction, str], ...]:
    """Beat, letters a second without pauses, words a minute, start and first words of every line that is long
    enough."""
    found = []
    for beat, row in groupby(block.words, key=lambda w: w.beat):
        words = list(row)
        if len(words) < EVEN:
            continue
        times = [(float(w.start), float(w.end)) for w in words]
        whole = times[-1][1] - times[0][0]
        seconds = whole - sum(gap for a, z in pairwise(times) if (gap := z[0] - a[1]) > BREATH)
        if seconds > 0:
            letters = sum(len(plain_word(w.text)) for w in words)
            begins = f"{words[0].text} {words[1].text}"
            found.append((beat, letters / seconds, 60 * len(words) / whole, words[0].start, begins))
    return tuple(found)


def _paces(part: Part, fewest: int) -> Iterator[tuple[str, Fraction, Fraction, str]]:
    """Beat, words a minute, its start and its first words, of every line with enough of them."""
    for beat, row in groupby(part.block.words, key=lambda w: w.beat):
        words = list(row)
        seconds = words[-1].end - words[0].start
        if len(words) >= fewest and seconds > 0:
            yield beat, 60 * len(words) / seconds, words[0].start, f"{words[0].text} {words[1].text}"


def _slower(r: Reviewed, beat: str, most: Fraction) -> Mend | None:
    """The guide voice at a slower pace; a recording has to be read again."""
    take = takes_by_beat(r.b).get(beat)
    if take is not None and not r.b.guide_only:
        return None
    narrator = r.b.narrator(r.b.find_beat(beat)[1])
    pace = min(int(narrator.pace * 9 / 10), int(most) - 10)
    if pace < 60:
        return None
    change = partial(edit_breakdown.change_narrator, narrator=narrator.id, pace=pace)
    return mend_by(f"Let {narrator.name} talk at {pace} words a minute", change)
