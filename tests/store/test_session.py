"""The session: undo, saving, the journal."""

import os
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from chapto.document import edit_script
from chapto.document.breakdown import Breakdown, DocumentError
from chapto.store.atomic import write_atomically
from chapto.store.journal import Journal, journal_path, untitled_journal_path
from chapto.store.schema import StoreError, decode, encode
from chapto.store.session import Session
from tests.document.samples import small


def retitle(text: str) -> object:
    return lambda b: replace(b, title=text)


def opened(tmp_path: Path) -> Session:
    path = tmp_path / "bout.chapto"
    Session(small(), path).save()
    return Session.open(path)


@given(st.lists(st.sampled_from(["edit", "undo", "redo"]), max_size=30))
def test_undo_and_redo_walk_through_exactly_the_documents_that_were(steps: list[str]) -> None:
    session = Session(small(), None)
    history, place = [small()], 0
    for i, step in enumerate(steps):
        if step == "edit":
            session.edit("rename", lambda b, i=i: replace(b, title=f"Title {i}"))
            history, place = [*history[: place + 1], session.breakdown], place + 1
        elif step == "undo":
            session.undo()
            place = max(place - 1, 0)
        else:
            session.redo()
            place = min(place + 1, len(history) - 1)
        assert session.breakdown is history[place] or session.breakdown == history[place]
    assert bool(session.would_undo) == (place > 0)


def test_quick_typing_is_one_step_of_undo() -> None:
    session = Session(small(), None)
    for text in ("W", "Wa", "Wat", "Watch"):
        session.edit("write", lambda b, t=text: edit_script.rewrite(b, "b1", t), merge="write b1")
    session.undo()
    assert session.breakdown == small()


def test_a_change_that_contradicts_the_document_changes_nothing() -> None:
    session = Session(small(), None)
    with pytest.raises(DocumentError, match="not there"):
        session.edit("break", lambda b: replace(b, moments=()))
    assert session.breakdown == small() and session.would_undo == ""


def test_an_edit_that_changes_nothing_is_no_step() -> None:
    session = Session(small(), None)
    session.edit("nothing", lambda b: b)
    assert session.would_undo == ""


def test_listeners_hear_edits_undo_and_saving(tmp_path: Path) -> None:
    session = opened(tmp_path)
    heard: list[bool] = []
    session.listeners.append(lambda: heard.append(session.is_saved))
    session.edit("rename", retitle("New"))
    session.undo()
    session.edit("rename", retitle("Newer"))
    session.save()
    assert heard == [False, True, False, True]


def test_saving_writes_the_file_and_clears_the_journal(tmp_path: Path) -> None:
    session = opened(tmp_path)
    session.edit("rename", retitle("New"))
    session.keep_safe(at_once=True)
    assert journal_path(tmp_path / "bout.chapto").exists()
    session.save()
    assert not journal_path(tmp_path / "bout.chapto").exists()
    assert decode((tmp_path / "bout.chapto").read_bytes(), "x").title == "New"


def test_edits_in_the_journal_are_taken_up_and_can_be_undone(tmp_path: Path) -> None:
    session = opened(tmp_path)
    session.edit("rename", retitle("Kept"))
    session.keep_safe(at_once=True)
    again = Session.open(tmp_path / "bout.chapto")
    assert again.recovered and again.breakdown.title == "Kept" and not again.is_saved
    again.undo()
    assert again.breakdown == small()


def test_a_journal_cut_at_any_byte_gives_the_last_whole_entry(tmp_path: Path) -> None:
    journal = Journal(tmp_path / "j")
    documents = [replace(small(), title=f"Title {i}") for i in range(3)]
    ends = [0]
    for b in documents:
        journal.append(b)
        ends.append((tmp_path / "j").stat().st_size)
    data = (tmp_path / "j").read_bytes()
    for cut in range(len(data) + 1):
        (tmp_path / "j").write_bytes(data[:cut])
        whole = [i for i in range(3) if ends[i + 1] - 1 <= cut]
        found = journal.last()
        assert found == (documents[whole[-1]] if whole else None)


def test_a_journal_with_a_damaged_entry_gives_the_one_before(tmp_path: Path) -> None:
    journal = Journal(tmp_path / "j")
    journal.append(small())
    first = (tmp_path / "j").stat().st_size
    journal.append(replace(small(), title="Second"))
    data = bytearray((tmp_path / "j").read_bytes())
    data[first + 60] ^= 1
    (tmp_path / "j").write_bytes(bytes(data))
    assert journal.last() == small()


def test_a_journal_that_grows_large_starts_anew(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("chapto.store.journal.COMPACT_ABOVE", 5_000)
    journal = Journal(tmp_path / "j")
    for i in range(20):
        journal.append(replace(small(), title=f"Title {i}"))
    assert (tmp_path / "j").stat().st_size < 9_000
    last = journal.last()
    assert last is not None and last.title == "Title 19"


def test_a_save_that_fails_keeps_the_old_file(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    path = tmp_path / "bout.chapto"
    write_atomically(path, b"old")

    def full(*_: object) -> None:
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(os, "fsync", full)
    with pytest.raises(StoreError, match=r"No space left on device\. Nothing was changed\."):
        write_atomically(path, b"new")
    assert path.read_bytes() == b"old"
    assert list(tmp_path.iterdir()) == [path]


def test_without_a_file_saving_asks_for_a_place() -> None:
    with pytest.raises(StoreError, match="choose where to save"):
        Session(small(), None).save()


def test_saving_elsewhere_makes_that_the_file(tmp_path: Path) -> None:
    session = opened(tmp_path)
    session.save(tmp_path / "copy.chapto")
    assert session.path == tmp_path / "copy.chapto"
    assert (tmp_path / "copy.chapto").read_bytes() == encode(small())


def test_saved_in_another_folder_the_footage_is_still_found_and_undo_too(tmp_path: Path) -> None:
    session = opened(tmp_path)
    (tmp_path / "f1.mp4").write_bytes(b"picture")
    session.edit("rename", retitle("New"))
    (tmp_path / "deep").mkdir()
    session.save(tmp_path / "deep" / "copy.chapto")
    for _ in range(2):
        where = tmp_path / "deep" / session.breakdown.footage[0].path
        assert where.read_bytes() == b"picture"
        session.undo()


def test_edits_of_a_breakdown_without_a_file_survive_too() -> None:
    session = Session.untitled(small())
    session.edit("rename", retitle("Kept"))
    session.keep_safe(at_once=True)
    again = Session.untitled(small())
    assert again.recovered and again.breakdown.title == "Kept"
    untitled_journal_path().unlink()
    assert not Session.untitled(small()).recovered


def test_the_document_type_has_no_mutable_parts() -> None:
    assert hash(small()) == hash(small())
    assert isinstance(small(), Breakdown)
