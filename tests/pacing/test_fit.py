"""The fit: worked examples by hand, and what must hold for every input."""

import itertools
from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from chapto.clock.passage import Kind
from chapto.document.script import Allowance
from chapto.document.treatments import Again, Cutaway, Hold, Loop, Run, SideBySide, Skip, Slow, TextCard, Treatment
from chapto.pacing.fit import fit
from chapto.pacing.fitted import FitBeat, FitExchange, Fitted, Lack, Stop
from chapto.pacing.solver_terms import SHORTEST_SLOW, Wish
from chapto.pacing.spoken import SpokenLine
from chapto.pacing.styles import HouseStyle, allowing, house_styles

F = Fraction
TALK, RUN = (
    replace(house_styles()[name], hurry=F(0), linger=F(0)) for name in ("stop-and-talk", "run-through")
)  # fmt: skip
"""The worked examples are of a voice that keeps its pace."""
LEAD = TALK.lead_in


def line(*starts: float, end: float) -> SpokenLine:
    """Words that start at these seconds and touch each other."""
    edges = [F(str(s)) for s in (*starts, end)]
    return SpokenLine(tuple(itertools.pairwise(edges)), edges[-1])


def one_beat(
    voice: SpokenLine,
    *stops: tuple[int, float],
    style: HouseStyle = TALK,
    start: float = 0,
    end: float = 10,
    phrases: tuple[int, ...] = (0,),
    treatment: Treatment | None = None,
    hold_at: float | None = None,
) -> Fitted:
    """Fit a single beat; stops are (word, mat seconds)."""
    at = None if hold_at is None else F(str(hold_at))
    beat = FitBeat("b1", tuple(Stop(w, F(str(m))) for w, m in stops), phrases, treatment, at)
    return fit(FitExchange(F(str(start)), F(str(end)), (beat,)), {"b1": voice}, style)


def legs(fitted: Fitted) -> list[tuple[str, float, float, float]]:
    """(kind, mat in, rate, seconds)"""
    return [(x.kind.value, float(x.mat_in), float(x.rate), round(float(x.seconds), 6)) for x in fitted.legs]


def test_when_words_and_picture_already_meet_nothing_is_changed() -> None:
    got = one_beat(line(0, 3.6, end=5), (1, 4.0))
    assert legs(got) == [("run", 0, 1, 4), ("run", 4, 1, 6)]
    assert got.ties[0].said == got.ties[0].shown == 4


def test_a_little_missing_time_is_made_up_by_slowing_into_the_moment() -> None:
    """0.6 s are missing on a way of 4 s; at 0.75x each slowed second gains a third: 1.8 s are slowed."""
    got = one_beat(line(0, 4.2, end=4.8), (1, 4.0))
    assert legs(got)[:2] == [("run", 0, 1, 2.2), ("slow", 2.2, 0.75, 2.4)]
    assert got.ties[0].said == got.ties[0].shown == F("4.6")


def test_much_missing_time_is_held_on_the_moment() -> None:
    got = one_beat(line(0, 6.6, end=8), (1, 4.0))
    assert legs(got)[:2] == [("run", 0, 1, 4), ("hold", 4, 0, 3)]
    assert got.ties[0].said == got.ties[0].shown == 7


def test_after_a_moment_the_picture_holds_on_it_while_the_point_is_made() -> None:
    """After word 1 at 4 s come 5 s of words before word 2 at mat 6: the picture stands 3 s on 4, then runs."""
    got = one_beat(line(0, 3.6, 8.6, end=9.6), (1, 4.0), (2, 6.0), end=7)
    assert legs(got) == [("run", 0, 1, 4), ("hold", 4, 0, 3), ("run", 4, 1, 2), ("run", 6, 1, 1)]


def test_when_there_is_more_picture_than_words_the_voice_waits_before_the_phrase() -> None:
    got = one_beat(line(0, 1, 2, 3, end=4), (3, 8.0), phrases=(0, 2))
    waited = F(8) - LEAD - 3
    assert [(p.first, p.end) for p in got.phrases] == [(0, 2), (2, 4)]
    assert got.phrases[1].at == LEAD + 2 + waited
    assert got.ties[0].said == got.ties[0].shown == 8


def test_a_run_through_never_holds_longer_than_a_second_and_says_what_is_missing() -> None:
    got = one_beat(line(0, 12, end=13), (1, 4.0), style=RUN)
    assert legs(got)[:2] == [("slow", 0, 0.5, 8), ("hold", 4, 0, 1)]
    tie, short = got.ties[0], got.shortfalls[0]
    assert tie.shown == 9 and tie.said == F("12.3")
    assert short.seconds == F("3.3")
    assert "cut about" in short.sentence and "3.3 s" in short.sentence


