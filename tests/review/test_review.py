"""What a review finds: each check in a document or a programme that violates only it, and not in its mended twin."""

from __future__ import annotations

import json
from collections.abc import Callable
from dataclasses import dataclass
from dataclasses import replace as replaced
from fractions import Fraction as F
from pathlib import Path
from typing import Any

import pytest
from msgspec.structs import replace

from chapto.cli.main import main
from chapto.clock.passage import Kind, Passage
from chapto.clock.timemap import TimeMap
from chapto.demo.story import demo_breakdown
from chapto.document.bout import Round
from chapto.document.bout_rules import PositionSpan
from chapto.document.breakdown import Breakdown
from chapto.document.clearance import Agreement, Person
from chapto.document.mark_kinds import MarkKind
from chapto.document.marks import Mark
from chapto.document.people import Athlete, Narrator, Side
from chapto.document.publishing import Publishing, Thumbnail
from chapto.document.script import Beat, Section
from chapto.programme.block import Block, PlacedBlock
from chapto.programme.compile import compile_programme
from chapto.programme.knowledge import shipped_knowledge
from chapto.programme.placed import Caption, Chapter, PlacedLabel, PlacedSection, PlacedWord, TieState
from chapto.programme.placed_marks import PlacedMark, Unplaced
from chapto.programme.readings import NOTHING_READ
from chapto.review.all_checks import CHECKS
from chapto.review.finding import Weight
from chapto.review.limits import ReviewError, limits_of, shipped_limits
from chapto.review.review import Review, review
from chapto.store.session import Session
from tests.document.samples import footage, small

FPS, KNOWN = F(30), shipped_knowledge()


@dataclass
class Shown:
    """A programme as checks see it, made up piece by piece: four minutes that nothing is wrong with."""

    passages: tuple[Passage, ...] = ()
    words: tuple[PlacedWord, ...] = ()
    captions: tuple[Caption, ...] = ()
    labels: tuple[PlacedLabel, ...] = ()
    marks: tuple[PlacedMark, ...] = ()
    unplaced: tuple[Unplaced, ...] = ()
    chapters: tuple[Chapter, ...] = tuple(Chapter(f"Part {i}", i * 1800) for i in range(4))
    ties: tuple[Any, ...] = ()
    insets: tuple[Any, ...] = ()
    fps: F = FPS
    frames: int = 7200
    known: Any = KNOWN

    music: tuple[Any, ...] = ()
    names: tuple[Any, ...] = ()
    cautions: tuple[Any, ...] = ()
    shortfalls: tuple[Any, ...] = ()
    readings: Any = NOTHING_READ

    @property
    def blocks(self) -> tuple[PlacedBlock, ...]:
        made = Block("s1", "", self.frames, self.passages, (), self.words, self.ties, self.captions, ())
        return (PlacedBlock(made, 0, self.fps),)

    @property
    def sections(self) -> tuple[PlacedSection, ...]:
        return (PlacedSection("s1", "", 0, self.frames),)

    @property
    def files_shown(self) -> frozenset[str]:
        return frozenset(p.footage for p in self.passages if p.footage)

    @property
    def time_map(self) -> TimeMap:
        return TimeMap(self.passages)

    @property
    def seconds(self) -> F:
        return self.frames / self.fps

    def chapter_spans(self) -> tuple[tuple[Chapter, int], ...]:
        return tuple(zip(self.chapters, [*(c.start for c in self.chapters[1:]), self.frames], strict=False))


def passages(*rows: tuple[Kind, float, float, float]) -> tuple[Passage, ...]:
    """Kind, mat second, rate and watch seconds of each, one after another."""
    found, at = [], 0
    for kind, mat, rate, seconds in rows:
        frames = round(seconds * 30)
        found.append(Passage(kind, "f1", F(mat), F(rate).limit_denominator(8), at, frames, FPS))
        at += frames
    return tuple(found)


def words(text: str, start: float, each: float, beat: str = "b1") -> tuple[PlacedWord, ...]:
    spoken = text.split()
    at = [F(start) + F(each).limit_denominator(1000) * i for i in range(len(spoken) + 1)]
    return tuple(PlacedWord(beat, i, w, at[i], at[i + 1]) for i, w in enumerate(spoken))


