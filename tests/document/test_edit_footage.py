"""Edits of footage, angles, conditions and people."""

from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from chapto.document import edit_angles, edit_conditions, edit_footage, edit_log, edit_people
from chapto.document.bout import Exchange
from chapto.document.breakdown import Breakdown, DocumentError
from chapto.document.checks import checked
from chapto.document.clearance import Agreement
from chapto.document.clearance_checks import open_points
from chapto.document.condition import ConditionKind
from chapto.document.footage import Footage, cameras_of
from chapto.programme.framing_sections import credits_of
from tests.document.samples import footage, small

F = Fraction
K = ConditionKind


def two_cameras() -> Breakdown:
    """Two cameras over 0–120 s and 60–180 s, an exchange from 70 to 80 s and one from 100 to 110 s."""
    exchanges = tuple(Exchange(id=f"x{i}", start=F(a), end=F(a + 10)) for i, a in enumerate((70, 100), 1))
    return Breakdown(title="Two", footage=(footage("f1", 0, 120), footage("f2", 60, 120)), exchanges=exchanges)


def test_a_chosen_camera_lasts_to_the_end_of_the_exchange_and_snaps_to_it() -> None:
    b = edit_angles.choose_camera(two_cameras(), F("70.3"), "f2")
    assert [(a.start, a.end, a.camera) for a in b.angles] == [(70, 80, "f2")]


def test_between_exchanges_it_lasts_to_the_next_one() -> None:
    b = edit_angles.choose_camera(two_cameras(), F(85), "f2")
    assert [(a.start, a.end) for a in b.angles] == [(85, 100)]


def test_the_same_choice_side_by_side_is_one_and_can_be_left_again() -> None:
    b = edit_angles.choose_camera(edit_angles.choose_camera(two_cameras(), F(72), "f2"), F(80), "f2")
    assert [(a.start, a.end) for a in b.angles] == [(72, 100)]
    assert edit_angles.leave_camera(b, F(75)).angles == ()


def test_an_edge_that_is_dragged_snaps_and_its_neighbours_give_way() -> None:
    b = edit_angles.choose_camera(edit_angles.choose_camera(two_cameras(), F(70), "f2"), F(85), "f1")
    b = edit_angles.move_angle_edge(b, b.angles[0], end=F("99.8"))
    assert [(a.start, a.end, a.camera) for a in b.angles] == [(70, 100, "f2")]
    assert edit_angles.move_angle_edge(b, b.angles[0], end=F(70)) == b


@given(st.lists(st.tuples(st.integers(0, 170), st.sampled_from(["f1", "f2"])), max_size=12))
def test_choices_never_overlap(choices: list[tuple[int, str]]) -> None:
    b = two_cameras()
    for mat, camera in choices:
        b = checked(edit_angles.choose_camera(b, F(mat), camera))
    assert all(x.end <= y.start for x, y in zip(b.angles, b.angles[1:], strict=False))


def test_renaming_a_camera_takes_its_choices_along_and_removing_it_drops_them() -> None:
    b = edit_angles.choose_camera(two_cameras(), F(70), "f2")
    named = checked(edit_footage.change_footage(b, "f2", camera="Far wall"))
    assert [a.camera for a in named.angles] == ["Far wall"]
    gone = checked(edit_footage.remove_footage(named, "f2"))
    assert gone.angles == () and cameras_of(gone.footage) == ("f1",)


def test_the_main_camera_comes_first_with_all_its_files() -> None:
    b = edit_footage.add_footage(
        two_cameras(), name="f3", path="f3.mp4", fingerprint="3-x", duration=F(9), fps=F(30), offset=F(200)
    )
    b = edit_footage.change_footage(edit_footage.change_footage(b, "f3", camera="wall"), "f2", camera="wall")
    assert [c.id for c in edit_footage.make_main(b, "f3").footage] == ["f2", "f3", "f1"]


