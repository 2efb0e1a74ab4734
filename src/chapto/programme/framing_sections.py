"""The parts of a programme round the talk: title card, opening, introduction, recap, credits."""

from __future__ import annotations

from collections.abc import Mapping
from fractions import Fraction

from chapto.clock.passage import Kind
from chapto.document.bout import Moment, MomentKind, Outcome
from chapto.document.breakdown import Breakdown
from chapto.document.clearance import Agreement
from chapto.document.footage import Footage
from chapto.document.photos import Photo
from chapto.document.placeholders import shown_name
from chapto.document.script import Part, Section
from chapto.pacing.fitted import Fitted, Leg, Phrase, PlannedTie
from chapto.pacing.spoken import SpokenLine
from chapto.pacing.styles import HouseStyle

Lines = Mapping[str, SpokenLine]
ZERO, ONE = Fraction(0), Fraction(1)
BEFORE_BEST, AFTER_BEST = Fraction(5, 2), Fraction(3, 2)
"""Mat seconds of an opening before and after its moment."""
INTRODUCED = Fraction(7)
"""Mat seconds of the start of a round under an introduction."""
SHORTEST_CLIP = Fraction(3, 2)
"""Seconds of one exchange in a recap."""
READ_A_WORD = Fraction(3, 10)
"""BBC Subtitle Guidelines: about 0.3 s a word."""


def best_moment(b: Breakdown, section: Section) -> Moment | None:
    """The moment an opening shows: in the section's exchange when it names one, else in those of the script; a finish
    before anything else, the last of them first, in an exchange that landed."""
    asked = [section.exchange] if section.exchange else [s.exchange for s in b.script if s.exchange]
    inside = [
        (m.kind is MomentKind.FINISH, x.outcome is Outcome.LANDED, m.at, m)
        for x in b.exchanges
        if x.id in asked
        for m in b.moments
        if x.start <= m.at <= x.end
    ]
    return max(inside, key=lambda row: row[:3])[3] if inside else None


def opening_span(b: Breakdown, section: Section) -> tuple[Fraction, Fraction] | None:
    """Mat seconds from shortly before the best moment to shortly after it."""
    best = best_moment(b, section)
    return None if best is None else (max(best.at - BEFORE_BEST, ZERO), best.at + AFTER_BEST)


def introduction_span(b: Breakdown, section: Section) -> tuple[Fraction, Fraction] | None:
    """The start of the round in which the first explained exchange lies, or of the first round."""
    first = next((b.exchange(s.exchange).start for s in b.script if s.exchange and s.part is Part.TALK), None)
    here = next((r for r in b.rounds if first is not None and r.start <= first < r.end), None)
    here = here or next(iter(b.rounds), None)
    return None if here is None else (here.start, min(here.start + INTRODUCED, here.end))


def card(section: Section, lines: Lines, style: HouseStyle, *, text: str = "", least: Fraction = ZERO) -> Fitted:
    """A section's words over a card. Its ties have no picture to meet."""
    phrases, ties, at = words_over(section, lines, style)
    seconds = max(at, style.title_card, least)
    return Fitted((Leg(Kind.CARD, ZERO, ZERO, seconds, text),), phrases, ties, (), seconds)


def words_over(
    section: Section, lines: Lines, style: HouseStyle
) -> tuple[tuple[Phrase, ...], tuple[PlannedTie, ...], Fraction]:
    """A section's words one after another, whatever the picture does; and when they are out."""
    phrases, ties, at = [], [], style.lead_in
    for beat in section.beats:
        line = lines[beat.id]
        if line.words:
            phrases.append(Phrase(beat.id, 0, len(line.words), ZERO, line.seconds, at))
        ties += [PlannedTie(beat.id, t.word, ZERO, at + line.words[t.word][0], None) for t in beat.ties]
        at += line.seconds + style.breath
    return tuple(phrases), tuple(ties), at


def recap(b: Breakdown, section: Section, lines: Lines, style: HouseStyle) -> Fitted:
    """The explained exchanges once more, a moment of each, as long as the words last; a card where there are none."""
    places = recap_moments(b)
    if not places:
        return card(section, lines, style)
    phrases, ties, out = words_over(section, lines, style)
    each = max(out / len(places), SHORTEST_CLIP)
    legs = tuple(Leg(Kind.AGAIN, max(at - each * 2 / 3, ZERO), ONE, each) for at in places)
    return Fitted(legs, phrases, ties, (), each * len(places))


def recap_moments(b: Breakdown) -> tuple[Fraction, ...]:
    """For each explained exchange the mat second that says most: the last moment tied in it, else its middle."""
    found = []
    for s in b.script:
        if not s.exchange or s.part is not Part.TALK:
            continue
        x = b.exchange(s.exchange)
        tied = [b.moment(t.moment).at for beat in s.beats for t in beat.ties]
        found.append(max((m for m in tied if x.start <= m <= x.end), default=(x.start + x.end) / 2))
    return tuple(found)


def credits_card(b: Breakdown, section: Section, lines: Lines, style: HouseStyle) -> Fitted:
    """The credits, as long as they are read or talked over."""
    rows = credits_of(b)
    text = "\n".join((section.title or "Thanks", *rows))
    return card(section, lines, style, text=text, least=READ_A_WORD * len(text.split()))


def credits_of(b: Breakdown) -> tuple[str, ...]:
    """Whom to thank, a line each, from the clearance of the footage that is used: who agreed to be seen, whose pictures
    they are, who speaks."""
    files: tuple[Footage | Photo, ...] = (*b.footage, *b.photos)
    used = [c for c in files if c.clearance.agreement not in (Agreement.REFUSED, Agreement.WITHDRAWN)]
    seen = [p for p in b.people if p.agreement is Agreement.AGREED and any(p.id in c.seen for c in used)]
    rows = [f"{p.name}, {p.part}" if p.part else p.name for p in seen]
    given = [(c.clearance.credit, shown_name(c.clearance.owner)) for c in used]
    owners = [credit or (f"Footage: {owner}" if owner else "") for credit, owner in given]
    speaking = {beat.narrator or b.narrators[0].id for _, beat in b.beats()}
    voices = [n.name for n in b.narrators if n.id in speaking and shown_name(n.name)]
    rows += [*dict.fromkeys(line for line in owners if line)]
    rows += [f"Music: {m.credit or m.name}{f', {m.licence}' if m.licence else ''}" for m in b.music]
    return (*rows, *([f"Voice: {' and '.join(voices)}"] if voices else []))
