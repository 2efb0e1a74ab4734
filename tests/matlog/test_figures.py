"""Figures of a bout, odd changes of position, and what is worth explaining."""

from fractions import Fraction
from pathlib import Path

from msgspec.structs import replace

from chapto.demo.story import demo_breakdown
from chapto.document.bout import Moment, MomentKind, Outcome
from chapto.document.people import Side
from chapto.lexicon.lexicon import shipped_lexicon
from chapto.matlog.attempts import Answer, answers, stalls, trend, tries
from chapto.matlog.exchange_ranking import WEIGHTS, worth_explaining
from chapto.matlog.jumps import unlikely_jumps
from chapto.matlog.ledger import ledger
from chapto.matlog.rules import shipped_rules
from tests.matlog.bouts import bout

LEXICON = shipped_lexicon()
F = Fraction
DEMO = demo_breakdown(Path.cwd())
BOUT = DEMO.rounds[0]


def test_tries_of_one_technique_are_one_row_whatever_it_is_called() -> None:
    renamed = replace(
        DEMO, exchanges=tuple(replace(x, technique="Knee cut") if x.id == "x3" else x for x in DEMO.exchanges)
    )
    first = tries(renamed, LEXICON, BOUT)[0]
    assert (first.side, first.technique, first.count) == (Side.FIRST, "knee slide", 2)
    assert first.by_outcome == {Outcome.STOPPED: ("x2",), Outcome.LANDED: ("x3",)}


def test_the_answer_to_the_first_knee_slide_is_the_frame() -> None:
    found = {a.exchange: float(a.seconds) for a in answers(DEMO, BOUT)}
    assert found["x2"] == 3.6


def test_the_trend_of_answers_is_a_straight_line_through_them() -> None:
    rows = [Answer("x", "m", F(60 * i), F(2) + F(i, 2)) for i in range(4)]
    slope = trend(rows)
    assert slope is not None and abs(slope - 0.5) < 1e-9
    assert trend(rows[:2]) is None


def test_the_longest_stall_is_where_nothing_changes_and_never_inside_an_exchange() -> None:
    found = stalls(DEMO, BOUT)
    assert (found[0].start, found[0].end) == (F("41.4"), F("66.5"))
    assert all(not (x.start <= s.start and s.end <= x.end) for s in found for x in DEMO.exchanges)


def test_odd_changes_are_questioned_and_usual_ones_are_not() -> None:
    assert len(unlikely_jumps(bout("mt 1 9, st - 9"), LEXICON)) == 1
    assert "mount straight to standing" in unlikely_jumps(bout("mt 1 9, st - 9"), LEXICON)[0].sentence
    assert len(unlikely_jumps(bout("bk 1 9, cg 1 9"), LEXICON)) == 1
    assert unlikely_jumps(bout("bk 1 9, cg 2 9"), LEXICON) == ()
    assert unlikely_jumps(DEMO, LEXICON) == ()


def test_the_finish_and_the_two_knee_slides_are_worth_explaining() -> None:
    found = worth_explaining(DEMO, LEXICON, ledger(DEMO, LEXICON, shipped_rules()["positional"], BOUT))
    assert [w.exchange.id for w in found[:2]] == ["x7", "x3"]
    assert "the same was tried again and ended otherwise" in next(w for w in found if w.exchange.id == "x2").reasons
    assert found[-1].exchange.id == "x5" and found[-1].score == 0


def test_a_flag_and_the_weights_change_the_order() -> None:
    flagged = replace(DEMO, moments=(*DEMO.moments, Moment(id="mm", at=F(180), kind=MomentKind.LATER)))
    rows = ledger(DEMO, LEXICON, shipped_rules()["positional"], BOUT)
    assert worth_explaining(flagged, LEXICON, rows, weights={**WEIGHTS, "come back": 99})[0].exchange.id == "x5"
    lively = worth_explaining(DEMO, LEXICON, rows, activity={"x5": 2.0}, weights={"lively": 1.0})
    assert [w.exchange.id for w in lively if w.score > 0] == ["x5"]
