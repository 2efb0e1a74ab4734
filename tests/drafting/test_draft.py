"""A draft says what the log says, when the picture shows it, and in words that do not repeat themselves."""

from __future__ import annotations

import re
from collections.abc import Iterator
from fractions import Fraction
from functools import lru_cache
from pathlib import Path

import pytest
from hypothesis import given, settings
from msgspec.structs import replace

from chapto.clock.passage import Kind
from chapto.demo.story import demo_breakdown
from chapto.document import edit_script
from chapto.document.bout import Exchange, Moment, MomentKind, Outcome
from chapto.document.breakdown import Breakdown
from chapto.document.checks import checked
from chapto.document.forms import lay_out
from chapto.document.people import Side, SpokenOf
from chapto.document.script import Beat, BeatKind, Part, words_of
from chapto.drafting.called import called, noted, other
from chapto.drafting.draft import untouched
from chapto.drafting.grammar import grammar
from chapto.drafting.said_numbers import duration, number
from chapto.drafting.sentences import APART
from chapto.lexicon.lexicon import School, shipped_lexicon
from chapto.matlog.bout_clock import BoutClock
from chapto.matlog.ledger import ledger
from chapto.matlog.rules import shipped_rules
from chapto.pacing.offers import offers
from chapto.pacing.pointing_words import pointing_words
from chapto.pacing.styles import house_styles
from chapto.programme.compile import compile_programme, line_for
from chapto.programme.first_draft import first_draft, section_anew
from chapto.programme.knowledge import shipped_knowledge
from chapto.programme.placed import TieState
from tests.document.samples import breakdowns, footage, small

F = Fraction
LEXICON = shipped_lexicon()


def logged(spoken_of: SpokenOf = SpokenOf.NAMES, school: School = School.ENGLISH) -> Breakdown:
    """The demo's log alone."""
    b = demo_breakdown(Path("/"))
    return replace(b, script=(), labels=(), naming=replace(b.naming, spoken_of=spoken_of, school=school.value))


@lru_cache(maxsize=8)
def drafted(spoken_of: SpokenOf = SpokenOf.NAMES, school: School = School.ENGLISH) -> Breakdown:
    return checked(first_draft(logged(spoken_of, school), shipped_knowledge()))


def told(b: Breakdown) -> Iterator[tuple[Exchange, str]]:
    """Each exchange with all that is drafted of it."""
    for s in b.script:
        if s.exchange and s.part is Part.TALK:
            yield b.exchange(s.exchange), " ".join(x.text for x in s.beats if x.drafted)


def sentences(text: str) -> list[str]:
    return re.findall(r"[^.!?]+[.!?]", text)


@pytest.mark.parametrize("spoken_of", list(SpokenOf))
def test_from_the_demos_log_every_tie_meets_in_every_style_and_a_run_through_hardly_holds(spoken_of: SpokenOf) -> None:
    b = drafted(spoken_of)
    assert {t.moment for _, x in b.beats() for t in x.ties} == {
        m.id for m in b.moments if any(x.start <= m.at < x.end for x in b.exchanges)
    }
    for style in house_styles():
        styled = replace(b, style=style)
        p = compile_programme(styled, {x.id: line_for(styled, x, {}) for _, x in styled.beats()})
        assert len(p.ties) == 20 and all(t.state is TieState.MET for t in p.ties), style
        if style == "run-through":
            holds = [(x.watch_out - x.watch_in) / p.fps for x in p.passages if x.kind is Kind.HOLD]
            assert max(holds, default=F(0)) <= 1


@pytest.mark.parametrize("spoken_of", list(SpokenOf))
def test_every_tie_is_on_a_word_that_points(spoken_of: SpokenOf) -> None:
    for _, beat in drafted(spoken_of).beats():
        assert {t.word for t in beat.ties} <= set(pointing_words(beat.text)), beat.text


