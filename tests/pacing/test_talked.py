"""A talk-through is tidied to what was meant: the right picture under every phrase, no hunting, no word lost."""

from __future__ import annotations

from fractions import Fraction

from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from chapto.document.talks import Act, Acted, Done, Moved, SaidWord
from chapto.pacing.styles import house_styles
from chapto.pacing.talked.tidied import BREATH, Tidied, as_it_was, tidy
from chapto.pacing.talked.words import Reason
from tests.pacing.talked_sessions import Session, session, shaken

F = Fraction
STYLE = house_styles()["talk-through"]
SESSIONS = 200
NEAR = 0.25
"""Seconds by which a picture may be another than the one that was meant."""


def tidied(s: Session, **options: object) -> Tidied:
    return tidy(s.done, s.said, s.seconds, STYLE, **options)  # type: ignore[arg-type]


def told(t: Tidied) -> list[str]:
    return [s.word.text for s in t.shown]


def again(t: Tidied) -> tuple[Done, list[SaidWord], float]:
    """What is tidy, done as it is shown: the take without what was cut."""
    gone = lambda at: sum(max(min(c.end, at) - c.start, 0.0) for c in t.cuts if c.start < at)  # noqa: E731
    ms = lambda v: F(round(v * 1000), 1000)  # noqa: E731
    moved, said, last = [], [], None
    for s in t.shown:
        at = s.word.start - gone(s.word.start)
        goes_on = last is not None and last[0] == (s.spell, s.rate)
        predicted = last[1].mat + float(last[1].speed) * (at - float(last[1].at)) if last else 0.0
        if not goes_on or abs(predicted - s.mat) > 0.05:
            made = Moved(at=ms(at), mat=ms(s.mat), rate=F(s.rate or 1).limit_denominator(16), playing=s.rate > 0)
            moved, last = [*moved, made], ((s.spell, s.rate), made)
        said.append(SaidWord(text=s.word.text, start=ms(at), end=ms(s.word.end - gone(s.word.end))))
    return Done(picture=tuple(moved)), said, t.seconds + float(said[0].start) + 0.1 if said else 1.0


def test_every_phrase_has_the_picture_that_was_meant_under_it_and_no_hunting_is_left() -> None:
    near = phrases = 0
    for seed in range(SESSIONS):
        s = session(seed)
        t = tidied(s)
        shown = {x.word.number: x for x in t.shown}
        for numbers, mat, _ in s.phrases:
            assert all(n in shown for n in numbers), f"session {seed} lost a word"
            phrases += 1
            near += abs(shown[numbers[0]].mat - mat) <= NEAR
        # A place that was only passed is under no word, unless it was meant at another time too.
        meant = [mat for _, mat, _ in s.phrases]
        for wrong in s.hunted:
            if all(abs(wrong - m) > 3 for m in meant):
                assert all(abs(x.mat - wrong) > 1e-6 for x in t.shown)
    assert near / phrases >= 0.95, f"{near} of {phrases}"


def test_hands_that_are_early_or_late_lead_to_no_other_picture() -> None:
    """Within 0.3 s for all moves, and farther off where the picture stands: one that runs is elsewhere by then."""
    for most, stands_only in ((0.15, False), (0.3, True)):
        near = phrases = 0
        for seed in range(SESSIONS):
            s = session(seed)
            shown = {x.word.number: x for x in tidy(shaken(s, seed, most), s.said, s.seconds, STYLE).shown}
            for numbers, mat, rate in s.phrases:
                assert all(n in shown for n in numbers), f"session {seed} lost a word"
                if not (stands_only and rate):
                    phrases += 1
                    near += abs(shown[numbers[0]].mat - mat) <= NEAR
        assert near / phrases >= 0.95, f"{most}: {near} of {phrases}"


def test_every_word_stays_or_stands_in_a_cut_with_its_reason() -> None:
    for seed in range(SESSIONS):
        s = session(seed)
        t = tidied(s)
        gone = [w.number for c in t.cuts for w in c.words]
        assert sorted([*gone, *(x.word.number for x in t.shown)]) == list(range(len(s.said)))
        assert all(a.end <= z.start for a, z in zip(t.cuts, t.cuts[1:], strict=False))
        meant = {n for numbers, _, _ in s.phrases for n in numbers}
        assert not meant & set(gone)
        assert {s.said[n].text for n in gone} <= {w.text for i, w in enumerate(s.said) if i not in meant}


def test_tidying_what_is_tidy_changes_nothing() -> None:
    for seed in range(SESSIONS):
        first = tidied(session(seed))
        done, said, seconds = again(first)
        second = tidy(done, said, seconds, STYLE)
        assert told(second) == told(first)
        assert all(abs(a.mat - b.mat) < 0.15 for a, b in zip(first.shown, second.shown, strict=True)), seed
        assert abs(second.seconds - first.seconds) < 0.05 * first.seconds


def test_dead_air_is_under_a_twentieth() -> None:
    dead = whole = 0.0
    for seed in range(SESSIONS):
        t = tidied(session(seed))
        for one, other in zip(t.shown, t.shown[1:], strict=False):
            gap = other.word.start - one.word.end
            gap -= sum(max(min(c.end, other.word.start) - max(c.start, one.word.end), 0) for c in t.cuts)
            # A silence in which nothing moves, longer than a breath.
            if not one.rate:
                dead += max(gap - BREATH, 0.0)
        whole += t.seconds
    assert dead / whole < 0.05


