"""Everything on the shelf in open formats: CSV and JSON Lines, one file a subject, and the plan as iCalendar."""

from __future__ import annotations

import csv
import io
import json
from collections.abc import Iterable, Mapping, Sequence
from pathlib import Path
from typing import Any

import msgspec

from chapto.publish.log_csv import as_text
from chapto.shelf.book import Book
from chapto.shelf.calendar import to_calendar
from chapto.shelf.database import Database
from chapto.shelf.times import TimeNote
from chapto.store.atomic import write_atomically

_IN = "JOIN breakdown ON breakdown.id ="
TABLES: Mapping[str, str] = {
    "breakdowns": (
        "SELECT path, state, trouble, title, part, first, second, rules, style, filmed, saved, day FROM breakdown"
    ),
    "exchanges": (
        'SELECT path, title, day, key, start, "end", technique, called, who, against, outcome, before, after, way, '
        f"moments, explained, answer, answer_after, round FROM place {_IN} place.breakdown WHERE is_exchange"
    ),
    "positions": f"SELECT path, position, start, seconds, top, explained FROM stay {_IN} stay.breakdown",
    "people": (
        'SELECT path, name, seen.part AS part, agreement, how, "when", minor, credit, until, is_owner '
        f"FROM seen {_IN} seen.breakdown"
    ),
    "published": (
        f"SELECT path, at, site, address, out.title AS title, goes_public, withdrawn FROM out {_IN} out.breakdown"
    ),
    "promises": f"SELECT path, kind, quote, sentence, beat, word FROM promise {_IN} promise.breakdown",
}
"""Files by name, and what stands in them."""


def export_shelf(database: Database, book: Book, times: Iterable[TimeNote], folder: Path) -> tuple[Path, ...]:
    """Write all of it into a folder, which is made; the files. `StoreError` where one can't be written."""
    folder.mkdir(parents=True, exist_ok=True)
    made = []
    for name, sql in TABLES.items():
        rows = [dict(r) for r in database.rows(f"{sql} ORDER BY 1, 2, 3")]
        made += _both(folder, name, rows)
    kept = {"requests": book.requests, "settled": book.settled, "plan": book.plan, "times": tuple(times)}
    for name, items in kept.items():
        made += _both(folder, name, [msgspec.to_builtins(i) for i in items])
    calendar = folder / "plan.ics"
    write_atomically(calendar, to_calendar(book.plan))
    return (*made, calendar)


def _both(folder: Path, name: str, rows: Sequence[dict[str, Any]]) -> list[Path]:
    as_csv, as_lines = folder / f"{name}.csv", folder / f"{name}.jsonl"
    out = io.StringIO()
    if rows:
        writer = csv.DictWriter(out, list(rows[0]), lineterminator="\r\n")
        writer.writeheader()
        writer.writerows({k: _cell(v) for k, v in row.items()} for row in rows)
    write_atomically(as_csv, out.getvalue().encode("utf-8"))
    write_atomically(as_lines, "".join(json.dumps(row, ensure_ascii=False) + "\n" for row in rows).encode())
    return [as_csv, as_lines]


def _cell(value: object) -> object:
    if isinstance(value, list | tuple):
        value = " ".join(map(str, value))
    return as_text(value) if isinstance(value, str) else value