def test_nothing_more_is_offered_in_a_draft_until_somebody_touches_it() -> None:
    b = drafted()
    assert offers(b) == ()
    section, beat = next((s, x) for s, x in b.beats() if s.exchange == "x2" and x.ties)
    touched = edit_script.untie_word(
        edit_script.rewrite(b, beat.id, f"Well. {beat.text}"), beat.id, beat.ties[0].word + 1
    )
    assert [o.moment and o.moment.id for o in offers(touched)] == [beat.ties[0].moment] and section.exchange == "x2"


def test_the_same_log_gives_the_same_words() -> None:
    assert first_draft(logged(), shipped_knowledge()) == drafted()


# ── the claims, read back out of the text ────────────────────────────────────────────────────────────────────
def without_notes(b: Breakdown, x: Exchange, text: str) -> str:
    """What the draft itself says: the creator's notes are their own."""
    for m in b.moments:
        note = noted(b, m.note, m.at)
        text = re.sub(re.escape(note), "…", text, flags=re.IGNORECASE) if note and x.start <= m.at < x.end else text
    return text


@pytest.mark.parametrize("school", [School.ENGLISH, School.JAPANESE])
@pytest.mark.parametrize("spoken_of", list(SpokenOf))
def test_every_claim_is_in_the_log(spoken_of: SpokenOf, school: School) -> None:
    b = drafted(spoken_of, school)
    book = ledger(b, LEXICON, shipped_rules()[b.ruling.rules])
    names = {n.casefold(): i.id for i in (*LEXICON.techniques.values(), *LEXICON.positions.values()) for n in i.names()}
    for x, whole in told(b):
        text = without_notes(b, x, whole)
        technique = LEXICON.technique_named(x.technique)
        assert technique is not None and x.by is not None and technique.name(school) in whole
        by, answering = called(b, x.by, x.start), called(b, other(x.by), x.start)
        # Names: of this exchange's technique, and of the positions it starts from and ends in.
        around = {p.position for p in b.positions if p.start <= x.end and p.end > x.start}
        for name, item in names.items():
            if len(name.split()) > 1 and re.search(rf"\b{re.escape(name)}\b", text.casefold()):
                own = technique.name(school).casefold()
                assert item in around or item == technique.id or name in own, (name, text)
        # Outcomes: only those of its own kind.
        landed = re.search(r"\b(lands?|gets? it|works|finish(es)?|ends? (up|in)|comes? out|taps?|wins?)\b", text)
        stopped = re.search(
            r"\b(stops?|defends?|shuts?|holds? it off|has the answer|keeps? it from|not land|nothing)\b", text
        )
        if x.outcome is Outcome.LANDED:
            assert not stopped, text
        if x.outcome is Outcome.STOPPED:
            assert stopped and not re.search(r"\b(gets? it|works|finish(es)?|taps)\b", text), text
        assert landed or stopped
        # Who: whoever attacks is the one logged, whoever answers the other.
        for who, verb in re.findall(
            r"([A-Z]\w+|I|my partner) (goes|go|starts?|tr(?:ies|y)|attacks?|begins?|works? on)\b", text
        ):
            if who in (by.subject, answering.subject, by.subject.capitalize(), answering.subject.capitalize()):
                assert who.casefold() == by.subject.casefold(), (who, verb, text)
        for who in re.findall(r"([A-Z]\w+|I|[Mm]y partner) (?:stops?|defends?|shuts?|holds? it off)\b", text):
            assert who.casefold() == answering.subject.casefold(), text
        # Numbers: points and score by the ledger, time by the bout's clock.
        for n in re.findall(r"\b(\w+) points?\b", text):
            if n not in ("on", "this"):
                gained = sum(p for side, p, at in book.standing() if side is x.by and x.start <= at <= x.end + 5)
                assert n.casefold() == number(gained), text
        for first, second in re.findall(r"(?:is|it) (\w+) to (\w+)\b", text):
            scores = {tuple(map(number, book.score(at))) for at in (x.start, x.end + 5)}
            assert (first, second) in scores, text
        for left in re.findall(
            r"(?:With|with|has|leaves) ((?:about )?[\w -]+?(?:minutes?|seconds?)(?: and a half)?) (?:left|on)", text
        ):
            assert left == duration(BoutClock(b).left(x.start)), text
        for gap in re.findall(r"^((?:About )?[\w -]+(?:minutes?|seconds?)) later", text):
            ends = [o.end for o in b.exchanges if o.end <= x.start]
            assert gap.casefold() == duration(x.start - max(ends)), text