def test_granting_the_shortfall_makes_the_tie_meet() -> None:

    short = one_beat(line(0, 12, end=13), (1, 4.0), style=RUN).shortfalls[0]
    roomy = replace(RUN, longest_hold=RUN.longest_hold + short.seconds)
    again = one_beat(line(0, 12, end=13), (1, 4.0), style=roomy)
    assert again.shortfalls == ()
    assert again.ties[0].said == again.ties[0].shown


def test_a_tie_to_something_already_gone_is_reported_not_hidden() -> None:
    got = one_beat(line(0, 3, 5, end=6), (1, 6.0), (2, 2.0))
    assert got.ties[1].shown is None
    assert "already 4.0 s past" in got.shortfalls[0].sentence


def test_what_is_chosen_by_hand_is_kept() -> None:
    assert legs(one_beat(line(0, end=4), treatment=Slow(F(1, 4))))[0][:3] == ("slow", 0, 0.25)
    held = one_beat(line(0, end=4), treatment=Hold("m1"), hold_at=3)
    assert ("hold", 3.0, 0.0, 4.0) in legs(held)
    ran = one_beat(line(0, end=12), treatment=Run(), end=5)
    assert {x[0] for x in legs(ran)} == {"run"} and ran.seconds >= 12


def test_going_again_jumps_back_and_runs_on_to_the_end() -> None:
    first = FitBeat("b1", (Stop(0, F(6)),), (0,))
    again = FitBeat("b2", (), (0,), Again(F(5), F(1, 2)))
    got = fit(FitExchange(F(0), F(10), (first, again)), {"b1": line(0, end=1), "b2": line(0, end=4)}, TALK)
    back = next(x for x in got.legs if x.kind is Kind.AGAIN)
    assert (back.mat_in, back.rate, back.seconds) == (1, F(1, 2), 4)
    assert got.legs[-1].mat_in + got.legs[-1].seconds == 10


def test_a_cutaway_shows_the_other_footage_and_comes_back_to_where_it_was() -> None:
    first = FitBeat("b1", (Stop(0, F(6)),), (0,))
    away = FitBeat("b2", (), (0,), Cutaway(F(100), F(1)))
    got = fit(FitExchange(F(0), F(10), (first, away)), {"b1": line(0, end=1), "b2": line(0, end=4)}, TALK)
    place = next(i for i, x in enumerate(got.legs) if x.kind is Kind.CUTAWAY)
    assert (got.legs[place].mat_in, got.legs[place].seconds) == (100, 4)
    assert got.legs[place + 1].mat_in == 6


def test_an_exchange_without_words_simply_runs() -> None:
    assert legs(fit(FitExchange(F(3), F(9), ()), {}, TALK)) == [("run", 3, 1, 6)]


def test_a_moment_on_the_very_last_instant_is_still_seen() -> None:
    got = one_beat(line(0, 9.6, end=10), (1, 10.0))
    assert got.legs[-1].mat_in == 10 and got.legs[-1].seconds > 0


# ── for every input ──────────────────────────────────────────────────────────────────────────────────────
LOOPS = (Loop(F(2), F(1, 2)), Loop(F(3), F(1), to_and_fro=True))
tenths = st.integers(0, 80).map(lambda n: F(n, 10))


@st.composite
def exchanges(draw: st.DrawFn) -> tuple[FitExchange, dict[str, SpokenLine]]:
    length = draw(st.integers(10, 200).map(lambda n: F(n, 10)))
    mats = sorted(draw(st.lists(st.integers(0, 100).map(lambda n: length * n / 100), min_size=6, max_size=6)))
    beats, voice = [], {}
    for i in range(draw(st.integers(1, 3))):
        gaps = draw(st.lists(st.integers(1, 30).map(lambda n: F(n, 10)), min_size=1, max_size=8))
        edges = [sum(gaps[:k], F(0)) for k in range(len(gaps) + 1)]
        voice[f"b{i}"] = SpokenLine(tuple(itertools.pairwise(edges)), edges[-1])
        words = sorted(draw(st.sets(st.integers(0, len(gaps) - 1), max_size=2)))
        stops = tuple(Stop(w, mats[2 * i + k]) for k, w in enumerate(words))
        phrases = tuple(sorted({0} | draw(st.sets(st.integers(0, len(gaps) - 1), max_size=2))))
        treatment = draw(st.sampled_from([None, None, None, Run(), Slow(F(1, 2)), Again(F(2), F(1, 2)), *LOOPS]))
        beats.append(FitBeat(f"b{i}", stops, phrases, treatment))
    return FitExchange(F(0), length, tuple(beats)), voice


