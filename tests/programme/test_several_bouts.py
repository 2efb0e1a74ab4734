"""Rounds with athletes of their own: one breakdown of several bouts."""

from fractions import Fraction

from msgspec.structs import replace

from chapto.document import edit_log, edit_script
from chapto.document.bout import Round
from chapto.document.breakdown import Breakdown
from chapto.document.checks import checked
from chapto.document.people import Athlete, Side
from chapto.paint.score import ScoreStrip
from chapto.programme.compile import compile_programme
from chapto.programme.knowledge import shipped_knowledge
from tests.document.samples import small

F = Fraction


def two_bouts() -> Breakdown:
    """The small document and a second bout, of two others, from 30 s on."""
    rounds = (
        Round(id="r1", name="Bout 1", start=F(0), end=F(25)),
        Round(id="r2", name="Bout 2", start=F(30), end=F(58)),
    )
    b = replace(small(), rounds=rounds, first=Athlete(name="Wren"), second=Athlete(name="Moss", kit_colour="#3AA6B5"))
    b = edit_log.add_exchange(b, F(32), F(40))
    b = edit_script.add_beat(edit_script.add_section(b, title="The other", exchange="x2"), "s2", "Another pair now.")
    b = edit_log.change_athlete(b, Side.FIRST, "r2", name="Ilse Harrow", kit_colour="#8E6BB0")
    return checked(edit_log.change_athlete(b, Side.SECOND, "r2", name="Odo Penn"))


def test_who_is_who_depends_on_the_round() -> None:
    b = two_bouts()
    assert [b.athlete(Side.FIRST, at).name for at in (F(12), F(35), F(27), None)] == [
        "Wren",
        "Ilse Harrow",
        "Wren",
        "Wren",
    ]
    assert b.athlete(Side.SECOND, F(35)).kit_colour == "#3AA6B5"


def test_each_pair_is_named_when_it_is_first_seen_in_its_own_colours() -> None:
    b = two_bouts()
    p = compile_programme(b, {})
    named = [(n.name, n.colour) for n in p.names if n.side is Side.FIRST]
    assert named == [("Wren", "#E3A33A"), ("Ilse Harrow", "#8E6BB0")]
    second = next(s for s in p.sections if s.section == "s2")
    assert all(second.start <= n.start < n.end <= second.end for n in p.names if "Harrow" in n.name or "Penn" in n.name)
    once = compile_programme(edit_script.move_section(b, "s2", -1), {})
    assert [n.name for n in once.names if n.side is Side.FIRST] == ["Ilse Harrow", "Wren"]


def test_the_score_strip_has_the_names_of_the_bout_on_the_screen(dressed: object) -> None:
    strip = ScoreStrip(two_bouts(), (1280, 720), shipped_knowledge())
    one, other = strip.at(F(12)), strip.at(F(35))
    assert one is not None and other is not None
    assert one[0] != other[0] and one[1].size() != other[1].size()
    assert strip.at(F(28)) is None
