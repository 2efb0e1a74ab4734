"""Does a document hold together? Used on every file that is opened and after every edit."""

from __future__ import annotations

import re
from collections.abc import Iterator
from fractions import Fraction
from itertools import pairwise

from chapto.document.bounds import (
    LATEST,
    LONGEST_NAME,
    LONGEST_TEXT,
    LONGEST_WAIT,
    MOST_RATES,
    SLOWEST,
    is_time,
    text_problem,
)  # fmt: skip
from chapto.document.breakdown import Breakdown, DocumentError, everything_named
from chapto.document.footage import cameras_of
from chapto.document.mark_checks import mark_problems
from chapto.document.music_checks import music_problems
from chapto.document.photo_checks import photo_problems, photos_shown
from chapto.document.picture_format import MAX_SIDE, format_problems
from chapto.document.publishing import publishing_problems
from chapto.document.reviewing import review_problems
from chapto.document.script import Beat, Section, words_of
from chapto.document.takes_by_beat import take_problems
from chapto.document.talks import talk_problems
from chapto.document.treatments import TextCard

MAX_FPS = 1000
MAX_DRIFT = Fraction(1, 100)
"""Clocks of recorders differ by some hundred millionths; a hundredth is no clock any more."""
MOST_ASPECT = Fraction(20)
"""Times as wide as high, or as high as wide."""
_COLOUR = re.compile(r"#[0-9A-Fa-f]{6}")


def checked(breakdown: Breakdown) -> Breakdown:
    """The same document, or `DocumentError` with the first thing that contradicts itself."""
    for problem in problems(breakdown):
        raise DocumentError(problem)
    return breakdown


def problems(breakdown: Breakdown) -> Iterator[str]:
    """Every contradiction in the document, a sentence each."""
    yield from _frame(breakdown)
    yield from _ids(breakdown)
    yield from _footage(breakdown)
    yield from _log(breakdown)
    yield from _script(breakdown)
    yield from take_problems(breakdown)
    for talk in breakdown.talks:
        yield from talk_problems(talk)
    yield from mark_problems(breakdown)
    yield from photo_problems(breakdown)
    yield from music_problems(breakdown)
    yield from review_problems(breakdown.waivers, breakdown.notes)
    yield from publishing_problems(breakdown.publishing)


def _frame(b: Breakdown) -> Iterator[str]:
    yield from format_problems(b.format)
    if not b.narrators:
        yield "A breakdown needs at least one narrator."
    for n in b.narrators:
        if not 60 <= n.pace <= 400:
            yield f"{n.name} can't talk at {n.pace} words a minute; 60 to 400 are possible."
    own = (athlete for r in b.rounds for athlete in (r.first, r.second) if athlete is not None)
    for athlete in (b.first, b.second, *own):
        if not _COLOUR.fullmatch(athlete.kit_colour):
            yield f"“{athlete.kit_colour}” is no colour; write it like #E3A33A."
    if not 0 <= b.target <= LATEST:
        yield "The wished length can't be less than nothing, or be months."
    yield from _texts(b)


def _texts(b: Breakdown) -> Iterator[str]:
    """Texts that no file could hold, or that nobody could have meant."""
    names = [b.title, b.part, b.style, *(n.name for n in b.narrators), *(p.name for p in b.people)]
    names += [a.name for a in (b.first, b.second)]
    names += [part for c in b.footage for part in (c.name, c.path, c.camera, c.clearance.credit, c.clearance.owner)]
    names += [x.technique for x in b.exchanges] + [r.name for r in b.rounds]
    names += [x.text for x in b.labels] + [x.position for x in b.positions]
    names += [part for t in b.takes for part in (t.path, t.fingerprint)]
    names += [mark for n in b.narrators for mark in n.written]
    for what, texts, longest in (
        ("name", names, LONGEST_NAME),
        ("note", [m.note for m in b.moments] + [g.note for g in b.ruling.points] + [b.about], LONGEST_TEXT),
    ):
        for text in texts:
            if problem := text_problem(text, longest):
                yield _text_sentence(what, text, problem)


