"""The ledger against small bouts written by hand, and the properties any ledger has.

Points and the worked examples are common practice of positional rules; the three seconds, that knee on belly, mount
and back are not scored twice without losing control, and that a reversal is a sweep only from a guard, are from memory
of the usual positional rule books.
"""

from __future__ import annotations

from fractions import Fraction
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from chapto.demo.generate import POINTS
from chapto.demo.story import demo_breakdown
from chapto.document.bout_rules import CallKind, ClockStop, OvertimeTurn
from chapto.document.breakdown import Breakdown
from chapto.document.edit_positions import call, give_points, take_points_back
from chapto.document.people import Side
from chapto.lexicon.lexicon import shipped_lexicon
from chapto.matlog.control import control_times
from chapto.matlog.ledger import Ledger, ledger
from chapto.matlog.overtime import overtime
from chapto.matlog.rules import MatlogError, rule_set, shipped_rules
from tests.matlog.bouts import SHORT, SIDES, bout

LEXICON = shipped_lexicon()
F = Fraction


def kept(b: Breakdown, rules: str = "positional") -> Ledger:
    return ledger(b, LEXICON, rule_set(rules, shipped_rules()))


BOUTS = [
    # what, bout, points of first and second
    ("nothing happens", "st - 60", (0, 0)),
    ("a takedown into the guard from the leg", "st - 10, leg 1 2, cg 1 20", (2, 0)),
    ("a takedown held 2.9 s", "st - 10, leg 1 2, cg 1 2.9, st - 20", (0, 0)),
    ("a takedown held exactly 3 s", "st - 10, leg 1 2, cg 1 3, st - 20", (2, 0)),
    ("the back taken from the guard is no sweep", "cg 2 20, bk 1 10", (4, 0)),
    ("the back taken while passing is no pass", "og 1 10, ld 1 3, bk 1 10", (4, 0)),
    ("a standing front headlock is nothing", "st - 10, sfh 1 5, st - 10", (0, 0)),
    ("coming up in fifty-fifty is a sweep", "og 2 9, ff 2 9, ff 1 9", (2, 0)),
    ("standing up and sitting down again is nothing", "og 2 20, st - 2, og 2 10", (0, 0)),
    ("knee on belly off and on without leaving side control", "sc 1 5, kob 1 4, sc 1 4, kob 1 4", (2, 0)),
    ("one hook, then both for less than three seconds", "hook 1 5, bk 1 2.5, tt 1 9", (0, 0)),
    ("turtling away from a pass", "og 1 10, tt 1 5, sc 1 9", (0, 0)),
    ("pass, knee on belly, mount", "cg 1 10, sc 1 5, kob 1 4, mt 1 5", (9, 0)),
    ("two seconds of half guard on the way of a sweep", "cg 2 20, hg 1 2, sc 1 10", (2, 0)),
    ("two seconds of half guard take no mount away", "mt 1 9, hg 1 2, mt 1 9", (4, 0)),
    ("a sweep after an arm bar attacked from the guard", "cg 2 20, web 1 6, sc 1 9", (2, 0)),
    ("coming up whatever short position lies between", "og 2 9, st - 2, cg 1 9", (2, 0)),
    ("a takedown straight into side control is no pass", "st - 10, sc 1 10", (2, 0)),
    ("a takedown straight into mount counts mount too", "st - 10, mt 1 10", (6, 0)),
    ("a takedown finished from the leg", "st - 5, leg 1 4, sc 1 10", (2, 0)),
    ("a takedown through a scramble", "st - 5, sm - 2, hg 2 8", (0, 2)),
    ("starting in the guard earns nothing", "cg 1 30", (0, 0)),
    ("a sweep", "cg 1 20, cg 2 10", (0, 2)),
    ("sweep then back control is 6 (facts of the trade)", "cg 2 20, sc 1 10, bk 1 10", (6, 0)),
    ("a sweep held 2.9 s", "cg 1 20, mt 2 2.9, cg 1 10", (0, 0)),
    ("a sweep straight into mount", "hg 1 20, mt 2 10", (0, 6)),
    ("a sweep through a scramble", "og 1 20, sm - 3, og 2 10", (0, 2)),
    ("a reversal from side control is no sweep", "sc 1 20, sc 2 10", (0, 0)),
    ("a reversal from mount is no sweep", "mt 1 20, cg 2 10", (4, 0)),
    ("a reversal from turtle is no sweep", "tt 1 20, sc 2 10", (0, 0)),
    ("a bottom player who turtles the other has not swept yet", "og 2 20, tt 1 10", (0, 0)),
    ("a pass", "og 1 20, sc 1 5", (3, 0)),
    ("a pass held 2.9 s", "og 1 20, sc 1 2.9, og 1 5", (0, 0)),
    ("a pass kept through two positions", "og 1 20, sc 1 2, kob 1 2, og 1 9", (3, 0)),
    ("a pass straight to knee on belly", "og 1 20, kob 1 5", (5, 0)),
    ("a pass straight to mount", "hg 1 20, mt 1 5", (7, 0)),
    ("side control to north-south is nothing new", "og 1 9, sc 1 9, ns 1 9, sc 1 9", (3, 0)),
    ("passing again after the guard is back", "og 1 9, sc 1 4, og 1 4, sc 1 4", (6, 0)),
    ("mount left and regained without losing control", "sc 1 5, mt 1 5, sc 1 5, mt 1 5", (4, 0)),
    ("mount lost to half guard and won again", "mt 1 5, hg 1 5, mt 1 5", (11, 0)),
    ("mount after a scramble too short to get out", "mt 1 5, sm - 2, mt 1 5", (4, 0)),
    ("mount after the other stood up", "mt 1 5, st - 5, mt 1 5", (10, 0)),
    ("mount reached from the back", "bk 1 5, mt 1 5", (8, 0)),
    ("the body triangle is the same back", "bk 1 5, bt 1 5", (4, 0)),
    ("knee on belly, mount, back in one go", "sc 1 5, kob 1 4, mt 1 4, bk 1 4", (10, 0)),
    ("both in one scramble", "og 1 9, sm - 1, og 2 4, sm - 1, og 1 4", (2, 2)),
    ("2.5 s each in a scramble", "og 1 9, sm - 1, og 2 2.5, sm - 1, og 1 2.5", (0, 0)),
    ("tangled legs are nobody's top", "og 2 9, ashi 1 9, og 2 9", (0, 0)),
    ("coming up out of tangled legs from the guard", "og 2 9, ashi 1 9, og 1 9", (2, 0)),
    ("an unlogged stretch between guard and pass", "og 1 9, ? 4, sc 1 9", (3, 0)),
    ("the bell ends a position too early", "og 1 9, sc 1 2", (0, 0)),
    (
        "takedown, swept, swept back, pass, swept at the bell ends 7–4 (facts of the trade)",
        "st - 8, leg 1 1, cg 1 9, cg 2 9, cg 1 9, sc 1 9, og 1 9, cg 2 3",
        (7, 4),
    ),
]


