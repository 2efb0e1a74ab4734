"""What the picture can do under a beat, in the creator's words. Free of Qt."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from fractions import Fraction
from textwrap import shorten
from typing import assert_never

from msgspec.structs import replace

from chapto.clock.timecode import clock_text
from chapto.document.bout import Exchange, Moment
from chapto.document.breakdown import Breakdown
from chapto.document.footage import cameras_of
from chapto.document.script import MARKS, Beat, Section, words_of
from chapto.document.treatments import (
    Again,
    Cutaway,
    GoTo,
    Hold,
    Loop,
    Pace,
    Run,
    ShowPhoto,
    SideBySide,
    Skip,
    Slow,
    TextCard,
    Treatment,
)
from chapto.lexicon.trade_words import trade_word

SPEEDS = ((Fraction(1), "full speed"), (Fraction(3, 4), "three quarters"), (Fraction(1, 2), "half speed"),
          (Fraction(1, 4), "a quarter"))  # fmt: skip
LASTING = (Fraction(2), Fraction(3), Fraction(5), Fraction(8))
BACK = (Fraction(3), Fraction(5), Fraction(8))


@dataclass(frozen=True, slots=True)
class Choice:
    """One thing the picture can do, or a `group` of several under one name."""

    text: str
    treatment: Treatment | None = None
    group: tuple[Choice, ...] = ()


def choices(b: Breakdown, section: Section, beat: Beat, on_screen: Fraction) -> tuple[Choice, ...]:
    """Everything offered for a beat; `on_screen` is the mat second the creator is looking at."""
    found = [
        Choice("Let the fit decide"),
        Choice("Run at full speed", Run()),
        Choice("Slow", group=tuple(Choice(name.capitalize(), Slow(rate)) for rate, name in SPEEDS[1:])),
        Choice("From here on", group=_paces()),
        Choice("Hold", group=(Choice("Where it is", Hold()), *_holds(b, beat))),
        Choice("Again", group=_agains()),
        Choice("Loop until the words are out", group=_loops()),
    ]
    if section.exchange:
        ahead = tuple(Choice(_named(m), Skip(m.id)) for m in _moments(b, b.exchange(section.exchange)))
        found.append(Choice("Skip ahead to", group=ahead))
    found += [
        Choice("Go to", group=_going_to(on_screen)),
        Choice("Cut away to", group=_elsewhere(b, section, on_screen, inset=False)),
        Choice("Small picture of", group=_elsewhere(b, section, on_screen, inset=True)),
        Choice("Side by side with", group=_beside(b, section)),
        Choice("Photo", group=_photos(b)),
        Choice("A card with words", TextCard(_card_words(beat))),
        *_finer(beat.treatment),
        *_cameras(b, beat.treatment),
    ]
    return tuple(c for c in found if c.group or c.treatment is not None or c.text == "Let the fit decide")


def _holds(b: Breakdown, beat: Beat) -> Iterator[Choice]:
    words = words_of(beat.text)
    for tie in beat.ties:
        moment = b.moment(tie.moment)
        yield Choice(f"On “{words[tie.word].strip('.,;:!?')}”, {_named(moment)}", Hold(moment.id))


def _agains() -> tuple[Choice, ...]:
    """Back by some seconds, at full or half speed, once or twice."""
    found = [
        Choice(f"From {back} s back, {name}", Again(back, rate)) for back in BACK for rate, name in SPEEDS[::2]
    ]  # fmt: skip
    return (*found, Choice("From 5 s back, half speed, twice", Again(Fraction(5), Fraction(1, 2), 2)))


def _photos(b: Breakdown) -> tuple[Choice, ...]:
    """Each photo large, small, and beside each other one."""
    found = []
    for photo in b.photos:
        others = (p for p in b.photos if p.id != photo.id)
        found.append(
            Choice(
                photo.name,
                group=(
                    Choice("In the place of the picture", ShowPhoto(photo.id)),
                    Choice("Coming slowly nearer", ShowPhoto(photo.id, push=True)),
                    Choice("Small, the picture goes on", ShowPhoto(photo.id, inset=True)),
                    *(Choice(f"Beside {other.name}", ShowPhoto(photo.id, beside=other.id)) for other in others),
                ),
            )
        )
    return tuple(found)


def _paces() -> tuple[Choice, ...]:
    """Speeds that last until another one is chosen."""
    found = (Choice(name.capitalize(), Pace(rate)) for rate, name in SPEEDS)
    return (*found, Choice("As the house style has it", Pace(Fraction(0))))


def _loops() -> tuple[Choice, ...]:
    """The last seconds round and round, from the start each time or to and fro."""
    ways = (("from the start each time", False), ("to and fro", True))
    return tuple(
        Choice(f"The last {s} s, half speed, {text}", Loop(s, Fraction(1, 2), turns))
        for s in LASTING[:3]
        for text, turns in ways
    )


def _going_to(on_screen: Fraction) -> tuple[Choice, ...]:
    """What is on the screen, and on from there."""
    here = clock_text(on_screen, tenths=True)
    runs = (Choice(f"{here} and on, {name}", GoTo(on_screen, rate)) for rate, name in SPEEDS)
    return (*runs, Choice(f"{here} and stand", GoTo(on_screen, Fraction(0))))


def _elsewhere(b: Breakdown, section: Section, on_screen: Fraction, *, inset: bool) -> tuple[Choice, ...]:
    here = Choice(f"What is on the screen, {clock_text(on_screen, tenths=True)}", Cutaway(on_screen, inset=inset))
    others = (x for x in b.exchanges if x.id != section.exchange)
    return (here, *(Choice(_exchange(x), Cutaway(x.start, inset=inset)) for x in others))


def _beside(b: Breakdown, section: Section) -> tuple[Choice, ...]:
    """This exchange and another, each from its start; those of the same technique first."""
    if not section.exchange:
        return ()
    own = b.exchange(section.exchange)
    others = sorted((x for x in b.exchanges if x.id != own.id), key=lambda x: x.technique != own.technique)
    cameras = _running(b, own.start)
    twice = (
        Choice(f"The same from {c}", SideBySide(own.start, own.start, other_camera=c))
        for c in (cameras if len(cameras) > 1 else ())
    )
    return (*(Choice(_exchange(x), SideBySide(own.start, x.start)) for x in others), *twice)


def _running(b: Breakdown, mat: Fraction) -> tuple[str, ...]:
    """Names of the cameras that ran at a mat time."""
    return tuple(dict.fromkeys(c.camera_name for c in b.footage if c.covers(mat)))


def _cameras(b: Breakdown, treatment: Treatment | None) -> Iterator[Choice]:
    """From which camera something is seen that is shown besides, where there is more than one."""
    cameras = cameras_of(b.footage)
    if len(cameras) < 2:
        return
    found = "As it is found"
    match treatment:
        case Again() | Loop() | GoTo() | Cutaway() as one:
            named = (Choice(c, replace(one, camera=c)) for c in cameras)
            yield Choice("Seen from", group=(Choice(found, replace(one, camera="")), *named))
        case SideBySide() as pair:
            named = (Choice(c, replace(pair, camera=c)) for c in cameras)
            yield Choice("Left seen from", group=(Choice(found, replace(pair, camera="")), *named))
            others = (Choice(c, replace(pair, other_camera=c)) for c in cameras)
            yield Choice("Right seen from", group=(Choice(found, replace(pair, other_camera="")), *others))
        case Run() | Slow() | Hold() | Skip() | Pace() | ShowPhoto() | TextCard() | None:
            pass
        case _:
            assert_never(treatment)


def _finer(treatment: Treatment | None) -> Iterator[Choice]:
    """Speed, length and number of what is chosen already."""
    if isinstance(treatment, Again | Loop | GoTo | Cutaway | SideBySide):
        yield Choice("At", group=tuple(Choice(name, replace(treatment, rate=rate)) for rate, name in SPEEDS))
    match treatment:
        case ShowPhoto():
            still, nearer = replace(treatment, push=False), replace(treatment, push=True)
            yield Choice("It", group=(Choice("Stands", still), Choice("Comes slowly nearer", nearer)))
            said = Choice("While the beat is said", replace(treatment, seconds=Fraction(0)))
            yield Choice("Lasts", group=(said, *(Choice(f"{s} s", replace(treatment, seconds=s)) for s in LASTING)))
        case Cutaway():
            said = Choice("While the beat is said", replace(treatment, seconds=Fraction(0)))
            yield Choice("Lasts", group=(said, *(Choice(f"{s} s", replace(treatment, seconds=s)) for s in LASTING)))
        case Again():
            often = ((1, "Once"), (2, "Twice"), (3, "Three times"))
            yield Choice("How often", group=tuple(Choice(text, replace(treatment, times=n)) for n, text in often))
        case Loop():
            yield Choice("The last", group=tuple(Choice(f"{s} s", replace(treatment, seconds=s)) for s in LASTING))
            ways = (("From the start each time", False), ("To and fro", True))
            yield Choice("Goes", group=tuple(Choice(text, replace(treatment, to_and_fro=on)) for text, on in ways))
        case Run() | Slow() | Hold() | Skip() | GoTo() | Pace() | SideBySide() | TextCard() | None:
            pass
        case _:
            assert_never(treatment)


def _moments(b: Breakdown, x: Exchange) -> list[Moment]:
    return sorted((m for m in b.moments if x.start < m.at <= x.end), key=lambda m: m.at)


def _named(m: Moment) -> str:
    return f"{clock_text(m.at, tenths=True)} {m.note or trade_word(m.kind)}"


def _exchange(x: Exchange) -> str:
    return f"{x.technique or 'exchange'}, {clock_text(x.start)}"


def _card_words(beat: Beat) -> str:
    """The first words of the beat, to begin with."""
    return " ".join(words_of(beat.text)[:6]).rstrip(".,;:") or "Words"


def treatment_text(treatment: Treatment | None) -> str:
    """A treatment as a beat shows it, with the cameras it asks for."""
    seen = " and ".join(treatment.cameras()) if treatment is not None else ""
    return f"{_plain_text(treatment)}, {seen}" if seen else _plain_text(treatment)


def beat_text(beat: Beat) -> str:
    """What the picture does under a beat, with the words at which it turns."""
    words = words_of(beat.text)
    turns = (f"from “{words[t.word].strip(MARKS)}” {treatment_text(t.treatment)}" for t in beat.turns)
    return "; ".join((treatment_text(beat.treatment), *turns))


def short_text(beat: Beat, letters: int) -> str:
    """The same in so many letters at most: what the picture does at first, and how often it turns."""
    turns = len(beat.turns)
    often = f", {turns} turn{'s' if turns > 1 else ''}" if turns else ""
    return shorten(treatment_text(beat.treatment), letters - len(often), placeholder=" …") + often


def _plain_text(treatment: Treatment | None) -> str:
    match treatment:
        case Run():
            return "runs"
        case Slow(rate):
            return f"slow {float(rate):g}×"
        case Hold(moment):
            return "holds on its moment" if moment else "holds"
        case Again(back, rate, times):
            often = f", {times} times" if times > 1 else ""
            return f"again from {float(back):g} s back at {float(rate):g}×{often}"
        case Loop(seconds, rate, to_and_fro):
            how = "to and fro" if to_and_fro else "over and over"
            return f"the last {float(seconds):g} s {how} at {float(rate):g}×"
        case Skip():
            return "skips ahead"
        case GoTo(at, rate):
            how = "stands there" if not rate else "runs" if rate == 1 else f"goes on at {float(rate):g}×"
            return f"goes to {clock_text(at, tenths=True)}, {how}"
        case Pace(rate):
            return f"from here on at {float(rate):g}×" if rate else "from here on as the house style has it"
        case Cutaway(at, rate, seconds, inset):
            what = "small picture of" if inset else "cutaway to"
            lasts = f" for {float(seconds):g} s" if seconds else ""
            return f"{what} {clock_text(at)} at {float(rate):g}×{lasts}"
        case SideBySide(one, other, _):
            return f"{clock_text(one)} beside {clock_text(other)}"
        case ShowPhoto(_, beside, push, inset, seconds):
            lasts = f" for {float(seconds):g} s" if seconds else ""
            what = "small photo" if inset else "two photos" if beside else "photo, coming nearer" if push else "photo"
            return what + lasts
        case TextCard():
            return "card"
        case None:
            return "follows the words"
        case _:
            assert_never(treatment)
