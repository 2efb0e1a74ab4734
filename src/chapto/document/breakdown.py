"""The whole document."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Iterator
from fractions import Fraction
from itertools import count
from typing import Protocol, TypeVar

import msgspec

from chapto.document.bout import Exchange, Moment, Round
from chapto.document.bout_rules import PositionSpan, Ruling
from chapto.document.clearance import Person
from chapto.document.condition import Condition
from chapto.document.footage import Angle, Footage
from chapto.document.marks import Anchor, Figure, Mark
from chapto.document.mattime import exact
from chapto.document.music import Music
from chapto.document.people import Athlete, Narrator, Side, SpokenOf
from chapto.document.photos import Photo
from chapto.document.picture_format import Format as Format
from chapto.document.publishing import Publishing as Publishing
from chapto.document.reviewing import Waiver, WatchNote
from chapto.document.script import Beat, Section
from chapto.document.takes import Take
from chapto.document.talks import Talk
from chapto.errors import ChaptoError


class DocumentError(ChaptoError):
    """An edit or a file that would make the document contradict itself."""


class Label(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """Words shown on the picture from the moment (by id) on, as long as they need to be read: `text`, or the name of
    `technique` (by id in the lexicon) in the chosen school. One that belongs to a `camera` (by name) is shown only over
    that camera's picture."""

    id: str
    moment: str
    text: str = ""
    technique: str = ""
    camera: str = ""


