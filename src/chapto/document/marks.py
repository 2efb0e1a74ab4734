"""What is drawn on the picture: points that follow it, and marks that take their places from them."""

from __future__ import annotations

from enum import StrEnum
from fractions import Fraction

import msgspec

from chapto.document.joints import Joint
from chapto.document.mark_kinds import RULES, MarkKind, MarkState, Sticks
from chapto.document.mattime import exact
from chapto.document.people import Side

SMALLEST, LARGEST = 0.01, 0.5
"""Radius of a window's or a cover's spot, as a share of the picture's height."""
LEAST_ZOOM, MOST_ZOOM = Fraction(11, 10), Fraction(6)
LONGEST_LOOK_BACK = 10
"""Seconds a ghost or a path goes back."""


class Key(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """Where a point was put down: at `mat`, at `x` and `y` (0…1 of the upright picture as it was filmed, not mirrored,
    to the right and down). One that is not `seen` says that the point is hidden from here on to the next key."""

    mat: Fraction
    x: float
    y: float
    seen: bool = True


class Anchor(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """A point of one `footage` that several marks may share, by its keys in order. `side` and `joint` say what of whom
    it is, where it is that."""

    id: str
    footage: str
    keys: tuple[Key, ...]
    sticks: Sticks = Sticks.BODY
    side: Side | None = None
    joint: Joint | None = None


class Figure(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """One athlete on one footage: up to fourteen anchors (by id), each with its joint. `rests` are the joints that the
    creator saw on the mat."""

    id: str
    footage: str
    side: Side
    anchors: tuple[str, ...]
    rests: tuple[Joint, ...] = ()


class Until(StrEnum):
    """When a mark goes."""

    HOLD = "hold"
    BEAT = "beat"
    SECONDS = "seconds"


class Mark(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """Something drawn on the picture, with a meaning.

    Its `anchors` (by id) stand in the order of its kind's roles; a `figure` (by id) may stand in their place. `of` is
    whose it is. It comes with word `word` of `beat`, or when `moment` is on the screen. It stays `until` the hold or
    the beat ends, or for so many watch `seconds`.

    `words` stand on its slip, which is left out without any; with `fact` what was measured stands beside them. `slip`
    is where the creator put the slip's middle (0…1 of the programme's picture). `size` is a radius as a share of the
    picture's height; `zoom` magnifies, coming within `ease` watch seconds (0: at once); `before` are mat seconds looked
    back.

    A cover comes with no word: it lies over its spot wherever the mat seconds `span` (half-open) of its footage are
    shown, or in the whole file where there is none.
    """

    id: str
    kind: MarkKind
    anchors: tuple[str, ...] = ()
    figure: str = ""
    of: Side | None = None
    beat: str = ""
    word: int = 0
    moment: str = ""
    until: Until = Until.HOLD
    seconds: Fraction = exact("3")
    words: str = ""
    fact: bool = False
    slip: tuple[float, float] | None = None
    state: MarkState | None = None
    size: float = 0.08
    zoom: Fraction = exact("2")
    ease: Fraction = exact("0.5")
    before: Fraction = exact("1.5")
    span: tuple[Fraction, Fraction] | None = None

    @property
    def stands(self) -> MarkState | None:
        """Its state: the one given, else the first of its kind."""
        states = RULES[self.kind].states
        return (self.state or states[0]) if states else None


def key_times(anchor: Anchor) -> tuple[Fraction, Fraction]:
    """Mat seconds of the first and of the last key."""
    return anchor.keys[0].mat, anchor.keys[-1].mat


def is_hidden(anchor: Anchor, mat: Fraction) -> bool:
    """Whether the creator said that the point is hidden at `mat`."""
    before = [k for k in anchor.keys if k.mat <= mat]
    return bool(before) and not before[-1].seen
