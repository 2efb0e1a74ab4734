"""What a beat needs and what picture it has."""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from dataclasses import dataclass
from fractions import Fraction
from functools import lru_cache

from chapto.clock.passage import Kind
from chapto.programme.block import Block
from chapto.programme.programme import Programme


@dataclass(frozen=True, slots=True)
class Budget:
    """Watch seconds of one beat: `said` for the words, `running` with a moving picture, `held` with a held one."""

    said: Fraction
    running: Fraction
    held: Fraction


def budgets(p: Programme) -> dict[str, Budget]:
    """The budget of every beat that is said, by id. A beat lasts until the next begins or its section ends."""
    return {beat: budget for x in p.blocks for beat, budget in block_budgets(x.block).items()}


@lru_cache(maxsize=1024)
def block_budgets(block: Block) -> dict[str, Budget]:
    """The budgets of the beats of one section."""
    starts: list[tuple[str, Fraction]] = []
    said: dict[str, Fraction] = {}
    for phrase in block.voice:
        if phrase.beat not in said:
            starts.append((phrase.beat, phrase.at))
        said[phrase.beat] = said.get(phrase.beat, Fraction(0)) + phrase.until - phrase.at
    found = {}
    begins = [x.watch_in for x in block.passages]
    fps = block.passages[0].fps if block.passages else Fraction(1)
    for i, (beat, start) in enumerate(starts):
        section_end = block.frames / fps
        end = min(starts[i + 1][1] if i + 1 < len(starts) else section_end, section_end)
        running = held = Fraction(0)
        first = max(bisect_right(begins, start * fps) - 1, 0)
        for passage in block.passages[first : bisect_left(begins, end * fps)]:
            overlap = min(end, passage.watch_out / fps) - max(start, passage.watch_in / fps)
            if overlap > 0 and passage.kind in (Kind.HOLD, Kind.CARD):
                held += overlap
            elif overlap > 0:
                running += overlap
        found[beat] = Budget(said[beat], running, held)
    return found
