"""What is decided: promises, people to ask again, the plan, times, and all of it in open formats."""

from __future__ import annotations

import csv
import itertools
import json
from collections.abc import Callable
from datetime import UTC, date, datetime, timedelta
from pathlib import Path

import icalendar
import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from chapto.demo.shelf_rounds import round_breakdown
from chapto.document.breakdown import Breakdown
from chapto.document.clearance import Agreement
from chapto.document.publishing import Published, Publishing
from chapto.document.script import Beat, BeatKind, Section
from chapto.shelf import edit_book
from chapto.shelf.book import Book, Ended, change_book, put_aside, read_book
from chapto.shelf.calendar import from_calendar, to_calendar
from chapto.shelf.dates_said import day_said
from chapto.shelf.errors import ShelfError
from chapto.shelf.forecast import Choice, fitting, learning, rest_of, together
from chapto.shelf.people import day_in
from chapto.shelf.promised import promises_in
from chapto.shelf.series import part_number, subject_of
from chapto.shelf.shelf import Shelf
from chapto.shelf.times import Effort, TimeNote, efforts, note_time, read_times
from chapto.shelf.weeks import first_day_for, loads, overdue, weeks
from tests.shelf.conftest import TODAY

Put = Callable[[str, Breakdown], Path]


def saying(*lines: tuple[str, BeatKind], about: str = "") -> Breakdown:
    beats = tuple(Beat(id=f"b{i}", text=text, kind=kind) for i, (text, kind) in enumerate(lines, 1))
    return Breakdown(title="Said", about=about, script=(Section(id="s1", beats=beats),))


# ── promises ─────────────────────────────────────────────────────────────────────────────────────────────


def test_promises_are_found_where_they_are_said() -> None:
    b = saying(
        ("I'll show the escape in another video. The frame comes first.", BeatKind.HAPPENED),
        ("The link below has the drill.", BeatKind.ASK),
        ("Nothing is promised here.", BeatKind.WHY),
        ("And what do I do when she underhooks?", BeatKind.QUESTION),
        about="Part two comes next week.",
    )
    found = [(p.kind, p.beat, p.quote) for p in promises_in(b)]
    assert found == [
        ("part", "b1", "in another video"),
        ("link", "b2", "link below"),
        ("question", "b4", "And what do I do when she underhooks"),
        ("part", "", "Part two"),
    ]
    answered = saying(("Why?", BeatKind.QUESTION), ("Because the hips are high.", BeatKind.WHY))
    assert not list(promises_in(answered))
    assert not list(promises_in(replace(saying(about="Frames, part two: the late frame."), title="Frames, part two")))


def test_a_promise_is_open_until_it_is_kept_or_let_go(shelf: Shelf, put: Put) -> None:
    place = put("said.chapto", saying(("Part two shows the rest.", BeatKind.HAPPENED)))
    shelf.refresh()
    mine = next(p for p in shelf.promises() if p.path == str(place))
    assert mine.is_open and mine.beat == "b1"
    shelf.change(lambda b: edit_book.settle(b, mine.key, mine.path, Ended.KEPT, day=TODAY, words="https://site/x"))
    kept = next(p for p in shelf.promises() if p.path == str(place))
    assert kept.settled is not None and kept.settled.words == "https://site/x" and not kept.is_open
    assert [p.is_open for p in shelf.promises()] == sorted((p.is_open for p in shelf.promises()), reverse=True)
    shelf.change(lambda b: edit_book.open_again(b, mine.key, mine.path))
    assert next(p for p in shelf.promises() if p.path == str(place)).is_open
    shelf.change(lambda b: edit_book.ask_for(b, "  Show it   from below? ", day=TODAY, path=str(place)))
    assert [p.quote for p in shelf.promises() if p.kind == "request"] == ["Show it from below?"]
    with pytest.raises(ShelfError, match="Write what"):
        shelf.change(lambda b: edit_book.ask_for(b, " ", day=TODAY))


@pytest.mark.parametrize(
    ("text", "number", "subject"),
    [("Frames, part two", 2, "Frames"), ("Half guard (Part 3)", 3, "Half guard"), ("Episode 12: hips", 12, "hips"),
     ("Department of knees", None, "Department of knees"), ("Party two", None, "Party two")],
)  # fmt: skip
def test_parts_of_a_series_are_told_by_their_titles(text: str, number: int | None, subject: str) -> None:
    assert part_number(text) == number and subject_of(text) == subject


def test_a_series_knows_what_comes_next(shelf: Shelf, put: Put) -> None:
    for n in (1, 2, 4):
        put(f"part-{n}.chapto", replace(round_breakdown("x", "Club", 40 + n), title=f"Frames, part {n}"))
    shelf.refresh()
    one = next(s for s in shelf.series() if s.subject == "Frames")
    assert [p.number for p in one.parts] == [1, 2, 4] and one.next == 3


# ── people ───────────────────────────────────────────────────────────────────────────────────────────────


