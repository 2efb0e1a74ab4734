"""What stands round the talk: opening, introduction, recap, credits; and names and labels over it."""

from __future__ import annotations

from fractions import Fraction
from itertools import pairwise

import pytest
from msgspec.structs import replace

from chapto.clock.passage import Kind
from chapto.document.bout import NO_RISK, Exchange, Moment, MomentKind, Outcome, Round
from chapto.document.breakdown import Breakdown, Label
from chapto.document.clearance import Agreement, Clearance, Person
from chapto.document.people import Athlete
from chapto.document.script import Beat, BeatKind, Part, Section, Tie
from chapto.programme.compile import compile_programme
from chapto.programme.framing_sections import best_moment, credits_of, introduction_span, opening_span
from chapto.programme.programme import Programme
from tests.document.samples import footage

F = Fraction
OPENING = Section(id="o", part=Part.OPENING, beats=(Beat(id="bo", text="Watch the end of this."),))
RECAP = Section(id="r", part=Part.RECAP, beats=(Beat(id="br", text="Frame, hips, and only then the knee again."),))


def two(*around: Section) -> Breakdown:
    """A stopped try at 10–20 s and one that landed at 40–50 s, told in that order, with sections round the talk."""
    talk = (
        Section(id="s1", exchange="x1", beats=(Beat(id="b1", text="First here.", ties=(Tie(word=1, moment="m1"),)),)),
        Section(id="s2", exchange="x2", beats=(Beat(id="b2", text="Then that one there."),)),
    )
    return Breakdown(
        title="Two tries",
        footage=(footage(),),
        rounds=(Round(id="r1", name="One", start=F(5), end=F(30)), Round(id="r2", name="Two", start=F(35), end=F(60))),
        exchanges=(
            Exchange(id="x1", start=F(10), end=F(20), outcome=Outcome.STOPPED),
            Exchange(id="x2", start=F(40), end=F(50), outcome=Outcome.LANDED),
        ),
        moments=(
            Moment(id="m1", at=F(14)),
            Moment(id="m2", at=F(44)),
            Moment(id="m3", at=F(80), kind=MomentKind.FINISH),
        ),
        script=(*(s for s in around if s.part is not Part.RECAP), *talk, *(s for s in around if s.part is Part.RECAP)),
    )


def passages_of(p: Programme, section: str) -> list[tuple[float, float]]:
    """Mat seconds shown in a section, in order."""
    placed = next(s for s in p.sections if s.section == section)
    return [
        (float(x.mat_in), float(x.mat_out)) for x in p.passages if placed.start <= x.watch_in < placed.end and x.footage
    ]


def test_an_opening_shows_the_try_that_landed_and_nothing_that_is_not_told() -> None:
    """The finish at 80 s lies in no explained exchange."""
    b = two(OPENING)
    moment = best_moment(b, OPENING)
    assert moment is not None and moment.id == "m2"
    assert opening_span(b, OPENING) == (F("41.5"), F("45.5"))
    assert passages_of(compile_programme(b, {}), "o")[0][0] == pytest.approx(41.5, abs=0.05)


def test_an_opening_of_an_exchange_that_it_names_shows_that_one() -> None:
    moment = best_moment(two(), replace(OPENING, exchange="x1"))
    assert moment is not None and moment.id == "m1"


def test_an_introduction_runs_from_the_start_of_the_round_of_what_comes_first() -> None:
    section = Section(id="i", part=Part.INTRODUCTION, beats=(Beat(id="bi", text="Two tries of one pass."),))
    b = two(section)
    assert introduction_span(b, section) == (F(5), F(12))
    assert passages_of(compile_programme(b, {}), "i")[0][0] == pytest.approx(5, abs=0.05)
    without = replace(b, rounds=())
    assert introduction_span(without, section) is None
    kinds = {x.kind for x in compile_programme(without, {}).passages[:1]}
    assert kinds == {Kind.CARD}


def test_a_recap_shows_each_explained_exchange_about_its_last_tie_for_an_equal_time() -> None:
    p = compile_programme(two(RECAP), {})
    clips = passages_of(p, "r")
    assert len(clips) == 2
    (one_from, one_to), (other_from, other_to) = clips
    assert one_from < 14 < one_to and other_from < 45 < other_to
    assert one_to - one_from == pytest.approx(other_to - other_from, abs=0.1)
    assert one_to - one_from < 10


def test_credits_thank_who_agreed_and_whose_footage_it_is_each_once() -> None:
    wren = Person(id="p1", name="Wren Adeyo", part="in marigold", agreement=Agreement.AGREED)
    asked = Person(id="p2", name="Moss Tarrant", agreement=Agreement.ASKED)
    owned = Clearance(owner="Saltmarsh Winter Open", agreement=Agreement.AGREED)
    files = [replace(footage(f"f{i}", 200 * i), clearance=owned, seen=("p1", "p2")) for i in range(2)]
    credited = replace(footage("f3", 900), clearance=replace(owned, credit="Pictures: Ilka"))
    refused = replace(footage("f4", 1200), clearance=Clearance(owner="Nobody", agreement=Agreement.REFUSED))
    b = replace(two(), footage=(*files, credited, refused), people=(wren, asked))
    assert credits_of(b) == (
        "Wren Adeyo, in marigold", "Footage: Saltmarsh Winter Open", "Pictures: Ilka",
    )  # fmt: skip