@given(exchanges(), st.sampled_from(list(house_styles().values())))
def test_every_plan_keeps_its_constraints(case: tuple[FitExchange, dict[str, SpokenLine]], style: HouseStyle) -> None:
    exchange, voice = case
    got = fit(exchange, voice, style)
    assert got == fit(exchange, voice, style)
    assert sum(x.seconds for x in got.legs) == got.seconds
    assert all(p.until <= got.seconds for p in got.phrases)
    for before, after in zip(got.phrases, got.phrases[1:], strict=False):
        assert before.until <= after.at
    for beat in exchange.beats:
        assert sum(p.voice_out - p.voice_in for p in got.phrases if p.beat == beat.id) == voice[beat.id].seconds
    reported = {(s.beat, s.word) for s in got.shortfalls}
    for tie in got.ties:
        if (tie.beat, tie.word) not in reported:
            assert tie.shown is not None and 0 <= tie.said - tie.shown <= F(1, 25)
    allowed = {F(1), F(1, 2), *style.rates, style.base_rate}
    for leg in got.legs:
        assert leg.kind is Kind.HOLD or (abs(leg.rate) if leg.kind is Kind.LOOP else leg.rate) in allowed
        assert leg.seconds > 0


@given(exchanges())
def test_where_a_style_may_hold_long_every_tie_in_order_is_met(case: tuple[FitExchange, dict[str, SpokenLine]]) -> None:
    exchange, voice = case
    free = FitExchange(exchange.start, exchange.end, tuple(FitBeat(b.id, b.stops, b.phrases) for b in exchange.beats))
    got = fit(free, voice, TALK)
    assert all(s.lack is Lack.SILENT for s in got.shortfalls)
    assert all(t.said == t.shown for t in got.ties)


@given(exchanges(), st.sampled_from(list(house_styles().values())))
def test_what_is_reported_as_lacking_makes_it_fit_when_granted(
    case: tuple[FitExchange, dict[str, SpokenLine]], style: HouseStyle
) -> None:
    exchange, voice = case
    free = FitExchange(exchange.start, exchange.end, tuple(FitBeat(b.id, b.stops, b.phrases) for b in exchange.beats))
    before = fit(free, voice, style)
    hold = _granted(before, Lack.LATE)
    held = fit(free, voice, allowing(style, Allowance(hold_seconds=hold), None))
    assert [s for s in held.shortfalls if s.lack is Lack.LATE] == []
    silence = _granted(held, Lack.SILENT)
    after = fit(free, voice, allowing(style, Allowance(hold_seconds=hold, silence_seconds=silence), None))
    assert [s for s in after.shortfalls if s.lack in (Lack.LATE, Lack.SILENT)] == []


def _granted(fitted: Fitted, lack: Lack) -> F:
    return sum((s.granted for s in fitted.shortfalls if s.lack is lack), F(0))


def test_a_rate_that_would_step_is_not_used_unless_it_is_allowed() -> None:
    """30 pictures a second at 0.5x are 15 new ones, under which slow motion steps (from memory); 25 at 0.25x are 6."""
    study = house_styles()["half-speed study"]
    assert allowing(study, Allowance(), F(25)).rates == (F(3, 8),)
    assert allowing(study, Allowance(rates=(F(1, 4),)), F(25)).rates == (F(3, 8), F(1, 4))
    assert allowing(RUN, Allowance(), F(30)).rates == (F(3, 4), F(1, 2))
    assert allowing(RUN, Allowance(), F(20)).rates == (F(3, 4),)


def test_an_idle_stretch_is_skipped_as_far_as_the_words_leave_time_over_and_what_is_skipped_by_hand_always() -> None:
    beat = FitBeat("b1", (Stop(1, F(9)),), (0,))
    voice = {"b1": line(0, 5.6, end=6)}
    got = fit(FitExchange(F(0), F(10), (beat,)), voice, TALK, idle=((F(2), F(6)),))
    assert legs(got)[:2] == [("run", 0, 1, pytest.approx(3)), ("run", 6, 1, 3)]
    assert got.ties[0].said == got.ties[0].shown
    cut = fit(FitExchange(F(0), F(10), (beat,)), voice, TALK, skips=((F(1), F(7)),))
    assert [x[:2] for x in legs(cut)[:2]] == [("run", 0), ("run", 7)]


