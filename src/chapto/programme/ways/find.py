"""When something does not fit: the cheapest edits after which it does, each tried before it is offered."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field

from chapto.document.breakdown import Breakdown, DocumentError
from chapto.pacing.fitted import Fitted, Lack, Shortfall
from chapto.pacing.offers import Peak
from chapto.pacing.spoken import SpokenLine
from chapto.pacing.styles import house_styles
from chapto.programme.angles import AngleTrack
from chapto.programme.compile import Voices, line_for
from chapto.programme.section_styles import Styles, style_of
from chapto.programme.sections import fit_script
from chapto.programme.stills import section_stills
from chapto.programme.ways.back_to_it import back_to_it
from chapto.programme.ways.beyond import beyond
from chapto.programme.ways.late import late
from chapto.programme.ways.let_go import let_go
from chapto.programme.ways.sharper import sharper
from chapto.programme.ways.silent import silent
from chapto.programme.ways.still import still
from chapto.programme.ways.too_long import too_long
from chapto.programme.ways.way import Trouble, Try, WayOut

WEIGHT = {
    Lack.LATE: 1000.0, Lack.PAST: 1000.0, Lack.ELSEWHERE: 1000.0, Lack.BEYOND: 30.0, Lack.LENGTH: 3.0, Lack.SILENT: 1.0,
    Lack.STILL: 1.0, Lack.UNFILMED: 1000.0, Lack.SOFT: 1.0,
}  # fmt: skip
"""How bad a second of each is."""
BY_HAND = (Lack.STILL, Lack.BEYOND)
"""What is mostly mended by treatments, for which the fit pays nothing: only their own prices compare."""
ASKED = 1e9
"""What the creator has to do comes after everything Chapto can do."""
Lines = dict[str, SpokenLine]


@dataclass
class Finder:
    """A document with its lines, and what does not fit in it. `peak` finds where most happens."""

    b: Breakdown
    lines: Lines
    styles: Styles
    peak: Peak | None = None
    _stills: dict[int, tuple[Fitted, tuple[Shortfall, ...]]] = field(default_factory=dict)

    def fitted(self, b: Breakdown, lines: Lines) -> tuple[Fitted, ...]:
        """Every section of a document like this one."""
        return fit_script(b, lines, self.styles, AngleTrack(b))

    def lacks(self, b: Breakdown, fitted: tuple[Fitted, ...], lines: Lines) -> list[tuple[Shortfall, ...]]:
        """What does not fit in each section, stills included; those of a section that is the same are found once."""
        found = []
        for section, part in zip(b.script, fitted, strict=True):
            # Marks are rarely changed by what is tried; where they are, the section is another.
            known = self._stills.get(id(part)) if b.marks is self.b.marks else None
            if known is None or known[0] is not part:
                known = part, tuple(section_stills(b, section, part, lines))
                if b.marks is self.b.marks:
                    self._stills[id(part)] = known
            found.append((*part.shortfalls, *known[1]))
        return found

    def trouble(self, shortfall: Shortfall) -> tuple[Trouble, float] | None:
        """A shortfall with what it is about, and how bad everything is as it is; None where its beat is no more."""
        if not any(beat.id == shortfall.beat for _, beat in self.b.beats()):
            return None
        section, beat = self.b.find_beat(shortfall.beat)
        fitted = self.fitted(self.b, self.lines)
        lacks = self.lacks(self.b, fitted, self.lines)
        here = self.b.script.index(section)
        over = sum(float(s.seconds) for part in lacks for s in part if s.lack is Lack.LENGTH)
        style = style_of(self.b, section, self.styles)
        made = Trouble(
            self.b, shortfall, lacks[here], section, beat, self.lines, style, over, fitted[here], self.peak
        )  # fmt: skip
        return made, _weighed(lacks)

    def ways(self, shortfall: Shortfall) -> Iterator[WayOut]:
        """The edits that lead out of it, in the order in which they are tried."""
        found = self.trouble(shortfall)
        if found is None:
            return
        trouble, before = found
        for tried in self._tries(trouble):
            way = self._tried(trouble, tried, before)
            if way is not None:
                yield way

    def _tries(self, t: Trouble) -> Iterator[Try]:
        match t.lack.lack:
            case Lack.LATE:
                yield from late(t)
            case Lack.SOFT:
                yield from sharper(t)
            case Lack.UNFILMED:
                yield from let_go(t)
            case Lack.PAST | Lack.ELSEWHERE:
                yield from back_to_it(t)
            case Lack.SILENT:
                yield from silent(t)
            case Lack.LENGTH:
                yield from too_long(t, self.styles)
            case Lack.BEYOND:
                yield from beyond(t)
            case Lack.STILL:
                yield from still(t)

    def _tried(self, t: Trouble, tried: Try, before: float) -> WayOut | None:
        """The way, if it leads out."""
        try:
            b = tried.change(t.b)
        except DocumentError:
            return None
        if b == t.b:
            return None
        if tried.asks:
            return WayOut(tried.text, tried.change, ASKED + tried.price, tried.family, asks=True)
        lines = lines_of(b, {**t.lines, **tried.lines})
        fitted = self.fitted(b, lines)
        lacks = self.lacks(b, fitted, lines)
        word = t.lack.word if tried.word is None else tried.word
        # How near a picture comes changes nothing in the fit.
        drawn = t.lack.lack is Lack.SOFT
        stays = any((s.beat, s.word, s.lack) == (t.lack.beat, word, t.lack.lack) for part in lacks for s in part)
        if not drawn and (stays or _weighed(lacks) >= before):
            return None
        paid = 0.0 if t.lack.lack in BY_HAND else sum(f.cost for f in fitted)
        return WayOut(tried.text, tried.change, paid + tried.price, tried.family)


def lines_of(b: Breakdown, voices: Voices) -> Lines:
    """A line for every beat."""
    return {beat.id: line_for(b, beat, voices) for _, beat in b.beats()}


def ways_out(
    b: Breakdown,
    shortfall: Shortfall,
    voices: Voices,
    *,
    styles: Styles | None = None,
    most: int = 3,
    peak: Peak | None = None,
) -> tuple[WayOut, ...]:
    """At most `most` edits of `b` that remove `shortfall` and make nothing else worse, cheapest first.

    `shortfall` is of the programme compiled from `b` and `voices`. Each edit is of another kind if there are enough.
    """
    found = list(Finder(b, lines_of(b, voices), styles or house_styles(), peak).ways(shortfall))
    return _chosen(sorted(found, key=lambda w: w.cost), most)


def _chosen(ways: list[WayOut], most: int) -> tuple[WayOut, ...]:
    """The cheapest of each family, and others only where there are too few families."""
    first = {w.family: w for w in reversed(ways)}
    ahead = [w for w in ways if first[w.family] is w]
    return tuple(sorted([*ahead, *(w for w in ways if w not in ahead)][:most], key=lambda w: w.cost))


def _weighed(lacks: list[tuple[Shortfall, ...]]) -> float:
    return sum(WEIGHT[s.lack] * max(float(s.seconds), 0.01) for part in lacks for s in part)
