"""The Shelf through the real window: find, cut to an earlier example, keep promises, forget people, plan."""

from __future__ import annotations

from datetime import date, timedelta
from fractions import Fraction
from pathlib import Path

import icalendar
import pytest
from msgspec.structs import replace
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtWidgets import QFileDialog
from pytestqt.qtbot import QtBot

from chapto.app.shelf.page import ShelfPage, View
from chapto.app.time_noting import IDLE_AFTER, WRITE_EVERY, TimeNoting
from chapto.app.widgets import Pressable
from chapto.demo.generate import FOOTAGE
from chapto.demo.shelf import demo_shelf
from chapto.demo.shelf_rounds import round_breakdown
from chapto.document import edit_footage, edit_log, edit_script
from chapto.document.bout import Outcome
from chapto.document.breakdown import Breakdown
from chapto.document.clearance import Agreement
from chapto.document.people import Side
from chapto.document.treatments import Cutaway, SideBySide
from chapto.programme.framing_sections import credits_of
from chapto.publish.description import description
from chapto.review.work import Stage
from chapto.shelf.book import read_book
from chapto.shelf.edit_book import note_times
from chapto.shelf.home import OWN
from chapto.shelf.query import Asks
from chapto.shelf.times import read_times
from chapto.store.fingerprint import fingerprint
from chapto.store.schema import decode, encode
from chapto.store.session import Session
from tests.app.conftest import Opener, Questions
from tests.app.driven import DrivenWindow as Window

SHIFT, ALT, NONE = Qt.KeyboardModifier.ShiftModifier, Qt.KeyboardModifier.AltModifier, Qt.KeyboardModifier.NoModifier
CONTROL = Qt.KeyboardModifier.ControlModifier


def own_roll(folder: Path) -> Breakdown:
    """A breakdown of its own footage, that tells a knee slide."""
    place = FOOTAGE / "tuesday-round.mp4"
    b = edit_footage.add_footage(
        Breakdown(title="My own roll"), name="Roll", path=str(place), fingerprint=fingerprint(place),
        duration=Fraction(40), fps=Fraction(30), aspect=Fraction(16, 9),
    )  # fmt: skip
    b = edit_log.add_exchange(b, Fraction(4), Fraction(14))
    x = b.exchanges[0].id
    b = edit_log.change_exchange(b, x, technique="knee slide", by=Side.FIRST, outcome=Outcome.STOPPED)
    b = edit_script.add_section(b, title="Knee slide", exchange=x)
    return edit_script.add_beat(b, b.script[0].id, "Here is the knee slide again. Part two shows the answer to it.")


@pytest.fixture
def window(open_window: Opener, tmp_path: Path, qtbot: QtBot) -> Window:
    """A roll of one's own beside the demo's shelf."""
    demo_shelf(folder=tmp_path)
    Session.create(own_roll(tmp_path), tmp_path / "own.chapto").close()
    made = open_window(Session.open(tmp_path / "own.chapto"))
    made.studio.begin()
    qtbot.waitUntil(lambda: made.studio.programme.frames > 0, timeout=120_000)
    return made


def shelf(window: Window, qtbot: QtBot) -> ShelfPage:
    window.go(Stage.SHELF)
    page: ShelfPage = window.stages[Stage.SHELF].page  # type: ignore[assignment]
    qtbot.waitUntil(lambda: len(page.finding.months._stood) == 15 and page.is_settled(), timeout=120_000)
    return page