@pytest.mark.parametrize(("what", "line", "points"), BOUTS, ids=[b[0] for b in BOUTS])
def test_bouts_written_by_hand(what: str, line: str, points: tuple[int, int]) -> None:
    assert kept(bout(line)).derived_score() == points


def test_pulling_guard_gives_nothing_and_is_no_takedown_for_the_other() -> None:
    assert kept(bout("st - 10, cg 1 20", pull="2@10")).derived_score() == (0, 0)


def test_a_guard_pulled_with_a_leg_held_is_a_takedown_for_the_one_who_comes_up() -> None:
    found = kept(bout("st - 10, leg 1 3, cg 1 20", pull="2@13"))
    assert found.derived_score() == (2, 0)
    assert "had the leg when guard was pulled" in found.derived[0].reason


def test_in_the_half_time_rules_the_first_half_only_counts_penalties() -> None:
    rules = "half-time points"
    early = kept(bout("st - 9, leg 1 1, cg 1 20, sc 1 20"), rules)
    assert early.derived_score() == (0, 0) and [e.kind for e in early.derived] == ["takedown", "pass"]
    assert all("before half time" in e.reason for e in early.derived)
    assert kept(bout("st - 149, leg 1 1, cg 1 20, sc 1 20"), rules).derived_score() == (5, 0)
    assert kept(bout("st - 147, leg 1 1, cg 1 20"), rules).derived_score() == (2, 0)


