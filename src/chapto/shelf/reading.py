"""From a document to what the shelf knows of it."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from fractions import Fraction
from itertools import pairwise

from chapto.document.bout import Exchange, Moment
from chapto.document.bout_rules import PositionSpan
from chapto.document.breakdown import Breakdown
from chapto.document.people import Side
from chapto.document.script import Section
from chapto.lexicon.lexicon import Lexicon, Named
from chapto.matlog.attempts import ANSWERS
from chapto.matlog.stays import other_side
from chapto.programme.angles import AngleTrack
from chapto.shelf.indexed import File, Indexed, Out, Place, Seen, Stay, Step
from chapto.shelf.promised import promises_in
from chapto.shelf.viewed import viewed


def indexed(b: Breakdown, lexicon: Lexicon) -> Indexed:
    """What the shelf knows of a breakdown; it reads no file."""
    log = _Log(b, lexicon)
    return Indexed(
        title=b.title,
        part=b.part,
        first=b.first.name,
        second=b.second.name,
        rules=b.ruling.rules,
        style=b.style,
        about=b.about,
        sections=tuple(s.title for s in b.script if s.title),
        marks=tuple(m.kind.value for m in b.marks),
        files=tuple(
            File(id=c.id, name=c.name, path=c.path, fingerprint=c.fingerprint, mirrored=c.mirrored) for c in b.footage
        ),
        places=tuple(log.places()),
        stays=tuple(log.stays()),
        steps=tuple(log.steps()),
        people=tuple(_people(b)),
        outs=tuple(
            Out(
                at=p.at, site=p.site, address=p.address, title=p.title, goes_public=p.goes_public, withdrawn=p.withdrawn
            )
            for p in b.publishing.published
        ),
        promises=tuple(promises_in(b)),
    )


class _Log:
    """A breakdown's log, looked up by mat time."""

    def __init__(self, b: Breakdown, lexicon: Lexicon) -> None:
        self._b, self._lexicon = b, lexicon
        self._angles = AngleTrack(b)
        self._told: dict[str, list[Section]] = {}
        for s in b.script:
            self._told.setdefault(s.exchange, []).append(s)
        self._labels: dict[str, list[str]] = {}
        for label in b.labels:
            self._labels.setdefault(label.moment, []).append(label.text or self._name(label.technique))

    def places(self) -> Iterator[Place]:
        """Every exchange, then every section that is told over none."""
        for x in self._b.exchanges:
            yield self._exchange(x)
        for s in self._told.get("", ()):
            if s.beats:
                yield self._section(s)

    def stays(self) -> Iterator[Stay]:
        """Every span of the position track."""
        for p in self._b.positions:
            top = self._b.athlete(p.top, p.start).name if p.top is not None else ""
            told = any(self._explained(x) and x.start < p.end and x.end > p.start for x in self._b.exchanges)
            yield Stay(
                position=p.position, start=float(p.start), seconds=float(p.end - p.start), top=top, explained=told,
                same=self._same(p.start),
            )  # fmt: skip

    def steps(self) -> Iterator[Step]:
        """Every change of position without a break between the two. An exchange ends about when what it leads to is
        reached, so a second after it counts as in it."""
        for one, other in pairwise(self._b.positions):
            if one.end != other.start or one.position == other.position:
                continue
            x = next((x for x in self._b.exchanges if x.start <= other.start <= x.end + 1), None)
            yield Step(
                start=one.position,
                end=other.position,
                at=float(other.start),
                key=x.id if x is not None else "",
                outcome=x.outcome.value if x is not None and x.outcome is not None else "",
                explained=x is not None and self._explained(x) > 0,
                same=self._same(other.start),
            )

    def _exchange(self, x: Exchange) -> Place:
        b, sections = self._b, self._told.get(x.id, [])
        known = self._lexicon.technique_named(x.technique)
        track = [p for p in b.positions if p.start < x.end and p.end > x.start]
        moments = [m for m in b.moments if x.start <= m.at < x.end]
        answer = next((m for m in moments if m.kind in ANSWERS and m.at > x.start), None)
        round_ = next((r.name for r in b.rounds if r.start <= x.start < r.end), "")
        footage, media_in, media_out = self._filmed(x.start, x.end)
        return Place(
            key=x.id,
            is_exchange=True,
            start=float(x.start),
            end=float(x.end),
            footage=footage,
            media_in=media_in,
            media_out=media_out,
            technique=known.id if known is not None else "",
            called=x.technique,
            who=self._who(x.by, x.start),
            against=self._who(other_side(x.by) if x.by is not None else None, x.start),
            outcome=x.outcome.value if x.outcome is not None else "",
            before=viewed(track[0], x.by) if track else "",
            after=viewed(self._reached(x, track), x.by) if track else "",
            way=tuple(viewed(p, x.by) for p in track),
            moments=tuple((m.kind.value, float(m.at - x.start)) for m in moments),
            explained=self._explained(x),
            answer=answer.kind.value if answer is not None else "",
            answer_after=float(answer.at - x.start) if answer is not None else None,
            round=round_,
            names=_names([known, *(self._lexicon.position(p.position) for p in track)]) + f" {x.technique}",
            said=_words(sections),
            noted=self._noted(moments, sections),
            same=self._same(x.start),
        )

    def _section(self, s: Section) -> Place:
        return Place(key=s.id, is_exchange=False, start=0.0, end=0.0, said=_words([s]), explained=1)

    def _reached(self, x: Exchange, track: list[PositionSpan]) -> PositionSpan:
        """What it led to: a position taken within a second after its end counts."""
        after = [p for p in self._b.positions if x.end <= p.start <= x.end + 1 and p.start == track[-1].end]
        return after[0] if after else track[-1]

    def _filmed(self, start: Fraction, end: Fraction) -> tuple[str, float, float]:
        """The file that shows the start, and from when to when of it; the next that shows anything where none does."""
        for a, z, c in self._angles.within(start, end):
            if c is not None and z > a:
                last = min(end, c.mat_out)
                return c.id, float(c.media_time(a)), float(c.media_time(last))
        return "", 0.0, 0.0

    def _same(self, mat: Fraction) -> str:
        """The second of the first file that was running then, whichever is shown; empty where none was."""
        c = next((c for c in self._b.footage if c.covers(mat)), None)
        return f"{c.fingerprint}@{round(c.media_time(mat))}" if c is not None else ""

    def _explained(self, x: Exchange) -> int:
        return sum(1 for s in self._told.get(x.id, ()) if s.beats)

    def _who(self, side: Side | None, mat: Fraction) -> str:
        return "" if side is None else self._b.athlete(side, mat).name

    def _name(self, technique: str) -> str:
        known = self._lexicon.techniques.get(technique)
        return known.en if known is not None else technique

    def _noted(self, moments: Iterable[Moment], sections: Iterable[Section]) -> str:
        """Kinds and notes of moments, labels, and what marks are and say."""
        rows = []
        for m in moments:
            rows += [m.kind.value, m.note, *self._labels.get(m.id, ())]
        at = {m.id for m in moments} | {beat.id for s in sections for beat in s.beats}
        for mark in self._b.marks:
            if mark.moment in at or mark.beat in at:
                rows += [mark.kind.value, mark.words]
        return " ".join(r for r in rows if r)


def _names(items: Iterable[Named | None]) -> str:
    """All names of some techniques and positions, each once."""
    return " ".join(dict.fromkeys(name for item in items if item is not None for name in item.names()))


def _words(sections: Iterable[Section]) -> str:
    return " ".join(text for s in sections for text in (s.title, *(beat.text for beat in s.beats)) if text)


def _people(b: Breakdown) -> Iterator[Seen]:
    """Who can be seen, and who holds the files."""
    until = {
        p: min(u)
        for p in (x.id for x in b.people)
        if (u := [c.clearance.until for c in b.footage if p in c.seen and c.clearance.until])
    }
    for p in b.people:
        yield Seen(
            name=p.name, part=p.part, agreement=p.agreement.value, how=p.how, when=p.when, minor=p.minor,
            until=until.get(p.id, ""),
        )  # fmt: skip
    owners = {c.clearance.owner: c.clearance for c in b.footage if c.clearance.owner}
    for name, c in owners.items():
        yield Seen(
            name=name, part="footage", agreement=c.agreement.value, how=c.how, when=c.when, minor=None,
            credit=c.credit, until=c.until, is_owner=True,
        )  # fmt: skip
