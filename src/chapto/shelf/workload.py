"""What a breakdown still takes, and which of its exchanges that are not told yet would take how long."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from pathlib import Path

from chapto.document.bout import Exchange
from chapto.document.breakdown import Breakdown
from chapto.matlog.exchange_ranking import worth_explaining
from chapto.matlog.ledger import ledger
from chapto.programme.knowledge import Knowledge
from chapto.shelf.forecast import Choice, Learning, Spread, learning, rest_of, together
from chapto.shelf.times import Effort, TimeNote, efforts

WATCHED = 3.0
"""Watch seconds that a second of an exchange becomes where it is explained (common practice)."""
LATELY = 5
"""Breakdowns from which it is told what a minute takes now."""
HALF_HOUR = 30
UNKNOWN = 240
"""Minutes that a video is thought to take before anything is known."""


@dataclass(frozen=True)
class Workload:
    """`done` are finished breakdowns but this one; `rest` is what each stage still takes here. `choices` are exchanges
    that are not told yet, by id in `exchanges`."""

    done: tuple[Effort, ...]
    rest: Mapping[str, Spread]
    choices: tuple[Choice, ...]
    exchanges: Mapping[str, Exchange]

    @property
    def whole(self) -> Spread:
        """What all stages take together."""
        return together(self.rest)

    @property
    def learning(self) -> Learning | None:
        """How effort falls."""
        return learning(self.done)

    @property
    def usual_minutes(self) -> int:
        """What a video took lately, to the half hour."""
        lately = sorted(e.seconds for e in self.done[-LATELY:])
        return max(round(lately[len(lately) // 2] / 60 / HALF_HOUR), 1) * HALF_HOUR if lately else UNKNOWN


def workload(
    b: Breakdown, seconds: float, notes: Iterable[TimeNote], project: Path | None, known: Knowledge
) -> Workload:
    """The work on a breakdown at `project` whose video is `seconds` long now; a wished length counts instead."""
    every, here = efforts(notes), str(project) if project is not None else ""
    done = tuple(e for e in every if e.path != here and e.a_minute is not None)
    spent: Mapping[str, float] = next((e.by_stage for e in every if e.path == here), {})
    lately = done[-LATELY:]
    each = sum(e.seconds for e in lately) / sum(e.length for e in lately) if lately else UNKNOWN * 60 / 300
    told = {s.exchange for s in b.script if s.beats}
    rules = known.rules.get(b.ruling.rules)
    ranked = worth_explaining(b, known.lexicon, ledger(b, known.lexicon, rules)) if rules is not None else ()
    choices = [
        # What is worth nothing more than the others is still worth something.
        Choice(w.exchange.id, w.score + 0.5, float(w.exchange.end - w.exchange.start) * WATCHED * each)
        for w in ranked
        if w.exchange.id not in told
    ]
    return Workload(
        done, rest_of(done, float(b.target) or seconds, spent), tuple(choices), {x.id: x for x in b.exchanges}
    )