# ── what each thing becomes ──────────────────────────────────────────────────────────────────────────────────
def said(*words: tuple[str, float]) -> list[SaidWord]:
    return [
        SaidWord(text=w, start=F(at).limit_denominator(100), end=F(at + 0.3).limit_denominator(100)) for w, at in words
    ]


def test_a_sentence_goes_with_the_key_and_the_one_before_it_stays() -> None:
    words = said(("He", 0), ("waits.", 0.4), ("She", 1.6), ("shoots", 2.0), ("She", 4.0), ("pulls.", 4.4))
    done = Done(picture=(Moved(at=F(0), mat=F(5), playing=False),), acts=(Acted(at=F(5, 2), act=Act.WRONG),))
    t = tidy(done, words, 6.0, STYLE)
    assert told(t) == ["He", "waits.", "She", "pulls."]
    (wrong,) = [c for c in t.cuts if c.words]
    assert wrong.reason is Reason.WRONG and [w.text for w in wrong.words] == ["She", "shoots"]
    back = tidy(done, words, 6.0, STYLE, back=[(F(1), F(3))])
    assert told(back) == [w.text for w in words]


def test_words_are_about_what_was_seen_a_reaction_earlier_but_never_before_it_ran() -> None:
    done = Done(picture=(Moved(at=F(0), mat=F(10)),))
    t = tidy(done, said(("Now", 0.2), ("there", 3.0)), 5.0, STYLE, reaction=0.4)
    assert [round(x.mat, 2) for x in t.shown] == [10.0, 12.6]


def test_what_was_said_again_goes_and_a_key_before_it_still_means_the_sentence_before() -> None:
    words = said(("He", 0), ("waits.", 0.4), ("She", 1.6), ("slips", 2.0), ("She", 4.0), ("shoots", 4.4))
    again = Acted(at=F(7, 2), act=Act.AGAIN, since=F(8, 5))
    done = Done(picture=(Moved(at=F(0), mat=F(5), playing=False),), acts=(again,))
    t = tidy(done, words, 6.0, STYLE)
    assert told(t) == ["He", "waits.", "She", "shoots"]
    assert [(c.reason, [w.text for w in c.words]) for c in t.cuts if c.words] == [(Reason.AGAIN, ["She", "slips"])]
    wrong = tidy(replace(done, acts=(again, Acted(at=F(18, 5), act=Act.WRONG))), words, 6.0, STYLE)
    assert told(wrong) == ["She", "shoots"]
    assert told(tidy(done, words, 6.0, STYLE, back=[(F(1), F(3))])) == [w.text for w in words]


def test_a_picture_that_goes_to_and_fro_is_never_outside_of_where_it_turns() -> None:
    done = Done(picture=(Moved(at=F(0), mat=F(10), fro=(F(10), F(12))),))
    t = tidy(done, said(("So", 1), ("there", 2.5), ("and", 4), ("back", 5.5)), 6.0, STYLE)
    assert [round(x.mat, 3) for x in t.shown] == [11.0, 11.5, 10.0, 11.5]
    assert len({x.spell for x in t.shown}) == 1


def test_an_idle_stretch_goes_and_a_lively_one_is_kept_short() -> None:
    done, words = Done(picture=(Moved(at=F(0), mat=F(0)),)), said(("Here", 0.1), ("there", 8.0))
    lively, idle = tidy(done, words, 9.0, STYLE), tidy(done, words, 9.0, STYLE, is_lively=lambda a, z: False)
    assert abs(lively.seconds - (0.3 + 1.5 + 0.3)) < 0.02 and abs(idle.seconds - (0.6 + BREATH)) < 0.02
    assert {c.reason for c in (*lively.cuts, *idle.cuts)} == {Reason.SILENT}


times = st.fractions(min_value=0, max_value=60, max_denominator=50)
rates = st.sampled_from([F(1, 4), F(1), F(2)])
moves = st.builds(Moved, at=times, mat=times, rate=rates, playing=st.booleans()) | st.builds(
    lambda at, mat, rate: Moved(at=at, mat=mat, rate=rate, fro=(max(mat - 1, F(0)), mat + 1)), times, times, rates
)
words_said = st.builds(
    lambda text, at: SaidWord(text=text, start=at, end=at + F(1, 5)), st.sampled_from(["um", "so", "he", "…"]), times
)  # fmt: skip


@given(st.lists(moves, max_size=30), st.lists(words_said, max_size=40), st.lists(times, max_size=4))
def test_whatever_was_done_no_word_is_lost_silently(
    moved: list[Moved], spoken: list[SaidWord], keys: list[Fraction]
) -> None:
    acts = tuple(
        Acted(at=at, act=Act.WRONG) if i % 2 else Acted(at=at, act=Act.AGAIN, since=at / 2)
        for i, at in enumerate(sorted(keys))
    )
    done = Done(picture=tuple(sorted(moved, key=lambda m: m.at)), acts=acts)
    t = tidy(done, spoken, 61.0, STYLE)
    numbers = [w.number for c in t.cuts for w in c.words] + [x.word.number for x in t.shown]
    assert sorted(numbers) == list(range(len(spoken)))
    assert all(a.end <= z.start for a, z in zip(t.cuts, t.cuts[1:], strict=False))
    assert told(as_it_was(done, spoken, 61.0)) == [w.text for w in sorted(spoken, key=lambda w: (w.start, w.end))]
