"""When labels stand on the picture: from their moment on, as long as they need to be read, never over each other."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from fractions import Fraction

from chapto.clock.passage import Kind, Passage
from chapto.clock.rates import frames_from_seconds
from chapto.clock.timemap import TimeMap
from chapto.document.bout import Exchange, Outcome
from chapto.document.breakdown import Breakdown, Label
from chapto.document.people import Side
from chapto.document.script import Part, Section
from chapto.lexicon.lexicon import Lexicon, School, Technique
from chapto.lexicon.trade_words import trade_word
from chapto.programme.beat_slips import BeatSlip
from chapto.programme.placed import PlacedLabel, PlacedSection

SECONDS_A_WORD, SHORTEST = Fraction(3, 10), Fraction(12, 10)
"""Reading time: BBC Subtitle Guidelines give about 0.3 s a word."""
LONGEST_IN_HOLD = Fraction(8)
ROWS = 4
"""Labels that have room one above another; a fifth waits."""


def reading_seconds(text: str) -> Fraction:
    """How long `text` has to stand to be read."""
    return max(SECONDS_A_WORD * len(text.split()), SHORTEST)


@dataclass(frozen=True)
class _Wanted:
    label: str
    text: str
    technique: Technique | None
    outcome: str
    camera: str
    start: int
    exchange: Exchange | None
    until: int = 0


def place_labels(
    b: Breakdown,
    lexicon: Lexicon,
    time_map: TimeMap,
    sections: tuple[PlacedSection, ...],
    shown: Mapping[str, int],
    slips: Iterable[BeatSlip] = (),
) -> tuple[PlacedLabel, ...]:
    """The creator's labels, the `slips` of beats, and one of its own for each explained exchange that has none.

    Each stands where its moment is talked about, else where it first comes on the screen. `shown` has the frame of tied
    moments.

    Rows from the lowest keep simultaneous labels apart. A held picture keeps its label while it is held; the end of a
    section takes every label away.
    """
    placed: list[PlacedLabel] = []
    free_from = [0] * ROWS
    ends = [s.end for s in sections]
    mentioned: set[str] = set()
    told = (_Wanted(x.beat, x.text, None, "", "", x.start, None, x.end) for x in slips)
    for want in sorted([*_wanted(b, lexicon, time_map, sections, shown), *told], key=lambda w: (w.start, w.label)):
        text = want.text or _named(b, want, mentioned)
        number = bisect_right(ends, want.start)
        limit = sections[number].end if number < len(sections) else time_map.frames
        row = next((r for r, end in enumerate(free_from) if end <= want.start), free_from.index(min(free_from)))
        start = max(want.start, free_from[row])
        end = max(start + _frames(reading_seconds(text), time_map), _end_of_hold(start, time_map))
        end = min(max(end, want.until), limit, _end_of_camera(b, start, time_map) if want.camera else limit)
        if end > start:
            by, colour = _who(b, want.exchange)
            placed.append(PlacedLabel(want.label, text, start, end, row, by, colour))
            free_from[row] = end
    return tuple(placed)


def _wanted(
    b: Breakdown,
    lexicon: Lexicon,
    time_map: TimeMap,
    sections: tuple[PlacedSection, ...],
    shown: Mapping[str, int],
) -> Iterator[_Wanted]:
    for label in b.labels:
        start = _start(b, label, time_map, shown)
        if start is not None:
            technique = lexicon.techniques.get(label.technique)
            text = label.text or ("" if technique else label.technique)
            yield _Wanted(label.id, text, technique, "", label.camera, start, _named_exchange(b, lexicon, label))
    if not b.naming.automatic:
        return
    placed = {s.section: s for s in sections}
    hung = [(b.moment(label.moment).at, label) for label in b.labels]
    for s in b.script:
        technique = lexicon.technique_named(b.exchange(s.exchange).technique) if s.exchange else None
        if technique is None or s.part is not Part.TALK:
            continue
        x = b.exchange(s.exchange)
        start = _of_exchange(b, s, placed[s.id], time_map, shown)
        if start is not None and not any(x.start <= at <= x.end and _names(label, technique) for at, label in hung):
            outcome = trade_word(x.outcome) if x.outcome is Outcome.STOPPED else ""
            yield _Wanted(f"{s.id}/name", "", technique, outcome, "", start, x)


def _who(b: Breakdown, x: Exchange | None) -> tuple[Side | None, str]:
    """Who began an exchange, and the colour they wear."""
    if x is None or x.by is None:
        return None, ""
    return x.by, b.athlete(x.by, x.start).kit_colour


def _named_exchange(b: Breakdown, lexicon: Lexicon, label: Label) -> Exchange | None:
    """The exchange whose technique a label of the creator's names; with words of another kind nobody can know whose
    hand or hip is meant, and the label carries no sign."""
    at = b.moment(label.moment).at
    for x in b.exchanges:
        if x.start <= at <= x.end:
            technique = lexicon.technique_named(x.technique)
            if technique is not None and _names(label, technique):
                return x
    return None


def _names(label: Label, technique: Technique) -> bool:
    """Whether a label of the creator's names the technique already."""
    text = label.text.casefold()
    return label.technique == technique.id or any(name.casefold() in text for name in technique.names())


