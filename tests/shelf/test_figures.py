"""Shares, trends, what is covered and what is known of a person: against SciPy, published values and plain counting."""

from __future__ import annotations

from collections import Counter
from datetime import date
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.stats import binomtest

from chapto.demo.shelf_rounds import round_breakdown
from chapto.lexicon.lexicon import shipped_lexicon
from chapto.shelf.edit_book import forget_person
from chapto.shelf.intervals import ENOUGH, share, trend
from chapto.shelf.shelf import Shelf

LEXICON = shipped_lexicon()
ROUNDS = [round_breakdown(f"Round {i}", "Club", i, day=date(2026, 3 + i, 1), out=i == 0) for i in range(3)]
"""What the shelf of these tests holds."""


@given(st.integers(0, 400).flatmap(lambda n: st.tuples(st.integers(0, n), st.just(n))))
def test_the_interval_of_a_share_is_scipys(counted: tuple[int, int]) -> None:
    hits, tries = counted
    found = share(hits, tries)
    if tries:
        wanted = binomtest(hits, tries).proportion_ci(0.95, "wilson")
        assert (found.low, found.high) == pytest.approx((wanted.low, wanted.high), abs=1e-9)
    assert 0 <= found.low <= found.high <= 1


@pytest.mark.parametrize(
    ("hits", "tries", "low", "high"),
    [(81, 263, 0.2553, 0.3662), (15, 148, 0.0624, 0.1605), (0, 20, 0.0, 0.1611), (1, 29, 0.0061, 0.1718)],
)
def test_published_intervals(hits: int, tries: int, low: float, high: float) -> None:
    """R. G. Newcombe, Statistics in Medicine 17, 1998, table I, method 3 (from memory)."""
    found = share(hits, tries)
    assert (found.low, found.high) == pytest.approx((low, high), abs=5e-5)


def test_three_tries_tell_nothing() -> None:
    assert not share(3, 3).is_telling and not share(0, 3).is_telling
    assert share(0, 0).tries == 0 and not share(0, 0).is_telling
    with pytest.raises(ValueError, match="can't be"):
        share(3, 2)


def test_a_trend_is_told_from_enough_and_not_bent_by_one() -> None:
    x = np.arange(20.0)
    y = 3 - 0.1 * x
    y[7] = 40
    found = trend(x, y)
    assert found is not None and found.slope == pytest.approx(-0.1) and found.is_telling
    few = trend(x[: ENOUGH - 1], 3 - 0.1 * x[: ENOUGH - 1])
    assert few is not None and not few.is_telling
    assert trend(x[:2], y[:2]) is None and trend(np.ones(9), np.arange(9.0)) is None


def test_coverage_counts_what_the_logs_hold(shelf: Shelf) -> None:
    found = shelf.coverage()
    tried = Counter(LEXICON.technique_named(x.technique).id for b in ROUNDS for x in b.exchanges)  # type: ignore[union-attr]
    assert {t.id: t.seen for t in found.techniques} == tried
    told = Counter(
        LEXICON.technique_named(x.technique).id  # type: ignore[union-attr]
        for b in ROUNDS
        for x in b.exchanges
        if any(s.exchange == x.id for s in b.script)
    )
    assert {t.id: t.explained for t in found.techniques if t.explained} == told
    for t in found.techniques:
        assert t.ended.landed + t.ended.stopped + t.ended.half == t.seen
    seen = Counter(p.position for b in ROUNDS for p in b.positions)
    assert {n.id: n.seen for n in found.nodes if n.seen} == seen
    steps = Counter(
        (a.position, z.position)
        for b in ROUNDS
        for a, z in zip(b.positions, b.positions[1:], strict=False)
        if a.position != z.position
    )
    assert {(w.start, w.end): w.seen for w in found.ways} == steps


def test_gaps_are_what_was_seen_often_and_never_explained(shelf: Shelf) -> None:
    found = shelf.coverage()
    wanted = [t for t in found.techniques if t.seen >= 3 and not t.explained]
    said = found.gaps()
    assert all(any(s.startswith(f"{t.name} was tried {t.seen} times") for s in said) for t in wanted)
    assert all(n.is_gap for n in found.nodes if not n.seen and n.techniques)


def test_a_persons_figures_are_counted_where_they_agreed(shelf: Shelf) -> None:
    for name, side in (("Wren Adeyo", "first"), ("Moss Tarrant", "second")):
        agreed = [b for b in ROUNDS if any(p.name == name and p.agreement == "agreed" for p in b.people)]
        wanted = Counter(x.technique for b in agreed for x in b.exchanges if x.by == side and x.outcome)
        found = shelf.figures(name)
        assert {t.name: t.landed.tries for t in found.tries} == wanted
        stopped = [x.outcome == "stopped" for b in agreed for x in b.exchanges if x.by != side and x.outcome]
        assert (found.stopped.hits, found.stopped.tries) == (sum(stopped), len(stopped))
        assert found.breakdowns == len(agreed)
        assert all(s.endswith(".") for s in found.sentences())
        said = list(found.sentences())
        for sentence, tried in zip(said, found.tries[:3], strict=False):
            assert ("truly" in sentence) == (tried.landed.tries >= 5)


def test_who_is_forgotten_stands_nowhere_on_the_shelf_any_more(shelf: Shelf, folder: Path) -> None:
    assert "Moss Tarrant" in shelf.names()
    assert shelf.forget_person("moss  tarrant") == 3
    assert "Moss Tarrant" not in shelf.names() and shelf.figures("Moss Tarrant").breakdowns == 0
    assert not any(k.name == "Moss Tarrant" for k in shelf.people(date(2026, 11, 27)))
    shelf.close()
    for place in shelf.folder.iterdir():
        assert b"Moss" not in place.read_bytes(), place.name
    with Shelf(shelf.folder, LEXICON) as again:
        again._index().read_again()
        again.refresh()
        assert "Moss Tarrant" not in again.names() and "Wren Adeyo" in again.names()
    assert all(b"Moss" in place.read_bytes() for place in folder.iterdir())
    assert forget_person(shelf.book, "Moss Tarrant").forgotten == shelf.book.forgotten
