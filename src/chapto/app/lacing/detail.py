"""What is drawn of a lacing at a scale: where things lie closer than a hand can tell them apart, one stands for all.
Free of Qt."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from chapto.app.lacing.model import Band, Lace, Phrase
from chapto.clock.passage import Kind
from chapto.programme.programme import TieState

NARROW = 6.0
"""Pixels under which a band is drawn together with its neighbours."""
CLOSE = 5.0
"""Pixels closer than which laces are drawn as one."""
WORST = {TieState.MET: 0, TieState.LATE: 1, TieState.BROKEN: 2}


@dataclass(frozen=True, slots=True)
class Merged:
    """Bands in a row too narrow to be told apart: from `start` to `end`, mostly of `kind`."""

    start: float
    end: float
    kind: Kind


def merged(bands: Iterable[Band], scale: float) -> list[Band | Merged]:
    """Bands wide enough to be drawn, and between them what is not, in pieces of at least `NARROW` pixels; `scale` in
    pixels a second."""
    found: list[Band | Merged] = []
    waiting: list[Band] = []

    def flush() -> None:
        if len(waiting) == 1:
            found.append(waiting[0])
        elif waiting:
            lasting: dict[Kind, float] = {}
            for band in waiting:
                lasting[band.kind] = lasting.get(band.kind, 0.0) + band.end - band.start
            found.append(Merged(waiting[0].start, waiting[-1].end, max(lasting, key=lambda k: lasting[k])))
        waiting.clear()

    for band in bands:
        if (band.end - band.start) * scale >= NARROW:
            flush()
            found.append(band)
            continue
        waiting.append(band)
        if (waiting[-1].end - waiting[0].start) * scale >= NARROW:
            flush()
    flush()
    return found


def thinned(laces: Iterable[Lace], scale: float) -> list[Lace]:
    """Laces at least `CLOSE` pixels apart; of those that are closer the worst is kept."""
    found: list[Lace] = []
    for lace in laces:
        if found and (lace.said - found[-1].said) * scale < CLOSE:
            if WORST[lace.state] > WORST[found[-1].state]:
                found[-1] = lace
        else:
            found.append(lace)
    return found


def joined(phrases: Iterable[Phrase], scale: float) -> list[Phrase]:
    """Phrases of one beat, and at a small scale of several, with no gap of two pixels between them as one; its text is
    empty."""
    found: list[Phrase] = []
    for x in phrases:
        near = found and (x.start - found[-1].end) * scale < 2.0
        tiny = found and (found[-1].end - found[-1].start) * scale < 6.0
        if near and (found[-1].beat == x.beat or tiny):
            found[-1] = Phrase(found[-1].beat, found[-1].start, x.end, "")
        else:
            found.append(x)
    return found


def touching(spans: Iterable[tuple[float, float]], gap: float) -> list[tuple[float, float]]:
    """Spans in a row with less than `gap` seconds between them, as one."""
    found: list[tuple[float, float]] = []
    for start, end in spans:
        if found and start - found[-1][1] < gap:
            found[-1] = found[-1][0], max(end, found[-1][1])
        else:
            found.append((start, end))
    return found
