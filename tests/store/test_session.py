"""The session: undo, saving, the journal."""

import os
import threading
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from chapto.document import edit_script
from chapto.document.breakdown import Breakdown, DocumentError
from chapto.store.atomic import unfinished, write_atomically
from chapto.store.errors import DamagedFile, StoreError
from chapto.store.home import home_of
from chapto.store.journal import JOURNAL, Journal
from chapto.store.schema import decode, encode
from chapto.store.session import Session
from chapto.store.states import states_of
from tests.document.samples import small


def retitle(text: str) -> object:
    return lambda b: replace(b, title=text)


def opened(tmp_path: Path) -> Session:
    path = tmp_path / "bout.chapto"
    Session.create(small(), path).close()
    return Session.open(path)


def saved_edited_and_killed(tmp_path: Path) -> None:
    """A project saved as “Saved”, with “Kept” only in its journal."""
    session = opened(tmp_path)
    session.edit("rename", retitle("Saved"))
    session.save()
    session.edit("rename", retitle("Kept"))
    session.keep_safe(at_once=True)
    killed(session)


def killed(session: Session) -> None:
    """What a kill leaves: the lock is free, nothing else was done."""
    session.let_go()


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
    kept = home_of(tmp_path / "bout.chapto") / JOURNAL
    assert kept.exists()
    session.save()
    assert not kept.exists()
    assert decode((tmp_path / "bout.chapto").read_bytes(), "x").title == "New"


def test_edits_in_the_journal_are_taken_up_and_can_be_undone(tmp_path: Path) -> None:
    session = opened(tmp_path)
    session.edit("rename", retitle("Kept"))
    session.keep_safe(at_once=True)
    killed(session)
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
        found = journal.newest()
        assert (found and found.breakdown) == (documents[whole[-1]] if whole else None)


def test_a_journal_with_a_damaged_entry_gives_the_one_before(tmp_path: Path) -> None:
    journal = Journal(tmp_path / "j")
    journal.append(small())
    first = (tmp_path / "j").stat().st_size
    journal.append(replace(small(), title="Second"))
    data = bytearray((tmp_path / "j").read_bytes())
    data[first + 60] ^= 1
    (tmp_path / "j").write_bytes(bytes(data))
    found = journal.newest()
    assert found is not None and found.breakdown == small()


