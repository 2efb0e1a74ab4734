"""A talk-through: somebody talks while watching, and what they do with the picture is kept by the second."""

from __future__ import annotations

from collections.abc import Iterator
from enum import StrEnum
from fractions import Fraction
from typing import TypeVar

import msgspec

from chapto.document.bounds import FASTEST, LATEST, LONGEST_WAIT, SHORTEST_LOOP
from chapto.document.mattime import exact

Span = tuple[Fraction, Fraction]
Number = TypeVar("Number", float, Fraction)


class Moved(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """From second `at` of the take on the picture shows `mat` (mat seconds) from `camera` (by name; empty: by the angle
    track) and goes on at `rate`, unless it is not `playing`. Where `fro` is given it goes to and fro between these
    mat seconds, forwards first."""

    at: Fraction
    mat: Fraction
    camera: str = ""
    rate: Fraction = exact("1")
    playing: bool = True
    fro: Span | None = None

    @property
    def speed(self) -> Fraction:
        """Mat seconds a second of the take."""
        return self.rate if self.playing else Fraction(0)

    def mat_at(self, second: Fraction) -> Fraction:
        """What it shows at a second of the take that is not before `at`."""
        gone = self.mat + self.speed * (second - self.at)
        return gone if self.fro is None else to_and_fro(gone, self.fro)


def to_and_fro(mat: Number, between: tuple[Number, Number]) -> Number:
    """Where a picture is that would have got to mat second `mat` without turning round at the ends of `between`."""
    low, high = between
    gone = (mat - low) % (2 * (high - low))
    return low + min(gone, 2 * (high - low) - gone)


class Pointed(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """Where the pointer was at second `at`: `x` and `y`, 0…1 of the upright picture as it was filmed. It is `pressed`
    until a later one says otherwise."""

    at: Fraction
    x: float
    y: float
    pressed: bool = True


class Act(StrEnum):
    """What a key says while somebody talks."""

    WRONG = "wrong"
    CHAPTER = "chapter"
    AGAIN = "again"


class Acted(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """A key that was pressed at second `at`: the sentence before it was wrong, a chapter begins here, or what was said
    from second `since` on is said again."""

    at: Fraction
    act: Act
    since: Fraction | None = None


class SaidWord(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """A word with its half-open seconds of the take. `OPEN` stands for something that is heard and not known. Where two
    people talk, `voice` says which of them does, 1 or 2."""

    text: str
    start: Fraction
    end: Fraction
    voice: int = 0


MOST_REACTION = 2
"""Seconds from seeing to saying, at most."""
OPEN = "…"
"""The text of a phrase that is heard but not known."""


class Done(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """What was done during a take, each list in the order of its seconds."""

    picture: tuple[Moved, ...] = ()
    pointer: tuple[Pointed, ...] = ()
    acts: tuple[Acted, ...] = ()


class Talk(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """A recording of somebody who talks while watching, `seconds` long, at `path` (relative to the project's folder)
    with its `fingerprint`: what was `done` meanwhile, and the words that were `said`. It is laid out `tidied`, or as it
    was, in the `sections` (by id) of the script. A word is about what stood there `reaction` seconds before it. Cuts
    that begin within `back` were brought back by the creator. Where two people talk, `voices` are the narrators (by id)
    on the left and on the right channel."""

    id: str
    path: str
    fingerprint: str
    seconds: Fraction
    done: Done = Done()
    said: tuple[SaidWord, ...] = ()
    sections: tuple[str, ...] = ()
    tidied: bool = True
    reaction: Fraction = exact("0")
    back: tuple[Span, ...] = ()
    voices: tuple[str, ...] = ()


def talk_problems(talk: Talk) -> Iterator[str]:
    """What can't be in a talk, a sentence each."""
    yield from done_problems(talk.done)
    if not 0 < talk.seconds <= LATEST or any(not 0 <= w.start <= w.end <= talk.seconds for w in talk.said):
        yield f"A word of the talk “{talk.path}” would end before it starts, or lies outside it."
    if len(talk.voices) not in (0, 2) or any(not 0 <= w.voice <= len(talk.voices) for w in talk.said):
        yield f"In the talk “{talk.path}” somebody says a word who is not among those who talk, one or two."
    if not 0 <= talk.reaction <= MOST_REACTION:
        yield f"Nobody reacts within {float(talk.reaction):g} s."
    if any(not 0 <= a < z <= talk.seconds for a, z in talk.back):
        yield f"What was brought back of the talk “{talk.path}” lies outside it."


def done_problems(done: Done) -> Iterator[str]:
    """What can't have been done, a sentence each."""
    for rows in (done.picture, done.pointer, done.acts):
        times = [x.at for x in rows]
        if times != sorted(times) or (times and (times[0] < 0 or times[-1] > LATEST)):
            yield "What was done has to stand in the order of its seconds, from the start of the take on."
            return
    if not all(0 < x.rate <= FASTEST and abs(x.mat) <= LATEST for x in done.picture):
        yield f"A picture runs at more than 0 and at most {FASTEST}×, at a time that there is."
    if any(m.fro is not None and not _can_rock(m.mat, *m.fro) for m in done.picture):
        yield "To and fro needs a stretch of half a second at least, and a picture within it."
    if any(
        (a.act is Act.AGAIN) is (a.since is None) or (a.since is not None and not 0 <= a.since <= a.at)
        for a in done.acts
    ):
        yield "What is said again was said since a second before it; nothing else has one."
    if not all(0 <= p.x <= 1 and 0 <= p.y <= 1 for p in done.pointer):
        yield "The pointer can't be beside the picture."


def _can_rock(mat: Fraction, low: Fraction, high: Fraction) -> bool:
    return 0 <= low <= mat <= high and SHORTEST_LOOP <= high - low <= LONGEST_WAIT
