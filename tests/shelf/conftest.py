"""A shelf with a few invented breakdowns on it."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from datetime import date
from pathlib import Path

import pytest

from chapto.demo.shelf_rounds import round_breakdown
from chapto.document.breakdown import Breakdown
from chapto.lexicon.lexicon import shipped_lexicon
from chapto.shelf.edit_book import add_folder
from chapto.shelf.shelf import Shelf
from chapto.store.schema import encode

TODAY = date(2026, 11, 27)
Put = Callable[[str, Breakdown], Path]


@pytest.fixture
def folder(tmp_path: Path) -> Path:
    """Where breakdowns lie."""
    made = tmp_path / "breakdowns"
    made.mkdir()
    return made


@pytest.fixture
def put(folder: Path) -> Put:
    """Writes a breakdown into the folder."""

    def write(name: str, b: Breakdown) -> Path:
        place = folder / name
        place.parent.mkdir(parents=True, exist_ok=True)
        place.write_bytes(encode(b))
        return place

    return write


@pytest.fixture
def shelf(tmp_path: Path, folder: Path, put: Put) -> Iterator[Shelf]:
    """Three rounds, read."""
    for i in range(3):
        put(f"round-{i}.chapto", round_breakdown(f"Round {i}", "Club", i, day=date(2026, 3 + i, 1), out=i == 0))
    with Shelf(tmp_path / "shelf", shipped_lexicon()) as made:
        made.change(lambda book: add_folder(book, folder))
        made.refresh()
        yield made