def test_a_journal_that_grows_large_starts_anew(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("chapto.store.journal.COMPACT_ABOVE", 5_000)
    journal = Journal(tmp_path / "j")
    for i in range(20):
        journal.append(replace(small(), title=f"Title {i}"))
    assert (tmp_path / "j").stat().st_size < 9_000
    last = journal.newest()
    assert last is not None and last.breakdown.title == "Title 19"


def test_a_save_that_fails_keeps_the_old_file(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    path = tmp_path / "bout.chapto"
    write_atomically(path, b"old")

    def full(*_: object) -> None:
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(os, "fsync", full)
    with pytest.raises(StoreError, match=r"the disk is full\. Nothing was changed\."):
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
    other = Session.untitled(small())
    assert not other.recovered, "that window is open: its edits are its own"
    other.close()
    killed(session)
    again = Session.untitled(small())
    assert again.recovered and again.breakdown.title == "Kept"
    again.undo()
    again.close()
    assert not Session.untitled(small()).recovered


def test_the_document_type_has_no_mutable_parts() -> None:
    assert hash(small()) == hash(small())
    assert isinstance(small(), Breakdown)


# ── the journal belongs to a saved state ─────────────────────────────────────────────────────────────────────
def edited_and_killed(path: Path, title: str) -> None:
    session = Session.open(path)
    session.edit("rename", retitle(title))
    session.keep_safe(at_once=True)
    killed(session)


def test_edits_older_than_the_file_are_dropped(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    session = opened(tmp_path)
    session.edit("rename", retitle("First"))
    session.keep_safe(at_once=True)
    session.edit("rename", retitle("Second"))
    # The kill comes after the file was written and before the journal was cleared.
    monkeypatch.setattr(Journal, "clear", lambda self: None)
    session.save()
    killed(session)
    again = Session.open(tmp_path / "bout.chapto")
    assert (again.breakdown.title, again.recovered, again.offered) == ("Second", False, None)


def test_edits_survive_a_kill_between_the_note_and_the_save(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    session = opened(tmp_path)
    session.edit("rename", retitle("First"))
    session.keep_safe(at_once=True)

    def dies(*_: object, **__: object) -> None:
        raise KeyboardInterrupt

    monkeypatch.setattr("chapto.store.session.write_atomically", dies)
    with pytest.raises(KeyboardInterrupt):
        session.save()
    killed(session)
    again = Session.open(tmp_path / "bout.chapto")
    assert again.recovered and again.breakdown.title == "First"


def test_edits_on_another_state_are_offered_and_never_taken_silently(tmp_path: Path) -> None:
    path = tmp_path / "bout.chapto"
    Session.create(small(), path).close()
    edited_and_killed(path, "Kept")
    path.write_bytes(encode(replace(small(), title="From elsewhere")))
    session = Session.open(path)
    assert session.breakdown.title == "From elsewhere" and not session.recovered
    assert session.offered is not None and session.offered.breakdown.title == "Kept"
    session.take_offered()
    assert session.breakdown.title == "Kept"
    session.undo()
    assert session.breakdown.title == "From elsewhere"


def test_offered_edits_set_aside_stay_among_the_earlier_states(tmp_path: Path) -> None:
    path = tmp_path / "bout.chapto"
    Session.create(small(), path).close()
    edited_and_killed(path, "Kept")
    path.write_bytes(encode(replace(small(), title="From elsewhere")))
    session = Session.open(path)
    session.set_offered_aside()
    killed(session)
    again = Session.open(path)
    assert again.offered is None and "Kept" in [s.read().title for s in again.states]
    assert again.states[0].read().title == "From elsewhere"


def test_a_project_that_was_moved_brings_its_edits_and_states_along(tmp_path: Path) -> None:
    saved_edited_and_killed(tmp_path)
    (tmp_path / "new").mkdir()
    (tmp_path / "bout.chapto").rename(tmp_path / "new" / "renamed.chapto")
    assert Session.look(tmp_path / "new" / "renamed.chapto").breakdown.title == "Kept"
    again = Session.open(tmp_path / "new" / "renamed.chapto")
    assert again.recovered and again.breakdown.title == "Kept"
    assert [s.read().title for s in again.states] == ["Saved", "Small"]


def test_a_copy_does_not_take_the_edits_of_its_original(tmp_path: Path) -> None:
    path = tmp_path / "bout.chapto"
    Session.create(small(), path).close()
    edited_and_killed(path, "Kept")
    (tmp_path / "copy.chapto").write_bytes(path.read_bytes())
    assert Session.open(tmp_path / "copy.chapto").breakdown.title == "Small"
    assert Session.open(path).breakdown.title == "Kept"


def test_saving_elsewhere_leaves_no_edits_behind_at_either_place(tmp_path: Path) -> None:
    path = tmp_path / "bout.chapto"
    Session.create(small(), path).close()
    edited_and_killed(tmp_path / "bout.chapto", "Old edits of a file that is gone")
    path.unlink()
    session = Session.untitled(small())
    session.edit("rename", retitle("Mine"))
    session.save(path)
    killed(session)
    again = Session.open(path)
    assert (again.breakdown.title, again.recovered, again.offered) == ("Mine", False, None)


def test_after_a_torn_line_the_next_entry_begins_a_new_one(tmp_path: Path) -> None:
    journal = Journal(tmp_path / "j")
    journal.append(small())
    data = (tmp_path / "j").read_bytes()
    for cut in (1, len(data) // 2, len(data) - 1):
        (tmp_path / "j").write_bytes(data[:cut])
        journal.append(replace(small(), title="Next"))
        found = journal.newest()
        assert found is not None and found.breakdown.title == "Next"


def test_an_append_that_the_full_disk_tears_is_cut_back(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    journal = Journal(tmp_path / "j")
    journal.append(small())
    before = (tmp_path / "j").read_bytes()
    real = os.pwrite

    def half(handle: int, data: bytes, at: int) -> int:
        if len(data) < 50:
            raise OSError(28, "No space left on device")
        return real(handle, data[: len(data) // 2], at)

    monkeypatch.setattr(os, "pwrite", half)
    with pytest.raises(StoreError, match="the disk is full"):
        journal.append(replace(small(), title="Next"))
    assert (tmp_path / "j").read_bytes() == before


def test_when_the_journal_cannot_be_written_the_edit_stands_and_it_is_said(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    session = opened(tmp_path)
    heard: list[str] = []
    session.listeners.append(lambda: heard.append(session.breakdown.title))

    def full(*_: object) -> None:
        raise OSError(28, "No space left on device")

    with monkeypatch.context() as disk:
        disk.setattr(os, "pwrite", full)
        session.edit("rename", retitle("New"))
        session.keep_safe(at_once=True)
        assert session.breakdown.title == "New" and heard[0] == "New" and "the disk is full" in session.trouble
        disk.setattr(os, "fsync", full)
        with pytest.raises(StoreError, match="could not be kept"):
            session.close()
    session.close()
    assert session.trouble == "" and decode((tmp_path / "bout.chapto").read_bytes(), "x").title == "New"


# ── one file, several who want it ────────────────────────────────────────────────────────────────────────────
def test_the_second_to_open_a_project_can_only_look_and_is_told_who_has_it(tmp_path: Path) -> None:
    first = opened(tmp_path)
    second = Session.open(tmp_path / "bout.chapto")
    assert f"process {os.getpid()}" in second.read_only
    with pytest.raises(StoreError, match="can only be looked at"):
        second.edit("rename", retitle("Mine"))
    with pytest.raises(StoreError, match="choose another name"):
        second.save()
    second.save(tmp_path / "mine.chapto")
    second.edit("rename", retitle("Mine"))
    first.edit("rename", retitle("Theirs"))
    second.close()
    first.close()
    assert decode((tmp_path / "bout.chapto").read_bytes(), "x").title == "Theirs"
    assert not Session.open(tmp_path / "bout.chapto").read_only


def test_a_file_changed_from_outside_is_left_and_ours_goes_beside_it(tmp_path: Path) -> None:
    session = opened(tmp_path)
    theirs = encode(replace(small(), title="Theirs"))
    (tmp_path / "bout.chapto").write_bytes(theirs)
    session.edit("rename", retitle("Ours"))
    said = session.save()
    assert "was changed by another program" in said and "conflict" in said
    assert (tmp_path / "bout.chapto").read_bytes() == theirs
    assert session.path is not None and session.path.parent == tmp_path and "conflict" in session.path.name
    assert decode(session.path.read_bytes(), "x").title == "Ours"
    session.edit("rename", retitle("Ours still"))
    assert session.save() == ""


def test_another_breakdown_is_never_saved_over(tmp_path: Path) -> None:
    session = opened(tmp_path)
    Session.create(replace(small(), title="Other"), tmp_path / "other.chapto").close()
    before = (tmp_path / "other.chapto").read_bytes()
    with pytest.raises(StoreError, match="never written over"):
        session.save(tmp_path / "other.chapto", replacing=True)
    assert (tmp_path / "other.chapto").read_bytes() == before and session.path == tmp_path / "bout.chapto"


def test_a_save_through_a_link_writes_its_target_and_keeps_its_mode(tmp_path: Path) -> None:
    opened(tmp_path).close()
    (tmp_path / "bout.chapto").chmod(0o640)
    (tmp_path / "link.chapto").symlink_to("bout.chapto")
    session = Session.open(tmp_path / "link.chapto")
    session.edit("rename", retitle("New"))
    session.save()
    assert (tmp_path / "link.chapto").is_symlink()
    assert (tmp_path / "bout.chapto").stat().st_mode & 0o777 == 0o640
    assert decode((tmp_path / "bout.chapto").read_bytes(), "x").title == "New"


# ── earlier states ───────────────────────────────────────────────────────────────────────────────────────────
def test_the_last_ten_saved_states_are_kept_and_can_be_read(tmp_path: Path) -> None:
    session = opened(tmp_path)
    for i in range(12):
        session.edit("rename", retitle(f"Title {i}"))
        session.save()
    assert [s.read().title for s in session.states] == [f"Title {i}" for i in range(11, 1, -1)]
    session.states[0].place.write_bytes(b"damaged")
    with pytest.raises(StoreError, match="is damaged"):
        session.states[0].read()


def test_a_damaged_file_goes_on_from_an_earlier_state_and_is_kept(tmp_path: Path) -> None:
    session = opened(tmp_path)
    session.edit("rename", retitle("Whole"))
    session.save()
    session.close()
    path = tmp_path / "bout.chapto"
    damaged = path.read_bytes()[:300]
    path.write_bytes(damaged)
    with pytest.raises(DamagedFile):
        Session.open(path)
    again = Session.restored(path, states_of(home_of(path))[0])
    assert again.breakdown.title == "Whole" and not again.is_saved and not again.recovered
    again.save()
    assert decode(path.read_bytes(), "x").title == "Whole"
    assert (tmp_path / "bout (damaged).chapto").read_bytes() == damaged


def test_what_dead_processes_left_unfinished_is_swept_away_and_nothing_else(tmp_path: Path) -> None:
    left = tmp_path / ".chapto-0123456789ab.part.mp4"
    mine = tmp_path / ".chapto-notes.part"
    for place in (left, mine):
        place.write_bytes(b"half")
    with unfinished(tmp_path / "x.mp4") as alive:
        write_atomically(tmp_path / "y.vtt", b"WEBVTT")
        assert alive.exists() and not left.exists() and mine.exists()


def test_edits_made_on_the_state_that_is_gone_back_to_come_along(tmp_path: Path) -> None:
    saved_edited_and_killed(tmp_path)
    path = tmp_path / "bout.chapto"
    path.write_bytes(b"{")
    again = Session.restored(path, states_of(home_of(path))[0])
    assert again.recovered and again.breakdown.title == "Kept"
    killed(again)
    path.write_bytes(b"{")
    older = Session.restored(path, states_of(home_of(path))[1])
    assert older.breakdown.title == "Small" and older.offered is not None and older.offered.breakdown.title == "Kept"


def test_edits_of_a_project_on_a_disk_that_is_not_there_stay_with_it(tmp_path: Path) -> None:
    (tmp_path / "disk").mkdir()
    path = tmp_path / "disk" / "bout.chapto"
    Session.create(small(), path).close()
    edited_and_killed(path, "Kept")
    data = path.read_bytes()
    (tmp_path / "disk").rename(tmp_path / "unplugged")
    (tmp_path / "copy.chapto").write_bytes(data)
    copy = Session.open(tmp_path / "copy.chapto")
    killed(copy)
    (tmp_path / "unplugged").rename(tmp_path / "disk")
    assert Session.open(path).breakdown.title == "Kept"


def test_edits_that_came_along_and_were_saved_never_come_back(tmp_path: Path) -> None:
    path = tmp_path / "bout.chapto"
    Session.create(small(), path).close()
    edited_and_killed(path, "Kept")
    before = path.read_bytes()
    path.rename(tmp_path / "moved.chapto")
    Session.open(tmp_path / "moved.chapto").close()
    (tmp_path / "backup.chapto").write_bytes(before)
    again = Session.open(tmp_path / "backup.chapto")
    assert (again.breakdown.title, again.recovered, again.offered) == ("Small", False, None)


def test_edits_are_kept_without_waiting_for_the_disk(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    session = opened(tmp_path)
    may_write = threading.Event()
    real = os.fsync

    def slow(handle: int) -> None:
        assert may_write.wait(10)
        real(handle)

    monkeypatch.setattr(os, "fsync", slow)
    session.edit("rename", retitle("Soon"))
    assert session.breakdown.title == "Soon"
    may_write.set()
    killed(session)
    assert Session.open(tmp_path / "bout.chapto").breakdown.title == "Soon"


def test_going_back_behind_a_save_is_kept_too(tmp_path: Path) -> None:
    session = opened(tmp_path)
    session.edit("rename", retitle("First"))
    session.keep_safe(at_once=True)
    session.edit("rename", retitle("Second"))
    session.save()
    session.undo()
    session.keep_safe(at_once=True)
    killed(session)
    again = Session.open(tmp_path / "bout.chapto")
    assert again.recovered and again.breakdown.title == "First"


def test_a_new_project_with_the_words_of_one_that_is_gone_takes_nothing_of_it(tmp_path: Path) -> None:
    Session.create(small(), tmp_path / "gone.chapto").close()
    edited_and_killed(tmp_path / "gone.chapto", "Kept")
    (tmp_path / "gone.chapto").unlink()
    made = Session.create(small(), tmp_path / "new.chapto")
    assert [s.read().title for s in made.states] == ["Small"]
    killed(made)
    other = Session.untitled(small())
    other.save(tmp_path / "saved.chapto")
    assert [s.read().title for s in other.states] == ["Small"]