def settled(b: Breakdown) -> Breakdown:
    """With all names given, and everybody asked."""
    rights = replace(
        b.footage[0].clearance, owner="Ilka", agreement=Agreement.AGREED, music=False, commentary=False,
        thumbnail=False, hurt=False,
    )  # fmt: skip
    people = (Person(id="p1", name="Wren", agreement=Agreement.AGREED, minor=False),)
    filmed = tuple(replace(c, clearance=rights, seen=("p1",)) for c in b.footage)
    return replace(
        b, about="A line.", footage=filmed, people=people, first=Athlete(name="Wren"), second=Athlete(name="Moss")
    )


B = settled(small())
RUN = passages((Kind.RUN, 10, 1, 240))
TENS = tuple(Chapter(f"Part {i}", i * 300) for i in range(3))
STANDS = ((Kind.RUN, 0, 1, 10), (Kind.HOLD, 10, 0, 7), (Kind.RUN, 10, 1, 5), (Kind.HOLD, 15, 0, 7))
LINE = "then she takes the grip and brings her knee across"


def mark(word: int = 0) -> Mark:
    return Mark(id="k1", kind=MarkKind.SPOTLIGHT, anchors=(), beat="b1", word=word)


PLANTED: tuple[tuple[str, Shown, Shown], ...] = (
    ("pace", Shown(RUN, words(LINE, 1, 0.2)), Shown(RUN, words(LINE, 1, 0.24))),
    (
        "silences",
        Shown(RUN, words(LINE, 1, 0.3) + words(LINE, 8.5, 0.3, "b2")),
        Shown(RUN, words(LINE, 1, 0.3) + words(LINE, 7, 0.3, "b2")),
    ),
    (
        "stills",
        Shown(passages((Kind.RUN, 10, 1, 5), (Kind.HOLD, 15, 0, 9))),
        Shown(passages((Kind.RUN, 10, 1, 5), (Kind.HOLD, 15, 0, 7))),
    ),
    ("slow motion", Shown(passages((Kind.SLOW, 10, 0.25, 5))), Shown(passages((Kind.SLOW, 10, 0.5, 5)))),
    (
        "quick cuts",
        Shown(passages((Kind.RUN, 10, 1, 5), (Kind.RUN, 30, 1, 0.5), (Kind.RUN, 50, 1, 5))),
        Shown(passages((Kind.RUN, 10, 1, 5), (Kind.RUN, 30, 1, 1.5), (Kind.RUN, 50, 1, 5))),
    ),
    (
        "first action",
        Shown(passages((Kind.CARD, 0, 0, 21), (Kind.RUN, 10, 1, 5))),
        Shown(passages((Kind.CARD, 0, 0, 19), (Kind.RUN, 10, 1, 5))),
    ),
    (
        "labels read",
        Shown(RUN, labels=(PlacedLabel("l1", "Knee slide from the half guard", 30, 70, 0),)),
        Shown(RUN, labels=(PlacedLabel("l1", "Knee slide from the half guard", 30, 90, 0),)),
    ),
    (
        "captions read",
        Shown(RUN, captions=(Caption(F(1), F(9), "a" * 38),)),
        Shown(RUN, captions=(Caption(F(1), F(9), "a" * 37),)),
    ),
    (
        "captions read",
        Shown(RUN, captions=(Caption(F(1), F(3), "one two three four five six seven"),)),
        Shown(RUN, captions=(Caption(F(1), F(10, 3), "one two three four five six seven"),)),
    ),
    (
        "marks shown",
        Shown(RUN, words(LINE, 1, 0.5), marks=(PlacedMark(mark(1), "f1", 30, 50, ""),)),
        Shown(RUN, words(LINE, 1, 0.5), marks=(PlacedMark(mark(1), "f1", 30, 60, ""),)),
    ),
    ("marks shown", Shown(RUN, unplaced=(Unplaced("k1", "It is nowhere."),)), Shown(RUN)),
    (
        "shares",
        Shown(passages(*STANDS, (Kind.RUN, 19, 1, 4), (Kind.HOLD, 23, 0, 7)), frames=1200, chapters=TENS),
        Shown(passages(*STANDS, (Kind.RUN, 19, 1, 7), (Kind.HOLD, 26, 0, 7)), frames=1290, chapters=TENS),
    ),
    (
        "chapter length",
        Shown(passages((Kind.RUN, 10, 1, 400)), frames=12000, chapters=TENS),
        Shown(passages((Kind.RUN, 10, 1, 250)), frames=7500, chapters=TENS),
    ),
    (
        "chapters",
        Shown(RUN, chapters=(Chapter("A", 0), Chapter("B", 1800), Chapter("C", 2000))),
        Shown(RUN, chapters=(Chapter("A", 0), Chapter("B", 1800), Chapter("C", 3600))),
    ),
)  # fmt: skip