def test_an_earlier_example_is_cut_to_within_four_presses(window: Window, qtbot: QtBot) -> None:
    """Two: one shows them, Return cuts. Its file, its people and its thanks come along, and one step undoes it."""
    shelf(window, qtbot)
    window.go(Stage.WRITE)
    beat = window.studio.breakdown.script[0].beats[0].id
    window.write_page.script.choose(beat, 3)
    presses = 0
    before = window.studio.breakdown

    def press(key: Qt.Key, modifier: Qt.KeyboardModifier) -> None:
        nonlocal presses
        presses += 1
        qtbot.keyClick(window.focusWidget() or window, key, modifier)

    press(Qt.Key.Key_E, CONTROL | SHIFT)
    page: ShelfPage = window.stages[Stage.SHELF].page  # type: ignore[assignment]
    assert window.stage is Stage.SHELF
    qtbot.waitUntil(page.is_settled, timeout=120_000)
    assert [f.value for f in page.finding.query.filters] == ["knee-slide"]
    assert page.finding.grid.place is not None and page.finding.grid.place.technique == "knee-slide"
    assert page.pictures.is_here(page.finding.grid.place)
    press(Qt.Key.Key_Return, NONE)
    assert window.stage is Stage.WRITE and presses <= 4
    b = window.studio.breakdown
    brought = b.footage[-1]
    source = demo_of(Path(str(window.studio.session.path)).parent)
    same = next(c for c in source.footage if c.fingerprint == brought.fingerprint)
    assert Path(window.studio.session.path.parent / brought.path).samefile(FOOTAGE / Path(same.path).name)  # type: ignore[union-attr]
    assert brought.clearance == same.clearance
    assert {p.name for p in b.people} == {p.name for p in source.people if p.id in same.seen}
    assert "Camera: Ilka" in credits_of(b)
    turn = b.script[0].beats[0].turns[0]
    assert turn.word == 3 and isinstance(turn.treatment, Cutaway)
    x = next(x for x in source.exchanges if x.technique == "knee slide" and same.covers(x.start))
    shown = same.media_time(source.exchange(x.id).start)
    assert brought.media_time(turn.treatment.at) in (shown - Fraction(1, 2), *(
        same.media_time(o.start) - Fraction(1, 2) for o in source.exchanges if o.technique == "knee slide"
    ))  # fmt: skip
    window.studio.undo()
    assert window.studio.breakdown == before


def demo_of(folder: Path) -> Breakdown:
    place = folder / "two-knee-slides.chapto"
    return decode(place.read_bytes(), place.name)


def test_side_by_side_both_begin_together(window: Window, qtbot: QtBot) -> None:
    page = shelf(window, qtbot)
    beat = window.studio.breakdown.script[0].beats[0].id
    page.wait_for(beat, 0)
    qtbot.waitUntil(page.is_settled, timeout=120_000)
    qtbot.keyClick(page.finding.grid, Qt.Key.Key_3)
    treatment = window.studio.breakdown.script[0].beats[0].treatment
    assert isinstance(treatment, SideBySide) and treatment.one == window.studio.breakdown.exchanges[0].start


def test_who_took_it_back_is_never_cut_to(window: Window, qtbot: QtBot, tmp_path: Path) -> None:
    for place in (tmp_path / "two-knee-slides.chapto", *(tmp_path / "earlier").glob("*.chapto")):
        b = decode(place.read_bytes(), place.name)
        people = tuple(replace(p, agreement=Agreement.WITHDRAWN) if p.name == "Moss Tarrant" else p for p in b.people)
        place.write_bytes(encode(replace(b, people=people)))
    page = shelf(window, qtbot)
    said: list[str] = []
    window.studio.message.connect(said.append)
    page.wait_for(window.studio.breakdown.script[0].beats[0].id, 3)
    qtbot.waitUntil(page.is_settled, timeout=120_000)
    before = window.studio.breakdown
    qtbot.keyClick(page.finding.grid, Qt.Key.Key_Return)
    assert window.studio.breakdown == before and "took their agreement back" in said[-1]
    assert "can't be shown" in page.finding.pane.rights.text()
    qtbot.keyClick(page.finding.grid, Qt.Key.Key_Escape)
    assert window.stage is Stage.WRITE


def test_a_line_is_written_and_its_filters_are_pressed(window: Window, qtbot: QtBot) -> None:
    page = shelf(window, qtbot)
    find = page.finding
    qtbot.keyClick(page, Qt.Key.Key_F, CONTROL)
    qtbot.keyClicks(find.line, "knee slide, Moss, collarbone")
    qtbot.keyClick(find.line, Qt.Key.Key_Return)
    assert {(f.asks, f.value) for f in find.query.filters} == {
        (Asks.TECHNIQUE, "knee-slide"), (Asks.PERSON, "Moss Tarrant"),
    }  # fmt: skip
    assert find.line.text() == "collarbone" and find.grid.places
    assert window.focusWidget() is find.grid
    find.line.clear()
    find.find_typed()
    several = len(find.grid.places)
    assert several > 1
    find.chips.grab()
    boxes = {f.value: box for box, f, _ in find.chips._boxes}
    qtbot.mouseClick(find.chips, Qt.MouseButton.LeftButton, pos=boxes["stopped"].center().toPoint())
    assert {f.outcome for f in find.grid.places} == {"stopped"} and len(find.grid.places) < several
    find.chips.grab()
    boxes = {f.value: box for box, f, holds in find.chips._boxes if holds}
    qtbot.mouseClick(find.chips, Qt.MouseButton.LeftButton, pos=boxes["knee-slide"].center().toPoint())
    assert {f.technique for f in find.grid.places} != {"knee-slide"}
    march = find.months.x_of(date(2026, 3, 10))
    qtbot.mouseClick(find.months, Qt.MouseButton.LeftButton, pos=QPoint(round(march), 20))
    assert find.grid.places and {f.day[:7] for f in find.grid.places} == {"2026-03"}


