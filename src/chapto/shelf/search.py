"""Finding places on the shelf, each with why it was found."""

from __future__ import annotations

import json
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path

from chapto.lexicon.lexicon import Lexicon
from chapto.shelf.asking import SAID
from chapto.shelf.database import Database
from chapto.shelf.query import Asks, Filter, Query
from chapto.shelf.viewed import ABOVE, BELOW, part_of, position_of
from chapto.shelf.words_found import match, tokens

MOST = 60
TOGETHER = 6
"""Rows looked through for one that is shown: what stands in several breakdowns is shown once."""
SNIPPET = 14
"""Words of what is said that are shown round what was found."""
Values = list[object]


@dataclass(frozen=True, kw_only=True)
class Found:
    """A place with its breakdown, and `why` it was found, a few words each; `said` are words round what was looked for.
    So many `others` of the breakdowns found have the same in them. `id` is good until the index is written again."""

    id: int
    path: Path
    state: str
    title: str
    part: str
    day: str
    key: str
    is_exchange: bool
    start: float
    end: float
    footage: str
    media_in: float
    media_out: float
    technique: str
    called: str
    who: str
    against: str
    outcome: str
    before: str
    after: str
    way: tuple[str, ...]
    moments: tuple[tuple[str, float], ...]
    explained: int
    round: str
    same: str
    others: int = 0
    why: tuple[str, ...] = ()
    said: str = ""

    @property
    def seconds(self) -> float:
        """How long it lasts."""
        return self.end - self.start


COLUMNS = """place.id, breakdown.path, breakdown.state, breakdown.title, breakdown.part, breakdown.day, place.key,
place.is_exchange, place.start, place."end", place.footage, place.media_in, place.media_out, place.technique,
place.called, place.who, place.against, place.outcome, place.before, place.after, place.way, place.moments,
place.explained, place.round, place.same"""
_SPOKEN = "place.id IN (SELECT rowid FROM words WHERE words MATCH ?)"
FACETS = {"outcome": Asks.OUTCOME, "technique": Asks.TECHNIQUE, "who": Asks.BY, "before": Asks.BEFORE}