def test_a_wished_length_makes_the_fit_wait_more_or_less_and_a_limit_is_reported_when_it_is_passed() -> None:
    beat = FitBeat("b1", (Stop(1, F(4)),), (0,))
    exchange, voice = FitExchange(F(0), F(9), (beat,)), {"b1": line(0, 3.6, end=5)}
    natural = fit(exchange, voice, TALK)
    longer = fit(exchange, voice, TALK, wish=Wish(float(natural.seconds) + 2))
    assert natural.seconds < longer.seconds <= natural.seconds + 2
    tight = fit(exchange, voice, TALK, wish=Wish(4.0, limit=True))
    assert [s.lack for s in tight.shortfalls] == [Lack.LENGTH]
    assert tight.shortfalls[0].seconds == pytest.approx(float(tight.seconds) - 4, abs=1e-5)


def test_one_stop_can_serve_the_words_before_its_moment_and_those_after_it() -> None:
    """Two seconds lack before the first word and two after it: one hold where both are said is cheaper than two."""
    beat = FitBeat("b1", (Stop(1, F(4)), Stop(2, F(8))), (0, 1, 2))
    got = fit(FitExchange(F(0), F(12), (beat,)), {"b1": line(0, 5.6, 11.6, end=12)}, TALK)
    assert legs(got)[:3] == [("run", 0, 1, 4), ("hold", 4, 0, 4), ("run", 4, 1, 4)]
    assert [t.said for t in got.ties] == [t.shown for t in got.ties] == [6, 12]


def test_a_word_that_comes_while_its_moment_is_still_held_is_not_called_late() -> None:
    """The run-through style may hold a second at each place: one at the first moment is not enough for two seconds of
    words, but the second moment is held for them as well."""
    beat = FitBeat("b1", (Stop(1, F(2)), Stop(2, F("2.2"))), (0,))
    got = fit(FitExchange(F(0), F(8), (beat,)), {"b1": line(0, 1.7, 3.7, end=4)}, RUN)
    assert got.shortfalls == () and [t.said for t in got.ties] == [t.shown for t in got.ties] == [2, 4]
    assert len([x for x in got.legs if x.kind is Kind.HOLD]) == 2


def test_a_hold_fixed_by_hand_is_neither_shorter_nor_longer_and_words_or_speed_give_way() -> None:
    def held(seconds: F | None) -> Fitted:
        beat = FitBeat("b1", (Stop(1, F(4), seconds), Stop(2, F(8))), (0, 1, 2))
        return fit(FitExchange(F(0), F(12), (beat,)), {"b1": line(0, 3.6, 9.6, end=10)}, TALK)

    assert [x for x in legs(held(None)) if x[0] == "hold"] == [("hold", 4, 0, 2)]
    for seconds in (F(0), F(1), F(5)):
        fitted = held(seconds)
        assert sum(x.seconds for x in fitted.legs if x.kind is Kind.HOLD and x.mat_in == 4) == seconds
        assert [t.said for t in fitted.ties] == [t.shown for t in fitted.ties] and not fitted.shortfalls


def test_side_by_side_starts_two_attempts_together_for_as_long_as_the_beat_is_said() -> None:
    both = FitBeat("b1", (), (0,), SideBySide(F(20), F(30), F(1, 2)))
    got = fit(FitExchange(F(0), F(10), (both,)), {"b1": line(0, end=4)}, TALK)
    (inset,) = got.insets
    away = next(x for x in got.legs if x.kind is Kind.CUTAWAY)
    assert (away.mat_in, away.rate, inset.mat_in, inset.rate, inset.beside) == (20, F(1, 2), 30, F(1, 2), True)
    assert inset.seconds == away.seconds == 4


def test_a_small_picture_leaves_the_first_one_to_the_fit() -> None:
    tied = FitBeat("b1", (Stop(1, F(4)),), (0,), Cutaway(F(100), F(1), F(2), True))
    got = fit(FitExchange(F(0), F(9), (tied,)), {"b1": line(0, 6.6, end=8)}, TALK)
    plain = fit(FitExchange(F(0), F(9), (replace_treatment(tied),)), {"b1": line(0, 6.6, end=8)}, TALK)
    assert (got.legs, got.ties) == (plain.legs, plain.ties)
    assert [(i.at, i.seconds, i.mat_in, i.beside) for i in got.insets] == [(LEAD, 2, 100, False)]