@pytest.mark.parametrize(
    ("line", "pull", "points"),
    [
        ("st - 160, sc 1 10", "", (4, 0)),
        ("hg 2 160, mt 1 10", "", (6, 0)),
        ("st - 10, cg 1 20", "2@10", (0, 0)),
        ("st - 200, cg 1 20", "2@200", (0, -1)),
    ],
)
def test_the_half_time_rules_by_example(line: str, pull: str, points: tuple[int, int]) -> None:
    """From memory of the usual submission-grappling rule book: past the guard is worth four, and who pulls guard in
    the half that counts loses one."""
    assert kept(bout(line, pull=pull), "half-time points").derived_score() == points


def test_a_stopped_clock_moves_half_time() -> None:
    b = bout("st - 154, leg 1 1, cg 1 20")
    assert kept(b, "half-time points").derived_score() == (2, 0)
    stopped = replace(b, ruling=replace(b.ruling, stops=(ClockStop(start=F(20), end=F(40)),)))
    assert kept(stopped, "half-time points").derived_score() == (0, 0)


def test_submission_only_has_no_points() -> None:
    assert kept(bout("st - 9, mt 1 9, bk 1 9"), "submission only").derived == ()


def test_the_referees_word_wins_where_it_contradicts_and_differences_are_said() -> None:
    b = bout("st - 9, leg 1 1, cg 1 20, sc 1 20")
    b = give_points(give_points(b, F(14), Side.FIRST, 2), F(60), Side.SECOND, 2)
    found = kept(b)
    assert found.derived_score() == (5, 0) and found.score() == (5, 2)
    assert [float(d.at) for d in found.differences] == [33.0, 60.0]
    assert "passed the guard" in found.differences[0].sentence and "does not show why" in found.differences[1].sentence
    assert kept(take_points_back(take_points_back(b, "g1"), "g2")).differences == ()
    waved_off = kept(give_points(b, F(33), Side.FIRST, 0))
    assert waved_off.score() == (2, 2) and "The referee gave 0" in waved_off.differences[0].sentence
    fewer = kept(give_points(b, F(33), Side.FIRST, 2))
    assert fewer.score() == (4, 2) and "gave 2; the log has 3 for pass" in fewer.differences[0].sentence


def test_a_penalty_never_switches_the_logs_own_points_off() -> None:
    b = bout("st - 9, leg 1 1, cg 1 20")
    found = kept(give_points(b, F(14), Side.SECOND, -1))
    assert found.derived_score() == (2, 0) and found.score() == (2, -1)
    assert kept(give_points(b, F(14), Side.FIRST, -1)).score() == (1, 0)


def test_coming_on_top_from_standing_without_a_takedown_in_the_log_is_asked_about() -> None:
    found = kept(bout("st - 10, og 1 20"))
    assert found.derived_score() == (0, 0)
    (question,) = found.questions
    assert question.at == 10 and "a takedown, or did the other sit?" in question.sentence
    assert kept(bout("st - 10, og 1 20", takedown="1@10")).derived_score() == (2, 0)
    assert kept(bout("st - 10, og 1 20", takedown="1@10")).questions == ()
    assert kept(bout("og 2 20, st - 2, og 2 10")).questions == ()


def test_where_both_pulled_guard_nobody_is_penalised_or_taken_down() -> None:
    for rules in ("positional", "half-time points"):
        found = kept(bout("st - 200, both - 4, og 1 20", pull="-@200"), rules)
        assert found.derived_score() == (0, 0) and found.questions == ()