class Naming(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """How techniques are named on the picture: the school (as the lexicon calls it), whether the first mention gives
    the other name too, and whether exchanges get a label of their own. `spoken_of` is how a draft speaks of the two."""

    school: str = "English"
    both_at_first: bool = True
    automatic: bool = True
    spoken_of: SpokenOf = SpokenOf.NAMES


class Breakdown(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """What the creator decided. Nothing in it is derived.

    `about` is what the creator says of it under the video: the hook, links. `target` is the wished length in seconds, 0
    for none; `target_is_limit` forbids to pass it. Three switches say what is painted into the video: `control_strip`,
    who controls; `score_strip`, names, points and the bout's clock; `cautions`, a line of care once for each class of
    risk. With `guide_only` the guide voice says everything, whatever was recorded. One that is `for_beginners` explains
    the words of the trade.
    """

    title: str
    part: str = ""
    about: str = ""
    first: Athlete = Athlete(name="First")
    second: Athlete = Athlete(name="Second", kit_colour="#3AA6B5")
    narrators: tuple[Narrator, ...] = (Narrator(id="n1", name="Narrator"),)
    footage: tuple[Footage, ...] = ()
    photos: tuple[Photo, ...] = ()
    music: tuple[Music, ...] = ()
    people: tuple[Person, ...] = ()
    conditions: tuple[Condition, ...] = ()
    angles: tuple[Angle, ...] = ()
    rounds: tuple[Round, ...] = ()
    positions: tuple[PositionSpan, ...] = ()
    ruling: Ruling = msgspec.field(default_factory=Ruling)
    exchanges: tuple[Exchange, ...] = ()
    moments: tuple[Moment, ...] = ()
    script: tuple[Section, ...] = ()
    labels: tuple[Label, ...] = ()
    takes: tuple[Take, ...] = ()
    talks: tuple[Talk, ...] = ()
    anchors: tuple[Anchor, ...] = ()
    figures: tuple[Figure, ...] = ()
    marks: tuple[Mark, ...] = ()
    waivers: tuple[Waiver, ...] = ()
    notes: tuple[WatchNote, ...] = ()
    publishing: Publishing = msgspec.field(default_factory=Publishing)
    guide_only: bool = False
    style: str = "stop-and-talk"
    target: Fraction = exact("0")
    target_is_limit: bool = False
    naming: Naming = Naming()
    control_strip: bool = False
    score_strip: bool = False
    cautions: bool = True
    for_beginners: bool = False
    format: Format = msgspec.field(default_factory=Format)

    def exchange(self, exchange_id: str) -> Exchange:
        """The exchange with that id; `DocumentError` when there is none."""
        return by_id(self.exchanges, exchange_id, "exchange")

    def moment(self, moment_id: str) -> Moment:
        """The moment with that id; `DocumentError` when there is none."""
        return by_id(self.moments, moment_id, "moment")

    def camera(self, footage_id: str) -> Footage:
        """The footage with that id; `DocumentError` when there is none."""
        return by_id(self.footage, footage_id, "footage")

    def photo(self, photo_id: str) -> Photo:
        """The photo with that id; `DocumentError` when there is none."""
        return by_id(self.photos, photo_id, "photo")

    def anchor(self, anchor_id: str) -> Anchor:
        """The anchor with that id; `DocumentError` when there is none."""
        return by_id(self.anchors, anchor_id, "anchor")

    def figure(self, figure_id: str) -> Figure:
        """The figure with that id; `DocumentError` when there is none."""
        return by_id(self.figures, figure_id, "figure")

    def athlete(self, side: Side, mat: Fraction | None = None) -> Athlete:
        """Who is `side` at a mat time: in a round with athletes of its own one of those, else the breakdown's."""
        here = None if mat is None else next((r for r in self.rounds if r.start <= mat <= r.end), None)
        if side is Side.FIRST:
            return (here.first if here else None) or self.first
        return (here.second if here else None) or self.second

    def narrator(self, beat: Beat) -> Narrator:
        """Who says `beat`: the named narrator, else the first."""
        found = [n for n in self.narrators if n.id == beat.narrator]
        return found[0] if found else self.narrators[0]

    def beats(self) -> Iterable[tuple[Section, Beat]]:
        """Every beat with its section, in the order of the script."""
        return ((section, beat) for section in self.script for beat in section.beats)

    def read_beats(self) -> Iterable[tuple[Section, Beat]]:
        """Those that a voice reads: not what is heard in a section as it was filmed."""
        return ((section, beat) for section, beat in self.beats() if not section.as_filmed)

    def find_beat(self, beat_id: str) -> tuple[Section, Beat]:
        """The beat with that id and its section; `DocumentError` when there is none."""
        for section, beat in self.beats():
            if beat.id == beat_id:
                return section, beat
        raise DocumentError(f"There is no beat “{beat_id}” in this breakdown.")


class HasId(Protocol):
    """Anything in the document that is known by an id."""

    @property
    def id(self) -> str: ...


Item = TypeVar("Item", bound=HasId)


def by_id(items: Iterable[Item], wanted: str, what: str) -> Item:
    """The one of `items` whose `id` is `wanted`; `DocumentError` when there is none."""
    for item in items:
        if item.id == wanted:
            return item
    raise DocumentError(f"There is no {what} “{wanted}” in this breakdown.")


def everything_named(b: Breakdown) -> tuple[HasId, ...]:
    """All parts of the document that have an id."""
    lists: tuple[tuple[HasId, ...], ...] = (
        b.narrators,
        b.footage,
        b.photos,
        b.music,
        b.people,
        b.conditions,
        b.rounds,
        b.exchanges,
        b.moments,
        b.ruling.points,
        b.script,
        b.labels,
        b.takes,
        b.talks,
        b.anchors,
        b.figures,
        b.marks,
        b.notes,
        tuple(beat for _, beat in b.beats()),
    )
    return tuple(item for part in lists for item in part)


def fresh_ids(breakdown: Breakdown) -> defaultdict[str, Iterator[str]]:
    """By prefix, ids that nothing in the document has yet, one after another: for putting in many things at once."""
    taken = {item.id for item in everything_named(breakdown)}

    class Fresh(defaultdict[str, Iterator[str]]):
        def __missing__(self, prefix: str) -> Iterator[str]:
            self[prefix] = (name for n in count(1) if (name := f"{prefix}{n}") not in taken)
            return self[prefix]

    return Fresh()


def new_id(breakdown: Breakdown, prefix: str) -> str:
    """An id with `prefix` that nothing in the document has yet; the same document gives the same id."""
    taken = {item.id for item in everything_named(breakdown)}
    number = 1
    while f"{prefix}{number}" in taken:
        number += 1
    return f"{prefix}{number}"