def _start(b: Breakdown, label: Label, time_map: TimeMap, shown: Mapping[str, int]) -> int | None:
    if not label.camera and label.moment in shown:
        return shown[label.moment]
    for showing in time_map.watched_at(b.moment(label.moment).at):
        passage = time_map.passages[showing.passage]
        if not label.camera or (passage.footage and b.camera(passage.footage).camera_name == label.camera):
            return showing.start
    return None


def _of_exchange(
    b: Breakdown, section: Section, placed: PlacedSection, time_map: TimeMap, shown: Mapping[str, int]
) -> int | None:
    """Where an exchange's own label starts: at the first moment that is talked about, else at its first moment."""
    if placed.start == placed.end:
        return None
    tied = [shown[t.moment] for beat in section.beats for t in beat.ties if t.moment in shown]
    if tied:
        return min(tied)
    x = b.exchange(section.exchange)
    for m in b.moments:
        if x.start <= m.at < x.end:
            inside = time_map.watched_at(m.at, (placed.start, placed.end))
            if inside:
                return inside[0].start
    return placed.start


def _named(b: Breakdown, want: _Wanted, mentioned: set[str]) -> str:
    """The name in the chosen school, with the other one at the first mention if that is wanted."""
    assert want.technique is not None
    school = School(b.naming.school) if b.naming.school in set(School) else School.ENGLISH
    t = want.technique
    name = t.name(school)
    other = next((n for n in (t.en, t.ja, t.short) if n and n.casefold() != name.casefold()), "")
    first = t.id not in mentioned
    mentioned.add(t.id)
    text = name[:1].upper() + name[1:]
    if first and other and b.naming.both_at_first:
        text = f"{text} ({other})"
    return f"{text}, {want.outcome}" if want.outcome else text


def _end_of_camera(b: Breakdown, start: int, time_map: TimeMap) -> int:
    """The first frame after `start` that another camera shows."""
    first = time_map.index_at(start)
    camera = b.camera(time_map.passages[first].footage).camera_name
    for p in time_map.passages[first:]:
        if not p.footage or b.camera(p.footage).camera_name != camera:
            return p.watch_in
    return time_map.frames


def _frames(seconds: Fraction, time_map: TimeMap) -> int:
    return frames_from_seconds(seconds, time_map.passages[0].fps)


def _end_of_hold(start: int, time_map: TimeMap) -> int:
    """The end of the hold that begins within a frame after `start`, at most `LONGEST_IN_HOLD` later."""
    i = time_map.index_at(start)
    near: list[Passage] = [p for p in time_map.passages[i : i + 2] if p.watch_in <= start + 1]
    ends = [p.watch_out for p in near if p.kind is Kind.HOLD]
    return min(max(ends, default=start), start + _frames(LONGEST_IN_HOLD, time_map))
