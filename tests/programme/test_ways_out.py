"""Every way out that is offered leads out: applied, the shortfall is gone and nothing else is worse."""

from fractions import Fraction
from pathlib import Path

import pytest

from chapto.demo.story import demo_breakdown
from chapto.document import edit_breakdown, edit_log, edit_pacing, edit_script
from chapto.document.breakdown import Breakdown
from chapto.document.checks import checked
from chapto.document.treatments import Hold, TextCard
from chapto.pacing.fitted import Lack, Shortfall
from chapto.programme.compile import compile_programme
from chapto.programme.ways_out import ways_out
from tests.document.samples import small

F = Fraction


def lacking(b: Breakdown, lack: Lack) -> list[Shortfall]:
    return [s for s in compile_programme(b, {}).shortfalls if s.lack is lack]


@pytest.fixture(scope="module")
def hurried(tmp_path_factory: pytest.TempPathFactory) -> Breakdown:
    """The demo told straight through: too many words for pictures that hardly stop."""
    return edit_breakdown.set_style(demo_breakdown(tmp_path_factory.mktemp("demo")), "run-through")


def test_each_of_three_ways_out_of_a_late_word_removes_it_and_the_cheapest_comes_first(hurried: Breakdown) -> None:
    late = lacking(hurried, Lack.LATE)
    assert len(late) > 4
    for shortfall in late:
        ways = ways_out(hurried, shortfall, {})
        assert 2 <= len(ways) <= 3 and [w.cost for w in ways] == sorted(w.cost for w in ways)
        for way in ways:
            after = lacking(checked(way.change(hurried)), Lack.LATE)
            assert (shortfall.beat, shortfall.word) not in {(s.beat, s.word) for s in after} or "Cut" in way.text
            assert sum(s.seconds for s in after) < sum(s.seconds for s in late)


def test_a_clause_is_cut_with_as_many_words_as_the_picture_lacks(hurried: Breakdown) -> None:
    shortfall = next(s for s in lacking(hurried, Lack.LATE) if s.beat == "b10")
    cut = next(w for w in ways_out(hurried, shortfall, {}) if w.text.startswith("Cut"))
    assert cut.text == "Cut “same leg” (2 words)"
    text = cut.change(hurried).find_beat("b10")[1].text
    assert text.startswith("Fifteen seconds later, same side. This time the underhook")


def test_a_moment_that_is_gone_is_reached_by_going_again_holding_or_saying_it_sooner() -> None:
    b = edit_log.change_moment(edit_script.tie_word(small(), "b1", 3, "m1"), "m1", at=F(15))
    b = edit_script.tie_word(edit_log.change_moment(b, "m2", at=F(13)), "b1", 8, "m2")
    past = lacking(b, Lack.PAST)
    assert [s.word for s in past] == [8]
    ways = ways_out(b, past[0], {})
    assert ways
    for way in ways:
        assert lacking(way.change(b), Lack.PAST) == []


@pytest.mark.parametrize("treatment", [Hold("m2"), TextCard("Frames")])
def test_a_word_said_over_another_picture_is_given_its_own(treatment: Hold | TextCard) -> None:
    b = edit_script.treat(edit_log.change_moment(small(), "m2", at=F(13)), "b1", treatment)
    elsewhere = lacking(b, Lack.ELSEWHERE)
    assert elsewhere
    ways = ways_out(b, elsewhere[0], {})
    assert "Let the fit decide here" in [w.text for w in ways]
    for way in ways:
        assert lacking(way.change(b), Lack.ELSEWHERE) == []


def test_a_long_silence_is_allowed_or_its_picture_skipped() -> None:
    b = edit_log.change_exchange(small(), "x1", start=F(-20), end=F(60))
    silent = lacking(b, Lack.SILENT)
    assert len(silent) == 2
    for shortfall in silent:
        ways = ways_out(b, shortfall, {})
        assert len(ways) == 2
        for way in ways:
            assert shortfall.word not in {s.word for s in lacking(way.change(b), Lack.SILENT)}


def test_a_limit_that_is_passed_is_moved_softened_or_met_with_fewer_words(hurried: Breakdown) -> None:
    free = edit_breakdown.set_style(hurried, "stop-and-talk")
    natural = compile_programme(free, {}).seconds
    tight = edit_breakdown.set_target(free, int(natural) - 1, limit=True)
    passed = lacking(tight, Lack.LENGTH)
    assert passed
    ways = ways_out(tight, passed[0], {})
    assert {w.text[:4] for w in ways} >= {"Take", "Let "}
    for way in ways:
        assert passed[0].beat not in {s.beat for s in lacking(way.change(tight), Lack.LENGTH)}


def test_what_is_allowed_and_skipped_can_be_taken_back() -> None:
    b = small()
    more = edit_pacing.allow_more(b, "s1", hold=F(1), rate=F(1, 4))
    assert edit_pacing.allow_nothing(more, "s1") == b
    skipped = edit_pacing.skip_span(edit_pacing.skip_span(b, "s1", F(11), F(12)), "s1", F(12), F(13))
    assert skipped.script[0].skips == ((F(11), F(13)),)
    assert edit_pacing.skip_nothing(skipped, "s1") == b


def test_no_way_out_of_what_belongs_to_no_beat(tmp_path: Path) -> None:
    b = edit_breakdown.set_style(demo_breakdown(tmp_path), "a style that is not here")
    assert ways_out(b, compile_programme(b, {}).shortfalls[0], {}) == ()
