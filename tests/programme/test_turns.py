"""Inside a beat the picture turns to something else; the words go on as if nothing were, and ties meet."""

from fractions import Fraction

import pytest
from msgspec.structs import replace

from chapto.clock.passage import Kind
from chapto.document import edit_script, edit_turns
from chapto.document.breakdown import Breakdown, DocumentError
from chapto.document.checks import checked
from chapto.document.script import Turn
from chapto.document.treatments import Again, Cutaway, Loop, Pace, Run
from chapto.programme.compile import compile_programme
from chapto.programme.placed import TieState
from chapto.programme.programme import Programme
from tests.document.samples import small

F = Fraction
LONG = (
    "Watch this. The knee slides here, and she is past, and now look at her hips because they are low and heavy "
    "and he has no way to bring his knee back inside, which is what he wants."
)


def talked() -> Breakdown:
    """One beat of 38 words, "here," (word 5) tied to 14 s of an exchange from 10 to 20 s."""
    return edit_script.rewrite(small(), "b1", LONG)


def kinds(p: Programme) -> list[Kind]:
    return [x.kind for x in p.passages]


def test_from_a_word_on_the_picture_goes_round_and_the_voice_is_not_parted() -> None:
    b = checked(edit_turns.turn_at(talked(), "b1", 13, Loop(F(2), F(1, 2))))
    p = compile_programme(b, {})
    assert Kind.LOOP in kinds(p) and [t.state for t in p.ties] == [TieState.MET]
    first = next(x for x in p.passages if x.kind is Kind.LOOP)
    word = next(w for w in p.words if w.word == 13)
    assert abs(first.watch_in / p.fps - word.start) < F(1, 2)
    plain = compile_programme(talked(), {})
    spoken = [w.end - w.start for w in p.words]
    assert spoken == pytest.approx([w.end - w.start for w in plain.words], rel=0.09)
    gaps = [b.start - a.end for a, b in zip(p.words[12:], p.words[13:], strict=False)]
    assert max(gaps[:2]) < F(1, 2)


def test_a_cutaway_at_a_word_lasts_its_seconds_and_the_picture_goes_on_where_it_was() -> None:
    b = edit_turns.turn_at(talked(), "b1", 8, Cutaway(F(40), seconds=F(2)))
    b = edit_turns.turn_at(b, "b1", 20, Cutaway(F(50), seconds=F(2)))
    p = compile_programme(checked(b), {})
    away = [x for x in p.passages if x.kind is Kind.CUTAWAY]
    assert [x.mat_in for x in away] == [40, 50]
    assert all(2 <= x.frames / p.fps < 3 for x in away)
    before, after = p.passages[p.passages.index(away[0]) - 1], p.passages[p.passages.index(away[0]) + 1]
    assert abs(before.mat_out - after.mat_in) <= 2 / p.fps
    assert [t.state for t in p.ties] == [TieState.MET]


def test_a_pace_lasts_through_the_beats_that_follow_until_another_one_is_set() -> None:
    b = edit_script.add_beat(talked(), "s1", "And this goes on as it was.")
    b = edit_script.add_beat(b, "s1", "Now at full speed again.")
    b = edit_turns.turn_at(b, "b1", 13, Pace(F(1, 2)))
    last = b.script[0].beats[-1].id
    b = checked(edit_script.treat(b, last, Pace(F(0))))
    p = compile_programme(b, {})
    at = {w.beat: w.start for w in reversed(p.words)}
    middle = [x for x in p.passages if at[b.script[0].beats[1].id] <= x.watch_in / p.fps < at[last] - F(1, 2)]
    assert all(x.rate <= F(1, 2) for x in middle)
    assert p.passages[-1].rate == 1 and p.passages[0].rate == 1


def test_turns_follow_their_words_when_the_beat_is_rewritten_split_joined_and_cut() -> None:
    b = edit_turns.turn_at(talked(), "b1", 13, Again())
    longer = edit_script.rewrite(b, "b1", "So now " + LONG)
    assert longer.find_beat("b1")[1].turns == (Turn(word=15, treatment=Again()),)
    split = edit_script.split_beat(b, "b1", LONG.index("now look"))
    one, two = split.script[0].beats
    assert (one.turns, two.treatment, two.turns) == ((), None, (Turn(word=2, treatment=Again()),))
    after = edit_script.split_beat(b, "b1", LONG.index("hips"))
    assert after.script[0].beats[1].treatment == Again()
    joined = edit_script.join_beat(split, two.id).script[0].beats[0]
    assert joined.treated_at(13) == Again() and joined.treated_at(12) is None
    assert edit_script.cut_words(b, "b1", 12, 15).find_beat("b1")[1].turns == ()


def test_a_turn_between_two_words_gives_back_what_was_before() -> None:
    b = edit_turns.turn_between(edit_script.treat(talked(), "b1", Run()), "b1", 10, 20, Again())
    beat = b.find_beat("b1")[1]
    assert [beat.treated_at(i) for i in (9, 10, 19, 20)] == [Run(), Again(), Again(), Run()]
    assert edit_turns.no_turn_at(b, "b1", 10).find_beat("b1")[1].treated_at(10) == Run()
    with pytest.raises(DocumentError, match="turn"):
        edit_turns.turn_at(b, "b1", 99, Again())


def test_a_turn_at_a_word_that_is_not_there_is_refused() -> None:
    b = talked()
    beat = replace(b.script[0].beats[0], turns=(Turn(word=38, treatment=Again()),))
    with pytest.raises(DocumentError, match="turns at a word"):
        checked(replace(b, script=(replace(b.script[0], beats=(beat,)),)))
