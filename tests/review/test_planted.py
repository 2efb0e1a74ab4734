"""A finished breakdown with one fault planted in it: the review finds it, at its place, and hardly anything besides."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from dataclasses import replace as replaced
from fractions import Fraction as F
from typing import Any

import pytest
from msgspec.structs import replace

from chapto.demo.story import demo_breakdown
from chapto.document import edit_breakdown, edit_marks, edit_reviewing, edit_script
from chapto.document.bout import Outcome
from chapto.document.breakdown import Breakdown, DocumentError
from chapto.document.checks import checked
from chapto.document.clearance import Agreement, Clearance
from chapto.document.condition import Condition, ConditionKind
from chapto.document.edit_angles import put_angle
from chapto.document.edit_publishing import set_thumbnail
from chapto.document.footage import Angle
from chapto.document.joints import Joint
from chapto.document.mark_kinds import MarkKind
from chapto.document.marks import Anchor, Key, Mark, Until
from chapto.document.people import Athlete, Side
from chapto.document.publishing import Thumbnail
from chapto.document.reviewing import WatchNote
from chapto.document.script import BeatKind
from chapto.document.treatments import Cutaway, Hold, Slow, TextCard
from chapto.pacing.spoken import SpokenLine, estimate
from chapto.programme.compile import compile_programme
from chapto.review.all_checks import CHECKS
from chapto.review.finding import Weight
from chapto.review.limits import ReviewError
from chapto.review.measured import Flaw, Heard, HeardFlaw, Lying, Room, Shade, UnderSpeech, Watched
from chapto.review.review import Found, Review, Reviewer, review
from chapto.voice.guide import GuideVoice

QUIET = Heard(-14.0, -1.5, (UnderSpeech(F(0), F(30), 32.0),))
SEEN = Watched()
SETTLED = Clearance(
    owner="Ilka", agreement=Agreement.AGREED, music=False, commentary=False, thumbnail=True, hurt=False
)  # fmt: skip


@dataclass(frozen=True)
class Planted:
    """A fault: the `check` that has to find it, at which beat or item, and how it is planted."""

    name: str
    check: str
    edit: Callable[[Breakdown], Breakdown] = lambda b: b
    beat: str = ""
    item: str = ""
    voices: Callable[[Breakdown], Mapping[str, SpokenLine]] = field(default=lambda b: {})
    heard: Heard = QUIET
    watched: Watched = SEEN


@pytest.fixture(scope="module")
def finished(tmp_path_factory: pytest.TempPathFactory) -> Breakdown:
    """The demo with everybody asked."""
    b = demo_breakdown(tmp_path_factory.mktemp("demo"), marks=True)
    people = tuple(replace(p, agreement=Agreement.AGREED, minor=False) for p in b.people)
    files = tuple(replace(c, clearance=SETTLED) for c in b.footage)
    return replace(b, people=people, footage=files)


GUIDE = GuideVoice()


def looked_at(b: Breakdown, p: Planted) -> Review:
    voices = {**{beat: speech.line for beat, speech in GUIDE.of_breakdown(b).items()}, **p.voices(b)}
    return review(b, compile_programme(b, voices), voices=voices, heard=p.heard, watched=p.watched)


# ── how faults are planted ───────────────────────────────────────────────────────────────────────────────────
def said(beat: str, text: str) -> Callable[[Breakdown], Breakdown]:
    """With one more sentence at the end of a beat."""
    return lambda b: edit_script.rewrite(b, beat, f"{b.find_beat(beat)[1].text} {text}")


def instead(beat: str, old: str, new: str) -> Callable[[Breakdown], Breakdown]:
    return lambda b: edit_script.rewrite(b, beat, b.find_beat(beat)[1].text.replace(old, new))


def both(*edits: Callable[[Breakdown], Breakdown]) -> Callable[[Breakdown], Breakdown]:
    def all_of_them(b: Breakdown) -> Breakdown:
        for edit in edits:
            b = edit(b)
        return b

    return all_of_them


def moved(moment: str, at: str) -> Callable[[Breakdown], Breakdown]:
    return lambda b: replace(b, moments=tuple(replace(m, at=F(at)) if m.id == moment else m for m in b.moments))


def exchange(x: str, **changes: Any) -> Callable[[Breakdown], Breakdown]:
    return lambda b: replace(b, exchanges=tuple(replace(e, **changes) if e.id == x else e for e in b.exchanges))


def section(s: str, **changes: Any) -> Callable[[Breakdown], Breakdown]:
    return lambda b: edit_script.change_section(b, s, **changes)


def person(p: str, **changes: Any) -> Callable[[Breakdown], Breakdown]:
    return lambda b: replace(b, people=tuple(replace(x, **changes) if x.id == p else x for x in b.people))


def spoken_at(beat: str, pace: int) -> Callable[[Breakdown], Mapping[str, SpokenLine]]:
    return lambda b: {beat: estimate(b.find_beat(beat)[1].text, pace)}


def with_mark(b: Breakdown, joint: Joint, beat: str, word: int) -> Breakdown:
    at = F("175.6")
    spot = Anchor(id="a900", footage="f2", keys=(Key(mat=at, x=0.5, y=0.5),), side=Side.SECOND, joint=joint)
    return replace(
        b, anchors=(*b.anchors, spot),
        marks=(*b.marks, Mark(id="k900", kind=MarkKind.GRIP, anchors=("a900",), beat=beat, word=word)),
    )  # fmt: skip


def over(b: Breakdown, footage: str, sides: tuple[float, float]) -> Breakdown:
    """With both bodies where a file's picture has them."""
    at = F(40)
    spots = tuple(
        Anchor(id=f"a{footage}{i}", footage=footage, keys=(Key(mat=at, x=x, y=0.5),), side=side)
        for i, (side, x) in enumerate(zip(Side, sides, strict=True))
    )
    return replace(b, anchors=(*b.anchors, *spots))


