"""Edits of the log, the positions, the pacing and the frame of a breakdown, each by what it must keep."""

from __future__ import annotations

import importlib
import pkgutil
from fractions import Fraction as F

import msgspec
import pytest
from msgspec.structs import replace

import chapto.document
from chapto.document import edit_breakdown, edit_footage, edit_log, edit_pacing, edit_positions
from chapto.document.bout_rules import PositionSpan
from chapto.document.breakdown import Breakdown, DocumentError
from chapto.document.checks import checked
from chapto.document.footage import cameras_of
from chapto.document.people import Side
from tests.document.samples import footage, small


def structs() -> list[type]:
    found = []
    for info in pkgutil.iter_modules(chapto.document.__path__):
        module = importlib.import_module(f"chapto.document.{info.name}")
        found += [x for x in vars(module).values() if isinstance(x, type) and issubclass(x, msgspec.Struct)]
    return sorted({x for x in found if x.__struct_config__.tag or x.__struct_fields__}, key=lambda x: x.__name__)


@pytest.mark.parametrize("kind", structs(), ids=lambda k: k.__name__)
def test_nothing_unknown_is_ever_read_into_a_document(kind: type) -> None:
    assert kind.__struct_config__.forbid_unknown_fields and kind.__struct_config__.frozen


def test_a_new_breakdown_is_720_lines_high_at_thirty_pictures_a_second() -> None:
    f = Breakdown(title="x").format
    assert (f.width, f.height, f.fps) == (1280, 720, 30)


def test_what_was_changed_in_the_log_stands_in_its_place_again() -> None:
    b = edit_log.add_exchange(small(), F(30), F(40))
    b = edit_log.change_exchange(b, "x2", start=F(1), end=F(5))
    assert [x.id for x in b.exchanges] == ["x2", "x1"]
    b = edit_log.change_moment(b, "m2", at=F(11))
    assert [m.id for m in b.moments] == ["m2", "m1"]


@pytest.mark.parametrize(("first", "second", "kept"), [
    ((F(11), F(12)), (F(15), F(16)), ((11, 12), (15, 16))),
    ((F(15), F(16)), (F(11), F(12)), ((11, 12), (15, 16))),
    ((F(11), F(13)), (F(13), F(16)), ((11, 16),)),
    ((F(11), F(18)), (F(12), F(13)), ((11, 18),)),
])  # fmt: skip
def test_skips_that_touch_become_one_and_others_stay_apart(
    first: tuple[F, F], second: tuple[F, F], kept: tuple[tuple[int, int], ...]
) -> None:
    b = edit_pacing.skip_span(edit_pacing.skip_span(small(), "s1", *first), "s1", *second)
    assert checked(b).script[0].skips == kept
    assert edit_pacing.skip_nothing(b, "s1").script[0].skips == ()


def test_a_narrator_needs_a_name_and_the_last_one_stays() -> None:
    with pytest.raises(DocumentError, match="needs a name"):
        edit_breakdown.add_narrator(small(), "  ")
    two = edit_breakdown.add_narrator(small(), " Bram ")
    assert [n.name for n in two.narrators] == ["Narrator", "Bram"]
    assert two.narrators[0].guide_voice != two.narrators[1].guide_voice
    with pytest.raises(DocumentError, match="at least one narrator"):
        edit_breakdown.remove_narrator(edit_breakdown.remove_narrator(two, "n1"), "n2")


def test_a_camera_of_two_files_keeps_its_choices_while_one_of_them_is_called_otherwise() -> None:
    files = (replace(footage("f1"), camera="Table"), replace(footage("f2", 130), camera="Table"))
    from chapto.document.footage import Angle

    b = Breakdown(title="x", footage=files, angles=(Angle(start=F(1), end=F(2), camera="Table"),))
    one = checked(edit_footage.change_footage(b, "f1", camera="Wall"))
    assert cameras_of(one.footage) == ("Wall", "Table") and one.angles[0].camera == "Table"
    both = checked(edit_footage.change_footage(one, "f2", camera="Wall"))
    assert both.angles[0].camera == "Wall"


def span(start: int, end: int, position: str, top: Side | None = Side.FIRST) -> PositionSpan:
    return PositionSpan(start=F(start), end=F(end), position=position, top=top)


def test_a_position_put_over_others_cuts_them_and_joins_its_like() -> None:
    b = edit_positions.put_position(small(), span(0, 30, "half-guard"))
    b = edit_positions.put_position(b, span(10, 20, "side-control"))
    assert [(p.position, p.start, p.end) for p in b.positions] == [
        ("half-guard", 0, 10), ("side-control", 10, 20), ("half-guard", 20, 30),
    ]  # fmt: skip
    joined = edit_positions.put_position(b, span(10, 20, "half-guard"))
    assert [(p.start, p.end) for p in checked(joined).positions] == [(0, 30)]
    turned = edit_positions.put_position(b, span(10, 20, "half-guard", Side.SECOND))
    assert [p.top for p in turned.positions] == [Side.FIRST, Side.SECOND, Side.FIRST]


def test_a_position_from_here_on_lasts_to_the_next_change_or_the_end_of_the_round() -> None:
    b = edit_log.add_round(small(), F(0), F(60))
    b = edit_positions.position_from(b, F(5), "mount", Side.FIRST)
    assert [(p.start, p.end) for p in b.positions] == [(5, 60)]
    b = edit_positions.position_from(b, F(40), "back-control", Side.FIRST)
    b = edit_positions.position_from(b, F(20), "turtle", Side.SECOND)
    assert [(p.position, p.start, p.end) for p in b.positions][1:] == [("turtle", 20, 40), ("back-control", 40, 60)]


def test_a_position_in_a_gap_ends_where_the_next_one_begins() -> None:
    b = edit_positions.put_position(edit_log.add_round(small(), F(0), F(60)), span(30, 40, "mount", Side.FIRST))
    b = edit_positions.position_from(b, F(10), "turtle", Side.SECOND)
    assert [(p.position, p.start, p.end) for p in b.positions] == [("turtle", 10, 30), ("mount", 30, 40)]
