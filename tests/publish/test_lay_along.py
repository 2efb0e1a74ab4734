"""Scripts with times go to the exchanges in which they are said."""

from __future__ import annotations

from fractions import Fraction

from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from chapto.document import edit_log, edit_script
from chapto.document.breakdown import Breakdown
from chapto.document.checks import checked
from chapto.document.script import words_of
from chapto.pacing.offers import offers
from chapto.programme.compile import compile_programme, line_for
from chapto.programme.placed import TieState
from chapto.programme.programme import Programme
from chapto.publish.scripts.lay_along import MOST_BEATS, lay_along
from chapto.publish.scripts.plain_text import parts_of
from chapto.publish.scripts.times import TimesOf, guessed, mat_of
from tests.document.samples import breakdowns, footage, small

F = Fraction
SCRIPT = "0:05 Before it all.\n0:11 She goes.\n0:15 He frames.\n0:30 Much later.\n0:33 And more."


def identity(seconds: Fraction) -> Fraction:
    return seconds


def bare() -> Breakdown:
    return replace(small(), script=())


def compiled(b: Breakdown) -> Programme:
    return compile_programme(b, {beat.id: line_for(b, beat, {}) for _, beat in b.beats()})


def test_beats_go_to_the_exchange_of_their_time_and_unnamed_stretches_are_logged_between() -> None:
    b = checked(lay_along(bare(), parts_of(SCRIPT), identity))
    found = [(b.exchange(s.exchange), [x.text for x in s.beats]) for s in b.script]
    assert [texts for _, texts in found] == [
        ["Before it all."],
        ["She goes.", "He frames."],
        ["Much later.", "And more."],
    ]
    assert found[1][0].id == "x1" and b.script[1].title == "Knee slide"
    before, after = found[0][0], found[2][0]
    assert (before.start, before.end) == (4, 10) and (before.technique, before.outcome) == ("", None)
    assert (after.start, after.end) == (29, 120) and len(b.exchanges) == 3


def test_one_step_ties_them_all_and_every_tie_meets() -> None:
    b = lay_along(bare(), parts_of(SCRIPT), identity)
    b = checked(edit_script.tie_all(b, [(o.beat, o.word, o.at) for o in offers(b) if o.stamped]))
    p = compiled(b)
    assert [(t.text, t.state) for t in p.ties] == [
        (w, TieState.MET) for w in ("Before", "She", "He", "Much", "And")
    ]  # fmt: skip


def test_an_empty_section_of_the_exchange_is_filled_and_written_ones_stay() -> None:
    b = small()
    b = edit_script.add_section(edit_log.add_exchange(b, F(28), F(40)), exchange="x2", title="Mine")
    b = edit_script.change_section(edit_script.add_beat(b, "s2"), "s2", once_more=True)
    b = checked(lay_along(b, parts_of(SCRIPT), identity))
    assert [s.exchange for s in b.script] == ["x1", "x3", "x1", "x2"]
    assert b.script[0] == small().script[0]
    last = b.script[-1]
    assert (last.id, last.title, last.once_more, len(last.beats)) == ("s2", "Mine", True, 2)


def test_what_was_not_filmed_and_what_has_no_time_is_kept_on_cards_and_beside_what_stands_before() -> None:
    text = "Hello.\n\n0:11 She goes.\n\nThen more.\n\n9:00 Long after."
    b = checked(lay_along(bare(), parts_of(text), identity))
    assert [(s.exchange, [x.text for x in s.beats]) for s in b.script] == [
        ("", ["Hello."]), ("x1", ["She goes.", "Then more."]), ("", ["Long after."]),
    ]  # fmt: skip
    assert b.script[2].beats[0].stamps[0].at == 540 and [o.text for o in offers(b)] == ["She"]


def test_long_talk_over_one_file_falls_into_stretches_that_are_fitted_quickly() -> None:
    text = "\n".join(f"{i // 20}:{i * 3 % 60:02d} This is beat number {i}." for i in range(35))
    b = checked(lay_along(replace(bare(), exchanges=()), parts_of(text), identity))
    assert all(len(s.beats) <= MOST_BEATS for s in b.script) and len(list(b.beats())) == 35
    spans = [(b.exchange(s.exchange).start, b.exchange(s.exchange).end) for s in b.script]
    assert spans == sorted(spans) and all(a < z for a, z in spans)


@settings(max_examples=40)
@given(breakdowns(), st.lists(st.tuples(st.integers(0, 130), st.sampled_from(["", "HOST: ", "Ilka: "])), max_size=25))
def test_any_times_over_any_log_make_a_sound_document(b: Breakdown, times: list[tuple[int, str]]) -> None:
    text = "\n\n".join(f"{t // 60}:{t % 60:02d} {who}Here he goes, number {i}." for i, (t, who) in enumerate(times))
    made = checked(lay_along(b, parts_of(text, ["Ilka"]), identity))
    assert sum(1 for _ in made.beats()) >= len(times)
    tied = checked(edit_script.tie_all(made, [(o.beat, o.word, o.at) for o in offers(made) if o.stamped]))
    new = [x for _, x in tied.beats() if "number" in x.text]
    assert [x.text for x in new] == [f"Here he goes, number {i}." for i in range(len(times))]
    assert compiled(tied).frames >= 0


def test_times_are_guessed_by_the_footage_and_those_of_the_video_are_read_from_the_programme() -> None:
    b = small()
    assert guessed(b, F(100)) is TimesOf.MAT and guessed(b, F(200)) is TimesOf.WATCH
    p = compiled(b)
    read = mat_of(TimesOf.WATCH, b, p)
    assert read(F(0)) == F(10) and read(F(3)) == p.time_map.mat_at(90) and read(F(5000)) is None
    later = replace(bare(), footage=(footage("f1", start=40),))
    assert mat_of(TimesOf.WATCH, later, compiled(later))(F(3)) == 43


def test_times_hang_on_their_words_through_every_edit() -> None:
    b = lay_along(bare(), parts_of("0:11 She goes under and turns him over."), identity)
    beat = b.script[0].beats[0].id

    def stamped(b: Breakdown) -> list[tuple[str, Fraction]]:
        return [(words_of(x.text)[s.word], s.at) for _, x in b.beats() for s in x.stamps]

    b = edit_script.rewrite(b, beat, "Here she goes under and turns him over.")
    assert stamped(b) == [("she", F(11))]
    assert stamped(edit_script.split_beat(b, beat, 4)) == [("she", F(11))]
    assert stamped(edit_script.cut_words(b, beat, 0, 1)) == [("She", F(11))]
    assert stamped(edit_script.cut_words(b, beat, 1, 2)) == []
    split = edit_script.split_beat(b, beat, 10)
    joined = edit_script.join_beat(split, split.script[0].beats[1].id)
    assert stamped(joined) == [("she", F(11))] and stamped(edit_script.forget_stamps(b)) == []
