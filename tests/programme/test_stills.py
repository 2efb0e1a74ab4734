"""A picture that stands for more than eight seconds with nothing drawn on it is reported, with ways out that work."""

from fractions import Fraction

import pytest
from msgspec.structs import replace

from chapto.clock.passage import Kind
from chapto.document import edit_marks, edit_script
from chapto.document.bout import Exchange
from chapto.document.breakdown import Breakdown
from chapto.document.checks import checked
from chapto.document.mark_kinds import MarkKind
from chapto.document.marks import Until
from chapto.document.treatments import Hold
from chapto.pacing.fitted import Lack, Shortfall
from chapto.programme.compile import compile_programme
from chapto.programme.placed import TieState
from chapto.programme.ways.best_for_all import best_for_all
from chapto.programme.ways.find import ways_out
from tests.document.samples import small

F = Fraction
TALK = (
    "Watch this. The knee slides here, and now think about what he could have done, because there were three things "
    "that he had all the time in the world for, and the first one is the frame on her hip, which he gave up a second "
    "ago, and the second one is the knee that he could bring back inside, and the third one is to turn away from her "
    "and go to his knees, but he does none of them, and that is why she is past."
)


def talked() -> Breakdown:
    """Half a minute of talk on a moment that is held, 4 s into an exchange of 10 s."""
    return edit_script.treat(edit_script.rewrite(small(), "b1", TALK), "b1", Hold("m1"))


def crowded() -> Breakdown:
    """The same left to the fit, in an exchange of 5 s with another one right behind it."""
    b = edit_script.rewrite(small(), "b1", TALK)
    here, after = b.exchanges[0], Exchange(id="x2", start=F(15), end=F(20))
    return replace(b, exchanges=(replace(here, end=F(15)), after))


def still(b: Breakdown) -> list[Shortfall]:
    return [s for s in compile_programme(b, {}).shortfalls if s.lack is Lack.STILL]


def test_a_long_still_is_reported_where_it_begins_with_its_length() -> None:
    (found,) = still(talked())
    held = max(x.frames / F(30) for x in compile_programme(talked(), {}).passages if x.kind is Kind.HOLD)
    assert (found.beat, found.seconds) == ("b1", held)
    assert found.sentence == f"The picture stands for {float(held):.1f} s with nothing drawn on it."


def test_a_short_one_is_not() -> None:
    assert still(edit_script.treat(small(), "b1", Hold("m1"))) == []


def test_every_way_out_of_it_leads_out_and_keeps_the_words() -> None:
    b = crowded()
    (found,) = still(b)
    ways = ways_out(b, found, {}, most=9)
    assert {"again", "over and over", "to and fro"} <= {w.family for w in ways}
    for way in ways:
        changed = checked(way.change(b))
        assert found not in still(changed)
        p = compile_programme(changed, {})
        assert " ".join(w.text for w in p.words) == TALK
        assert all(t.state is TieState.MET for t in p.ties)


def test_the_best_for_all_is_one_act_and_leaves_none() -> None:
    b = edit_script.add_beat(crowded(), "s1", TALK)
    made = best_for_all(b, {})
    assert made.taken and not made.left and still(made.breakdown) == []
    assert best_for_all(made.breakdown, {}).taken == 0


def test_a_hold_that_was_set_by_hand_is_given_back_to_the_fit() -> None:
    b = edit_script.hold_at(edit_script.rewrite(small(), "b1", TALK), "b1", 5, F(20))
    (found,) = still(b)
    way = ways_out(b, found, {})[0]
    assert way.text == "Let the fit decide how long it is held" and found not in still(way.change(b))


@pytest.mark.parametrize("drawn", [True, False])
def test_what_is_drawn_on_it_makes_a_still_worth_looking_at(drawn: bool) -> None:
    b = edit_marks.put_anchor(talked(), "f1", F(14), (0.4, 0.5))
    if drawn:
        point = (b.anchors[0].id,)
        b = edit_marks.add_mark(b, MarkKind.GRIP, anchors=point, beat="b1", word=5, until=Until.BEAT)
    assert bool(still(checked(b))) != drawn