def found(b: Breakdown, shown: object) -> Review:
    return review(b, shown)  # type: ignore[arg-type]


def names(reviewed: Review) -> set[str]:
    return {f.check.name for f in reviewed.found}


@pytest.mark.parametrize(("name", "planted", "mended"), PLANTED)
def test_a_programme_that_violates_only_one_check_is_found_and_its_mended_twin_is_not(
    name: str, planted: Shown, mended: Shown
) -> None:
    assert names(found(B, planted)) == {name}
    assert not found(B, mended).found


def said(text: str) -> Breakdown:
    beats = tuple(Beat(id=f"b{i}", text=text) for i in range(1, 10))
    return replace(B, script=(Section(id="s1", title="Pass", exchange="x1", beats=beats),))


SHORT_TITLE = Publishing(thumbnail=Thumbnail(title="x"))
DOCUMENTS: tuple[tuple[str, Callable[[], Breakdown], Callable[[], Breakdown]], ...] = (
    ("words repeated", lambda: said("And in this spot she waits."), lambda: replace(B)),
    ("names given", lambda: replace(B, first=Athlete(name="First")), lambda: replace(B)),
    ("names given", lambda: replace(B, title="x" * 71), lambda: replace(B, title="x" * 70, publishing=SHORT_TITLE)),
    ("thumbnail", lambda: replace(B, title="x" * 41), lambda: replace(B, title="x" * 40)),
    ("rights", lambda: replace(B, people=()), lambda: replace(B)),
)


@pytest.mark.parametrize(("name", "planted", "mended"), DOCUMENTS)
def test_a_document_that_violates_only_one_check_is_found_and_its_mended_twin_is_not(
    name: str, planted: Callable[[], Breakdown], mended: Callable[[], Breakdown]
) -> None:
    assert names(found(planted(), Shown(RUN))) == {name}
    assert not found(mended(), Shown(RUN)).found


def test_a_tie_that_does_not_meet_must_be_mended_and_leads_to_its_word() -> None:
    met = compile_programme(B, {})
    (tie,) = met.ties
    assert "ties met" not in names(review(B, met))
    missed = Shown(met.passages, met.words, ties=(replaced(tie, state=TieState.LATE, shown=tie.said - F(3, 10)),))
    reviewed = found(B, missed)
    (late,) = [f.finding for f in reviewed.found if f.check.name == "ties met"]
    assert late.weight is Weight.MUST and (late.where.beat, late.where.word) == ("b1", 5)
    assert late.sentence == "“here” and its moment do not meet: they miss each other by 0.30 s."
    assert reviewed.found[0].finding is late and "One thing must be mended" in reviewed.verdict


