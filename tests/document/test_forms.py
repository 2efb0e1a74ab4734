"""A new document laid out in each of the forms that creators make (the forms: common practice)."""

from fractions import Fraction

import pytest
from msgspec.structs import replace

from chapto.document import edit_log, edit_script
from chapto.document.bout import Round
from chapto.document.breakdown import Breakdown, DocumentError
from chapto.document.checks import checked
from chapto.document.forms import forms, lay_out
from chapto.document.script import BeatKind, Part
from chapto.pacing.styles import house_styles
from chapto.programme.compile import compile_programme
from tests.document.samples import footage

F = Fraction


def logged() -> Breakdown:
    """Two rounds, four exchanges, three techniques; nothing written."""
    b = Breakdown(
        title="New",
        footage=(footage(),),
        rounds=tuple(Round(id=f"r{n}", name=f"Round {n}", start=F(25 * n - 25), end=F(25 * n)) for n in (1, 2, 3)),
    )
    for start, technique in ((5, "knee slide"), (15, "armbar"), (30, "knee slide"), (45, "toe hold")):
        b = edit_log.add_exchange(b, F(start), F(start + 6))
        b = edit_log.change_exchange(b, b.exchanges[-1].id, technique=technique)
    return b


@pytest.mark.parametrize("name", list(forms()))
def test_every_form_lays_out_every_exchange_once_and_compiles(name: str) -> None:
    b = checked(lay_out(logged(), name))
    assert sorted(s.exchange for s in b.script if s.exchange) == sorted(x.id for x in b.exchanges)
    assert b.style in house_styles() and b.script[-1].part is Part.CREDITS
    p = compile_programme(b, {})
    assert p.frames > 0 and p.chapters[0].start == 0
    assert lay_out(b, name) == b


def test_chapters_are_made_for_each_exchange_round_or_technique() -> None:
    titles = {name: [s.title for s in lay_out(logged(), name).script if s.exchange] for name in forms()}
    assert titles["match study"] == ["Knee slide", "Armbar", "Knee slide", "Toe hold"]
    assert titles["rounds"] == ["Round 1", "", "Round 2", ""]
    assert titles["themed set"] == ["Armbar", "Knee slide", "", "Toe hold"]


def test_a_guest_gets_a_voice_of_their_own_and_one_clip_is_shown_before_and_after() -> None:
    guest = lay_out(logged(), "guest")
    assert len(guest.narrators) == 2
    asked = (BeatKind.OPTION, BeatKind.QUESTION)
    assert {x.narrator for _, x in guest.beats() if x.kind in asked} == {guest.narrators[1].id}
    clip = lay_out(logged(), "one clip")
    assert all(s.show_first and s.once_more for s in clip.script if s.exchange)


def test_what_is_written_stays_and_an_unknown_form_is_named() -> None:
    b = edit_script.add_section(logged(), title="Mine", exchange="x1")
    b = edit_script.add_beat(b, b.script[0].id, "Words of my own.")
    laid = lay_out(b, "match study")
    assert [s for s in laid.script if s.title == "Mine"] == [b.script[0]]
    assert sum(s.exchange == "x1" for s in laid.script) == 1
    with pytest.raises(DocumentError, match="match study"):
        lay_out(replace(b, title="x"), "feature film")


def test_what_somebody_wrote_is_never_given_to_another_voice() -> None:
    b = edit_script.add_section(logged(), title="Mine", exchange="x1")
    b = edit_script.add_beat(b, b.script[0].id, "He could have hipped out.", kind=BeatKind.OPTION)
    laid = lay_out(b, "guest")
    mine = next(x for _, x in laid.beats() if x.text == "He could have hipped out.")
    assert mine.narrator == "" and laid.narrator(mine) == b.narrators[0]


def test_a_tournament_run_has_a_result_card_after_each_match() -> None:
    b = checked(lay_out(logged(), "tournament run"))
    titles = [s.title for s in b.script if s.part is Part.TALK and not s.exchange]
    assert titles == ["Round 1: result", "Round 2: result"]
    places = [s.title or s.exchange for s in b.script if s.part is Part.TALK]
    assert places.index("Round 1: result") < places.index("Round 2")


def test_a_review_says_what_each_wants_and_what_to_drill() -> None:
    b = lay_out(logged(), "student review")
    kinds = [x.kind for x in next(s for s in b.script if s.exchange).beats]
    assert kinds == [BeatKind.WANTS, BeatKind.SLIP, BeatKind.OPTION, BeatKind.DEMONSTRATION]