def test_names_come_a_moment_after_the_introduction_begins_and_stand_long_enough_to_read() -> None:
    """0.8 s and 4.5 s: common practice."""
    section = Section(
        id="i",
        part=Part.INTRODUCTION,
        beats=(Beat(id="bi", text="Two tries of one pass, and what was different " * 3),),
    )
    named = replace(two(section), first=Athlete(name="Wren"), second=Athlete(name="Moss"))
    p = compile_programme(named, {})
    assert not any(n.side for n in compile_programme(two(section), {}).names)
    names = [n for n in p.names if n.side is not None]
    assert {n.name for n in names} == {"Wren", "Moss"}
    assert {float(n.start / p.fps) for n in names} == {0.8}
    assert {float((n.end - n.start) / p.fps) for n in names} == {4.5}


def test_a_label_comes_when_its_moment_is_talked_about_not_when_it_is_first_on_the_screen() -> None:
    """The first try is shown once before it is told."""
    b = two()
    shown_first = replace(b.script[0], show_first=True)
    b = replace(b, script=(shown_first, *b.script[1:]), labels=(Label(id="l1", moment="m1", text="Frame"),))
    p = compile_programme(b, {})
    (tie,) = p.ties
    label = next(x for x in p.labels if x.label == "l1")
    assert tie.shown is not None and label.start == int(tie.shown * p.fps)
    assert any(x.mat_in <= 14 < x.mat_out for x in p.passages if x.watch_in + x.frames <= label.start)


def test_labels_never_stand_on_one_another_however_many_there_are() -> None:
    """Four have room one above another, the others wait."""
    labels = tuple(Label(id=f"l{i}", moment="m1", text=f"Number {i}") for i in range(11))
    p = compile_programme(replace(two(), labels=labels), {})
    assert max(sum(x.start <= y.start < x.end for x in p.labels) for y in p.labels) == 4
    for row in range(4):
        spans = sorted((x.start, x.end) for x in p.labels if x.row == row)
        assert len(spans) >= 2 and all(one[1] <= other[0] for one, other in pairwise(spans))
    assert {x.row for x in p.labels} == {0, 1, 2, 3}


def test_while_a_sponsors_notice_is_said_the_picture_says_that_it_is_one() -> None:
    """From its first word to its last, and even where no cautions are wanted."""
    b = two()
    sold = Beat(id="bs", text="This part is paid for by a mat maker.", kind=BeatKind.SPONSOR)
    b = replace(b, cautions=False, script=(replace(b.script[0], beats=(*b.script[0].beats, sold)), *b.script[1:]))
    p = compile_programme(b, {})
    (line,) = p.cautions
    words = [w for w in p.words if w.beat == "bs"]
    assert (line.risk, line.text) == ("advertisement", "Advertisement")
    assert abs(line.start / p.fps - words[0].start) <= 1 / p.fps and abs(line.end / p.fps - words[-1].end) <= 1 / p.fps


def test_each_class_of_risk_has_its_sentence_once_and_the_general_line_stands_in_the_credits() -> None:
    thanks = Section(id="c", part=Part.CREDITS, beats=(Beat(id="bc", text="Thank you for watching this with me."),))
    b = two()
    strangle = replace(b.exchanges[0], technique="guillotine"), replace(b.exchanges[1], technique="flying arm bar")
    b = replace(b, exchanges=strangle, script=(*b.script, thanks))
    p = compile_programme(b, {})
    assert [c.risk for c in p.cautions] == ["strangle", "throw", "fast joint lock", "always"]
    starts = {s.section: s.start for s in p.sections}
    assert p.cautions[0].start == starts["s1"] and p.cautions[1].start == starts["s2"]
    assert p.cautions[-1].start == starts["c"] and "qualified coach" in p.cautions[-1].text
    assert all(one.end <= other.start for one, other in pairwise(p.cautions))


def test_a_technique_that_the_lexicon_does_not_know_is_cautioned_as_the_creator_said() -> None:
    b = two()
    own = replace(b.exchanges[0], technique="reed twist", risk="neck and spine")
    b = replace(b, exchanges=(own, b.exchanges[1]))
    assert [c.risk for c in compile_programme(b, {}).cautions] == ["neck and spine", "always"]
    for risk in ("", NO_RISK, "a class of another Chapto"):
        said = replace(b, exchanges=(replace(own, risk=risk), b.exchanges[1]))
        assert compile_programme(said, {}).cautions == ()
    known = replace(own, technique="guillotine")
    assert compile_programme(replace(b, exchanges=(known, b.exchanges[1])), {}).cautions[0].risk == "strangle"