def test_what_is_under_the_pointer_plays_and_keys_go_among_what_was_found(window: Window, qtbot: QtBot) -> None:
    page = shelf(window, qtbot)
    find = page.finding
    find.line.setText("knee slide by Wren")
    find.find_typed()
    qtbot.waitUntil(page.is_settled, timeout=120_000)
    grid = find.grid
    here = next(i for i, p in enumerate(grid.places) if page.pictures.is_here(p))
    place = grid.places[here]
    qtbot.mouseMove(grid, grid.box(here).center().toPoint())
    seen: set[int] = set()

    def moved() -> bool:
        image = page.pictures.moving(place, grid._second(place))
        if image is not None:
            seen.add(image.cacheKey())
        return len(seen) >= 3

    grid.play(here)
    page.pictures.arrived.connect(moved)
    qtbot.waitUntil(lambda: len(seen) >= 3 or moved(), timeout=120_000)
    grid.setFocus()
    qtbot.keyClick(grid, Qt.Key.Key_Right)
    assert grid.current == 1 and find.pane.place == grid.places[1]
    qtbot.keyClick(grid, Qt.Key.Key_Left)
    qtbot.keyClick(grid, Qt.Key.Key_Up)
    assert window.focusWidget() is find.line


def test_a_pressed_position_shows_its_examples(window: Window, qtbot: QtBot) -> None:
    page = shelf(window, qtbot)
    qtbot.keyClick(page, Qt.Key.Key_Tab, CONTROL)
    assert page.view is View.COVERED
    spot = next(s for s in page.covered.map.map.spots if s.node.id == "half-guard")
    qtbot.mouseClick(page.covered.map, Qt.MouseButton.LeftButton, pos=page.covered.map.place(spot).toPoint())
    assert "Half guard" in page.covered.title.text()
    page.covered.examples.click()
    assert page.view is View.FIND
    assert all(any(v.startswith("half-guard") for v in f.way) for f in page.finding.grid.places)


def test_a_promise_is_kept_and_the_review_and_the_description_know(window: Window, qtbot: QtBot) -> None:
    studio = window.studio
    qtbot.waitUntil(lambda: studio.reviewing.review is not None, timeout=120_000)

    def promised() -> bool:
        review = studio.reviewing.review
        return review is not None and any(f.check.name == "promises" for f in review.found)

    assert promised()
    page = shelf(window, qtbot)
    page.look(View.PROMISED)
    mine = next(i for i, p in enumerate(page.promised.list.items) if p.path == str(studio.session.path))
    page.promised.list.choose(mine)
    page.promised.how.setText("The answer: https://site.example/v/2")
    qtbot.keyClick(page.promised.list, Qt.Key.Key_K)
    qtbot.waitUntil(lambda: not promised(), timeout=120_000)
    assert "“Part two”: The answer: https://site.example/v/2" in description(
        studio.breakdown, studio.programme, studio.production.kept
    )
    settled = next(p for p in page.promised.list.items if p.path == str(studio.session.path))
    assert not settled.is_open
    page.promised.list.choose(page.promised.list.items.index(settled))
    qtbot.keyClick(page.promised.list, Qt.Key.Key_A)
    qtbot.waitUntil(promised, timeout=120_000)
    page.promised.list.choose(
        next(i for i, p in enumerate(page.promised.list.items) if p.path == str(studio.session.path))
    )
    qtbot.keyClick(page.promised.list, Qt.Key.Key_Return)
    assert window.stage is Stage.WRITE


