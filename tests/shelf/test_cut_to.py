"""Cutting to an earlier example: what comes into the document, and what never may."""

from __future__ import annotations

from fractions import Fraction
from pathlib import Path

import pytest
from msgspec.structs import replace

from chapto.demo.story import demo_breakdown
from chapto.document import edit_footage, edit_log, edit_script
from chapto.document.breakdown import Breakdown, DocumentError
from chapto.document.checks import checked
from chapto.document.clearance import Agreement
from chapto.document.treatments import Cutaway, SideBySide
from chapto.programme.compile import compile_programme
from chapto.programme.framing_sections import credits_of
from chapto.shelf.cut_to import LEAD, How, Shown, cut_to, refusal, shown_of
from chapto.shelf.errors import ShelfError

SOURCE = demo_breakdown(Path("/"))
TABLE = SOURCE.footage[0]
SPAN = Fraction(80), Fraction(86)


def own(words: str = "Here is the knee slide. And that is all.") -> Breakdown:
    b = edit_footage.add_footage(
        Breakdown(title="Own"),
        name=TABLE.name,
        path="own.mp4",
        fingerprint="1-1",
        duration=Fraction(40),
        fps=Fraction(30),
    )
    b = edit_log.add_exchange(b, Fraction(4), Fraction(14))
    b = edit_script.add_section(b, exchange=b.exchanges[0].id)
    return edit_script.add_beat(b, b.script[0].id, words)


def cut(b: Breakdown, how: How = How.CUTAWAY, word: int = 3, source: Breakdown = SOURCE) -> Breakdown:
    shown = Shown(next(c for c in source.footage if c.id == TABLE.id), *SPAN)
    return checked(
        cut_to(
            b, source, shown, beat=b.script[0].beats[0].id, word=word, how=how, on_screen=Fraction(4),
            place=Path("/shelf/table.mp4"), project=Path("/own/own.chapto"),
        )
    )  # fmt: skip


def test_the_file_comes_in_with_its_rights_and_people_far_from_the_bout() -> None:
    made = cut(own())
    brought = made.footage[-1]
    assert brought.path == "../shelf/table.mp4" and brought.fingerprint == TABLE.fingerprint
    assert brought.clearance == TABLE.clearance and "Camera: Ilka" in credits_of(made)
    assert [p.name for p in made.people] == [p.name for p in SOURCE.people if p.id in TABLE.seen]
    assert brought.mat_in > made.footage[0].mat_out and not edit_footage.lies_as_brought_in(made.footage)
    # A file of the same name is there already: a camera of one's own must not be taken for it.
    assert brought.name != made.footage[0].name and brought.camera_name != made.footage[0].camera_name


def test_the_picture_turns_to_it_and_back_at_the_end_of_the_sentence() -> None:
    beat = cut(own()).script[0].beats[0]
    there, back = beat.turns
    assert (there.word, back.word, back.treatment) == (3, 5, None)
    assert isinstance(there.treatment, Cutaway) and not there.treatment.inset
    assert there.treatment.seconds == SPAN[1] - SPAN[0] + LEAD
    made = cut(own())
    assert made.footage[-1].media_time(there.treatment.at) == SPAN[0] - LEAD
    shown = {p.footage for p in compile_programme(made, {}).passages}
    assert made.footage[-1].id in shown


def test_as_an_inset_and_side_by_side() -> None:
    inset = cut(own(), How.INSET).script[0].beats[0].turns[0].treatment
    assert isinstance(inset, Cutaway) and inset.inset
    beside = cut(own(), How.BESIDE, word=0)
    treatment = beside.script[0].beats[0].treatment
    assert isinstance(treatment, SideBySide) and treatment.one == 4
    assert treatment.other_camera == beside.footage[-1].camera_name


def test_a_file_that_is_there_already_is_not_brought_in_again() -> None:
    once = cut(own("First here. Then there."), word=1)
    twice = cut(once, word=2)
    assert len(twice.footage) == len(once.footage) == 2 and len(twice.people) == len(once.people)


@pytest.mark.parametrize("no", [Agreement.REFUSED, Agreement.WITHDRAWN])
def test_nothing_that_somebody_said_no_to_is_shown(no: Agreement) -> None:
    seen = TABLE.seen[0]
    people = tuple(replace(p, agreement=no) if p.id == seen else p for p in SOURCE.people)
    with pytest.raises(ShelfError, match="can't be shown"):
        cut(own(), source=replace(SOURCE, people=people))
    file = replace(TABLE, clearance=replace(TABLE.clearance, agreement=no))
    taken = replace(SOURCE, footage=(file, *SOURCE.footage[1:]))
    assert "any more" in refusal(taken, file)
    with pytest.raises(ShelfError, match="any more"):
        cut(own(), source=taken)


def test_somebody_known_here_stays_as_they_are_here() -> None:
    b = own()
    b = replace(b, people=(replace(SOURCE.people[0], id="p7", agreement=Agreement.ASKED, how="asked here"),))
    made = cut(b)
    mine = next(p for p in made.people if p.name == SOURCE.people[0].name)
    assert (mine.id, mine.agreement, mine.how) == ("p7", Agreement.ASKED, "asked here")


def test_whose_it_is_is_thanked_even_where_no_line_was_written() -> None:
    file = replace(TABLE, clearance=replace(TABLE.clearance, credit="", owner="Quay Mats"))
    assert "Footage: Quay Mats" in credits_of(cut(own(), source=replace(SOURCE, footage=(file, *SOURCE.footage[1:]))))


def test_what_was_changed_since_it_was_found_is_not_shown_under_old_words() -> None:
    x = next(x for x in SOURCE.exchanges if TABLE.covers(x.start) and TABLE.covers(x.end))
    found = shown_of(SOURCE, x.id, TABLE.id, TABLE.fingerprint)
    assert (found.media_in, found.media_out) == (TABLE.media_time(x.start), TABLE.media_time(x.end))
    moved = edit_log.change_exchange(SOURCE, x.id, start=x.start + 1)
    assert shown_of(moved, x.id, TABLE.id, TABLE.fingerprint).media_in == TABLE.media_time(x.start + 1)
    with pytest.raises(ShelfError, match="changed meanwhile"):
        shown_of(SOURCE, x.id, TABLE.id, "another file's")
    far = edit_log.change_exchange(SOURCE, x.id, start=Fraction(9000), end=Fraction(9001))
    with pytest.raises(ShelfError, match="changed meanwhile"):
        shown_of(far, x.id, TABLE.id, TABLE.fingerprint)
    with pytest.raises(DocumentError):
        shown_of(edit_log.remove_logged(SOURCE, x.id), x.id, TABLE.id, TABLE.fingerprint)
