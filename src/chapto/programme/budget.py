"""What a beat needs and what picture it has."""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from dataclasses import dataclass
from fractions import Fraction

from chapto.clock.passage import Kind
from chapto.programme.programme import Programme


@dataclass(frozen=True, slots=True)
class Budget:
    """Watch seconds of one beat: `said` for the words, `running` with a moving picture, `held` with a held one."""

    said: Fraction
    running: Fraction
    held: Fraction


def budgets(p: Programme) -> dict[str, Budget]:
    """The budget of every beat that is said, by id. A beat lasts until the next begins or its section ends."""
    starts: list[tuple[str, Fraction]] = []
    said: dict[str, Fraction] = {}
    for phrase in p.voice:
        if phrase.beat not in said:
            starts.append((phrase.beat, phrase.at))
        said[phrase.beat] = said.get(phrase.beat, Fraction(0)) + phrase.voice_out - phrase.voice_in
    edges = sorted(Fraction(s.end) / p.fps for s in p.sections)
    begins = [x.watch_in for x in p.passages]
    found = {}
    for i, (beat, start) in enumerate(starts):
        after = bisect_right(edges, start)
        section_end = edges[after] if after < len(edges) else p.seconds
        following = starts[i + 1][1] if i + 1 < len(starts) else section_end
        end = min(following, section_end)
        running = held = Fraction(0)
        first = max(bisect_right(begins, start * p.fps) - 1, 0)
        for passage in p.passages[first : bisect_left(begins, end * p.fps)]:
            overlap = min(end, passage.watch_out / p.fps) - max(start, passage.watch_in / p.fps)
            if overlap > 0 and passage.kind in (Kind.HOLD, Kind.CARD):
                held += overlap
            elif overlap > 0:
                running += overlap
        found[beat] = Budget(said[beat], running, held)
    return found
