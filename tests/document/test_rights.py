"""Rights for all files at once, files of one recorder, and names that are none."""

from __future__ import annotations

from datetime import datetime, timedelta
from fractions import Fraction

import pytest
from msgspec.structs import replace

from chapto.document import edit_rights
from chapto.document.breakdown import Breakdown, DocumentError
from chapto.document.clearance import Agreement, Clearance, Person
from chapto.document.clearance_checks import open_points
from chapto.document.people import Athlete, Narrator
from chapto.document.placeholders import is_placeholder, placeholders
from chapto.document.recorders import of_one_recorder
from tests.document.samples import footage


def filmed() -> Breakdown:
    named = {"first": Athlete(name="Wren"), "second": Athlete(name="Moss")}
    return Breakdown(title="x", footage=tuple(footage(f"f{i}", i * 200) for i in (1, 2, 3)), **named)  # type: ignore[arg-type]


def test_everything_open_for_three_files_is_answered_in_eight_presses() -> None:
    b = edit_rights.own_all(filmed(), " Ilka ")
    for question, answer in (("hurt", False), ("music", False), ("commentary", False), ("thumbnail", True)):
        assert edit_rights.open_files(b, question) == 3
        b = edit_rights.answer_all(b, question, answer)
    b = edit_rights.adults_all(edit_rights.agreed_all(edit_rights.seen_in_all(b), "asked"))
    assert [open_points(b, c) for c in b.footage] == [(), (), ()]
    assert {c.clearance.owner for c in b.footage} == {"Ilka"} and [p.name for p in b.people] == ["Wren", "Moss"]


def test_what_was_answered_otherwise_stays() -> None:
    theirs = Clearance(owner="Saltmarsh", agreement=Agreement.AGREED, music=True, hurt=True)
    no = Person(id="p9", name="Sunna", agreement=Agreement.REFUSED, minor=True)
    b = filmed()
    b = replace(b, footage=(replace(b.footage[0], clearance=theirs, seen=("p9",)), *b.footage[1:]), people=(no,))
    b = edit_rights.own_all(edit_rights.answer_all(edit_rights.answer_all(b, "music", False), "hurt", False), "Ilka")
    b = edit_rights.adults_all(edit_rights.agreed_all(b, "asked"))
    kept = b.footage[0].clearance
    assert (kept.owner, kept.music, kept.hurt) == ("Saltmarsh", True, True) and b.people == (no,)
    assert b.footage[1].clearance.music is False


@pytest.mark.parametrize("name", ["", "  ", "Mine", "Narrator", "Voice 2", "second"])
def test_a_name_that_is_none_is_no_owner(name: str) -> None:
    assert is_placeholder(name)
    with pytest.raises(DocumentError, match="your name first"):
        edit_rights.own_all(filmed(), name)


def test_names_still_to_be_given_are_told() -> None:
    b = Breakdown(title="New breakdown", narrators=(Narrator(id="n1", name="Ilka"), Narrator(id="n2", name="Voice 2")))
    assert [s.split()[:3] for s in placeholders(b)] == [
        ["The", "video", "has"], ["The", "first", "of"], ["The", "second", "of"], ["The", "voice", "“Voice"],
    ]  # fmt: skip
    assert list(placeholders(filmed())) == []


def test_files_that_a_recorder_cut_from_one_another_are_found() -> None:
    begin = datetime(2026, 1, 12, 15, 0)
    names = ("GX010012", "GX010013", "GX010014", "MVI_0007", "GX010020")
    b = Breakdown(title="x", footage=tuple(
        replace(footage(f"f{i}", i * 200), name=name) for i, name in enumerate(names)
    ))  # fmt: skip
    hour, length = timedelta(hours=1), timedelta(seconds=120)
    began = {"f0": begin, "f1": begin + length, "f2": begin + 2 * length, "f3": begin, "f4": begin + hour}
    assert of_one_recorder(b, began) == (("f0", "f1", "f2"),)
    apart = {**began, "f1": begin + length + timedelta(seconds=20)}
    assert of_one_recorder(b, apart) == ()
    told = replace(b, footage=tuple(replace(c, camera="wall") for c in b.footage))
    assert of_one_recorder(told, began) == () and Fraction(0) == b.footage[0].drift