def test_nothing_is_told_that_nobody_logged() -> None:
    """Without who, technique, outcome or notes there is only the pointing."""
    bare = replace(
        small(),
        script=(),
        labels=(),
        exchanges=(Exchange(id="x1", start=F(10), end=F(20)),),
        moments=(Moment(id="m1", at=F(14)), Moment(id="m2", at=F(17), kind=MomentKind.GRIP)),
    )
    text = next(t for _, t in told(checked(first_draft(bare, shipped_knowledge()))))
    assert not re.search(r"lands|defends|points|First|Second|None", text) and "the grip" in text


# ── how it sounds ────────────────────────────────────────────────────────────────────────────────────────────
@pytest.mark.parametrize("spoken_of", list(SpokenOf))
def test_no_opener_comes_twice_within_five_sentences(spoken_of: SpokenOf) -> None:
    openers = [words_of(s)[0].casefold().strip(",:") for _, text in told(drafted(spoken_of)) for s in sentences(text)]
    assert len(openers) > 30
    assert [w for i, w in enumerate(openers) if w in openers[max(i - APART + 1, 0) : i]] == []


@pytest.mark.parametrize("spoken_of", list(SpokenOf))
def test_no_verb_of_the_draft_comes_twice_within_five_sentences(spoken_of: SpokenOf) -> None:
    """Of the verbs that say what the two do; those in the creator's notes are the creator's."""
    b = drafted(spoken_of)
    plain = (
        r"\b(goes|go|starts?|tr(?:ies|y)|sets?|looks? for|shoots?|reach(?:es)?|attacks?|begins?|works? on|hunts?|"
        r"lands?|launch(?:es)?|gets?|finish(?:es)?|defends?|stops?|shuts?|holds?|scores?)\b"
    )
    said = [without_notes(b, x, s) for x, text in told(b) for s in sentences(text)]
    found = [[m[:3] for m in re.findall(plain, s)] for s in said]
    assert sum(map(len, found)) > 8
    for i, verbs in enumerate(found):
        assert not {v for part in found[max(i - APART + 1, 0) : i] for v in part} & set(verbs), said[
            max(i - 4, 0) : i + 1
        ]


def test_no_sentence_comes_twice() -> None:
    every = [s.strip() for _, text in told(drafted()) for s in sentences(text) if len(words_of(s)) > 3]
    assert len(set(every)) == len(every)


@pytest.mark.parametrize(
    ("spoken_of", "note", "said"),
    [
        (SpokenOf.NAMES, "Moss's base is gone", "Moss's base is gone"),
        (SpokenOf.NAMES, "Far arm frames.", "far arm frames"),
        (SpokenOf.KITS, "hips drop under Moss's hands", "hips drop under Lagoon's hands"),
        (SpokenOf.SECOND_IS_ME, "hips drop under Moss's hands", "hips drop under my hands"),
        (SpokenOf.FIRST_IS_ME, "Moss has the underhook", "my partner has the underhook"),
        (SpokenOf.SECOND_IS_ME, "Moss has the underhook", "I have the underhook"),
        (SpokenOf.FIRST_IS_ME, "Wren on her back", "me on my back"),
        (SpokenOf.FIRST_IS_ME, "his knee line is past her hips", "his knee line is past my hips"),
    ],
)
def test_notes_speak_of_the_two_as_the_draft_does(spoken_of: SpokenOf, note: str, said: str) -> None:
    assert noted(logged(spoken_of), note, F(40)) == said


