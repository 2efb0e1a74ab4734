"""Words about a thing that is not in view: hidden, past its exchange, or never filmed."""

from __future__ import annotations

from collections.abc import Iterator

from chapto.pacing.fitted import Lack
from chapto.programme.placed_marks import PlacedMark
from chapto.review.finding import Finding, Weight, Where
from chapto.review.mends import best_way
from chapto.review.reviewed import Reviewed

MOST_HIDDEN = 0.5
"""Share of a mark's time in which its point may be hidden (common practice)."""
STEPS = 9
"""Pictures of a mark that are looked at."""


def find(r: Reviewed) -> Iterator[Finding]:
    """Marks on points that are hidden while they are pointed at, and words that outlast what is shown."""
    for placed in r.programme.marks:
        if _hidden(r, placed) > MOST_HIDDEN:
            mark = placed.mark
            where = Where(r.seconds(placed.start), mark.beat, mark.word, mark.id)
            sentence = f"The mark “{placed.words or mark.kind.value}” is on something that is hidden here."
            yield Finding(Weight.SHOULD, sentence, where, mark.kind.value)
    for s in r.programme.shortfalls:
        if s.lack is Lack.BEYOND:
            where = Where(r.said_at(s.beat, s.word), s.beat, s.word)
            yield Finding(Weight.SHOULD, s.sentence, where, s.lack.name, mend=best_way(r, s.beat, (s.lack,)))


def _hidden(r: Reviewed, placed: PlacedMark) -> float:
    """Share of its time in which a point of a mark is hidden."""
    readings = r.programme.readings
    known = readings.tracks
    tracks = [t for i in placed.mark.anchors if (t := known.get(i)) is not None and t.measured]
    if not tracks or not r.programme.frames:
        return 0.0
    footage, time_map = r.b.camera(placed.footage), r.programme.time_map
    hidden = looked = 0
    step = max((placed.end - placed.start) // STEPS, 1)
    for frame in range(placed.start, placed.end, step):
        passage = time_map.passage_at(frame)
        if passage.footage != placed.footage:
            continue
        looked += 1
        seconds = float(footage.media_time(passage.mat_at(frame)))
        places = [t.place(seconds) for t in tracks]
        hidden += any(p is None or p.hidden for p in places)
    return hidden / looked if looked else 0.0