def test_taking_back_an_agreement_lists_every_video_that_is_out(shelf: Shelf, put: Put) -> None:
    b = round_breakdown("Out", "Club", 77, day=date(2026, 8, 1), out=True)
    gone = replace(b.publishing.published[0], address="https://site/gone", withdrawn="2026-09-01T00:00:00+00:00")
    b = replace(b, publishing=Publishing(published=(*b.publishing.published, gone)))
    put("out.chapto", replace(b, people=(replace(b.people[0], agreement=Agreement.WITHDRAWN), b.people[1])))
    shelf.refresh()
    wren = next(k for k in shelf.people(TODAY) if k.name == "Wren Adeyo")
    assert wren.stands is Agreement.WITHDRAWN
    assert {v.title for v in wren.videos} == {"Out", "Round 0"} and len(wren.videos) == 2
    assert "2 videos that are out" in wren.taken_back()


@pytest.mark.parametrize(
    ("text", "day"),
    [("2026-03-14", date(2026, 3, 14)), ("wrote on 14 January", date(2026, 1, 14)),
     ("on 3 December", date(2025, 12, 3)),
     ("24 December 2027", date(2027, 12, 24)), ("in person", None), ("2026-13-40", None), ("31 February 2026", None)],
)  # fmt: skip
def test_days_that_were_written_are_read(text: str, day: date | None) -> None:
    assert day_in(text, TODAY) == day


def test_who_agreed_until_a_day_is_asked_again_before_it(shelf: Shelf, put: Put) -> None:
    b = round_breakdown("Until", "Club", 78)
    soon = (TODAY + timedelta(days=20)).isoformat()
    file = replace(b.footage[0], clearance=replace(b.footage[0].clearance, owner="Quay Mats", until=soon))
    put("until.chapto", replace(b, footage=(file,)))
    shelf.refresh()
    owner = next(k for k in shelf.people(TODAY) if k.name == "Quay Mats")
    assert day_said(soon) in owner.again
    assert not next(k for k in shelf.people(TODAY - timedelta(days=90)) if k.name == "Quay Mats").again


# ── times and plan ───────────────────────────────────────────────────────────────────────────────────────


def test_notes_survive_a_line_that_was_cut_off(tmp_path: Path) -> None:
    note = TimeNote(day="2026-05-01", path="/a.chapto", stage="Write", seconds=60.0, length=30.0)
    note_time(tmp_path, note)
    with open(tmp_path / "times.jsonl", "ab") as out:
        out.write(b'{"day": "2026-05-01", "pa')
    note_time(tmp_path, note)
    with open(tmp_path / "times.jsonl", "ab") as out:
        out.write(b'{"day":"2026-05-01","path":"x","stage":"Log","seconds":-5}\n\xff\xfe\n')
    assert read_times(tmp_path) == (note, note)
    (one,) = efforts(read_times(tmp_path))
    assert one.seconds == 120 and one.a_minute == 240


def made(minutes: list[float]) -> list[Effort]:
    return [
        Effort(f"/{i}", {"Write": 60 * m, "Log": 30 * m}, 60.0, date(2026, 1, 1 + i)) for i, m in enumerate(minutes)
    ]


def test_the_rest_is_what_earlier_ones_took_less_what_was_spent() -> None:
    done = made([10.0, 20.0, 30.0])
    rest = rest_of(done, 120.0, {"Write": 600.0})
    assert (rest["Write"].low, rest["Write"].middle, rest["Write"].high) == (1200, 1800, 2400)
    assert rest["Log"].middle == 1200
    whole = together(rest)
    assert whole.low < whole.middle == 3000 < whole.high
    assert rest_of(done[:2], 120.0, {}) == {} and rest_of(done, 0.0, {}) == {}


def test_effort_falls_as_wright_found() -> None:
    """A curve of 80 %: each time twice as many are made, one takes four fifths of what it took (T. P. Wright 1936)."""
    found = learning(made([100 * 0.8**k for k in (0, 1, 1.584962500721156, 2)]))
    assert (
        found is not None
        and found.rate == pytest.approx(0.8)
        and found.expected(8) == pytest.approx(found.first * 0.8**3)
    )
    assert learning(made([1.0, 2.0, 3.0])) is None


@given(
    st.lists(st.tuples(st.floats(0, 9), st.integers(1, 40)), max_size=7),
    st.integers(0, 100),
)
def test_no_choice_that_fits_is_worth_more(items: list[tuple[float, int]], minutes: int) -> None:
    choices = [Choice(f"x{i}", worth, 60.0 * cost) for i, (worth, cost) in enumerate(items)]
    chosen = fitting(choices, 60.0 * minutes)
    taken = [c for c in choices if c.id in chosen]
    assert sum(c.seconds for c in taken) <= 60 * minutes
    best = max(
        sum(c.worth for c in some)
        for n in range(len(choices) + 1)
        for some in itertools.combinations(choices, n)
        if sum(c.seconds for c in some) <= 60 * minutes
    )
    assert sum(c.worth for c in taken) == pytest.approx(best)


