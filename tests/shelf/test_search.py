"""Finding: what the index answers is what plain looking finds; a line is understood as people write it."""

from __future__ import annotations

import random
from datetime import date
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from chapto.demo.shelf_rounds import MOVES, round_breakdown
from chapto.lexicon.lexicon import shipped_lexicon
from chapto.shelf.asking import Asking
from chapto.shelf.database import Database
from chapto.shelf.index import Index
from chapto.shelf.query import Asks, Filter, Query
from chapto.shelf.reading import indexed
from chapto.shelf.search import Search
from chapto.shelf.shelf import Shelf
from chapto.shelf.viewed import position_of
from chapto.shelf.words_found import stand_in, tokens
from chapto.store.schema import encode
from tests.shelf.conftest import TODAY

LEXICON = shipped_lexicon()
WORDS = ("frame", "fra", "Knee", "arm", "underhook", "lands", "Wren", "mo", "späť", "the", "Tarrant’s", "zz", "half")
ASKING = Asking(LEXICON, ("Wren Adeyo", "Moss Tarrant"))


def asked(line: str) -> tuple[set[tuple[Asks, str]], tuple[str, ...]]:
    q = ASKING.understood(line, TODAY)
    return {(f.asks, f.value) for f in q.filters}, q.words


def test_words_are_found_as_plain_looking_finds_them(tmp_path: Path) -> None:
    """200 random shelves, a few questions each: the same places, none more and none less."""
    r = random.Random(4)
    for number in range(200):
        shelf = tmp_path / str(number)
        shelf.mkdir()
        db = Database(shelf / "index")
        texts = {}
        for i in range(r.randint(1, 3)):
            b = round_breakdown(f"Número {i} — half", "Club", r.randint(0, 10_000), exchanges=r.randint(1, 4))
            (shelf / f"{i}.chapto").write_bytes(encode(b))
            of = " ".join((b.title, b.part, b.ruling.rules, b.about))
            for p in indexed(b, LEXICON).places:
                who = " ".join((p.who, p.against, p.outcome, p.round))
                texts[(str(shelf / f"{i}.chapto"), p.key)] = "\n".join((p.names, p.said, p.noted, who, of))
        Index(db, LEXICON).refresh([shelf])
        for _ in range(4):
            words = tuple(r.sample(WORDS, r.randint(1, 2)))
            found = Search(db, LEXICON).find(Query(words=words), most=1000)
            assert {(str(f.path), f.key) for f in found} == {k for k, t in texts.items() if stand_in(words, t)}, words
        db.close()


@given(st.text(max_size=30))
def test_nothing_that_is_typed_is_more_than_words(text: str) -> None:
    """Signs of the query language of FTS5 do nothing, whatever they are."""
    db = Database(Path(_scratch.name))
    Search(db, LEXICON).find(ASKING.understood(text, TODAY))
    Search(db, LEXICON).find(Query(words=(text,)))
    db.close()


def setup_module() -> None:
    global _scratch
    from tempfile import TemporaryDirectory

    _scratch = TemporaryDirectory()


def teardown_module() -> None:
    _scratch.cleanup()


@pytest.mark.parametrize(
    ("line", "filters", "words"),
    [
        (
            "knee slide stopped by frame, Moss, after half guard",
            {(Asks.TECHNIQUE, "knee-slide"), (Asks.OUTCOME, "stopped"), (Asks.ANSWER, "frame"),
             (Asks.PERSON, "Moss Tarrant"), (Asks.BEFORE, "half-guard")}, (),
        ),
        ("hadaka jime", {(Asks.TECHNIQUE, "rear-strangle")}, ()),
        ("nee slide", {(Asks.TECHNIQUE, "knee-slide")}, ()),
        ("knee-slide", {(Asks.TECHNIQUE, "knee-slide")}, ()),
        ("outside heel hok", {(Asks.TECHNIQUE, "outside-heel-hook")}, ()),
        ("from bottom half guard", {(Asks.BEFORE, "half-guard-")}, ()),
        ("from half guard top into side control", {(Asks.BEFORE, "half-guard+"), (Asks.AFTER, "side-control")}, ()),
        ("by Wren landed", {(Asks.BY, "Wren Adeyo"), (Asks.OUTCOME, "landed")}, ()),
        ("against moss tarrant", {(Asks.AGAINST, "Moss Tarrant")}, ()),
        ("mos tarant", {(Asks.PERSON, "Moss Tarrant")}, ()),
        ("under 10 s", {(Asks.SHORTER, "10")}, ()),
        ("longer than 1 min", {(Asks.LONGER, "60")}, ()),
        ("over 20s, never explained", {(Asks.LONGER, "20"), (Asks.EXPLAINED, "")}, ()),
        ("march 2025", {(Asks.SINCE, "2025-03-01"), (Asks.UNTIL, "2025-04-01")}, ()),
        ("since 2026-02", {(Asks.SINCE, "2026-02-01")}, ()),
        ("last month", {(Asks.SINCE, "2026-10-01"), (Asks.UNTIL, "2026-11-01")}, ()),
        ("before 2026", {(Asks.UNTIL, "2026-01-01")}, ()),
        ("knee line", {(Asks.MOMENT, "knee line")}, ()),
        ("collarbone and thumb", set(), ("collarbone", "thumb")),
        ("", set(), ()),
        ("the of and", set(), ()),
    ],
)  # fmt: skip
def test_a_line_is_understood(line: str, filters: set[tuple[Asks, str]], words: tuple[str, ...]) -> None:
    assert asked(line) == (filters, words)


