"""What the logs say of one person, with how sure it is. Only of those who agreed to be shown."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date

import numpy as np

from chapto.document.bout import Outcome
from chapto.document.clearance import Agreement
from chapto.lexicon.lexicon import Lexicon
from chapto.shelf.database import Database
from chapto.shelf.intervals import Share, Trend, share, trend

MONTH = 365.25 / 12
"""Days."""
AGREED = "breakdown.id IN (SELECT breakdown FROM seen WHERE name = ? AND NOT is_owner AND agreement = ?)"


@dataclass(frozen=True)
class Landings:
    """A technique: how often of their tries it landed."""

    technique: str
    name: str
    landed: Share


@dataclass(frozen=True)
class Month:
    """Answers in one month (`2026-03`): how many, and seconds to the answer: median, and the quarters round it."""

    month: str
    count: int
    median: float
    low: float
    high: float


@dataclass(frozen=True)
class PersonFigures:
    """`tries` by technique, most tried first; how often others' tries against them were `stopped`; seconds to their
    answers, month by month; by how many seconds a month those change."""

    name: str
    tries: tuple[Landings, ...]
    stopped: Share
    months: tuple[Month, ...]
    reaction: Trend | None
    breakdowns: int

    def sentences(self) -> Iterator[str]:
        """What may be said, each with how sure it is."""
        for t in self.tries[:3]:
            s = t.landed
            said = f"{t.name}: {s.hits} of {s.tries} landed"
            if s.tries < 5:
                yield f"{said}; too few to say more."
            else:
                yield f"{said}, truly {s.low:.0%} to {s.high:.0%} (Wilson, 95 %)."
        s = self.stopped
        if s.tries:
            yield f"Stopped {s.hits} of {s.tries} tries against them, truly {s.low:.0%} to {s.high:.0%}."
        yield self._reaction_said()

    def _reaction_said(self) -> str:
        count = sum(m.count for m in self.months)
        if self.reaction is None:
            return f"{count} answers are logged; a trend needs several months." if count else "No answers are logged."
        r = self.reaction
        span = f"{r.low:+.2f} to {r.high:+.2f} s a month (Theil and Sen, 95 %, {r.count} answers)"
        if not r.is_telling:
            return f"No trend can be told in how soon they answer: {span}."
        return f"They answer {'later' if r.slope > 0 else 'sooner'} by {abs(r.slope):.2f} s a month: {span}."


def people_with_figures(database: Database) -> tuple[str, ...]:
    """Names of those who agreed and are in an exchange, those in most breakdowns first."""
    rows = database.rows(
        "SELECT seen.name, count(DISTINCT seen.breakdown) FROM seen WHERE agreement = ? AND NOT is_owner AND EXISTS "
        "(SELECT 1 FROM place WHERE place.breakdown = seen.breakdown AND (who = seen.name OR against = seen.name)) "
        "GROUP BY 1 ORDER BY 2 DESC, 1",
        Agreement.AGREED.value,
    )
    return tuple(r[0] for r in rows)


def person_figures(database: Database, lexicon: Lexicon, name: str) -> PersonFigures:
    """The figures of one person, from the breakdowns in which they agreed to be shown. One exchange that stands in
    several breakdowns counts once: the same file, at the same time."""
    rows = database.rows(
        "SELECT technique, called, who, against, max(outcome) AS outcome, answer_after, min(day) AS day, "
        "min(place.breakdown) AS breakdown FROM place JOIN breakdown ON breakdown.id = place.breakdown "
        f"WHERE is_exchange AND (who = ? OR against = ?) AND {AGREED} GROUP BY same, technique, who ORDER BY day",
        name, name, name, Agreement.AGREED.value,
    )  # fmt: skip
    mine = [r for r in rows if r["who"] == name and r["outcome"]]
    tried: dict[str, list[bool]] = {}
    for r in mine:
        if r["technique"] or r["called"]:
            tried.setdefault(r["technique"] or r["called"], []).append(r["outcome"] == Outcome.LANDED.value)
    against = [r["outcome"] == Outcome.STOPPED.value for r in rows if r["against"] == name and r["outcome"]]
    answers = [(r["day"], r["answer_after"]) for r in rows if r["against"] == name and r["answer_after"] is not None]
    return PersonFigures(
        name=name,
        tries=tuple(
            Landings(
                t, known.en if (known := lexicon.techniques.get(t)) is not None else t, share(sum(hits), len(hits))
            )
            for t, hits in sorted(tried.items(), key=lambda row: (-len(row[1]), row[0]))
        ),
        stopped=share(sum(against), len(against)),
        months=tuple(_months(answers)),
        reaction=_reaction(answers),
        breakdowns=len({r["breakdown"] for r in rows}),
    )


def _months(answers: list[tuple[str, float]]) -> Iterator[Month]:
    by_month: dict[str, list[float]] = {}
    for day, seconds in answers:
        by_month.setdefault(day[:7], []).append(seconds)
    for month, all_of_it in sorted(by_month.items()):
        low, middle, high = np.percentile(all_of_it, (25, 50, 75))
        yield Month(month, len(all_of_it), float(middle), float(low), float(high))


def _reaction(answers: list[tuple[str, float]]) -> Trend | None:
    if len({day[:7] for day, _ in answers}) < 2:
        return None
    days = np.array([date.fromisoformat(day).toordinal() for day, _ in answers], dtype=float)
    return trend(days / MONTH, np.array([seconds for _, seconds in answers], dtype=float))