def _text_sentence(what: str, text: str, problem: str) -> str:
    return f"The {what} “{text[:30].encode('utf-8', 'replace').decode()}…” {problem}."


def _footage(b: Breakdown) -> Iterator[str]:
    files, people, cameras = {c.id for c in b.footage}, {p.id for p in b.people}, cameras_of(b.footage)
    for c in b.footage:
        sane = 0 < c.duration <= LATEST and 0 < c.fps <= MAX_FPS and is_time(c.offset)
        if not sane or not -MAX_DRIFT <= c.drift <= MAX_DRIFT:
            yield f"The times of the footage “{c.name}” make no sense."
        if not 0 <= c.lines <= MAX_SIDE:
            yield f"The picture of the footage “{c.name}” can't have {c.lines} lines."
        if c.aspect and not 1 / MOST_ASPECT <= c.aspect <= MOST_ASPECT:
            yield f"The picture of the footage “{c.name}” can't have that shape."
        if not people.issuperset(c.seen):
            yield f"Somebody is seen in “{c.name}” who is not among the people."
    for x in b.conditions:
        if x.footage not in files:
            yield f"A stretch called “{x.kind}” belongs to footage that is not there."
        if not 0 <= x.start < x.end:
            yield f"A stretch called “{x.kind}” would end before it starts."
    last = None
    for a in b.angles:
        if a.camera not in cameras:
            yield f"The angle “{a.camera}” is no camera of this breakdown."
        if a.start >= a.end or (last is not None and a.start < last):
            yield f"The angles at “{a.camera}” overlap or end before they start."
        last = a.end


def _ids(b: Breakdown) -> Iterator[str]:
    names = [item.id for item in everything_named(b)]
    seen = set(names)
    if len(seen) == len(names) and "" not in seen:
        return
    seen = set()
    for name in names:
        if not name or name in seen:
            yield f"Two things share the name “{name}”." if name else "Something has no name."
        seen.add(name)


def _log(b: Breakdown) -> Iterator[str]:
    spans = [(r.name, r.start, r.end) for r in b.rounds] + [(x.technique or x.id, x.start, x.end) for x in b.exchanges]
    for name, start, end in spans:
        if start >= end:
            yield f"“{name}” would end before it starts."
        elif not (is_time(start) and is_time(end)):
            yield f"“{name}” lies too far off on the mat clock."
    for m in b.moments:
        if not is_time(m.at):
            yield f"A moment lies too far off on the mat clock, at {float(m.at):g} s."
    for one, other in pairwise(b.positions):
        if one.end > other.start:
            yield f"Two positions overlap at mat second {float(other.start):.1f}."
    edges = [(x.start, x.end) for x in b.positions] + [(x.start, x.end) for x in b.ruling.stops]
    for start, end in edges + [(x.start, x.end) for x in b.ruling.overtime]:
        if start >= end:
            yield f"A span of the log would end before it starts, at mat second {float(start):.1f}."
    if not 0 < b.ruling.length <= LATEST:
        yield "A bout has to last some time."
    moments = {m.id for m in b.moments}
    for label in b.labels:
        if label.moment not in moments:
            yield f"The label “{label.text or label.technique}” hangs on a moment that is not there."
        if bool(label.text) == bool(label.technique):
            yield "A label has either words of its own or the name of a technique."


def _script(b: Breakdown) -> Iterator[str]:
    exchanges, moments = {e.id for e in b.exchanges}, {m.id for m in b.moments}
    narrators = {n.id for n in b.narrators}
    cameras = set(cameras_of(b.footage))
    photos = {p.id for p in b.photos}
    around = (b.exchanges, b.moments, b.narrators, b.footage, b.photos)
    if len(_sound) > REMEMBERED:
        _sound.clear()
    for section in b.script:
        known = _sound.get(id(section))
        if known is not None and known[0] is section and all(x is y for x, y in zip(known[1], around, strict=True)):
            continue
        found = list(_section(section, exchanges, moments, narrators))
        found += [*_cameras(section, cameras), *photos_shown(section, photos)]
        if not found:
            _sound[id(section)] = section, around
        yield from found