def test_advantages_penalties_and_near_submissions_have_columns_of_their_own() -> None:
    """Warning, advantage to the other, two points to the other, out: from memory of the usual positional rule books."""
    b = bout("st - 9, leg 1 1, cg 1 60")
    b = call(call(b, F(12), Side.FIRST, CallKind.ADVANTAGE), F(25), Side.FIRST, CallKind.EDGE)
    b = call(b, F(20), Side.SECOND, CallKind.NEAR_SUBMISSION)
    for at in (30, 40, 50, 60):
        b = call(b, F(at), Side.FIRST, CallKind.PENALTY)
    found = kept(b)
    assert found.score(F(45)) == (2, 0) and found.score() == (2, 2)
    assert found.advantages(F(35)) == (1, 0) and found.advantages() == (1, 1)
    assert found.count(CallKind.PENALTY) == (4, 0) and found.count(CallKind.NEAR_SUBMISSION) == (0, 1)
    assert [c.out for c in found.consequences] == [False, False, False, True]
    assert [c.sentence for c in found.consequences][1] == "Penalty 2: an advantage to the other."
    assert found.differences == ()


def test_what_the_editions_differ_in_is_data() -> None:
    usual = rule_set("positional", shipped_rules())
    sweep = bout("og 2 20, tt 1 10")
    triangle, back = bout("og 1 9, sc 1 4, bt 1 9"), bout("st - 10, bk 1 9")
    assert ledger(sweep, LEXICON, replace(usual, sweep_to_turtle=True)).derived_score() == (2, 0)
    assert ledger(triangle, LEXICON, usual).derived_score() == (7, 0)
    assert ledger(triangle, LEXICON, replace(usual, body_triangle_is_back=False)).derived_score() == (3, 0)
    assert ledger(back, LEXICON, usual).derived_score() == (6, 0)
    assert ledger(back, LEXICON, replace(usual, takedown_to_back=False)).derived_score() == (4, 0)
    assert all(rules.edition for rules in shipped_rules().values())


lines = st.lists(
    st.tuples(st.sampled_from(list(SHORT)), st.sampled_from("12-"), st.integers(1, 12)), min_size=1, max_size=14
).map(lambda parts: ", ".join(f"{k} {'-' if k in ('st', 'sm') else s} {n}" for k, s, n in parts))


@given(lines)
def test_the_score_is_the_sum_of_its_entries_and_every_entry_was_held(line: str) -> None:
    found = kept(bout(line))
    for side, total in zip(Side, found.derived_score(), strict=True):
        assert total == sum(e.points for e in found.derived if e.side is side and e.counts)
    assert all(e.end - e.start >= 3 and e.at == e.start + 3 and e.reason.endswith(".") for e in found.derived)


@given(lines)
def test_swapping_the_athletes_swaps_the_ledger(line: str) -> None:
    b = bout(line)
    turned = {Side.FIRST: Side.SECOND, Side.SECOND: Side.FIRST, None: None}
    swapped = replace(b, positions=tuple(replace(p, top=turned[p.top]) for p in b.positions))
    assert kept(swapped).derived_score() == kept(b).derived_score()[::-1]


@given(lines, st.integers(1, 4000))
def test_shifting_time_shifts_nothing_else(line: str, shift: int) -> None:
    here, there = kept(bout(line)), kept(bout(line, start=shift))
    assert [(e.kind, e.side, e.points, e.at + shift) for e in here.derived] == [
        (e.kind, e.side, e.points, e.at) for e in there.derived
    ]


@given(lines)
def test_control_times_add_up_to_the_round_less_what_is_unsure(line: str) -> None:
    b = bout(line)
    times = control_times(b, LEXICON, b.rounds[0])
    held = sum((times.total(side) for side in Side), F(0))
    assert held + times.neutral + times.unsure == b.rounds[0].end - b.rounds[0].start


def test_control_goes_to_the_part_that_controls_in_each_position() -> None:
    b = bout("st - 10, hg 1 20, cg 1 5, sc 2 7, ? 3")
    times = control_times(b, LEXICON, b.rounds[0])
    assert times.held[SIDES["1"]] == {"half-guard": 20} and times.held[SIDES["2"]] == {"side-control": 7}  # type: ignore[index]
    assert (times.neutral, times.unsure) == (15, 3)