class Search:
    """Asks the index of one shelf."""

    def __init__(self, database: Database, lexicon: Lexicon) -> None:
        self._db, self._lexicon = database, lexicon

    def find(self, query: Query, *, most: int = MOST) -> list[Found]:
        """What fits, the best first: by its words where some are asked for, else what was explained, and the newest.
        What stands in several breakdowns comes once."""
        those, values = self._those(query)
        if match(query.words):
            said = f"snippet(words, 1, '', '', '…', {SNIPPET})"
            order = "bm25(words, 6.0, 2.0, 3.0, 4.0, 1.0), place.id"
        else:
            said, order = "''", "place.is_exchange DESC, place.explained > 0 DESC, breakdown.day DESC, place.id"
        # What was logged as a technique stands above what is only spoken of.
        logged = next((f.value for f in query.filters if f.asks is Asks.TECHNIQUE), "")
        sql = f"SELECT {COLUMNS}, {said} AS said {those} ORDER BY ? IN ('', place.technique) DESC, {order} LIMIT ?"
        once: dict[str, list[object]] = {}
        for r in self._db.rows(sql, *values, logged, TOGETHER * most):
            once.setdefault(r["same"], []).append(r)
        return [self._found(rows[0], query, others=len(rows) - 1) for rows in list(once.values())[:most]]

    def count(self, query: Query) -> int:
        """How many places fit."""
        those, values = self._those(query)
        return int(self._db.rows(f"SELECT count(DISTINCT place.same) {those}", *values)[0][0])

    def by_breakdown(self, query: Query) -> dict[str, int]:
        """How many places fit in each breakdown, by its path."""
        those, values = self._those(query)
        return dict(map(tuple, self._db.rows(f"SELECT breakdown.path, count(*) {those} GROUP BY 1", *values)))

    def exchanges(self) -> int:
        """How many exchanges stand on the shelf, each once."""
        return int(self._db.rows("SELECT count(DISTINCT same) FROM place WHERE is_exchange")[0][0])

    def narrower(self, query: Query, *, most: int = 3) -> list[tuple[Filter, int]]:
        """Filters that would narrow it, each with how many places would be left, the largest first."""
        those, values = self._those(query)
        whole, found = self.count(query), []
        taken = {f.asks for f in query.filters}
        for column, asks in FACETS.items():
            if asks in taken:
                continue
            counts: Counter[str] = Counter()
            rows = self._db.rows(
                f"SELECT place.{column}, count(DISTINCT place.same) {those} AND place.{column} <> '' GROUP BY 1",
                *values,
            )
            for value, count in rows:
                counts[position_of(value) if asks is Asks.BEFORE else value] += count
            found += [(self._filter(asks, v), n) for v, n in counts.most_common(most) if n < whole]
        return sorted(found, key=lambda f: -f[1])

    def one(self, path: Path, key: str) -> Found | None:
        """A place by its breakdown and key."""
        sql = (
            f"SELECT {COLUMNS}, '' AS said FROM place JOIN breakdown ON breakdown.id = place.breakdown "
            "WHERE breakdown.path = ? AND place.key = ?"
        )
        rows = self._db.rows(sql, str(path), key)
        return self._found(rows[0], Query()) if rows else None

    def _those(self, query: Query) -> tuple[str, Values]:
        """The places that fit, as what follows a SELECT, and its values."""
        asked = match(query.words)
        words = "words JOIN place ON place.id = words.rowid" if asked else "place"
        sql = f"FROM {words} JOIN breakdown ON breakdown.id = place.breakdown WHERE {'words MATCH ?' if asked else '1'}"
        values: Values = [asked] if asked else []
        for f in query.filters:
            condition, more = self._condition(f)
            sql += f" AND ({condition})"
            values += more
        return sql, values

    def _condition(self, f: Filter) -> tuple[str, Values]:
        match f.asks:
            case Asks.TECHNIQUE:
                return f"place.technique = ? OR {_SPOKEN}", [f.value, self._spoken(f.value)]
            case Asks.POSITION:
                views = _views(f.value)
                return " OR ".join("instr(place.way, ?)" for _ in views), [f'"{v}"' for v in views]
            case Asks.BEFORE | Asks.AFTER:
                views = _views(f.value)
                return f"place.{f.asks.value} IN ({', '.join('?' * len(views))})", list(views)
            case Asks.PERSON:
                return "place.who = ? OR place.against = ?", [f.value, f.value]
            case Asks.BY:
                return "place.who = ?", [f.value]
            case Asks.AGAINST:
                return "place.against = ?", [f.value]
            case Asks.OUTCOME:
                return "place.outcome = ?", [f.value]
            case Asks.MOMENT:
                return "instr(place.moments, ?)", [f'["{f.value}",']
            case Asks.ANSWER:
                return "place.answer = ?", [f.value]
            case Asks.EXPLAINED:
                return ("place.explained > 0" if f.value else "place.explained = 0"), []
            case Asks.SINCE:
                return "breakdown.day >= ?", [f.value]
            case Asks.UNTIL:
                return "breakdown.day < ?", [f.value]
            case Asks.LONGER:
                return 'place.is_exchange AND place."end" - place.start >= ?', [float(f.value)]
            case Asks.SHORTER:
                return 'place.is_exchange AND place."end" - place.start <= ?', [float(f.value)]

    def _spoken(self, technique: str) -> str:
        """The names of a technique as a question to the words that are said and noted."""
        known = self._lexicon.techniques.get(technique)
        names = [" ".join(tokens(n)) for n in (known.names() if known is not None else (technique,))]
        return "{said noted} : (" + " OR ".join(f'"{n}"' for n in names if n) + ")"

    def _filter(self, asks: Asks, value: str) -> Filter:
        if asks is Asks.TECHNIQUE:
            known = self._lexicon.techniques.get(value)
            return Filter(asks, value, known.en if known is not None else value)
        if asks is Asks.BEFORE:
            position = self._lexicon.position(value)
            return Filter(asks, value, f"from {position.en.lower() if position is not None else value}")
        if asks is Asks.BY:
            return Filter(asks, value, f"by {value}")
        return Filter(asks, value, next((said for o, said in SAID.items() if o.value == value), value))

    def _found(self, r: object, query: Query, *, others: int = 0) -> Found:
        row = dict(r)  # type: ignore[call-overload]
        row |= {
            "others": others,
            "path": Path(row["path"]),
            "is_exchange": bool(row["is_exchange"]),
            "way": tuple(json.loads(row["way"])),
            "moments": tuple((k, s) for k, s in json.loads(row["moments"])),
        }
        made = Found(**row)
        return Found(**{**row, "why": tuple(self._why(made, query))})

    def _why(self, p: Found, query: Query) -> list[str]:
        said = []
        for f in query.filters:
            if f.asks is Asks.ANSWER:
                at = next((s for k, s in p.moments if k == f.value), None)
                said.append(f"{f.value} after {at:.1f} s" if at is not None else f.label)
            elif f.asks is Asks.PERSON:
                said.append(f"{p.who} began it" if p.who == f.value else f"{f.value} answered")
            elif f.asks in (Asks.SINCE, Asks.UNTIL):
                said.append(p.day)
            elif f.asks in (Asks.LONGER, Asks.SHORTER):
                said.append(f"{p.seconds:.0f} s long")
            elif f.asks is Asks.TECHNIQUE and p.technique != f.value:
                said.append(f"{f.label} is spoken of")
            else:
                said.append(f.label)
        return list(dict.fromkeys((*said, *(f"“{w}”" for w in query.words))))


def _views(value: str) -> Sequence[str]:
    """A position as it is kept: with nobody, with the one who begins, or with the other one on top."""
    return (value,) if part_of(value) else (value, value + ABOVE, value + BELOW)