def two_steps(b: Breakdown) -> Breakdown:
    b = said("b9", "Three steps will do.")(b)
    for text in ("Clear the frame.", "Then slide the knee."):
        b = edit_script.add_beat(b, "s4", text, kind=BeatKind.STEP)
    return b


def cut_in(seconds: str) -> Callable[[Breakdown], Breakdown]:
    return lambda b: edit_script.treat(b, "b17", Cutaway(F(611), seconds=F(seconds)))


def flaw(kind: Flaw, value: float) -> Heard:
    return replaced(QUIET, flaws=(HeardFlaw(kind, F(30), "b5", "", value),))


FOG = Condition(id="c900", footage="f1", kind=ConditionKind.FOGGED, start=F(80), end=F(95))
LABEL, SLIP = "label/Underhook", "slip/Hands locked"

PLANTED = (
    # meeting
    Planted("a moment long after its exchange", "in view", moved("m3", "48"), "b5"),
    Planted("two moments in the wrong order", "ties met", both(moved("m7", "107"), moved("m8", "104.3")), "b11"),
    Planted("a moment before its exchange", "ties met", moved("m14", "160"), "b16"),
    Planted("this hand, and no tie", "pointing", said("b6", "Just look at this hand."), "b6"),
    Planted("right here, and no tie", "pointing", said("b9", "And he is tired, right here."), "b9"),
    Planted("a mark on another camera", "marks shown",
            lambda b: put_angle(b, Angle(start=F(30), end=F(41), camera="Far wall")), item="k2"),
    Planted("a mark that is gone at once", "marks shown",
            lambda b: edit_marks.change_mark(
                b, "k5", until=Until.SECONDS, seconds=F("0.1"), words="", fact=False), "b9"),
    # time
    Planted("a hurried line", "pace", beat="b8", voices=spoken_at("b8", 330)),
    Planted("another hurried line", "pace", beat="b20", voices=spoken_at("b20", 330)),
    Planted("a line slower than the others", "even pace", beat="b15", voices=spoken_at("b15", 120)),
    Planted("a still with nothing on it", "stills",
            both(said("b6", "That is true of every takedown, of every throw, and of every trip, whoever does it, and "
                      "however strong the other one may be, since nobody stands on nothing."),
                 lambda b: edit_script.treat(b, "b6", Hold())), "b6"),
    Planted("slow motion that stands", "slow motion",
            lambda b: edit_script.treat(b, "b17", Slow(F(1, 5))), "b17"),
    Planted("a cutaway for a blink", "quick cuts", cut_in("0.4"), "b17"),
    Planted("nothing moves for long", "first action",
            both(lambda b: edit_script.remove_section(b, "s1"), section("s2", title="Where we are"),
                 said("b2", "Let me tell you about the place first, since it is a hall with a story. It was a boat "
                      "shed, then a school, then nothing at all, until the club put its mats in."),
                 lambda b: edit_script.treat(b, "b2", TextCard("The hall at Saltmarsh"))), "b2"),
    Planted("a third too long", "length", lambda b: edit_breakdown.set_target(b, 160)),
    Planted("over its limit", "length", lambda b: edit_breakdown.set_target(b, 205, limit=True)),
    Planted("two cameras on two sides", "line of action",
            both(lambda b: over(over(b, "f1", (0.3, 0.6)), "f3", (0.6, 0.3)),
                 lambda b: put_angle(b, Angle(start=F(40), end=F(42), camera="Far wall"))), item="f3"),
    # reading
    Planted("a slip for a blink", "labels read",
            lambda b: edit_marks.change_mark(b, "k2", until=Until.SECONDS, seconds=F("0.9"),
                                             words="Both of her hands are locked behind it"), "b5"),
    Planted("a word wider than a caption", "captions read",
            said("b13", "So-o-o-o-o-o-o-o-o-o-o-o-o-o-o-o-o-o-o-o-o-o slow.")),
    Planted("letters like their ground", "contrast", watched=Watched(shades=(Shade(LABEL, 600, 3.1, 10),))),
    Planted("letters too small", "small letters", watched=Watched(shades=(Shade(SLIP, 600, 9, 6.5),))),
    Planted("letters at the edge", "near the edge",
            watched=Watched(lying=(Lying(LABEL, 300, 400, (0.01, 0.5, 0.2, 0.56)),))),
    Planted("a slip over a label", "clear of others",
            watched=Watched(lying=(Lying(LABEL, 300, 400, (0.1, 0.5, 0.3, 0.56)),
                                   Lying(SLIP, 350, 450, (0.2, 0.5, 0.4, 0.56))))),
    Planted("a label over a head", "clear of others",
            watched=Watched(lying=(Lying(LABEL, 300, 400, (0.1, 0.5, 0.3, 0.56)),), heads=((310, 0.2, 0.53),))),
    Planted("a label over the clock", "clear of others",
            watched=Watched(lying=(Lying(LABEL, 300, 400, (0.7, 0.1, 0.9, 0.16)),),
                            boards=(Lying("board", 0, 900, (0.84, 0.12, 0.95, 0.25), letters=False),))),
    Planted("a slip where captions come", "clear of captions",
            watched=Watched(lying=(Lying(SLIP, 2622, 2648, (0.46, 0.84, 0.74, 0.89)),))),
    # sound
    Planted("two units too loud", "loudness", heard=replaced(QUIET, loudness=-12.0)),
    Planted("peaks that players cut off", "peaks", heard=replaced(QUIET, peak=0.4)),
    Planted("a gym as loud as the talk", "speech over the rest", beat="b1",
            heard=replaced(QUIET, under=(UnderSpeech(F(0), F(5), 9.0),))),
    Planted("a recording cut off at the top", "recordings", beat="b5", heard=flaw(Flaw.CLIPPED, 14)),
    Planted("a recording that drops out", "recordings", beat="b5", heard=flaw(Flaw.DROPPED, 40)),
    Planted("mains hum", "recordings", beat="b5", heard=flaw(Flaw.HUM, 35)),
    Planted("mouth clicks", "recordings", beat="b5", heard=flaw(Flaw.CLICK, 60)),
    Planted("another room", "one room", beat="b8",
            heard=replaced(QUIET, rooms=(Room("t1", "b5", -60), Room("t2", "b7", -61), Room("t3", "b8", -44)))),
    Planted("a voice off its place", "voice on its place", beat="b8", heard=replaced(QUIET, late=(("b8", 0.11),))),
    Planted("a voice before its place", "voice on its place", beat="b8", heard=replaced(QUIET, late=(("b8", -0.05),))),
    # picture
    Planted("flashes", "flashes", watched=Watched(flashes=((900, 5), (901, 5)))),
    Planted("black pictures", "black", watched=Watched(black=((900, 940),))),
    Planted("a picture that stands", "frozen", watched=Watched(frozen=((900, 940),))),
    Planted("fog that another camera did not have", "good picture",
            both(lambda b: replace(b, conditions=(FOG,)),
                 lambda b: put_angle(b, Angle(start=F(80), end=F(95), camera="Table side"))), item="f1"),
    Planted("somebody who said no", "faces covered",
            lambda b: replace(person("p3", agreement=Agreement.REFUSED)(b), marks=tuple(
                m for m in b.marks if m.kind is not MarkKind.COVER)), item="f1"),
    # truth
    Planted("the other one's takedown", "who did it", said("b4", "Moss shoots the single leg."), "b4"),
    Planted("the other one's knee slide", "who did it", said("b7", "So Moss's knee slide is slow."), "b7"),
    Planted("a colour of the other one", "who did it", said("b10", "Lagoon starts the knee slide."), "b10"),
    Planted("the other one's sweep", "who did it", said("b14", "Wren hits the underhook sweep."), "b14"),
    Planted("another takedown", "techniques true", said("b4", "That is a double leg."), "b4"),
    Planted("another sweep", "techniques true", said("b14", "That is a scissor sweep."), "b14"),
    Planted("from mount", "positions true", said("b14", "And all of that from mount."), "b14"),
    Planted("in side control", "positions true", said("b16", "She does that in side control."), "b16"),
    Planted("stopped, and said to land", "outcomes true", said("b7", "The knee slide goes through."), "b7"),
    Planted("landed, and said to be stopped", "outcomes true", said("b10", "But the knee slide is stopped."), "b10"),
    Planted("landed in the log, not in the words", "outcomes true",
            both(said("b14", "The underhook sweep fails."), exchange("x4", outcome=Outcome.LANDED)), "b14"),
    Planted("four nil", "scores true", said("b10", "She is up four nil now."), "b10"),
    Planted("two all", "scores true", said("b16", "It is two all now."), "b16"),
    Planted("thirty seconds left", "times true", said("b10", "All of that with thirty seconds left."), "b10"),
    Planted("four minutes to go", "times true", said("b16", "And there are four minutes to go."), "b16"),
    Planted("the second round", "rounds true", said("b10", "This is the second round."), "b10"),
    Planted("the third try", "tries true", said("b10", "This is the third try."), "b10"),
    Planted("a left knee that is the right one", "left and right",
            lambda b: with_mark(said("b16", "Look at his left knee.")(b), Joint.RIGHT_KNEE, "b16",
                                len(b.find_beat("b16")[1].text.split()) + 4), "b16"),
    Planted("one technique, two names", "one name",
            both(said("b9", "That is how a knee slide is saved."), said("b11", "And the knee cut is done.")), "b11"),
    Planted("the strangle by another name", "one name",
            both(said("b19", "A rear naked choke needs no strength."), said("b20", "The mata leao is slow.")), "b20"),
    Planted("a name with a letter too many", "names spelled", said("b17", "Adeyoo lets go."), "b17"),
    Planted("a name with a letter too few", "names spelled", said("b15", "And Tarant is up."), "b15"),
    Planted("three steps that are two", "numbers add up", two_steps, "b9"),
    # words
    Planted("the same words ten times", "words repeated",
            both(*(said(f"b{i}", "Really nice pressure.") for i in (5, 6, 7, 9, 10, 14, 15, 17, 18))), "b6"),
    Planted("praise for one of them", "praise",
            both(*(said(x, f"Wren is {w} there, always.") for x, w in
                   (("b5", "clever"), ("b11", "smart"), ("b15", "brilliant"), ("b18", "superb")))), "b5"),
    Planted("a mistake and nothing better", "other option", lambda b: edit_script.remove_beat(b, "b9"), "b8"),
    Planted("words that beginners do not know", "words explained", lambda b: replace(b, for_beginners=True)),
    Planted("a link", "promises", said("b21", "The link below has more."), "b21"),
    Planted("part two", "promises", said("b20", "The escape comes in part two."), "b20"),
    Planted("an earlier video", "promises", said("b13", "I have an earlier video of it."), "b13"),
    # care
    Planted("somebody who was not asked", "rights", person("p2", agreement=Agreement.NOT_ASKED), item="f1"),
    Planted("a minor without a guardian", "rights", person("p1", minor=True), item="f1"),
    Planted("footage of nobody knows whom", "rights",
            lambda b: replace(b, footage=tuple(replace(c, clearance=replace(SETTLED, owner="")) if c.id == "f2" else c
                                               for c in b.footage)), item="f2"),
    Planted("no line of care", "cautions", lambda b: replace(b, cautions=False)),
    Planted("a leg lock that is safe", "told safe", said("b17", "Do it like that, it is perfectly safe."), "b17"),
    Planted("a strangle that can't hurt", "told safe", said("b19", "It can't hurt anybody."), "b19"),
    Planted("a tap that is cut off", "let go",
            both(*(lambda b, s=s: edit_script.remove_section(b, s) for s in ("s1", "s13")),
                 section("s2", title="Two knee slides"), exchange("x7", end=F("230.1"))), item="x7"),
    Planted("a discount in the middle", "paid parts", said("b13", "Use the code TIDE for a tenth off."), "b13"),
    Planted("a sponsor who is not named as one", "paid parts",
            both(said("b21", "Tape from Saltmarsh Tape holds."),
                 lambda b: edit_script.change_beat_kind(b, "b21", BeatKind.SPONSOR)), "b21"),
    # file
    Planted("two chapters", "chapters",
            both(*(section(s, title="") for s in ("s4", "s5", "s6", "s7", "s8", "s10", "s11")))),
    Planted("nothing of one's own under the video", "description", lambda b: replace(b, about="")),
    Planted("more under the video than sites take", "description", lambda b: replace(b, about="So long. " * 700)),
    Planted("no name", "names given", lambda b: replace(b, first=Athlete(name="First", kit="marigold sleeves"))),
    Planted("a thumbnail full of words", "thumbnail",
            lambda b: set_thumbnail(b, Thumbnail(title="Why the first knee slide is stopped and one passes"))),
    Planted("a title as long as a sentence", "names given", lambda b: replace(b, title="Two knee slides " * 5)),
    # and what the creator noted
    Planted("a note", "noted",
            lambda b: replace(b, notes=(WatchNote(id="w1", beat="b5", word=3, text="Too dark."),)), "b5"),
)  # fmt: skip