def test_every_name_in_every_school_is_understood() -> None:
    """Names that are other words too (a person's name, a kind of moment) may mean those."""
    missed = [
        name
        for t in LEXICON.techniques.values()
        for name in t.names()
        if len(name.split()) > 1
        and not any(value == t.id or LEXICON.technique_named(name) is not t for _, value in asked(name)[0])
    ]
    assert len(missed) <= 3, missed


@pytest.mark.parametrize("today", [date(2026, 1, 1), date(2026, 3, 31), date(2024, 2, 29), date(2026, 12, 31)])
@pytest.mark.parametrize("line", ["this month", "last month", "this week", "last week", "this year", "march", "today"])
def test_times_are_half_open_and_hold_what_they_say(today: date, line: str) -> None:
    q = ASKING.understood(line, today)
    since, until = (
        next(date.fromisoformat(f.value) for f in q.filters if f.asks is a) for a in (Asks.SINCE, Asks.UNTIL)
    )
    assert since < until
    assert (since <= today < until) == (line.startswith(("this", "today")) or (line == "march" and today.month == 3))
    assert until <= today or line.startswith(("this", "today", "march"))


def test_filters_hold_and_say_why(shelf: Shelf) -> None:
    everything = shelf.search.find(Query(), most=1000)
    stopped = Filter(Asks.OUTCOME, "stopped", "stopped")
    found = shelf.search.find(Query((stopped,)), most=1000)
    assert 0 < len(found) < len(everything) and {f.outcome for f in found} == {"stopped"}
    assert len(found) == shelf.search.count(Query((stopped,))) and all("stopped" in f.why for f in found)
    answered = Filter(Asks.ANSWER, "frame", "answered by frame")
    for f in shelf.search.find(Query((answered,)), most=1000):
        assert next(k for k, _ in f.moments if k in ("frame", "base")) == "frame"
    short = Filter(Asks.SHORTER, "6", "under 6 s")
    assert all(f.seconds <= 6 for f in shelf.search.find(Query((short,)), most=1000))
    below = Filter(Asks.BEFORE, "half-guard-", "from half guard, below")
    assert {f.before for f in shelf.search.find(Query((below,)), most=1000)} == {"half-guard-"}
    march = shelf.understood("march", TODAY)
    assert {f.title for f in shelf.search.find(march, most=1000)} == {"Round 0"}


def test_narrower_filters_leave_what_they_say(shelf: Shelf) -> None:
    query = Query((Filter(Asks.BY, "Wren Adeyo", "by Wren Adeyo"),))
    offered = shelf.search.narrower(query)
    assert offered
    for one, count in offered:
        assert shelf.search.count(query.adding(one)) == count < shelf.search.count(query)


def test_what_stands_in_two_breakdowns_is_found_once(shelf: Shelf, put: object) -> None:
    b = round_breakdown("Round 1", "Club", 1, day=date(2026, 4, 1))
    before = shelf.search.count(Query())
    put("again.chapto", b)  # type: ignore[operator]
    shelf.refresh()
    found = [f for f in shelf.search.find(Query(), most=1000) if f.is_exchange]
    assert shelf.search.count(Query()) == before + sum(1 for s in indexed(b, LEXICON).places if not s.is_exchange)
    assert sorted(f.others for f in found if f.title in ("Round 1",)) == [1] * len(b.exchanges)


def test_what_is_alike_is_told_from_what_is_not(shelf: Shelf) -> None:
    place = next(f for f in shelf.search.find(Query(), most=1000) if f.technique == "knee-slide")
    near = shelf.likes.of(place)
    assert [a.distance for a in near] == sorted(a.distance for a in near)
    for a in near:
        assert a.found.same != place.same and a.words.endswith(".")
        assert ("The same" in a.words) == bool(
            a.found.before == place.before
            or a.found.technique == place.technique
            or a.found.outcome == place.outcome
            or "answered" in a.words.split("; other")[0]
        )
    assert near[0].found.technique == "knee-slide" or position_of(near[0].found.before) == "half-guard"


def test_the_invented_moves_start_where_the_lexicon_says() -> None:
    """What the demo invents is still grappling."""
    for move in MOVES:
        known = LEXICON.technique_named(move.technique)
        assert known is not None and move.start in known.start, move
        assert not known.to or known.to == move.to, move


@given(st.text())
def test_words_are_taken_apart_without_accents(text: str) -> None:
    assert all(t == t.lower() and t.isalnum() for t in tokens(text))
