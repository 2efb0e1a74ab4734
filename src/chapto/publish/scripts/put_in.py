"""A script from elsewhere, put into the document."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from fractions import Fraction

from msgspec.structs import replace

from chapto.document.breakdown import Breakdown, fresh_ids
from chapto.document.script import Beat, Section, Stamp
from chapto.publish.scripts.parts import ImportedBeat, ImportedSection

MatOf = Callable[[Fraction], "Fraction | None"]
"""Gives the mat second that a time of the script means; None where it means none."""
NO_VOICES: Mapping[str, str] = {}


def no_time(seconds: Fraction) -> Fraction | None:
    """For scripts whose times mean nothing here."""
    return None


def put_parts(
    b: Breakdown,
    section_id: str,
    after: str,
    parts: tuple[ImportedSection, ...],
    *,
    voices: Mapping[str, str] = NO_VOICES,
    mat_of: MatOf = no_time,
) -> Breakdown:
    """With the beats of a script. Those before the first heading come after beat `after` of a section, at its end when
    `after` is empty. Each heading makes a section of its own behind it. An empty beat `after` is filled first. `voices`
    are narrators (by id) by the mark that stands before their words."""
    ids = fresh_ids(b)
    place = next(i for i, s in enumerate(b.script) if s.id == section_id)
    here, new = b.script[place], list[Section]()
    for part in parts:
        beats = [made_beat(next(ids["b"]), beat, voices, mat_of) for beat in part.beats]
        if part.title:
            new.append(Section(id=next(ids["s"]), title=part.title, beats=tuple(beats)))
        elif new:
            new[-1] = replace(new[-1], beats=(*new[-1].beats, *beats))
        else:
            here = _put_after(here, after, beats)
    return replace(b, script=(*b.script[:place], here, *new, *b.script[place + 1 :]))


def made_beat(beat_id: str, beat: ImportedBeat, voices: Mapping[str, str], mat_of: MatOf) -> Beat:
    """A beat of the document, with who says it and with its times on the mat."""
    stamps = tuple(Stamp(word=word, at=mat) for word, s in beat.stamps if (mat := mat_of(s)) is not None)
    return Beat(id=beat_id, text=beat.text, narrator=voices.get(beat.speaker, ""), stamps=stamps)


def _put_after(section: Section, after: str, beats: list[Beat]) -> Section:
    """With beats behind beat `after`, which takes the first of them when it is empty."""
    known = [x.id for x in section.beats]
    at = known.index(after) + 1 if after in known else len(known)
    before, behind = list(section.beats[:at]), section.beats[at:]
    if after in known and beats and not before[-1].text.strip():
        first = beats[0]
        before[-1] = replace(before[-1], text=first.text, stamps=first.stamps, narrator=first.narrator)
        beats = beats[1:]
    return replace(section, beats=(*before, *beats, *behind))
