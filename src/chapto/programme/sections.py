"""The fit of every section of the script. A section that did not change is not fitted again."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import replace
from fractions import Fraction
from functools import lru_cache
from typing import TypeVar

from chapto.document.breakdown import Breakdown
from chapto.document.condition import ConditionKind
from chapto.document.script import Part, Section, words_of
from chapto.document.treatments import Run, left_to_the_fit
from chapto.pacing.clean_replays import shown_around
from chapto.pacing.fit import fit
from chapto.pacing.fitted import FitBeat, FitExchange, Fitted, Shortfall, Stop
from chapto.pacing.shortfalls import never_filmed
from chapto.pacing.skipping import Span, idle_in
from chapto.pacing.solver_terms import Wish
from chapto.pacing.spoken import SpokenLine, phrase_starts
from chapto.pacing.styles import HouseStyle, allowing
from chapto.programme.angles import AngleTrack
from chapto.programme.as_filmed import as_filmed
from chapto.programme.framing_sections import card, credits_card, introduction_span, opening_span, recap
from chapto.programme.parts_of_beats import BeatPart, part_line, parts_of, put_together
from chapto.programme.section_styles import Styles, style_of

Lines = Mapping[str, SpokenLine]
Same = TypeVar("Same")
WISH_STEP = 10
"""Shares of a wished length are put on this many parts of a second, so that a small edit leaves the others alone."""


def fit_script(b: Breakdown, lines: Lines, styles: Styles, track: AngleTrack) -> tuple[Fitted, ...]:
    """Every section of `b` in its house style, fitted; a wished length is shared out over the exchanges by weight."""
    idle, own = _one(idle_spans(b)), [_one(style_of(b, s, styles)) for s in b.script]
    natural = [fit_section(b, s, lines, style, track, idle) for s, style in zip(b.script, own, strict=True)]
    if not b.target:
        return tuple(natural)
    wished = shares(b, [part.seconds for part in natural])
    return tuple(
        fit_section(b, s, lines, style, track, idle, wish=wish) if wish is not None else part
        for s, style, part, wish in zip(b.script, own, natural, wished, strict=True)
    )


@lru_cache(maxsize=64)
def _one(same: Same) -> Same:
    """One object for equal ones, so that comparing it with itself costs nothing for each of a thousand sections."""
    return same


def shares(b: Breakdown, natural: list[Fraction]) -> list[Fraction | None]:
    """What of the wished length falls to each section, in seconds of watch time; None for cards and parts, which take
    what they need. What the whole is too long or too short by is shared out by weight and natural length."""
    loads = loads_of(b, natural)
    if not sum(loads):
        return [None] * len(natural)
    off = b.target - sum(natural)
    return [
        max(Fraction(round((n + off * load / sum(loads)) * WISH_STEP), WISH_STEP), Fraction(1)) if load else None
        for n, load in zip(natural, loads, strict=True)
    ]


def loads_of(b: Breakdown, natural: list[Fraction]) -> list[Fraction]:
    """By how much each section takes part in making the whole shorter or longer: its weight times the seconds it lasts
    by itself; 0 for cards, parts and what is as filmed, and where the last beat's treatment is fixed, as nothing there
    can give."""
    gives = (_gives(s) for s in b.script)
    return [s.weight * n if on else Fraction(0) for s, n, on in zip(b.script, natural, gives, strict=True)]


def _gives(section: Section) -> bool:
    last = section.beats[-1] if section.beats else None
    treatment = last.turns[-1].treatment if last and last.turns else last.treatment if last else None
    talks = bool(section.exchange) and section.part is Part.TALK and not section.as_filmed
    return talks and left_to_the_fit(treatment)


def fit_section(
    b: Breakdown,
    section: Section,
    lines: Lines,
    style: HouseStyle,
    track: AngleTrack,
    idle: tuple[Span, ...],
    *,
    wish: Fraction | None = None,
) -> Fitted:
    """One section. `wish` is its watch length in seconds, what is shown around the talk included."""
    match section.part:
        case Part.CREDITS:
            return credits_card(b, section, lines, style)
        case Part.RECAP:
            return recap(b, section, lines, style)
    # Most of a document is the very same object after an edit, and comparing it with itself costs nothing.
    given = (
        section, b.script if section.part is not Part.TALK else (), b.exchanges, b.moments, b.rounds, b.footage,
        b.narrators if any(x.overlap for x in section.beats) else (),
        b.angles, b.conditions, b.target_is_limit, tuple(lines[x.id] for x in section.beats), style, idle, wish,
    )  # fmt: skip
    last = _last.get((section.id, wish is None))
    if last is not None and last[0] == given:
        return last[1]
    if len(_last) > REMEMBERED:
        _last.clear()
    fitted = _fit_section(b, section, lines, style, track, idle, wish)
    _last[section.id, wish is None] = given, fitted
    return fitted


MOST_AFTER = Fraction(5)
"""Mat seconds after an exchange that still belong to it."""
REMEMBERED = 5000
_last: dict[tuple[str, bool], tuple[tuple[object, ...], Fitted]] = {}


def _fit_section(
    b: Breakdown,
    section: Section,
    lines: Lines,
    style: HouseStyle,
    track: AngleTrack,
    idle: tuple[Span, ...],
    wish: Fraction | None,
) -> Fitted:
    span = span_of(b, section)
    if span is None:
        return card(section, lines, style)
    skips = tuple((max(a, span[0]), min(z, span[1])) for a, z in section.skips if a < span[1] and z > span[0])
    if section.as_filmed and section.part is Part.TALK:
        return as_filmed(section, span, skips, lines)
    parts = parts_of_section(b, section, lines)
    beats = tuple(_fit_beat(b, section, part, track) for part in parts)
    wanted = FitExchange(*span, beats, _room_after(b, section, track))
    around = (section.show_first + section.once_more) * (wanted.end - wanted.start)
    limits = allowing(style, section.allow, slowest_camera(track, *span))
    said = tuple(part_line(lines[x.beat.id], x) if x.beat.turns else lines[x.beat.id] for x in parts)
    seconds = None if wish is None else max(wish - around, Fraction(0))
    fitted = _fit_once(wanted, said, limits, idle_in(wanted, idle, skips), skips, seconds, b.target_is_limit)
    fitted = put_together(fitted, lines)
    fitted = replace(fitted, shortfalls=(*fitted.shortfalls, *_never_filmed(b, section, track)))
    first = section.first_camera if section.show_first else None
    return shown_around(fitted, wanted, first=first, once_more=section.more_camera if section.once_more else None)


@lru_cache(maxsize=8192)
def _fit_once(
    exchange: FitExchange,
    said: tuple[SpokenLine, ...],
    style: HouseStyle,
    idle: tuple[Span, ...],
    skips: tuple[Span, ...],
    seconds: Fraction | None,
    is_limit: bool,
) -> Fitted:
    voice = {beat.id: line for beat, line in zip(exchange.beats, said, strict=True)}
    wish = None if seconds is None else Wish(float(seconds), is_limit)
    return fit(exchange, voice, style, idle=idle, skips=skips, wish=wish)


def span_of(b: Breakdown, section: Section) -> Span | None:
    """The mat seconds a section shows from: its exchange, or what its part asks for; None for a card."""
    match section.part:
        case Part.OPENING:
            return opening_span(b, section)
        case Part.INTRODUCTION:
            return introduction_span(b, section)
    if not section.exchange:
        return None
    exchange = b.exchange(section.exchange)
    return exchange.start, exchange.end


def _never_filmed(b: Breakdown, section: Section, track: AngleTrack) -> Iterator[Shortfall]:
    """Ties to moments that no camera saw."""
    for beat in section.beats:
        for tie in beat.ties:
            if b.footage and track.seen_at(b.moment(tie.moment).at) is None:
                yield never_filmed(beat.id, tie.word)


def _room_after(b: Breakdown, section: Section, track: AngleTrack) -> Fraction | None:
    """Mat seconds after a section's exchange that the picture may run on into, until the next one begins or nothing was
    filmed; None for what is no exchange."""
    if section.part is not Part.TALK:
        return None
    end = b.exchange(section.exchange).end
    following = min((x.start for x in b.exchanges if x.start >= end), default=None)
    filmed = track.filmed_until(end)
    ends = min(filmed, end + MOST_AFTER) if following is None else min(filmed, following, end + MOST_AFTER)
    return max(ends - end, Fraction(0))


def slowest_camera(track: AngleTrack, start: Fraction, end: Fraction) -> Fraction | None:
    """The fewest new pictures a second in the footage of a mat span; None where nothing was filmed."""
    return min((c.fps for _, _, c in track.within(start, end) if c is not None), default=None)


def idle_spans(b: Breakdown) -> tuple[Span, ...]:
    """Mat seconds in which nothing happens, as far as the creator agreed that nothing does."""
    files = {c.id: c for c in b.footage}
    return tuple(
        (files[x.footage].mat_at(x.start), files[x.footage].mat_at(x.end))
        for x in b.conditions
        if x.kind is ConditionKind.IDLE and x.accepted
    )


def parts_of_section(b: Breakdown, section: Section, lines: Lines) -> tuple[BeatPart, ...]:
    """The beats of a section, or their parts where the picture turns inside; a pace holds from beat to beat. Only
    another voice falls in with the one that talks."""
    found: list[BeatPart] = []
    for beat in section.beats:
        first, *others = parts_of(beat, lines[beat.id], found[-1].pace if found else None)
        if beat.overlap and found and b.narrator(beat).id != b.narrator(found[-1].beat).id:
            first = replace(first, overlap=beat.overlap)
        found += [first, *others]
    return tuple(found)


def _fit_beat(b: Breakdown, section: Section, part: BeatPart, track: AngleTrack) -> FitBeat:
    """Opening and introduction run on under their words where nothing else is asked for."""
    inside = range(part.first, part.end) if part.beat.turns else range(len(words_of(part.beat.text)))
    ties = (t for t in part.beat.ties if t.word in inside)
    at = {t.word: b.moment(t.moment).at for t in part.beat.ties}
    stops = tuple(Stop(t.word - part.first, track.seen_at(at[t.word]) or at[t.word], t.hold_seconds) for t in ties)
    treatment = part.treatment
    led = treatment.moments()[:1] if treatment is not None else ()
    if treatment is None and section.part in (Part.OPENING, Part.INTRODUCTION):
        treatment = Run()
    starts = (word - part.first for word in phrase_starts(part.beat.text) if word in inside)
    hold_at = b.moment(led[0]).at if led else None
    phrases = tuple(sorted({0, *starts}))
    return FitBeat(part.id, stops, phrases, treatment, hold_at, part.pace, part.first > 0, part.overlap)
