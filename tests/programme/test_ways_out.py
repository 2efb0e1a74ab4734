"""Every way out that is offered leads out: applied, the shortfall is gone and nothing else is worse."""

from fractions import Fraction
from pathlib import Path

import pytest
from msgspec.structs import replace

from chapto.clock.passage import Kind
from chapto.demo.story import demo_breakdown
from chapto.document import edit_breakdown, edit_log, edit_pacing, edit_script
from chapto.document.bout import Exchange
from chapto.document.breakdown import Breakdown
from chapto.document.checks import checked
from chapto.document.script import words_of
from chapto.document.treatments import Hold, TextCard
from chapto.pacing.fitted import Lack, Shortfall
from chapto.programme.compile import compile_programme
from chapto.programme.placed import TieState
from chapto.programme.ways.find import ways_out
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
    assert len(late) >= 4
    for shortfall in late:
        ways = ways_out(hurried, shortfall, {})
        assert 2 <= len(ways) <= 3 and [w.cost for w in ways] == sorted(w.cost for w in ways)
        for way in ways:
            changed = checked(way.change(hurried))
            after = lacking(changed, Lack.LATE)
            # A cut before the late word leaves it further to the front.
            cut = sum(
                len(words_of(x.text)) - len(words_of(y.text))
                for (_, x), (_, y) in zip(hurried.beats(), changed.beats(), strict=True)
                if x.id == shortfall.beat
            )
            assert (shortfall.beat, shortfall.word - cut) not in {(s.beat, s.word) for s in after}
            assert sum(s.seconds for s in after) < sum(s.seconds for s in late)


def test_a_clause_is_cut_with_as_many_words_as_the_picture_lacks(hurried: Breakdown) -> None:
    shortfall = next(s for s in lacking(hurried, Lack.LATE) if s.beat == "b11")
    cut = next(w for w in ways_out(hurried, shortfall, {}) if w.text.startswith("Cut"))
    assert cut.text == "Cut “same leg” (2 words)"
    before, after = (sum(x.text.count("same leg") for _, x in b.beats()) for b in (hurried, cut.change(hurried)))
    assert after == before - 1


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
        assert len(ways) == 3
        assert ways[-1].asks and len(way_beats(ways[-1].change(b))) == len(way_beats(b)) + 1
        for way in ways[:-1]:
            assert shortfall.word not in {s.word for s in lacking(way.change(b), Lack.SILENT)}


def way_beats(b: Breakdown) -> list[str]:
    return [beat.id for _, beat in b.beats()]


def test_a_long_silence_in_a_slow_study_can_run_at_full_speed() -> None:
    b = edit_log.change_exchange(edit_breakdown.set_style(small(), "half-speed study"), "x1", end=F("20.5"))
    (silent,) = [s for s in lacking(b, Lack.SILENT) if s.word == 9]
    ways = ways_out(b, silent, {}, most=9)
    fast = next(w for w in ways if w.family == "1×")
    p = compile_programme(checked(fast.change(b)), {})
    assert p.passages[-1].rate == 1 and p.seconds < compile_programme(b, {}).seconds - 4


def test_a_tie_at_the_very_end_of_a_file_is_met_and_one_that_nobody_filmed_is_reported() -> None:
    end = small().footage[0].mat_out
    b = edit_log.change_exchange(edit_log.change_moment(small(), "m1", at=end), "x1", start=end - 8, end=end)
    p = compile_programme(b, {})
    assert [t.state for t in p.ties] == [TieState.MET] and lacking(b, Lack.UNFILMED) == []
    later = edit_log.change_moment(small(), "m1", at=end + 3)
    later = edit_log.change_exchange(later, "x1", start=end - 8, end=end + 4)
    (unseen,) = lacking(later, Lack.UNFILMED)
    assert [w.text for w in ways_out(later, unseen, {})] == ["Untie “here”"]


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


def test_what_is_cut_carries_no_tie_and_never_empties_a_beat(hurried: Breakdown) -> None:
    cuts = 0
    for shortfall in lacking(hurried, Lack.LATE):
        for way in ways_out(hurried, shortfall, {}, most=9):
            if way.family != "cut":
                continue
            cuts += 1
            after = way.change(hurried)
            for (_, before), (_, now) in zip(hurried.beats(), after.beats(), strict=True):
                tied = [words_of(before.text)[t.word].strip(".,") for t in before.ties]
                assert [words_of(now.text)[t.word].strip(".,") for t in now.ties] == tied
                assert words_of(now.text) or not words_of(before.text)
    assert cuts >= 3