def test_the_demo_log_scores_what_the_board_in_the_footage_shows() -> None:
    """What the generator paints on its clock board, at every change of it."""
    b = demo_breakdown(Path.cwd())
    found = ledger(b, LEXICON, rule_set(b.ruling.rules, shipped_rules()), b.rounds[0])
    assert found.derived_score() == found.score() == POINTS[-1][1]
    for (since, shown), (until, _) in zip(POINTS, [*POINTS[1:], (float(b.rounds[0].end), None)], strict=True):
        assert found.score(F(since + 0.5)) == found.score(F(until - 0.5)) == shown
    assert found.differences == ()
    covered = control_times(b, LEXICON, b.rounds[0])
    assert covered.unsure == 0


def test_unknown_rules_are_refused_with_the_known_ones() -> None:
    with pytest.raises(MatlogError, match="There is no rule set “unheard of”; there are positional"):
        rule_set("unheard of", shipped_rules())


TURNS = st.lists(st.tuples(st.sampled_from(list(Side)), st.integers(1, 60), st.booleans()), max_size=8)


def turns(*rows: tuple[Side, int, bool]) -> tuple[OvertimeTurn, ...]:
    return tuple(
        OvertimeTurn(attacker=side, start=F(100 * i), end=F(100 * i + length), finished=done)
        for i, (side, length, done) in enumerate(rows)
    )


def test_overtime_is_settled_by_finish_then_by_riding_time() -> None:
    """Common practice of submission-only bouts."""
    one, two = Side.FIRST, Side.SECOND
    assert overtime(turns((one, 20, False), (two, 9, False))).ahead is one
    assert overtime(turns((one, 20, False), (two, 9, True))).ahead is two
    assert overtime(turns((one, 20, True), (two, 9, True))).ahead is two
    assert overtime(turns((one, 20, False))).ahead is None
    assert overtime(turns((one, 20, False), (two, 20, False))).ahead is None
    assert overtime(()).sentence == "No turn was logged."


@given(TURNS)
def test_swapping_sides_swaps_overtime(rows: list[tuple[Side, int, bool]]) -> None:
    other = {Side.FIRST: Side.SECOND, Side.SECOND: Side.FIRST}
    here = overtime(turns(*rows)).ahead
    there = overtime(turns(*((other[side], length, done) for side, length, done in rows))).ahead
    assert there == (other[here] if here else None)


@pytest.mark.parametrize(("given_at", "differ"), [(4, 2), (6, 0), (14, 0), (21, 0), (23, 2)])
def test_the_referees_points_are_the_logs_own_within_eight_seconds_before_or_after(given_at: int, differ: int) -> None:
    """The takedown counts at 13 s, three seconds after it lands; eight seconds are common practice."""
    b = give_points(bout("st - 9, leg 1 1, cg 1 50"), F(given_at), Side.FIRST, 2)
    assert len(kept(b).differences) == differ


def test_finishes_are_compared_only_within_a_pair_of_turns() -> None:
    """The first finishes in the first pair and the second in the next: the first pair has decided."""
    one, two = Side.FIRST, Side.SECOND
    rows = ((one, 30, True), (two, 40, False), (one, 50, False), (two, 5, True))
    assert overtime(turns(*rows)).ahead is one
    both = ((one, 9, True), (two, 9, True), (one, 60, False), (two, 20, False))
    assert overtime(turns(*both)).ahead is one and "Riding time" in overtime(turns(*both)).sentence


def test_overtime_says_what_decides_it() -> None:
    one, two = Side.FIRST, Side.SECOND
    assert "Riding time" in overtime(turns((one, 20, False), (two, 9, False))).sentence
    assert "quicker finish" in overtime(turns((one, 20, True), (two, 9, True))).sentence
    assert "not answered" in overtime(turns((one, 20, False), (two, 9, True))).sentence
    assert "equally long" in overtime(turns((one, 9, False), (two, 9, False))).sentence
    assert "still to come" in overtime(turns((one, 9, False))).sentence