def test_nothing_is_found_in_the_finished_breakdown(finished: Breakdown) -> None:
    found = looked_at(finished, Planted("nothing", ""))
    assert not found.found and not found.unchecked


def test_planted_faults_are_found_at_their_place_with_little_else(finished: Breakdown) -> None:
    """At least 95 of a hundred, and at most two findings of other checks beside each."""
    missed, besides = [], []
    for p in PLANTED:
        found = looked_at(checked(p.edit(finished)), p)
        here = [f.finding.where for f in found.found if f.check.name == p.check]
        if not any((not p.beat or w.beat == p.beat) and (not p.item or w.item == p.item) for w in here):
            missed.append((p.name, p.check, here))
        others = [f"{f.check.name}: {f.finding.sentence}" for f in found.found if f.check.name != p.check]
        if len(others) > 2:
            besides.append((p.name, others))
    assert len(PLANTED) >= 60
    assert len(missed) <= 0.05 * len(PLANTED), missed
    assert not besides, besides


def key_of(f: Found) -> tuple[str, str, str]:
    x = f.finding
    return x.where.beat, x.where.item, x.quote


def places_of(reviewed: Review, check: str) -> list[tuple[str, str, str]]:
    return [key_of(f) for f in reviewed.found if f.check.name == check]


def test_what_is_offered_mends_it(finished: Breakdown) -> None:
    """After the one press nothing is found there any more, and nothing that weighs more has come."""
    offered, hopeless, left = 0, [], []
    for p in PLANTED:
        if p.heard is not QUIET or p.watched is not SEEN:
            continue
        b = p.edit(finished)
        before = looked_at(b, p)
        found = next(f for f in before.found if f.check.name == p.check)
        if found.finding.mend is None:
            continue
        offered += 1
        try:
            mended = checked(found.finding.mend.make(b).breakdown)
        except ReviewError:
            hopeless.append(p.name)
            continue
        assert mended != b
        # The lines are as they are spoken then: nobody reads a mended line as fast as before.
        after = looked_at(mended, replaced(p, voices=lambda b: {}))
        if places_of(after, p.check).count(key_of(found)) >= places_of(before, p.check).count(key_of(found)):
            left.append(p.name)
        assert after.count(Weight.MUST) <= before.count(Weight.MUST), p.name
    assert offered >= 30 and not left, left
    # Each way out is tried before it is taken; for what has none that is said.
    assert len(hopeless) <= 2, hopeless


