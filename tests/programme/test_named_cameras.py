"""What is shown besides can be seen from a camera that the creator names."""

from __future__ import annotations

from fractions import Fraction

import pytest
from msgspec.structs import replace

from chapto.app.write.treatments import Choice, choices, treatment_text
from chapto.clock.passage import Kind
from chapto.document import edit_footage, edit_script
from chapto.document.breakdown import Breakdown, DocumentError, Label
from chapto.document.checks import checked
from chapto.document.treatments import Again, Cutaway, SideBySide, Treatment
from chapto.programme.compile import compile_programme, line_for
from chapto.programme.programme import Programme
from tests.document.samples import footage, small

F = Fraction


def filmed(treatment: Treatment | None = None) -> Breakdown:
    """Table side ran all the while, far wall from 12 to 18 s."""
    table = replace(footage("f1"), camera="Table side")
    far = replace(footage("f2", start=12, seconds=6), camera="Far wall")
    b = replace(small(), footage=(table, far), labels=())
    b = edit_script.add_beat(b, "s1", "And once more, with the same grip on the same side.")
    return checked(edit_script.treat(b, "b2", treatment))


def compiled(b: Breakdown) -> Programme:
    return compile_programme(b, {x.id: line_for(b, x, {}) for _, x in b.beats()})


def seen(p: Programme, kind: Kind) -> list[tuple[str, Fraction, Fraction]]:
    return [(x.footage, x.mat_in, x.mat_out) for x in p.passages if x.kind is kind]


def test_what_is_run_again_is_seen_from_the_other_camera_as_far_as_it_ran() -> None:
    plain, other = compiled(filmed(Again(F(5), F(1)))), compiled(filmed(Again(F(5), F(1), camera="Far wall")))
    assert {name for name, *_ in seen(plain, Kind.AGAIN)} == {"f1"}
    found = seen(other, Kind.AGAIN)
    assert "f2" in {name for name, *_ in found}
    assert all(a >= 12 and z <= 18 for name, a, z in found if name == "f2")
    assert sum(z - a for _, a, z in found) == sum(z - a for _, a, z in seen(plain, Kind.AGAIN))
    assert other.frames == plain.frames
    after = [
        x for x in other.passages if x.watch_in >= max(p.watch_out for p in other.passages if p.kind is Kind.AGAIN)
    ]
    assert {x.footage for x in after if x.footage} <= {"f1"}


def test_a_cutaway_and_a_small_picture_are_seen_from_the_camera_that_is_named() -> None:
    away = compiled(filmed(Cutaway(F(13), seconds=F(2), camera="Far wall")))
    assert {name for name, *_ in seen(away, Kind.CUTAWAY)} == {"f2"}
    small_one = compiled(filmed(Cutaway(F(13), seconds=F(2), inset=True, camera="Far wall")))
    assert [i.footage for i in small_one.insets] == ["f2"]


def test_the_same_moment_stands_side_by_side_from_two_cameras() -> None:
    p = compiled(filmed(SideBySide(F(13), F(13), other_camera="Far wall")))
    pair = [x for x in p.passages if x.kind is Kind.CUTAWAY]
    assert {x.footage for x in pair} == {"f1"} and {i.footage for i in p.insets if i.beside} >= {"f2"}
    first = next(i for i in p.insets if i.beside)
    assert (first.mat_in, first.start) == (pair[0].mat_in, pair[0].watch_in)


@pytest.mark.parametrize(
    ("shown", "camera", "kind"), [("show_first", "first_camera", Kind.RUN), ("once_more", "more_camera", Kind.AGAIN)]
)
def test_clean_showings_are_seen_from_the_camera_that_is_named(shown: str, camera: str, kind: Kind) -> None:
    b = edit_script.change_section(filmed(), "s1", **{shown: True, camera: "Far wall"})
    found = [name for name, a, z in seen(compiled(checked(b)), kind) if 12 <= a < 18]
    assert "f2" in found and all(t.shown is not None for t in compiled(b).ties)


def test_a_camera_that_is_renamed_takes_its_name_along_and_one_that_goes_is_found_again_by_itself() -> None:
    b = edit_script.change_section(filmed(Again(camera="Far wall")), "s1", once_more=True, more_camera="Far wall")
    b = replace(b, labels=(Label(id="l1", moment="m1", text="Grip", camera="Far wall"),))
    renamed = checked(edit_footage.change_footage(b, "f2", camera="Balcony"))
    named = lambda b: (b.script[0].more_camera, b.find_beat("b2")[1].treatment.camera, b.labels[0].camera)  # noqa: E731
    assert named(renamed) == ("Balcony",) * 3
    assert named(checked(edit_footage.remove_footage(b, "f2"))) == ("",) * 3


def test_a_camera_that_is_not_there_is_refused_in_a_sentence() -> None:
    with pytest.raises(DocumentError, match="names the camera “Moon”, which is not there"):
        checked(edit_script.treat(filmed(), "b2", Again(camera="Moon")))


def test_the_menu_offers_cameras_where_there_are_two_and_says_which() -> None:
    def texts(found: tuple[Choice, ...]) -> list[str]:
        return [c.text for c in found]

    b = filmed(Again())
    section, beat = b.find_beat("b2")
    offered = choices(b, section, beat, F(13))
    cameras = next(c for c in offered if c.text == "Seen from")
    assert texts(cameras.group) == ["As it is found", "Table side", "Far wall"]
    assert cameras.group[2].treatment == Again(camera="Far wall")
    assert treatment_text(Again(camera="Far wall")).endswith("0.5×, Far wall")
    alone = replace(b, footage=b.footage[:1])
    assert "Seen from" not in texts(choices(alone, section, beat, F(13)))
