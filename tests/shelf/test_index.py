"""What is on the shelf follows the files: it can be made anew, files move, vanish and break, processes are killed."""

from __future__ import annotations

import json
import os
import signal
import sqlite3
import subprocess
import sys
import time
from collections.abc import Callable
from datetime import date
from pathlib import Path

import pytest
from msgspec.structs import replace

from chapto.demo.shelf_rounds import round_breakdown
from chapto.document.breakdown import Breakdown
from chapto.errors import Cancelled
from chapto.lexicon.lexicon import shipped_lexicon
from chapto.shelf.book import Ended
from chapto.shelf.edit_book import add_folder, note_opened, settle
from chapto.shelf.errors import ShelfError
from chapto.shelf.home import OWN, index_file, shelf_of, users_shelf
from chapto.shelf.query import Query
from chapto.shelf.shelf import Shelf
from chapto.store.schema import encode
from tests.shelf.conftest import TODAY

Put = Callable[[str, Breakdown], Path]


def contents(shelf: Shelf) -> list[tuple[object, ...]]:
    """Everything that was read, but the numbers of rows."""
    with sqlite3.connect(index_file(shelf.folder)) as c:
        rows = c.execute(
            "SELECT path, title, key, technique, who, outcome, before, after, way, moments, explained FROM place "
            "JOIN breakdown ON breakdown.id = place.breakdown ORDER BY path, key"
        ).fetchall()
    c.close()
    return rows


def states(shelf: Shelf) -> dict[str, object]:
    return {Path(str(r["path"])).name: r["state"] for r in shelf.breakdowns()}


def test_every_exchange_is_there_with_where_it_came_from_and_led_to(shelf: Shelf) -> None:
    b = round_breakdown("Round 1", "Club", 1)
    found = {f.key: f for f in shelf.search.find(Query(), most=100) if f.title == "Round 1" and f.is_exchange}
    assert set(found) == {x.id for x in b.exchanges}
    for x in b.exchanges:
        f = found[x.id]
        start = next(p for p in b.positions if p.start <= x.start < p.end)
        assert f.before == start.position + ("+" if start.top is x.by else "-")
        assert (f.start, f.end, f.outcome) == (float(x.start), float(x.end), x.outcome)
        assert f.who == b.athlete(x.by, x.start).name  # type: ignore[arg-type]
        assert [k for k, _ in f.moments] == [m.kind for m in b.moments if x.start <= m.at < x.end]
        assert f.explained == sum(s.exchange == x.id for s in b.script)


def test_the_index_can_be_thrown_away(shelf: Shelf) -> None:
    before, book = contents(shelf), shelf.book
    shelf.close()
    for place in shelf.folder.glob("index.sqlite*"):
        place.unlink()
    with Shelf(shelf.folder, shipped_lexicon()) as again:
        assert again.is_new and not again.breakdowns()
        again.refresh()
        assert contents(again) == before and again.book == book


@pytest.mark.parametrize("broken", [b"", b"no index at all", b"SQLite format 3\0" + bytes(4000)])
def test_a_damaged_index_is_made_anew(shelf: Shelf, broken: bytes) -> None:
    before = contents(shelf)
    shelf.close()
    for place in shelf.folder.glob("index.sqlite-*"):
        place.unlink()
    index_file(shelf.folder).write_bytes(broken)
    with Shelf(shelf.folder, shipped_lexicon()) as again:
        again.refresh()
        assert contents(again) == before


def test_only_what_changed_is_read_again(shelf: Shelf, put: Put) -> None:
    assert shelf.refresh().read == 0
    put("round-1.chapto", round_breakdown("Another title", "Club", 9))
    assert shelf.refresh().read == 1
    assert "Another title" in shelf.titles().values() and "Round 1" not in shelf.titles().values()


def test_a_file_that_moved_is_followed_with_what_was_decided_about_it(shelf: Shelf, folder: Path) -> None:
    old, new = folder / "round-2.chapto", folder / "deep" / "down" / "renamed.chapto"
    shelf.change(lambda book: settle(note_opened(book, old), "b1/part/part two", str(old), Ended.KEPT, day=TODAY))
    new.parent.mkdir(parents=True)
    old.rename(new)
    found = shelf.refresh()
    assert found.moves == ((str(old), str(new)),) and not found.missing
    assert states(shelf) == {"round-0.chapto": "here", "round-1.chapto": "here", "renamed.chapto": "here"}
    assert shelf.book.settled[0].path == str(new) and str(new) in shelf.book.opened