def test_again_can_go_back_several_times_and_a_card_can_stand_for_a_beat() -> None:
    first = FitBeat("b1", (Stop(0, F(6)),), (0,))
    twice = FitBeat("b2", (), (0,), Again(F(2), F(1), 2))
    got = fit(FitExchange(F(0), F(10), (first, twice)), {"b1": line(0, end=1), "b2": line(0, end=1)}, TALK)
    assert [(x.mat_in, x.seconds) for x in got.legs if x.kind is Kind.AGAIN] == [(4, 2), (4, 2)]
    card = FitBeat("b2", (), (0,), TextCard("Underhook first"))
    got = fit(FitExchange(F(0), F(10), (first, card)), {"b1": line(0, end=1), "b2": line(0, end=4)}, TALK)
    assert [(x.text, float(x.seconds)) for x in got.legs if x.kind is Kind.CARD] == [("Underhook first", 4)]


def test_skipping_ahead_jumps_to_its_moment() -> None:
    first = FitBeat("b1", (Stop(0, F(2)),), (0,))
    ahead = FitBeat("b2", (Stop(0, F(8)),), (0,), Skip("m1"), F(7))
    got = fit(FitExchange(F(0), F(10), (first, ahead)), {"b1": line(0, end=1), "b2": line(0, end=1)}, TALK)
    shown = [(float(x.mat_in), float(x.mat_in + x.seconds * x.rate)) for x in got.legs]
    assert not [a for a, z in shown if a < 6.5 < z]
    assert all(t.said == t.shown for t in got.ties)


def replace_treatment(beat: FitBeat) -> FitBeat:
    """The beat, left to the fit."""
    return FitBeat(beat.id, beat.stops, beat.phrases)


@given(exchanges(), st.sampled_from(list(house_styles().values())))
def test_slowing_is_never_a_stumble_and_no_hold_is_longer_than_the_style_allows(
    case: tuple[FitExchange, dict[str, SpokenLine]], style: HouseStyle
) -> None:
    exchange, voice = case
    free = FitExchange(exchange.start, exchange.end, tuple(FitBeat(b.id, b.stops, b.phrases) for b in exchange.beats))
    stops = {stop.mat for beat in free.beats for stop in beat.stops} | {exchange.start, exchange.end}
    for leg in fit(free, voice, style).legs:
        if leg.kind is Kind.SLOW and style is TALK:
            whole_way = {leg.mat_in, leg.mat_in + leg.seconds * leg.rate} <= stops
            assert leg.seconds * leg.rate >= SHORTEST_SLOW or whole_way
        if leg.kind is Kind.HOLD:
            assert leg.seconds <= style.longest_hold + F(1, 100_000)


def test_between_two_beats_there_is_always_a_breath_whatever_the_picture_does() -> None:
    """`breath` of the house style, also after a beat with a treatment of its own."""
    voice = {name: line(0, 1, end=2) for name in ("b1", "b2", "b3")}
    for middle in (None, Hold(), Run(), TextCard("Look")):
        beats = tuple(FitBeat(name, (), (0,), middle if name == "b2" else None) for name in voice)
        got = fit(FitExchange(F(0), F(3), beats), voice, TALK)
        heard = {p.beat: (p.at, p.at + p.voice_out - p.voice_in) for p in got.phrases}
        assert heard["b2"][0] - heard["b1"][1] >= TALK.breath - F(1, 10**6)
        assert heard["b3"][0] - heard["b2"][1] >= TALK.breath - F(1, 10**6)
        assert heard["b2"][0] - heard["b1"][1] <= TALK.breath + TALK.longest_silence


def test_of_a_wished_length_what_was_shown_already_is_spent() -> None:
    """A hold of a whole sentence, then a beat left to the fit: both together are as long as wished."""
    voice = {"b1": line(0, 3, end=6), "b2": line(0, 1, end=2)}
    beats = (FitBeat("b1", (), (0,), Hold()), FitBeat("b2", (), (0,)))
    natural = fit(FitExchange(F(0), F(8), beats), voice, TALK)
    wished = fit(FitExchange(F(0), F(8), beats), voice, TALK, wish=Wish(float(natural.seconds)))
    assert abs(wished.seconds - natural.seconds) < F(1, 10)
    longer = fit(FitExchange(F(0), F(8), beats), voice, TALK, wish=Wish(float(natural.seconds) + 1))
    assert longer.seconds <= natural.seconds + F(11, 10)
