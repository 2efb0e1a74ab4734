"""The first words of a script, and words that have no picture yet."""

from __future__ import annotations

from fractions import Fraction

from msgspec.structs import replace

from chapto.document.breakdown import Breakdown
from chapto.document.edit_script import add_beat, add_section, rewrite
from chapto.document.forms import chapter_of
from chapto.document.script import Beat, Part, Section, words_of


def begin_to_write(b: Breakdown, text: str, mat: Fraction) -> Breakdown:
    """With a section at the end that begins with `text`: about the exchange that is looked at (at a mat second), or the
    next one, or the first; over a card where nothing is logged."""
    told = {s.exchange for s in b.script}
    free = [x for x in b.exchanges if x.id not in told]
    x = next((x for x in free if mat < x.end), free[0] if free else None)
    made = add_section(b, title=chapter_of(x) if x else "", exchange=x.id if x else "")
    made = add_beat(made, made.script[-1].id)
    return rewrite(made, made.script[-1].beats[0].id, text)


def without_picture(b: Breakdown) -> tuple[Section, ...]:
    """Sections that talk about no exchange: the viewer sees a card while they are said."""
    return tuple(s for s in b.script if not s.exchange and s.part is Part.TALK and any(x.text.strip() for x in s.beats))


def spread_over_exchanges(b: Breakdown) -> Breakdown:
    """With the beats that have no picture laid over the exchanges that nobody talks about, in order: each gets about as
    large a part of the words as it is of the time. Titles and cards of what was there stay where they were; without a
    free exchange nothing changes."""
    told = {s.exchange for s in b.script}
    free = [x for x in sorted(b.exchanges, key=lambda x: x.start) if x.id not in told]
    bare = without_picture(b)
    if not free or not bare:
        return b
    beats = [beat for s in bare for beat in s.beats if beat.text.strip()]
    parts = _parts(beats, [x.end - x.start for x in free])
    gone = {s.id for s in bare}
    at = next(i for i, s in enumerate(b.script) if s.id in gone)
    made, sections = replace(b, script=tuple(s for s in b.script if s.id not in gone)), []
    for x, part in zip(free, parts, strict=True):
        if part:
            made = add_section(made, title=chapter_of(x), exchange=x.id)
            sections.append(replace(made.script[-1], beats=tuple(part)))
    kept = list(made.script[: len(made.script) - len(sections)])
    return replace(made, script=(*kept[:at], *sections, *kept[at:]))


def _parts(beats: list[Beat], lengths: list[Fraction]) -> list[list[Beat]]:
    """Beats in order, each where the middle of its words falls when words and lengths are laid side by side."""
    words = [max(len(words_of(beat.text)), 1) for beat in beats]
    total, whole = sum(words), sum(lengths)
    parts: list[list[Beat]] = [[] for _ in lengths]
    said, at, reached = Fraction(0), 0, lengths[0] / whole
    for beat, count in zip(beats, words, strict=True):
        middle = (said + Fraction(count, 2)) / total
        while middle > reached and at < len(lengths) - 1:
            at += 1
            reached += lengths[at] / whole
        parts[at].append(beat)
        said += count
    return parts