def test_a_missing_one_stays_listed_and_comes_back(shelf: Shelf, folder: Path) -> None:
    place = folder / "round-0.chapto"
    data = place.read_bytes()
    place.unlink()
    assert shelf.refresh().missing == 1 and states(shelf)["round-0.chapto"] == "missing"
    assert any(f.path == place for f in shelf.search.find(Query(), most=100))
    place.write_bytes(data)
    shelf.refresh()
    assert states(shelf)["round-0.chapto"] == "here"
    place.unlink()
    shelf.refresh()
    shelf.forget_missing(str(place))
    assert "round-0.chapto" not in states(shelf)


def test_a_damaged_one_is_named_and_the_others_go_on(shelf: Shelf, folder: Path) -> None:
    whole = (folder / "round-1.chapto").read_bytes()
    (folder / "round-1.chapto").write_bytes(whole[: len(whole) // 2])
    (folder / "strange.chapto").write_bytes(b"\xff\xfe no breakdown")
    (folder / "folder.chapto").mkdir()
    (folder / "later.chapto").write_bytes(encode(round_breakdown("Later", "Club", 5)))
    found = shelf.refresh()
    assert len(found.troubles) == 2 and all(t.endswith(".") for t in found.troubles)
    assert states(shelf)["later.chapto"] == "here" and states(shelf)["round-1.chapto"] == "damaged"
    (folder / "round-1.chapto").write_bytes(whole)
    shelf.refresh()
    assert states(shelf)["round-1.chapto"] == "here"


def test_copies_are_two_and_hidden_folders_are_passed_by(shelf: Shelf, folder: Path) -> None:
    data = (folder / "round-0.chapto").read_bytes()
    (folder / "copy.chapto").write_bytes(data)
    (folder / ".trash").mkdir()
    (folder / ".trash" / "old.chapto").write_bytes(data)
    assert not shelf.refresh().moves
    assert len(states(shelf)) == 4


def test_it_can_be_stopped_and_goes_on(shelf: Shelf, put: Put) -> None:
    for i in range(10, 16):
        put(f"round-{i}.chapto", round_breakdown(f"Round {i}", "Club", i))
    shares: list[float] = []
    with pytest.raises(Cancelled):
        shelf.refresh(progress=shares.append, cancelled=lambda: len(shares) >= 3)
    assert len(shelf.breakdowns()) == 6
    assert shelf.refresh().read == 3


def test_a_folder_of_breakdowns_may_have_a_shelf_of_its_own(tmp_path: Path) -> None:
    (tmp_path / "disk" / OWN).mkdir(parents=True)
    assert shelf_of(tmp_path / "disk" / "deep" / "x.chapto") == tmp_path / "disk" / OWN
    assert shelf_of(tmp_path / "x.chapto") == shelf_of(None) == users_shelf()


def test_a_place_that_cannot_be_used_is_said(tmp_path: Path) -> None:
    (tmp_path / "shelf").write_text("a file")
    with pytest.raises(ShelfError, match="can't be"):
        Shelf(tmp_path / "shelf", shipped_lexicon())


WORKER = """
import sys, time
from pathlib import Path
from chapto.lexicon.lexicon import shipped_lexicon
from chapto.shelf.edit_book import ask_for
from chapto.shelf.shelf import Shelf
from datetime import date
shelf = Shelf(Path(sys.argv[1]), shipped_lexicon())
print("ready", flush=True)
for turn in range(int(sys.argv[2])):
    shelf._index().read_again()
    shelf.refresh()
    shelf.change(lambda book: ask_for(book, f"{sys.argv[3]} {turn}", day=date(2026, 1, 1)))
print("done", flush=True)
"""


def _started(shelf: Path, turns: int, name: str) -> subprocess.Popen[str]:
    made = subprocess.Popen(
        [sys.executable, "-c", WORKER, str(shelf), str(turns), name],
        stdout=subprocess.PIPE,
        stderr=subprocess.PIPE,
        text=True,
    )
    assert made.stdout is not None and made.stdout.readline() == "ready\n"
    return made


def test_two_processes_write_at_once(shelf: Shelf) -> None:
    """Both read everything again and again and change the book; nothing of either is lost."""
    before = contents(shelf)
    both = [_started(shelf.folder, 12, name) for name in ("one", "other")]
    for process in both:
        out, error = process.communicate(timeout=120)
        assert process.returncode == 0 and out == "done\n", error
    assert contents(shelf) == before
    texts = [r["text"] for r in json.loads((shelf.folder / "shelf.json").read_text())["requests"]]
    assert sorted(texts) == sorted(f"{name} {i}" for name in ("one", "other") for i in range(12))


def test_a_kill_never_damages_it(shelf: Shelf) -> None:
    before = contents(shelf)
    for turn in range(6):
        process = _started(shelf.folder, 10_000, "killed")
        time.sleep(0.05 + 0.07 * turn)
        os.kill(process.pid, signal.SIGKILL)
        process.communicate()
        with sqlite3.connect(index_file(shelf.folder)) as c:
            assert c.execute("PRAGMA integrity_check").fetchone()[0] == "ok"
            assert c.execute("INSERT INTO words (words) VALUES ('integrity-check')").rowcount != 0
        c.close()
        with Shelf(shelf.folder, shipped_lexicon()) as again:
            again.refresh()
            assert contents(again) == before and not again.is_new


def test_a_folder_that_is_none_is_refused(shelf: Shelf, tmp_path: Path) -> None:
    with pytest.raises(ShelfError, match="no folder"):
        shelf.change(lambda book: add_folder(book, tmp_path / "nowhere"))


def test_a_folder_that_is_left_out_takes_what_was_never_opened_along(shelf: Shelf, folder: Path) -> None:
    shelf.change(lambda book: note_opened(book, folder / "round-1.chapto"))
    shelf.drop_folder(str(folder))
    assert states(shelf) == {"round-1.chapto": "here"} and not shelf.book.folders
    assert len(list(folder.iterdir())) == 3
    shelf.refresh()
    assert states(shelf) == {"round-1.chapto": "here"}


def test_strange_files_of_that_name_are_passed_by_or_named(shelf: Shelf, folder: Path, put: Put) -> None:
    os.mkfifo(folder / "pipe.chapto")
    (folder / "link.chapto").symlink_to(folder / "nowhere")
    (folder / "loop").symlink_to(folder)
    strange = os.fsencode(folder) + b"/\xff\xfe.chapto"
    with open(strange, "wb") as out:
        out.write((folder / "round-0.chapto").read_bytes())
    with open(folder / "huge.chapto", "wb") as out:
        out.truncate(300_000_000)
    found = shelf.refresh()
    assert len(found.troubles) == 2 and any("is no text" in t for t in found.troubles)
    assert any("too large" in t for t in found.troubles)
    with pytest.raises(ShelfError, match="is no text"):
        shelf.add(Path(os.fsdecode(strange)))
    quoted = put("it's “quoted”; DROP TABLE place;--\n.chapto", round_breakdown("Quoted", "Club", 8))
    shelf.refresh()
    assert states(shelf)[quoted.name] == "here" and len(contents(shelf)) > 20


def test_a_day_that_is_none_counts_for_nothing(shelf: Shelf, put: Put) -> None:
    b = round_breakdown("Odd", "Club", 8, day=date(2026, 1, 1), out=True)
    out = replace(b.publishing.published[0], at="the day before")
    put("odd.chapto", replace(b, publishing=replace(b.publishing, published=(out,))))
    shelf.refresh()
    day = next(r["day"] for r in shelf.breakdowns() if r["title"] == "Odd")
    assert date.fromisoformat(str(day))
    assert any(v.at == "the day before" for k in shelf.people(TODAY) for v in k.videos)


def test_a_file_that_moved_is_followed_when_it_is_opened_too(shelf: Shelf, folder: Path) -> None:
    old, new = folder / "round-2.chapto", folder / "opened.chapto"
    shelf.change(lambda book: settle(book, "b1/part/part two", str(old), Ended.KEPT, day=TODAY))
    old.rename(new)
    shelf.add(new)
    assert "round-2.chapto" not in states(shelf) and states(shelf)["opened.chapto"] == "here"
    assert shelf.book.settled[0].path == str(new)


def test_two_copies_that_vanish_are_both_missing(shelf: Shelf, folder: Path) -> None:
    (folder / "copy.chapto").write_bytes((folder / "round-0.chapto").read_bytes())
    shelf.refresh()
    for name in ("copy.chapto", "round-0.chapto"):
        (folder / name).unlink()
    assert shelf.refresh().missing == 2
    assert [states(shelf)[n] for n in ("copy.chapto", "round-0.chapto")] == ["missing"] * 2


def test_who_is_forgotten_stands_in_no_missing_breakdown_either(shelf: Shelf, folder: Path) -> None:
    (folder / "round-0.chapto").unlink()
    shelf.refresh()
    assert shelf.forget_person("MOSS Tarrant") == 3
    assert "Moss Tarrant" not in shelf.names()
    shelf.close()
    assert all(b"Moss" not in place.read_bytes() for place in shelf.folder.iterdir())