def test_a_beat_that_is_one_phrase_is_not_cut_whole() -> None:
    b = edit_breakdown.set_style(small("So that is where the knee slides past him here."), "run-through")
    b = edit_log.change_moment(b, "m1", at=F(11))
    b = edit_script.tie_word(b, "b1", 9, "m1")
    for shortfall in lacking(b, Lack.LATE):
        for way in ways_out(b, shortfall, {}, most=9):
            assert words_of(way.change(b).beats()[0][1].text if way.family == "cut" else "kept")


def test_holding_longer_counts_all_that_has_come_about_before_in_the_same_section(hurried: Breakdown) -> None:
    """The second late word of a section is only reached if the first one's lack is held too."""
    by_section: dict[str, list[Shortfall]] = {}
    for s in lacking(hurried, Lack.LATE):
        by_section.setdefault(hurried.find_beat(s.beat)[0].id, []).append(s)
    several = [found for found in by_section.values() if len(found) > 1]
    assert several
    offered = 0
    for first, second, *_ in several:
        hold = next((w for w in ways_out(hurried, second, {}, most=9) if w.family == "hold"), None)
        if hold is not None:
            offered += 1
            seconds = float(hold.text.split()[3])
            assert seconds >= max(float(first.granted + second.granted) - 0.05, float(second.granted))
    assert offered


@pytest.mark.slow
def test_the_exchange_once_more_is_left_out_where_the_video_gets_too_long(hurried: Breakdown) -> None:
    free = edit_breakdown.set_style(hurried, "stop-and-talk")
    enough = edit_breakdown.set_target(free, int(compile_programme(free, {}).seconds) + 3, limit=True)
    assert lacking(enough, Lack.LENGTH) == []
    offered = 0
    for section in (s for s in enough.script if s.exchange and not s.once_more):
        longer = edit_script.change_section(enough, section.id, once_more=True)
        for shortfall in lacking(longer, Lack.LENGTH):
            for way in ways_out(longer, shortfall, {}, most=9):
                if way.family == "once more" and longer.find_beat(shortfall.beat)[0].id == section.id:
                    offered += 1
                    assert way.change(longer) == enough
    assert offered >= 2


def test_what_is_left_at_the_end_is_measured_from_the_last_moment_whatever_the_order_of_the_ties() -> None:
    """The later moment is told first here; what is cut at the end may not reach into it."""
    b = edit_log.change_exchange(small("Look there. And where it began, here it was."), "x1", start=F(0), end=F(60))
    b = edit_log.change_moment(edit_log.change_moment(b, "m1", at=F(50)), "m2", at=F(5))
    b = edit_script.tie_word(edit_script.untie_word(b, "b1", 5), "b1", 1, "m1")
    b = edit_script.tie_word(b, "b1", 6, "m2")
    for shortfall in lacking(b, Lack.SILENT):
        for way in ways_out(b, shortfall, {}, most=9):
            for start, _ in way.change(b).script[0].skips:
                assert start >= 50 or way.family != "end"


def test_words_that_outlast_their_exchange_are_reported_and_given_something_to_look_at() -> None:
    """The next exchange begins right behind; the picture must not run into it unsaid."""
    text = "Watch this. The knee slides here, " + "and she is past and he has to turn away from her now, " * 14
    b = edit_script.rewrite(small(), "b1", text.strip())
    here, after = replace(b.exchanges[0], end=F(16)), Exchange(id="x2", start=F(16), end=F(20))
    b = edit_breakdown.set_style(replace(b, exchanges=(here, after)), "run-through")
    outlasting = lacking(b, Lack.BEYOND)
    assert [s.seconds > 8 for s in outlasting] == [True] and "outlast" in outlasting[0].sentence
    assert any(p.mat_out > 17 and p.kind is Kind.RUN for p in compile_programme(b, {}).passages)
    ways = ways_out(b, outlasting[0], {})
    assert ways
    for way in ways:
        assert outlasting[0] not in lacking(checked(way.change(b)), Lack.BEYOND)
    little = edit_script.rewrite(
        b, "b1", "Watch this. The knee slides here, and she is past and he turns away from her."
    )
    assert lacking(replace(little, exchanges=(here,)), Lack.BEYOND) == []


def test_a_section_can_have_a_house_style_of_its_own() -> None:
    b = edit_script.add_section(small(), title="Again", exchange="x1")
    b = edit_script.add_beat(b, b.script[1].id, "Slowly now, from the start to the end.")
    b = checked(edit_script.change_section(b, b.script[1].id, style="half-speed study"))
    p = compile_programme(b, {})
    first, second = p.sections
    rates = [{x.rate for x in p.passages if s.start <= x.watch_in < s.end} for s in (first, second)]
    assert 1 in rates[0] and 1 not in rates[1] and F(1, 2) in rates[1]
    unknown = edit_script.change_section(b, b.script[1].id, style="somebody's own")
    assert any("somebody's own" in s.sentence for s in compile_programme(unknown, {}).shortfalls)