@pytest.mark.parametrize(
    ("seconds", "said"),
    [
        (1, "one second"), (6, "six seconds"), (21, "twenty seconds"), (47, "fifty seconds"), (60, "a minute"),
        (91, "a minute and a half"), (118, "two minutes"), (205, "about three and a half minutes"),
        (240, "four minutes"),
    ],
)  # fmt: skip
def test_times_are_said_as_people_say_them(seconds: int, said: str) -> None:
    assert duration(F(seconds)) == said


# ── what somebody has touched ────────────────────────────────────────────────────────────────────────────────
def test_untouched_sentences_are_known_and_a_touched_one_is_not() -> None:
    beat = next(x for _, x in drafted().beats() if len(sentences(x.drafted)) > 1)
    assert len(untouched(beat)) == len(sentences(beat.text))
    changed = replace(beat, text=beat.text.replace(words_of(beat.text)[1], "really", 1))
    assert len(untouched(changed)) == len(sentences(beat.text)) - 1
    assert untouched(Beat(id="b", text="Mine. And mine.")) == ()


def test_a_section_is_drafted_anew_without_losing_what_was_edited() -> None:
    b = drafted()
    section = next(s for s in b.script if s.exchange == "x6")
    first = section.beats[0]
    edited = edit_script.rewrite(b, first.id, f"Honestly, {first.text}")
    edited = edit_script.rewrite(edited, section.beats[-1].id, "Get behind the arm first.")
    again = checked(section_anew(edited, section.id, shipped_knowledge()))
    now = next(s for s in again.script if s.exchange == "x6")
    assert next(x.text for x in now.beats) == f"Honestly, {first.text}"
    assert "Get behind the arm first." in [x.text for x in now.beats]
    tied = [t.moment for x in now.beats for t in x.ties]
    assert sorted(tied) == sorted(t.moment for x in section.beats for t in x.ties)
    assert [x.text for x in now.beats if x.drafted] != [x.text for x in section.beats if x.drafted]
    others = [s for s in again.script if s.id != section.id]
    assert others == [s for s in edited.script if s.id != section.id]


def test_what_is_written_already_stays_and_only_the_rest_is_told() -> None:
    b = demo_breakdown(Path("/"))
    fewer = replace(b, script=tuple(s for s in b.script if s.exchange != "x4"), labels=())
    made = checked(first_draft(fewer, shipped_knowledge()))
    assert [s for s in made.script if s.exchange != "x4"] == list(fewer.script)
    assert [x.drafted != "" for s in made.script if s.exchange == "x4" for x in s.beats].count(True) >= 1


def test_the_form_that_somebody_laid_out_stays() -> None:
    b = first_draft(lay_out(logged(), "guest"), shipped_knowledge())
    assert len(b.narrators) == 2 and [s.part for s in b.script][:2] == [Part.OPENING, Part.INTRODUCTION]
    kinds = {x.kind for s in b.script if s.exchange for x in s.beats if not x.text}
    assert BeatKind.THOUGHT in kinds and sum(1 for _ in told(b)) == 7


def test_an_empty_beat_asks_what_the_log_cannot_know() -> None:
    asks = grammar().asks
    empty = [x for s in drafted().script if s.exchange and s.part is Part.TALK for x in s.beats if not x.text]
    assert len(empty) >= 14 and all(asks[x.kind.value].endswith("?") for x in empty)


@settings(max_examples=25)
@given(breakdowns())
def test_any_log_can_be_told(b: Breakdown) -> None:
    """Overlapping exchanges, moments at one second, short ones, nobody named: a sound document comes of it."""
    bare = replace(b, script=(), labels=(), marks=(), footage=(footage("f1", 0, 90),))
    made = checked(first_draft(bare, shipped_knowledge()))
    assert all("{" not in x.text and "@" not in x.text and "None" not in x.text for _, x in made.beats())
    assert first_draft(bare, shipped_knowledge()) == made


def test_sides_are_told_apart_where_rounds_have_athletes_of_their_own() -> None:
    b = logged()
    assert called(b, Side.FIRST).subject == "Wren" and other(Side.FIRST) is Side.SECOND
    same = replace(b, second=replace(b.second, name="Wren Tarrant"))
    assert called(same, Side.FIRST).subject == "Wren Adeyo"