def test_a_promise_is_kept_by_what_stands_under_the_video(finished: Breakdown) -> None:
    for name, answer in (("a link", "https://example.org/frames"), ("part two", "Part two comes in March.")):
        p = next(x for x in PLANTED if x.name == name)
        b = p.edit(finished)
        (found,) = looked_at(b, p).found
        assert found.finding.ask is not None
        kept = checked(found.finding.ask.answer(b, answer))
        assert kept.about.endswith(answer) and not looked_at(kept, p).found


def test_what_is_left_with_a_reason_stays_away_until_it_becomes_worse(finished: Breakdown) -> None:
    slow = Planted("", "length", lambda b: edit_breakdown.set_target(b, 160))
    b = slow.edit(finished)
    (found,) = looked_at(b, slow).found
    with pytest.raises(DocumentError):
        edit_reviewing.waive(b, found.waiver_for("  "))
    left = checked(edit_reviewing.waive(b, found.waiver_for("The bout needs it.")))
    again = looked_at(left, slow)
    assert not again.found and "The bout needs it." in {f.waiver.reason for f in again.waived if f.waiver}
    shorter = edit_breakdown.set_target(left, 155)
    assert len(looked_at(shorter, slow).found) == 1
    (opened,) = looked_at(edit_reviewing.open_again(left, left.waivers[-1]), slow).found
    assert opened.finding.sentence == found.finding.sentence and opened.waiver is None


def test_only_what_was_touched_is_looked_at_again(finished: Breakdown, monkeypatch: pytest.MonkeyPatch) -> None:
    looks: list[str] = []
    ties = next(c for c in CHECKS if c.name == "ties met")
    counting = replaced(ties, in_part=lambda part: looks.append(part.section.id) or iter(()))
    monkeypatch.setattr("chapto.review.review.CHECKS", (counting,))
    reviewer = Reviewer()
    reviewer.review(finished, compile_programme(finished, {}))
    assert len(looks) == len(finished.script)
    looks.clear()
    changed = said("b8", "And that is all.")(finished)
    reviewer.review(changed, compile_programme(changed, {}))
    assert looks == ["s4"]
    looks.clear()
    logged = exchange("x2", outcome=Outcome.LANDED)(changed)
    reviewer.review(logged, compile_programme(logged, {}))
    assert len(looks) == len(finished.script)