REMEMBERED = 10_000
_sound: dict[int, tuple[Section, tuple[object, ...]]] = {}
"""Sections found sound, with what they were held against: of a long script nearly all are the same after an edit."""


def _section(section: Section, exchanges: set[str], moments: set[str], narrators: set[str]) -> Iterator[str]:
    if section.exchange and section.exchange not in exchanges:
        yield f"The section “{section.title or section.id}” belongs to an exchange that is not there."
    if problem := text_problem(section.title):
        yield _text_sentence("title", section.title, problem)
    yield from _limits(section)
    for beat in section.beats:
        yield from _beat(beat, moments, narrators)


def _cameras(section: Section, cameras: set[str]) -> Iterator[str]:
    named = [c for c in (section.first_camera, section.more_camera) if c]
    named += [c for beat in section.beats for treatment in beat.treatments() for c in treatment.cameras()]
    for camera in named:
        if camera not in cameras:
            yield f"The section “{section.title or section.id}” names the camera “{camera}”, which is not there."


def _beat(beat: Beat, moments: set[str], narrators: set[str]) -> Iterator[str]:
    for text in (beat.text, beat.drafted):
        if problem := text_problem(text, LONGEST_TEXT):
            yield _text_sentence("beat", text, problem)
    for card in beat.treatments():
        if isinstance(card, TextCard) and (problem := text_problem(card.text)):
            yield _text_sentence("card", card.text, problem)
    if not 0 <= beat.overlap <= LONGEST_WAIT:
        yield f"The beat “{beat.text[:30]}” can't begin {float(beat.overlap):g} s before the one above it is out."
    if beat.narrator and beat.narrator not in narrators:
        yield f"The beat “{beat.text[:30]}” belongs to a narrator who is not there."
    last = -1
    count = len(words_of(beat.text)) if beat.ties or beat.stamps or beat.turns else 0
    for stamp in beat.stamps:
        if not last < stamp.word < count or not is_time(stamp.at):
            yield f"The beat “{beat.text[:30]}” has a time that came with it at a word it does not have."
        last = stamp.word
    last = -1
    for tie in beat.ties:
        if tie.moment not in moments:
            yield f"The beat “{beat.text[:30]}” is tied to a moment that is not there."
        if not last < tie.word < count:
            yield f"The beat “{beat.text[:30]}” is tied at a word it does not have."
        if tie.hold_seconds is not None and not 0 <= tie.hold_seconds <= LONGEST_WAIT:
            yield f"The picture can't stand less than nothing, or over an hour, at a word of “{beat.text[:30]}”."
        last = tie.word
    turned = [0, *(turn.word for turn in beat.turns)]
    if any(one >= other for one, other in pairwise(turned)) or (beat.turns and turned[-1] >= count):
        yield f"The picture turns at a word that “{beat.text[:30]}” does not have."
    for treatment in beat.treatments():
        if problem := treatment.problem():
            yield problem
        if not moments.issuperset(treatment.moments()):
            yield f"The beat “{beat.text[:30]}” holds on, or skips to, a moment that is not there."


def _limits(section: Section) -> Iterator[str]:
    name, allow = section.title or section.id, section.allow
    if any(a >= z for a, z in section.skips) or any(one[1] > other[0] for one, other in pairwise(section.skips)):
        yield f"What the section “{name}” skips overlaps or ends before it starts."
    waits = all(0 <= x <= LONGEST_WAIT for x in (allow.hold_seconds, allow.silence_seconds))
    rates = len(allow.rates) <= MOST_RATES and all(SLOWEST <= r < 1 for r in allow.rates)
    if not waits or not rates or not Fraction(1, 1000) <= section.weight <= 1000:
        yield f"What the section “{name}” is allowed makes no sense."