def test_a_plan_says_where_hours_are_missing() -> None:
    book = Book(free=(0, 2, 0, 2, 0, 3, 0))
    friday = date(2026, 11, 27)
    book = edit_book.plan(book, "First", date(2026, 12, 1), minutes=120)
    book = edit_book.plan(book, "Second", date(2026, 12, 4), minutes=360)
    one, other = loads(book, friday)
    # Saturday's three hours come before Tuesday; what is left of them, Tuesday's and Thursday's before Friday.
    assert (one.hours, one.missing) == (3, 0) and (other.hours, other.missing) == (5, 1)
    assert first_day_for(Book(free=book.free), 300, friday) == date(2026, 12, 1)
    moved = edit_book.change_planned(book, "v2", day=date(2026, 12, 8))
    assert loads(moved, friday)[1].missing == 0
    assert [p.id for p in overdue(moved, date(2026, 12, 5))] == ["v1"]
    done = edit_book.change_planned(moved, "v1", done=True)
    assert not overdue(done, date(2026, 12, 5)) and len(loads(done, friday)) == 1
    shown = weeks(done, friday)
    assert len(shown) == 6 and all(w[0].day.weekday() == 0 for w in shown) and shown[0][4].day == friday
    assert shown[0][1].free == 0 and shown[1][1].free == 2
    with pytest.raises(ShelfError):
        edit_book.change_planned(book, "v9", done=True)


def test_the_plan_leaves_as_icalendar_and_comes_back(tmp_path: Path) -> None:
    """Read by another library as RFC 5545 says."""
    book = edit_book.plan(
        Book(), "Frames, part two; the “late” one\\n", date(2026, 12, 8), minutes=260, footage=("/a,b", "/c")
    )
    book = edit_book.plan(book, "Ärmel", date(2026, 12, 1))
    book = edit_book.change_planned(book, "v2", done=True)
    data = to_calendar(book.plan, made=datetime(2026, 11, 27, tzinfo=UTC))
    assert all(len(line) <= 75 for line in data.split(b"\r\n"))
    events = icalendar.Calendar.from_ical(data).walk("VEVENT")
    assert [e["summary"] for e in events] == [p.subject for p in book.plan]
    assert [e["dtstart"].dt for e in events] == [date(2026, 12, 1), date(2026, 12, 8)]
    assert len({e["uid"] for e in events}) == 2
    (tmp_path / "plan.ics").write_bytes(data)
    assert from_calendar(tmp_path / "plan.ics") == book.plan
    (tmp_path / "bad.ics").write_bytes(b"BEGIN:VCALENDAR\r\nnonsense")
    with pytest.raises(ShelfError, match="can't be read"):
        from_calendar(tmp_path / "bad.ics")


# ── the book itself ──────────────────────────────────────────────────────────────────────────────────────


@pytest.mark.parametrize(
    "data",
    [
        b"",
        b"{",
        b"\xff",
        b'{"format": "chapto shelf", "version": 99}',
        b'{"folders": 3}',
        b'{"plan": [{"id": "v1", "subject": "x", "day": "soon"}]}',
    ],
)
def test_a_book_that_cannot_be_read_is_never_written_over(tmp_path: Path, data: bytes) -> None:
    (tmp_path / "shelf.json").write_bytes(data)
    with pytest.raises(ShelfError):
        change_book(tmp_path, lambda b: edit_book.note_times(b, wanted=True))
    assert (tmp_path / "shelf.json").read_bytes() == data
    aside = put_aside(tmp_path)
    assert aside is not None and aside.read_bytes() == data and read_book(tmp_path) == Book()


def test_everything_leaves_in_open_formats(shelf: Shelf, tmp_path: Path) -> None:
    shelf.change(lambda b: edit_book.plan(b, "=1+1", date(2026, 12, 8)))
    note_time(shelf.folder, TimeNote(day="2026-05-01", path="/a.chapto", stage="Write", seconds=60.0))
    files = {p.name: p for p in shelf.export(tmp_path / "out")}
    for name in ("breakdowns", "exchanges", "positions", "people", "published", "promises", "plan", "times"):
        lines = [json.loads(line) for line in files[f"{name}.jsonl"].read_text().splitlines()]
        with open(files[f"{name}.csv"], newline="", encoding="utf-8") as source:
            rows = list(csv.DictReader(source))
        assert len(rows) == len(lines) and (not rows or list(rows[0]) == list(lines[0])), name
    exchanges = sum(len(round_breakdown("x", "y", i, day=date(2026, 3 + i, 1)).exchanges) for i in range(3))
    assert len(files["exchanges.jsonl"].read_text().splitlines()) == exchanges
    assert "'=1+1" in files["plan.csv"].read_text() and '"=1+1"' in files["plan.jsonl"].read_text()


def test_publications_are_read_from_the_documents(shelf: Shelf) -> None:
    b = round_breakdown("Round 0", "Club", 0, day=date(2026, 3, 1), out=True)
    out: Published = b.publishing.published[0]
    (row,) = [v for k in shelf.people(TODAY) if k.name == "Wren Adeyo" for v in k.videos]
    assert (row.title, row.address, row.at) == (out.title, out.address, out.at)