def test_a_clock_that_runs_wildly_is_refused() -> None:
    with pytest.raises(DocumentError, match="make no sense"):
        checked(edit_footage.place_footage(two_cameras(), {"f2": (F(60), F(1, 20))}))


def test_two_whistles_that_are_taken_make_a_round_once() -> None:
    b = two_cameras()
    b = edit_conditions.decide(b, "f1", K.SIGNAL, F(4), F(5), accepted=True)
    assert b.rounds == ()
    b = edit_conditions.decide(b, "f2", K.SIGNAL, F(110), F(111), accepted=True)
    assert [(r.start, r.end) for r in b.rounds] == [(4, 170)]
    heard_twice = edit_conditions.decide(b, "f1", K.SIGNAL, F("4.2"), F(5), accepted=True)
    assert heard_twice.rounds == b.rounds and edit_conditions.signal_times(heard_twice) == (4, 170)
    assert edit_conditions.decide(two_cameras(), "f1", K.SIGNAL, F(4), F(5), accepted=False).rounds == ()


def test_a_stretch_that_is_moved_stays_inside_its_file_and_can_be_opened_again() -> None:
    b = edit_conditions.decide(two_cameras(), "f1", K.FOGGED, F(100), F(500), accepted=True)
    assert b.conditions[0].end == 120
    b = edit_conditions.move_condition(b, "c1", F(-5), F(-4))
    assert (b.conditions[0].start, b.conditions[0].end) == (0, F(1, 10))
    assert edit_conditions.reopen(b, "c1").conditions == ()


SILENT = {"music": False, "commentary": False, "thumbnail": False}
LOUD = {"music": True, "commentary": True, "thumbnail": True}


def test_clearance_says_what_is_open_until_everybody_agreed() -> None:
    b = small()
    (c,) = b.footage
    assert open_points(b, c) == (
        "Whose footage is it?",
        "Is somebody hurt here?",
        "Nobody is named who can be seen.",
        "Is there music to be heard?",
        "Is somebody else's commentary to be heard?",
        "May a still of it stand as the thumbnail?",
    )
    b = edit_footage.change_clearance(b, "f1", owner="Ilka", agreement=Agreement.AGREED, hurt=False, **SILENT)
    b = edit_people.add_person(b, "Wren", footage_id="f1")
    assert open_points(b, b.footage[0]) == ("Wren has not been asked.",)
    b = edit_people.change_person(b, "p1", agreement=Agreement.AGREED)
    assert open_points(b, b.footage[0]) == ("Is Wren of age?",)
    assert open_points(*at_first(edit_people.change_person(b, "p1", minor=False))) == ()
    b = edit_people.change_person(b, "p1", minor=True)
    assert open_points(b, b.footage[0]) == ("Wren is a minor: which guardian agreed?",)
    b = edit_people.change_person(b, "p1", guardian="her mother")
    assert open_points(b, b.footage[0]) == ("Wren is a minor: how and when did her mother agree?",)
    b = edit_people.change_person(b, "p1", guardian_how="signed on 3 February")
    assert open_points(b, b.footage[0]) == ()
    refused = edit_people.change_person(b, "p1", agreement=Agreement.REFUSED)
    assert open_points(refused, refused.footage[0]) == ("Wren refused.",)


def at_first(b: Breakdown) -> tuple[Breakdown, Footage]:
    return b, b.footage[0]


def test_a_withdrawal_says_when_and_what_to_do_and_nobody_is_thanked() -> None:
    b = edit_people.add_person(small(), "Wren", footage_id="f1")
    b = edit_footage.change_clearance(b, "f1", owner="Ilka", agreement=Agreement.AGREED, hurt=False, **SILENT)
    b = edit_people.change_person(b, "p1", agreement=Agreement.WITHDRAWN, when="2 May", minor=False)
    (said,) = open_points(*at_first(b))
    assert said.startswith("Wren withdrew on 2 May: cut them out or take the video down")
    assert not any("Wren" in row for row in credits_of(b))
    gone = edit_footage.change_clearance(b, "f1", agreement=Agreement.WITHDRAWN, when="3 May", credit="Camera: Ilka")
    assert "Ilka, whose footage it is, withdrew on 3 May." in open_points(*at_first(gone))
    assert "Camera: Ilka" not in credits_of(gone)