def test_requests_are_written_down_and_planned(window: Window, qtbot: QtBot) -> None:
    page = shelf(window, qtbot)
    page.look(View.PROMISED)
    page.promised.asked.setFocus()
    qtbot.keyClicks(page.promised.asked, "The same from below")
    qtbot.keyClick(page.promised.asked, Qt.Key.Key_Return)
    number = next(i for i, p in enumerate(page.promised.list.items) if p.quote == "The same from below")
    page.promised.list.choose(number)
    page.promised.list.setFocus()
    qtbot.keyClick(page.promised.list, Qt.Key.Key_P)
    book = read_book(window.studio.shelf.folder)
    assert [p.subject for p in book.plan if "from below" in p.subject] == ["The same from below"]
    qtbot.keyClick(page.promised.list, Qt.Key.Key_L)
    assert not next(p for p in page.promised.list.items if p.quote == "The same from below").is_open


def test_somebody_is_forgotten_after_asking(window: Window, qtbot: QtBot, questions: Questions, tmp_path: Path) -> None:
    page = shelf(window, qtbot)
    page.look(View.PEOPLE)
    people = page.people
    names = [k.name for k in people.chart.items]
    people.chart.choose(names.index("Moss Tarrant"))
    questions.answers = [0, 1, 0]
    people.taken_back()
    assert "videos that are out" in questions.asked[-1] and "Frames, part one" in questions.asked[-1]
    people.forget()
    assert "Moss Tarrant" in [k.name for k in people.chart.items]
    people.forget()
    qtbot.waitUntil(lambda: "Moss Tarrant" not in [k.name for k in people.chart.items], timeout=120_000)
    assert b"Moss" in (tmp_path / "two-knee-slides.chapto").read_bytes()
    page.look(View.FIND)
    page.finding.line.setText("Moss")
    page.finding.find_typed()
    assert not page.finding.grid.places


def test_a_planned_video_is_dragged_to_another_day_and_leaves_as_a_calendar(
    window: Window, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    page = shelf(window, qtbot)
    page.look(View.PLAN)
    plan, today = page.plan, date.today()
    plan.begin_new(today + timedelta(3))
    qtbot.keyClicks(plan.subject, "What the frame is for")
    qtbot.keyClick(plan.subject, Qt.Key.Key_Return)

    def planned() -> str:
        return next(p.day for p in read_book(window.studio.shelf.folder).plan if p.subject == "What the frame is for")

    assert planned() == (today + timedelta(3)).isoformat()
    plan.chart.grab()
    one = next(p.id for w in plan.chart.weeks for d in w for p in d.planned if p.subject == "What the frame is for")
    slip = plan.chart.slip(one)
    assert slip is not None
    target = plan.chart.cell(2, 4).center().toPoint()
    qtbot.mousePress(plan.chart, Qt.MouseButton.LeftButton, pos=slip.center().toPoint())
    qtbot.mouseMove(plan.chart, target)
    qtbot.mouseRelease(plan.chart, Qt.MouseButton.LeftButton, pos=target)
    day = plan.chart.weeks[2][4].day
    assert planned() == day.isoformat()
    qtbot.keyClick(plan.chart, Qt.Key.Key_Right, ALT)
    assert planned() == (day + timedelta(1)).isoformat()
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a, **k: (str(tmp_path / "plan.ics"), ""))
    plan.write_calendar()
    events = icalendar.Calendar.from_ical((tmp_path / "plan.ics").read_bytes()).walk("VEVENT")
    assert {str(e["summary"]) for e in events} == {p.subject for p in read_book(window.studio.shelf.folder).plan}
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *a, **k: (str(tmp_path / "plan.ics"), ""))
    qtbot.keyClick(plan.chart, Qt.Key.Key_Delete)
    left = len(read_book(window.studio.shelf.folder).plan)
    plan.read_calendar()
    assert len(read_book(window.studio.shelf.folder).plan) == left + 1 and planned()


