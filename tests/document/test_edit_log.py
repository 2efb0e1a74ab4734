"""Edits of the log keep it in order and whole."""

from fractions import Fraction

import pytest

from chapto.document import edit_footage, edit_log, edit_script
from chapto.document.bout import MomentKind, Outcome
from chapto.document.breakdown import DocumentError
from chapto.document.checks import checked, problems
from chapto.document.people import Side
from chapto.document.treatments import Hold, Skip, Treatment
from tests.document.samples import footage, small

F = Fraction


def test_what_is_logged_stands_in_the_order_of_the_mat_clock() -> None:
    b = edit_log.add_exchange(small(), F(1), F(5), technique="single leg", by=Side.FIRST, outcome=Outcome.LANDED)
    assert [x.technique for x in b.exchanges] == ["single leg", "knee slide"]
    b = edit_log.add_moment(b, F(3), kind=MomentKind.GRIP)
    assert [float(m.at) for m in b.moments] == [3, 14, 17]
    b = edit_log.add_round(edit_log.add_round(b, F(60), F(90)), F(0), F(50))
    assert [r.name for r in b.rounds] == ["Round 2", "Round 1"]


def test_taking_out_a_moment_takes_its_ties_holds_and_label_with_it() -> None:
    b = edit_log.remove_logged(small(), "m1")
    assert b.script[0].beats[0].ties == () and b.labels == ()
    checked(b)


def test_a_hold_on_a_moment_taken_out_becomes_a_plain_hold() -> None:
    from chapto.document import edit_script

    b = edit_log.remove_logged(edit_script.treat(small(), "b1", Hold("m2")), "m2")
    assert b.script[0].beats[0].treatment == Hold()


def test_words_of_a_removed_exchange_stay() -> None:
    b = checked(edit_log.remove_logged(small(), "x1"))
    assert b.script[0].exchange == "" and b.script[0].beats == small().script[0].beats


def test_an_exchange_cannot_end_before_it_starts() -> None:
    with pytest.raises(DocumentError, match="at least a tenth"):
        edit_log.change_exchange(small(), "x1", end=F(10))


def test_moving_a_moment_keeps_what_hangs_on_it() -> None:
    b = edit_log.change_moment(small(), "m1", at=F(18))
    assert [m.id for m in b.moments] == ["m2", "m1"]
    assert b.script[0].beats[0].ties[0].moment == "m1"


def test_the_nearest_moment_is_found_within_reach_only() -> None:
    near = edit_log.moment_at(small(), F("14.03"))
    assert near is not None and near.id == "m1"
    assert edit_log.moment_at(small(), F("14.2")) is None


def test_a_label_is_set_changed_and_cleared() -> None:
    b = edit_log.set_label(small(), "m1", "  Knee cut ")
    assert [(x.id, x.text) for x in b.labels] == [("l1", "Knee cut")]
    assert edit_log.set_label(b, "m1", " ").labels == ()


def test_the_same_footage_is_not_taken_twice() -> None:
    with pytest.raises(DocumentError, match="in this breakdown already"):
        edit_footage.add_footage(
            small(), name="copy", path="b.mp4", fingerprint=footage().fingerprint, duration=F(1), fps=F(30)
        )


def test_new_footage_starts_on_a_whole_minute_after_what_there_is() -> None:
    b = edit_footage.add_footage(small(), name="b", path="b.mp4", fingerprint="2-b", duration=F(9), fps=F(30))
    assert b.footage[-1].mat_in == 120 and b.footage[-1].mat_out == 129


def test_footage_with_drift_covers_what_it_filmed() -> None:
    c = edit_footage.change_footage(small(), "f1", offset=F(20), drift=F(1, 1000)).footage[0]
    assert c.mat_out == F("140.12")
    assert c.media_time(F("140.12")) == 120
    assert c.covers(F(20)) and not c.covers(F("140.12")) and not c.covers(F(19))


@pytest.mark.parametrize(
    ("field", "value", "sentence"),
    [
        ("target", F(-1), "less than nothing"),
        ("narrators", (), "at least one narrator"),
        ("labels", small().labels * 2, "share the name"),
        ("moments", (), "not there"),
        ("exchanges", (), "not there"),
    ],
)
def test_contradictions_are_named(field: str, value: object, sentence: str) -> None:
    from msgspec.structs import replace

    assert any(sentence in p for p in problems(replace(small(), **{field: value})))


def test_a_moment_that_a_skip_leads_to_can_be_taken_away() -> None:
    b = edit_script.treat(small(), "b1", Skip("m2"))
    gone = checked(edit_log.remove_logged(b, "m2"))
    assert gone.script[0].beats[0].treatment is None


@pytest.mark.parametrize("kind", Treatment.__args__)
def test_every_treatment_answers_what_is_asked_of_all(kind: type) -> None:
    fields = {"moment": "m1", "at": Fraction(3), "one": Fraction(1), "other": Fraction(2), "text": "x", "photo": "o1"}
    made = kind(**{k: v for k, v in fields.items() if k in kind.__struct_fields__})
    assert made.problem() == ""
    for moment in made.moments():
        left = made.without(moment)
        assert left is None or moment not in left.moments()
    assert made.without("another") == made


def test_what_is_logged_is_moved_in_time_whole_and_never_before_the_clock_begins() -> None:
    b = edit_log.shift_logged(small(), "x1", F(5, 2))
    assert (b.exchange("x1").start, b.exchange("x1").end) == (F(25, 2), F(45, 2))
    assert edit_log.shift_logged(small(), "x1", F(-30)).exchange("x1").start == 0
    assert edit_log.shift_logged(small(), "x1", F(-30)).exchange("x1").end == 10
    assert edit_log.shift_logged(small(), "m1", F(-20)).moment("m1").at == 0
