"""What is best done next, and what is open in each stage."""

from __future__ import annotations

from fractions import Fraction as F
from pathlib import Path

from msgspec.structs import replace

from chapto.document import edit_footage, edit_log, edit_people, edit_script
from chapto.document.breakdown import Breakdown
from chapto.document.clearance import Agreement, Person
from chapto.document.edit_marks import add_mark, put_anchor
from chapto.document.mark_kinds import MarkKind
from chapto.document.people import Athlete
from chapto.document.recorders import as_one_camera
from chapto.programme.compile import compile_programme
from chapto.review.next_step import next_step, uncovered
from chapto.review.open_work import open_counts
from chapto.review.touched import touched_part
from chapto.review.work import ONE_CAMERA, ONE_CLOCK, NextStep, Situation, Stage
from tests.document.samples import footage, small


def test_the_next_step_leads_through_the_work_in_its_order(tmp_path: Path) -> None:
    def step(b: Breakdown, missing: tuple[str, ...] = ()) -> tuple[Stage, str]:
        found = next_step(Situation(b, compile_programme(b, {}), missing))
        return found.stage, found.sentence

    empty = Breakdown(title="New")
    filmed = replace(empty, footage=(footage(),))
    logged = edit_log.add_exchange(filmed, F(1), F(9))
    written = edit_script.add_beat(edit_script.add_section(logged, exchange="x1"), "s1", "Watch the knee here")
    assert step(empty)[0] is Stage.FOOTAGE
    assert step(filmed, ("gone",)) == (Stage.FOOTAGE, "gone")
    assert step(filmed)[0] is Stage.LOG
    assert step(logged)[0] is Stage.WRITE
    assert "Ctrl+T" in step(written)[1]
    tied = edit_script.tie_word(edit_log.add_moment(written, F(5)), "b1", 3, "m1")
    assert step(tied) == (Stage.FOOTAGE, "The tie meets. Before it is shown: Whose footage is it?")
    cleared = edit_people.add_person(tied, "Wren", footage_id="f1")
    cleared = edit_people.change_person(cleared, "p1", agreement=Agreement.AGREED, minor=False)
    cleared = edit_footage.change_clearance(
        cleared,
        "f1",
        owner="Ilka",
        agreement=Agreement.AGREED,
        music=False,
        commentary=False,
        thumbnail=False,
        hurt=False,
    )
    assert step(cleared)[0] is Stage.LOG and "The first of the two has no name yet" in step(cleared)[1]
    named = replace(cleared, first=Athlete(name="Wren"), second=Athlete(name="Moss"))
    assert step(named) == (Stage.PUBLISH, "The tie meets. Watch it once, then render it.")


def test_several_files_are_brought_onto_one_clock_before_anything_is_logged() -> None:
    b = Breakdown(title="x")
    for name, mark in (("wall", "1-a"), ("table", "1-b"), ("phone", "1-c")):
        b = edit_footage.add_footage(b, name=name, path=name, fingerprint=mark, duration=F(100), fps=F(30))
    programme = compile_programme(b, {})
    found = next_step(Situation(b, programme))
    assert (found.stage, found.item) == (Stage.FOOTAGE, ONE_CLOCK) and "press here" in found.sentence
    assert next_step(Situation(b, programme, clocked=True)).stage is Stage.LOG
    moved = edit_footage.place_footage(b, {"f2": (F(3), F(0))})
    assert next_step(Situation(moved, programme)).stage is Stage.LOG
    rows = (("f1", "f2"),)
    assert next_step(Situation(b, programme, recorders=rows)).item == ONE_CAMERA
    one = as_one_camera(b, ("f1", "f2", "f3"))
    assert {c.camera_name for c in one.footage} == {"wall"} and next_step(Situation(one, programme)).stage is Stage.LOG


def test_what_does_not_fit_is_named_with_its_word() -> None:
    b = edit_script.tie_word(small(), "b1", 8, "m1")
    b = edit_log.change_moment(b, "m1", at=F(19))
    b = edit_script.tie_word(b, "b1", 8, "m2")
    found = next_step(Situation(b, compile_programme(b, {})))
    assert found.stage is Stage.WRITE and found.beat == "b1" and found.word == 8
    assert found.sentence.startswith("At “is”: the picture is already 2.0 s past")


def test_each_stage_counts_what_is_open_there() -> None:
    b = edit_log.add_exchange(small(), F(30), F(40))
    counts = open_counts(Situation(b, compile_programme(b, {}), ("one is missing",)))
    assert counts[Stage.FOOTAGE] == 2 and counts[Stage.LOG] == 2 and counts[Stage.WRITE] == 0


def test_review_counts_nothing_before_there_is_a_video_to_look_at() -> None:
    for b, count in ((Breakdown(title="New"), 0), (small(), 3)):
        assert open_counts(Situation(b, compile_programme(b, {}), found=3))[Stage.REVIEW] == count


def test_the_next_step_asks_for_decisions_first_and_for_people_last() -> None:
    b = small()
    p = compile_programme(b, {})
    assert "stretch" not in next_step(Situation(b, p)).sentence
    assert "2 stretches" in next_step(Situation(Breakdown(title="x", footage=b.footage), p, undecided=2)).sentence


def test_who_said_no_is_asked_to_be_covered_until_there_is_a_cover() -> None:
    """In every file they are seen in; one cover is for one of them."""
    no = Person(id="p1", name="Sunna Vale", agreement=Agreement.REFUSED)
    b = replace(small(), people=(no,), footage=(replace(small().footage[0], seen=("p1",)),))
    found = uncovered(Situation(b, compile_programme(b, {})))
    assert found is not None and "Sunna Vale did not agree: cover them" in found.sentence and found.stage is Stage.MARK
    assert open_counts(Situation(b, compile_programme(b, {})))[Stage.MARK] == 1
    covered = put_anchor(b, "f1", F(14), (0.5, 0.5))
    covered = add_mark(covered, MarkKind.COVER, anchors=("a1",))
    assert uncovered(Situation(covered, compile_programme(covered, {}))) is None


def test_undo_is_gone_to_where_it_shows() -> None:
    b = small()
    moved = edit_log.change_moment(b, "m2", at=F(18))
    assert touched_part(b, moved) == replace_step(Stage.LOG, item="m2")
    gone = edit_script.remove_beat(b, "b1")
    assert (found := touched_part(gone, b)) is not None and (found.stage, found.beat) == (Stage.WRITE, "b1")
    named = edit_footage.change_footage(b, "f1", name="wall")
    assert (found := touched_part(b, named)) is not None and (found.stage, found.footage) == (Stage.FOOTAGE, "f1")
    assert touched_part(b, replace(b, title="Other")) is None


def replace_step(stage: Stage, item: str) -> NextStep:
    return NextStep("", stage, item=item)