def test_time_is_noted_only_where_it_was_asked_for(
    window: Window, monkeypatch: pytest.MonkeyPatch, qtbot: QtBot
) -> None:
    monkeypatch.setattr(type(window), "isActiveWindow", lambda self: True)
    at = 0.0
    noting = TimeNoting(window, window.studio, lambda: Stage.LOG, lambda: False, lambda: at)
    keeping = window.studio.shelf
    before = len(read_times(keeping.folder))

    def work(seconds: float) -> None:
        nonlocal at
        for _ in range(int(seconds / 5)):
            at += 5
            noting.acted()
            noting.look()

    keeping.shelf().change(lambda book: note_times(book, wanted=False))
    work(WRITE_EVERY)
    assert len(read_times(keeping.folder)) == before
    keeping.shelf().change(lambda book: note_times(book, wanted=True))
    work(40)
    for _ in range(60):
        at += 5
        noting.look()
    noting.close()
    (note,) = read_times(keeping.folder)[before:]
    assert note.stage == "Log" and note.path == str(window.studio.session.path)
    assert 40 <= note.seconds <= 40 + IDLE_AFTER + 5 and note.length > 0


def test_an_empty_shelf_says_so_and_a_damaged_book_is_put_aside(
    open_window: Opener, tmp_path: Path, qtbot: QtBot
) -> None:
    (tmp_path / OWN).mkdir()
    (tmp_path / OWN / "shelf.json").write_bytes(b"{ damaged")
    Session.create(Breakdown(title="Alone"), tmp_path / "alone.chapto").close()
    made = open_window(Session.open(tmp_path / "alone.chapto"))
    made.go(Stage.SHELF)
    page: ShelfPage = made.stages[Stage.SHELF].page  # type: ignore[assignment]
    qtbot.waitUntil(page.trouble.isVisible, timeout=120_000)
    assert "damaged" in page.trouble.text()
    qtbot.mouseClick(page.trouble, Qt.MouseButton.LeftButton)
    assert (tmp_path / OWN / "shelf (damaged).json").read_bytes() == b"{ damaged"
    for view in View:
        page.look(view)
        assert page.views[view].isVisible()


def test_folders_are_added_and_left_out_from_one_menu(
    window: Window, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    page = shelf(window, qtbot)
    assert [a.text() for a in page.folders_menu().actions()][1:] == [f"Leave out {tmp_path}"]
    page.folders_menu().actions()[1].trigger()
    keeping = window.studio.shelf
    qtbot.waitUntil(lambda: len(keeping.shelf().breakdowns()) == 1, timeout=120_000)
    assert [Path(str(b["path"])).name for b in keeping.shelf().breakdowns()] == ["own.chapto"]
    qtbot.waitUntil(lambda: page.stands._whole.startswith("1 breakdown,"), timeout=120_000)
    monkeypatch.setattr(QFileDialog, "getExistingDirectory", lambda *a, **k: str(tmp_path / "earlier"))
    qtbot.keyClick(page, Qt.Key.Key_D, CONTROL)
    qtbot.waitUntil(lambda: len(keeping.shelf().breakdowns()) == 13, timeout=120_000)
    (tmp_path / "earlier" / "frames.chapto").unlink()
    keeping.refresh()
    qtbot.waitUntil(lambda: "1 missing" in page.stands._whole, timeout=120_000)
    page.folders_menu().actions()[-1].trigger()
    qtbot.waitUntil(lambda: len(keeping.shelf().breakdowns()) == 12, timeout=120_000)


def test_what_was_never_explained_is_planned_at_a_press(window: Window, qtbot: QtBot, tmp_path: Path) -> None:
    page = shelf(window, qtbot)
    (tmp_path / "more").mkdir()
    for seed in range(4):
        b = round_breakdown(f"Silent {seed}", "Club", 50 + seed)
        (tmp_path / "more" / f"{seed}.chapto").write_bytes(
            encode(replace(b, script=(), exchanges=tuple(replace(x, technique="waiter sweep") for x in b.exchanges)))
        )
    window.studio.shelf.refresh()
    page.look(View.COVERED)
    wanted = "waiter sweep was tried"
    qtbot.waitUntil(lambda: any(wanted in p.text() for p in page.covered.findChildren(Pressable)), timeout=120_000)
    gap = next(p for p in page.covered.findChildren(Pressable) if wanted in p.text() and p.text().startswith("·"))
    qtbot.mouseClick(gap, Qt.MouseButton.LeftButton)
    assert any(wanted in p.subject for p in read_book(window.studio.shelf.folder).plan)
