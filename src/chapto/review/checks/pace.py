"""Lines that are said too fast to follow, or not as fast as the same voice says the others."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator
from fractions import Fraction
from functools import partial
from itertools import groupby, pairwise
from statistics import median

from chapto.document import edit_breakdown
from chapto.document.script import plain_word
from chapto.document.takes_by_beat import takes_by_beat
from chapto.review.finding import Finding, Mend, Weight, Where, mend_by
from chapto.review.reviewed import Part, Reviewed

FEWEST = 8
"""Words of a line from which its pace can be told."""
EVEN = 20
"""Words of a line from which its pace can be compared: shorter ones vary by what they say."""
BREATH = Fraction(1, 4)
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
    limit = r.limits["pace-off"]
    lines: defaultdict[str, list[tuple[Fraction, Where, str]]] = defaultdict(list)
    for part in r.parts:
        voices = {x.id: r.b.narrator(x).id for x in part.section.beats}
        for beat, row in groupby(part.block.words, key=lambda w: w.beat):
            words = list(row)
            pauses = (z.start - a.end for a, z in pairwise(words) if z.start - a.end > BREATH)
            seconds = words[-1].end - words[0].start - sum(pauses, Fraction(0))
            hurried = 60 * len(words) > r.limits["pace-most"].value * (words[-1].end - words[0].start)
            # What is hurried is told already.
            if len(words) >= EVEN and seconds > 0 and not hurried:
                letters = sum(len(plain_word(w.text)) for w in words)
                where = Where(words[0].start + r.seconds(part.start), beat)
                lines[voices[beat]].append((letters / seconds, where, f"{words[0].text} {words[1].text}"))
    for rows in lines.values():
        if len(rows) < LINES:
            continue
        own = median(pace for pace, _, _ in rows)
        for pace, where, begins in rows:
            off = abs(pace / own - 1) * 100
            if off > limit.value:
                how = "faster" if pace > own else "slower"
                sentence = f"“{begins} …” is {limit.said(off)} {how} than the same voice elsewhere."
                yield Finding(Weight.MAY, sentence, where, "uneven", off, limit)


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