def test_a_score_that_is_said_and_not_the_logs_must_be_mended() -> None:
    """Two points for a takedown (the shipped rules)."""
    positions = (
        PositionSpan(start=F(0), end=F(8), position="standing"),
        PositionSpan(start=F(8), end=F(60), position="side-control", top=Side.FIRST),
    )
    rounds = (Round(id="r1", name="Round", start=F(0), end=F(60)),)
    told = settled(small("Watch this. She is two nil, here, and on top."))
    logged = replace(told, positions=positions, rounds=rounds)
    tied = replace(logged.script[0].beats[0], ties=(replace(logged.script[0].beats[0].ties[0], word=3),))
    right = replace(logged, script=(replace(logged.script[0], beats=(tied,)),))
    wrong_beat = replace(tied, text="Watch this. She is four nil, here, and on top.")
    wrong = replace(right, script=(replace(right.script[0], beats=(wrong_beat,)),))
    assert "scores true" not in names(found(right, Shown(RUN)))
    (score,) = [f.finding for f in found(wrong, Shown(RUN)).found if f.check.name == "scores true"]
    assert score.weight is Weight.MUST and "2–0" in score.sentence


def test_who_begins_to_talk_is_named_in_the_captions() -> None:
    narrators = (Narrator(id="n1", name="Ilka"), Narrator(id="n2", name="Bram"))
    beats = (Beat(id="b1", text=LINE, narrator="n1"), Beat(id="b2", text=LINE, narrator="n2"))
    b = replace(B, narrators=narrators, script=(Section(id="s1", title="Pass", exchange="x1", beats=beats),))
    spoken = words(LINE, 1, 0.4) + words(LINE, 6, 0.4, "b2")
    for first, second, unnamed in (("Ilka: then", "Bram: then", set()), ("Ilka: then", "then", {"speaker named"})):
        shown = Shown(RUN, spoken, captions=(Caption(F(1), F(5), first), Caption(F(6), F(10), second)))
        assert names(found(b, shown)) == unnamed


def test_every_limit_names_its_source_and_can_be_changed() -> None:
    limits = shipped_limits()
    assert all(x.source and x.unit for x in limits.values())
    slower = limits_of({"pace-most": {"value": "200", "unit": "words a minute", "source": "mine"}}, limits)
    shown: Any = Shown(RUN, words(LINE, 1, 0.24))
    assert names(review(B, shown, slower)) == {"pace"}
    nothing = {"value": "0", "unit": "x", "source": "y"}
    for rows in ({"pace": {}}, {"pace-most": nothing}, {"pace-most": {"value": "fast"}}):
        with pytest.raises(ReviewError):
            limits_of(rows, limits)


def test_the_demo_has_nothing_that_a_viewer_would_stumble_over_but_what_its_story_needs(tmp_path: Path) -> None:
    """One of those who were filmed has not answered yet: that is what the demo is about."""
    b = demo_breakdown(tmp_path, marks=True)
    reviewed = review(b, compile_programme(b, {}))
    heavy = {f.check.name for f in reviewed.found if f.finding.weight is not Weight.MAY}
    assert heavy <= {"rights"}


def test_the_command_says_it_and_tells_by_its_status(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    project = tmp_path / "small.chapto"
    Session.create(small(), project).close()
    assert main(["review", str(project), "--strict"]) == 1
    assert "must be mended" in capsys.readouterr().out
    assert main(["review", str(project), "--json"]) == 0
    rows = json.loads(capsys.readouterr().out)["found"]
    assert {r["check"] for r in rows} <= {c.name for c in CHECKS} and rows[0]["weight"] == "must"
    page = tmp_path / "review.html"
    assert main(["review", str(project), "--quick", "--html", str(page)]) == 0
    assert "must be mended" in capsys.readouterr().out and "is not at" not in page.read_text("utf-8")
    before = page.read_text("utf-8")
    assert main(["review", str(project), "--quick", "--html", str(page)]) != 0
    assert main(["review", str(project), "--quick", "--html", str(project), "--force"]) != 0
    assert page.read_text("utf-8") == before and Session.look(project).breakdown == small()
    capsys.readouterr()
    assert main(["review", str(project)]) == 0
    assert "could not be checked" in capsys.readouterr().out
    Session.create(B, tmp_path / "good.chapto").close()
    main(["review", str(tmp_path / "good.chapto"), "--strict"])


def test_an_empty_breakdown_can_be_reviewed() -> None:
    b = Breakdown(title="New", footage=(footage(),))
    assert review(b, compile_programme(b, {})).verdict
