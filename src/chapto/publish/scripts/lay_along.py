"""A script with times, laid along the mat: its beats go to the exchanges in which they are said."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from fractions import Fraction
from itertools import groupby

from msgspec.structs import replace

from chapto.document.bout import Exchange
from chapto.document.breakdown import Breakdown, fresh_ids
from chapto.document.forms import chapter_of
from chapto.document.script import Beat, Part, Section
from chapto.publish.scripts.parts import ImportedSection
from chapto.publish.scripts.put_in import NO_VOICES, MatOf, made_beat

LEAD = Fraction(1)
"""Mat seconds by which a stretch without a logged exchange begins before its first time, and lasts beyond its last."""
MOST_BEATS, MOST_SECONDS = 12, 90
"""Beats and mat seconds of the longest stretch made here: so much is fitted at once in a moment."""


@dataclass(frozen=True)
class _Placed:
    """A beat under the heading it came with. It begins at mat second `at`, or takes that of the beat before it; `home`
    is the logged exchange in which that is."""

    title: str
    beat: Beat
    at: Fraction | None
    home: str


def lay_along(
    b: Breakdown, parts: tuple[ImportedSection, ...], mat_of: MatOf, *, voices: Mapping[str, str] = NO_VOICES
) -> Breakdown:
    """With the beats of a script in sections of their own at the end, in the script's order. Each goes to the exchange
    in which it is said; an empty section of that exchange is filled. Where none is logged but something was filmed,
    stretches without a name are added to the log. What has no time stays with what stands before it; what was not
    filmed, and what comes before all times of its heading, stands on a card."""
    ids = fresh_ids(b)
    made = list(b.exchanges)
    empty = {s.exchange: s for s in reversed(b.script) if _is_empty(s)}
    sections: list[Section] = []
    for exchange, run in _runs(b, list(_placed(b, parts, mat_of, voices, ids["b"]))):
        name = exchange.id if exchange else ""
        if exchange is not None and not exchange.id:
            name = next(ids["x"])
            made.append(replace(exchange, id=name))
        # What was laid out for the exchange is filled: its title, and how it is shown, stay.
        laid = empty.pop(name, None) or Section(id=next(ids["s"]), exchange=name)
        title = laid.title or run[0].title or (chapter_of(exchange) if exchange else "")
        if sections and title == sections[-1].title:
            title = ""
        sections.append(replace(laid, title=title, beats=tuple(x.beat for x in run)))
    filled = {s.id for s in sections}
    kept = tuple(s for s in b.script if s.id not in filled)
    exchanges = tuple(sorted(made, key=lambda x: x.start))
    return replace(b, exchanges=exchanges, script=(*kept, *sections))


def _is_empty(s: Section) -> bool:
    return bool(s.exchange) and s.part is Part.TALK and not any(x.text.strip() or x.treatment for x in s.beats)


def _placed(
    b: Breakdown, parts: tuple[ImportedSection, ...], mat_of: MatOf, voices: Mapping[str, str], ids: Iterator[str]
) -> Iterator[_Placed]:
    at: Fraction | None = None
    for part in parts:
        at = None if part.title else at
        for imported in part.beats:
            beat = made_beat(next(ids), imported, voices, mat_of)
            at = beat.stamps[0].at if beat.stamps else at
            yield _Placed(part.title, beat, at, _home(b, at))


def _home(b: Breakdown, at: Fraction | None) -> str:
    return next((x.id for x in b.exchanges if at is not None and x.start <= at < x.end), "")


def _runs(b: Breakdown, placed: list[_Placed]) -> Iterator[tuple[Exchange | None, list[_Placed]]]:
    """Beats that go together, with their exchange: a logged one, one without an id to be made, or none."""
    starts = sorted({x.at for x in placed if x.at is not None})
    for (_title, home, timed), group in groupby(placed, lambda x: (x.title, x.home, x.at is not None)):
        run = list(group)
        if home or not timed:
            yield (b.exchange(home) if home else None), run
            continue
        for part in _parted(run):
            yield _stretch(b, part, starts), part


def _parted(run: list[_Placed]) -> Iterator[list[_Placed]]:
    """In parts that are short enough to be fitted at once; going back in time begins a new one."""
    part: list[_Placed] = []
    for x in run:
        at = _time(x)
        if part and (len(part) >= MOST_BEATS or at < _time(part[-1]) or at - _time(part[0]) > MOST_SECONDS):
            yield part
            part = []
        part.append(x)
    if part:
        yield part


def _time(x: _Placed) -> Fraction:
    assert x.at is not None
    return x.at


def _stretch(b: Breakdown, part: list[_Placed], starts: list[Fraction]) -> Exchange | None:
    """The mat time of a part: to the next time in the script, within what was filmed and outside the logged exchanges;
    None where nothing was filmed."""
    times = [_time(x) for x in part]
    first, last = min(times), max(times)
    camera = next((f for f in b.footage if f.covers(first)), None)
    if camera is None:
        return None
    before = [x.end for x in b.exchanges if x.end <= first]
    after = [x.start for x in b.exchanges if x.start > last]
    following = next((t for t in starts if t > last), last + MOST_SECONDS)
    ends = [max(f.mat_out for f in b.footage if f.mat_in <= last), *after, max(following, last + LEAD)]
    earlier = max((t for t in starts if t < first), default=first - LEAD)
    start = max([camera.mat_in, first - LEAD, earlier, *before])
    end = min(ends)
    return Exchange(id="", start=start, end=end) if end - start > LEAD / 2 else None
