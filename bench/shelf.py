"""The shelf with a thousand breakdowns of twenty exchanges: `python -m bench.shelf`.

Prints how long the index takes from nothing (aim: 30 s), one changed file (aim: 50 ms) and a search (aim: 30 ms). The
references of the same run are parsing the same files with Python's own `json`, and looking through all their words one
by one.
"""

from __future__ import annotations

import json
import statistics
import tempfile
import time
from collections.abc import Callable
from datetime import date, timedelta
from pathlib import Path

from chapto.demo.shelf_rounds import round_breakdown
from chapto.lexicon.lexicon import shipped_lexicon
from chapto.shelf.edit_book import add_folder
from chapto.shelf.shelf import Shelf
from chapto.shelf.words_found import stand_in
from chapto.store.schema import encode

COUNT, EXCHANGES = 1000, 20
LINES = (
    "knee slide stopped by frame, Moss, after half guard",
    "underhook",
    "collarbone",
    "from bottom half guard landed",
    "never explained since 2024-06",
    "rule weight",
    "",
)


def main() -> None:
    """One run."""
    with tempfile.TemporaryDirectory() as scratch:
        folder, today = Path(scratch) / "breakdowns", date(2026, 11, 27)
        folder.mkdir()
        for i in range(COUNT):
            day = date(2024, 1, 1) + timedelta(i)
            made = round_breakdown(f"Round {i}", "Club", i, exchanges=EXCHANGES, day=day, out=i % 3 == 0)
            (folder / f"round-{i}.chapto").write_bytes(encode(made))
        parsed, texts = _seconds(lambda: [json.loads(p.read_bytes()) for p in sorted(folder.iterdir())])
        with Shelf(Path(scratch) / "shelf", shipped_lexicon()) as shelf:
            shelf.change(lambda book: add_folder(book, folder))
            whole, found = _seconds(shelf.refresh)
            assert found.read == COUNT
            exchanges = shelf.search.exchanges()
            print(f"index of {COUNT} breakdowns, {exchanges} exchanges: {whole:.1f} s (aim: 30 s)")
            print(f"  {whole / parsed:.1f} times parsing them")
            _changed(shelf, folder)
            words = [json.dumps(t) for t in texts]
            plain, _ = _seconds(lambda: [stand_in(("collarbone",), w) for w in words])
            for line in LINES:
                took = statistics.median(_seconds(lambda line=line: _search(shelf, line, today))[0] for _ in range(9))
                query = shelf.understood(line, today)
                print(f"  “{line}”: {took * 1000:.1f} ms, {shelf.search.count(query)} found (aim: 30 ms)")
            print(f"  looking through all words one by one: {plain * 1000:.0f} ms")
            for name, act in (
                ("coverage", shelf.coverage),
                ("people", lambda: shelf.people(today)),
                ("promises", shelf.promises),
            ):
                print(f"{name}: {_seconds(act)[0] * 1000:.0f} ms")
            place = shelf.search.find(shelf.understood("knee slide", today))[0]
            first, again = (_seconds(lambda: shelf.likes.of(place))[0] for _ in range(2))
            print(f"what is like an exchange: {first * 1000:.0f} ms, then {again * 1000:.0f} ms")


def _search(shelf: Shelf, line: str, today: date) -> object:
    return shelf.search.find(shelf.understood(line, today))


def _changed(shelf: Shelf, folder: Path) -> None:
    took = []
    for i in range(9):
        place = folder / f"round-{i}.chapto"
        place.write_bytes(encode(round_breakdown(f"Other {i}", "Club", 5000 + i, exchanges=EXCHANGES)))
        took.append(_seconds(lambda place=place: shelf.add(place))[0])
    print(f"one changed file: {statistics.median(took) * 1000:.0f} ms (aim: 50 ms)")


def _seconds(act: Callable[[], object]) -> tuple[float, object]:
    start = time.perf_counter()
    found = act()
    return time.perf_counter() - start, found


if __name__ == "__main__":
    main()
