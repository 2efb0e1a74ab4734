"""Everything on the shelf in open formats: CSV and JSON Lines, one file a subject, and the plan as iCalendar."""

from __future__ import annotations

import csv
import io
import json
from collections.abc import Iterable, Mapping, Sequence
from pathlib import Path
from typing import Any

import msgspec

from chapto.document.breakdown import Breakdown
from chapto.publish.log_csv import as_text
from chapto.shelf.book import Book
from chapto.shelf.calendar import to_calendar
from chapto.shelf.database import Database
from chapto.shelf.errors import ShelfError
from chapto.shelf.times import TimeNote
from chapto.store.errors import plain_reason
from chapto.store.outputs import OutputGate

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


def export_shelf(
    database: Database, book: Book, times: Iterable[TimeNote], folder: Path, *, replacing: bool = False
) -> tuple[Path, ...]:
    """Write all of it into a folder, which is made; the files. `AlreadyThere` where one would be replaced, unless
    `replacing`; `StoreError` where one can't be written."""
    tables = {name: [dict(r) for r in database.rows(f"{sql} ORDER BY 1, 2, 3")] for name, sql in TABLES.items()}
    kept = {"requests": book.requests, "settled": book.settled, "plan": book.plan, "times": tuple(times)}
    tables |= {name: [msgspec.to_builtins(i) for i in items] for name, items in kept.items()}
    files = {"plan.ics": to_calendar(book.plan)}
    for name, rows in tables.items():
        files |= {f"{name}.csv": _as_csv(rows), f"{name}.jsonl": _as_lines(rows)}
    try:
        folder.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise ShelfError(f"“{folder}” can't be made: {plain_reason(error)}.") from None
    # No breakdown and no footage that lies there is ever written onto.
    gate = OutputGate(Breakdown(title=""), None, replacing=replacing)
    gate.check(*(folder / name for name in files))
    return tuple(gate.write(folder / name, data) for name, data in sorted(files.items()))


def _as_csv(rows: Sequence[dict[str, Any]]) -> bytes:
    out = io.StringIO()
    if rows:
        writer = csv.DictWriter(out, list(rows[0]), lineterminator="\r\n")
        writer.writeheader()
        writer.writerows({k: _cell(v) for k, v in row.items()} for row in rows)
    return out.getvalue().encode("utf-8")


def _as_lines(rows: Sequence[dict[str, Any]]) -> bytes:
    return "".join(json.dumps(row, ensure_ascii=False) + "\n" for row in rows).encode("utf-8")


def _cell(value: object) -> object:
    if isinstance(value, list | tuple):
        value = " ".join(map(str, value))
    return as_text(value) if isinstance(value, str) else value