def test_the_event_and_somebody_who_is_hurt_are_asked_about_apart() -> None:
    b = edit_people.add_person(small(), "Wren", footage_id="f1")
    b = edit_people.change_person(b, "p1", agreement=Agreement.AGREED, minor=False)
    b = edit_footage.change_clearance(b, "f1", owner="Ilka", agreement=Agreement.AGREED, hurt=True, **LOUD)
    b = edit_footage.change_clearance(b, "f1", organiser="Saltmarsh Winter Open")
    assert open_points(*at_first(b)) == (
        "Does Saltmarsh Winter Open allow pictures of the event?",
        "Somebody is hurt here: do they agree to it being shown?",
        "Music is audible: hosting sites may mute or block it.",
        "Somebody else's commentary is audible: it is theirs, so ask them, or leave that sound out.",
    )
    b = edit_footage.change_clearance(b, "f1", organiser_agreed=True, hurt_agreed=True, **SILENT)
    assert open_points(*at_first(b)) == ()


def test_somebody_is_one_person_in_all_files_and_forgotten_with_the_last() -> None:
    b = edit_people.add_person(edit_people.add_person(two_cameras(), "Moss", footage_id="f1"), "moss ", footage_id="f2")
    assert [p.name for p in b.people] == ["Moss"] and all(c.seen == ("p1",) for c in b.footage)
    b = checked(edit_people.see(b, "f1", "p1", seen=False))
    assert len(b.people) == 1
    assert checked(edit_people.see(b, "f2", "p1", seen=False)).people == ()
    with pytest.raises(DocumentError, match="needs a name"):
        edit_people.add_person(b, "  ")


def test_a_person_seen_who_is_nobody_is_refused() -> None:
    b = two_cameras()
    with pytest.raises(DocumentError, match="not among the people"):
        checked(replace(b, footage=(replace(b.footage[0], seen=("p9",)), b.footage[1])))


def with_file_rounds() -> Breakdown:
    """Two files as they are brought in: one behind the other, a round over each."""
    b = replace(two_cameras(), footage=(two_cameras().footage[0], replace(two_cameras().footage[1], offset=F(180))))
    for c in b.footage:
        b = edit_log.add_round(b, c.mat_in, c.mat_out)
    return b


def test_a_round_that_stands_for_a_file_moves_with_it() -> None:
    moved = edit_footage.place_footage(with_file_rounds(), {"f2": (F(300), F(0))})
    assert [(r.start, r.end) for r in moved.rounds] == [(0, 120), (300, moved.footage[1].mat_out)]


def test_two_files_of_one_round_leave_one_round() -> None:
    moved = edit_footage.place_footage(with_file_rounds(), {"f2": (F(3), F(0))})
    assert [(r.start, r.end) for r in moved.rounds] == [(0, 120)]


def test_a_round_that_was_logged_stays_where_it_is() -> None:
    b = edit_log.add_round(with_file_rounds(), F(190), F(210))
    moved = edit_footage.place_footage(b, {"f2": (F(3), F(0))})
    assert (190, 210) in [(r.start, r.end) for r in moved.rounds]


def test_whistles_make_rounds_in_a_file_that_has_a_round_of_its_own() -> None:
    b = edit_conditions.decide(with_file_rounds(), "f1", K.SIGNAL, F(4), F(5), accepted=True)
    b = edit_conditions.decide(b, "f1", K.SIGNAL, F(100), F(101), accepted=True)
    assert [(r.start, r.end) for r in b.rounds] == [(4, 100), (180, b.footage[1].mat_out)]
