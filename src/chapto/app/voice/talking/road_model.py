"""The take as a road beside the tidied programme: what was done, what became of it, what went and why. Free of Qt."""

from __future__ import annotations

from bisect import bisect_right
from dataclasses import dataclass
from enum import StrEnum

from chapto.clock.passage import Kind
from chapto.document.breakdown import Breakdown
from chapto.document.talks import Talk
from chapto.pacing.styles import HouseStyle
from chapto.pacing.talked.tidied import Tidied, tidied_talk
from chapto.pacing.talked.track import Track
from chapto.pacing.talked.words import Reason
from chapto.programme.programme import Programme
from chapto.programme.sections import idle_spans


class Did(StrEnum):
    """What was done with the picture."""

    RAN = "runs"
    SLOWED = "slow"
    STOOD = "stands"
    HUNTED = "looking for the place"


@dataclass(frozen=True, slots=True)
class Stretch:
    """Seconds `start ≤ t < end` of the take in which one thing was done."""

    start: float
    end: float
    did: Did


@dataclass(frozen=True, slots=True)
class CutMark:
    """Seconds of the take that went, why, and what was said in them."""

    start: float
    end: float
    reason: Reason
    said: str

    @property
    def sentence(self) -> str:
        """What is told of it."""
        said = f": “{self.said}”" if self.said else ""
        return f"{self.end - self.start:.1f} s, {self.reason.value}{said}. A press brings it back."


@dataclass(frozen=True, slots=True)
class Link:
    """A beat begins at second `take` of the take and at second `watch` of the programme."""

    take: float
    watch: float


@dataclass(frozen=True)
class Road:
    """`seconds` of the take with what was done; `shown` are the passages of its sections (kind, watch seconds from to),
    between watch seconds `first` and `last`. `tidied` says how it is laid out."""

    talk: Talk
    seconds: float
    stretches: tuple[Stretch, ...]
    words: tuple[tuple[float, float], ...]
    cuts: tuple[CutMark, ...]
    back: tuple[tuple[float, float], ...]
    shown: tuple[tuple[Kind, float, float], ...]
    links: tuple[Link, ...]
    first: float
    last: float

    @property
    def sentence(self) -> str:
        """How much of the take is left."""
        gone = sum(c.end - c.start for c in self.cuts)
        if not self.talk.tidied:
            return f"As it was: {self.seconds:.0f} s of talk, nothing left out."
        left = self.last - self.first
        return f"{self.seconds:.0f} s of talk, tidied to {left:.0f} s; {gone:.0f} s went in {len(self.cuts)} cuts."

    def cut_at(self, second: float, slack: float) -> CutMark | None:
        """The cut nearest to a second of the take, within `slack` seconds of it."""
        near = [(max(c.start - second, second - c.end, 0.0), c) for c in self.cuts]
        found = min(near, key=lambda pair: pair[0], default=None)
        return found[1] if found is not None and found[0] <= slack else None


def road_of(b: Breakdown, programme: Programme, style: HouseStyle) -> Road | None:
    """The road of the last talk of a breakdown; None where there is none, or it stands in no section any more."""
    talk = next((t for t in reversed(b.talks) if {s.id for s in b.script} & set(t.sections)), None)
    if talk is None:
        return None
    seconds, found = float(talk.seconds), tidied_talk(talk, style, idle_spans(b))
    mine = [s for s in programme.sections if s.section in talk.sections]
    fps = float(programme.fps)
    first, last = (min(s.start for s in mine) / fps, max(s.end for s in mine) / fps) if mine else (0.0, 0.0)
    shown = [
        (p.kind, p.watch_in / fps, p.watch_out / fps)
        for p in programme.passages
        if first * fps <= p.watch_in and p.watch_out <= last * fps
    ]
    return Road(
        talk, seconds, _stretches(talk, seconds), tuple((float(w.start), float(w.end)) for w in talk.said),
        tuple(CutMark(c.start, c.end, c.reason, " ".join(w.text for w in c.words)) for c in found.cuts),
        tuple((float(a), float(z)) for a, z in talk.back), tuple(shown), _links(b, programme, talk, found), first, last,
    )  # fmt: skip


def _stretches(talk: Talk, seconds: float) -> tuple[Stretch, ...]:
    found: list[Stretch] = []
    at = 0.0
    for spell in Track(talk.done.picture, seconds).spells:
        if spell.start > at:
            found.append(Stretch(at, spell.start, Did.HUNTED))
        did = Did.STOOD if not spell.rate else Did.RAN if spell.rate >= 1 else Did.SLOWED
        found.append(Stretch(spell.start, spell.end, did))
        at = spell.end
    return tuple(found)


def _links(b: Breakdown, programme: Programme, talk: Talk, found: Tidied) -> tuple[Link, ...]:
    """Where each beat begins on both clocks, as long as its words are those that were said."""
    beats = [beat for s in b.script if s.id in talk.sections for beat in s.beats]
    starts = {w.beat: float(w.start) for w in programme.words if w.word == 0}
    edges = {(e.beat, e.word): float(e.start) for t in b.takes if t.fingerprint == talk.fingerprint for e in t.edges}
    known = [s.word.start for s in found.shown]
    links = [Link(edges[x.id, 0], starts[x.id]) for x in beats if (x.id, 0) in edges and x.id in starts]
    return tuple(link for link in links if known and bisect_right(known, link.take + 1e-3))
