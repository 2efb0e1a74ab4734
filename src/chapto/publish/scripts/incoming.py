"""A script that is about to come in: what is in it, what is asked about it, and the document with it."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass, replace

from chapto.clock.timecode import clock_text
from chapto.document import edit_breakdown, edit_script
from chapto.document.breakdown import Breakdown
from chapto.document.script import words_of
from chapto.programme.programme import Programme
from chapto.publish.scripts.lay_along import lay_along
from chapto.publish.scripts.parts import ImportedSection, speakers_of, stamps_of
from chapto.publish.scripts.put_in import put_parts
from chapto.publish.scripts.times import TimesOf, guessed, mat_of

NEW = ""
"""In place of a narrator: a voice of its own is made for the speaker."""


@dataclass(frozen=True)
class Incoming:
    """A script called `name`, and what its times count from (None where it has none). `voices` are the narrators (by
    id) of its speakers, `NEW` for one to be made."""

    name: str
    parts: tuple[ImportedSection, ...]
    times: TimesOf | None
    voices: Mapping[str, str]
    asked: tuple[str, ...]
    """Speakers nobody has said yet who they are."""

    @property
    def has_questions(self) -> bool:
        """Whether anything is to be said before it comes in."""
        return self.times is not None or bool(self.asked)

    def with_times_of(self, times: TimesOf) -> Incoming:
        """With its times taken otherwise."""
        return replace(self, times=times)

    def with_voice(self, speaker: str, narrator: str) -> Incoming:
        """With a speaker said to be a narrator."""
        return replace(self, voices={**self.voices, speaker: narrator})


def incoming(b: Breakdown, name: str, parts: tuple[ImportedSection, ...]) -> Incoming:
    """A script as it is likeliest meant. A speaker who is known by name or by how the narrator was written before is
    not asked about; the first one of a document in which nobody has a name yet takes its only voice."""
    stamps = stamps_of(parts)
    known = {mark.casefold(): n.id for n in b.narrators for mark in (n.name, *n.written)}
    voices = {speaker: known.get(speaker.casefold(), NEW) for speaker in speakers_of(parts)}
    asked = tuple(s for s, n in voices.items() if n == NEW)
    if asked and _is_nobody_yet(b):
        voices[asked[0]] = b.narrators[0].id
    return Incoming(name, parts, guessed(b, max(stamps)) if stamps else None, voices, asked)


def put_into(b: Breakdown, p: Programme, script: Incoming, section: str = "", after: str = "") -> Breakdown:
    """The document with the script. One with times lies along the mat; another comes after beat `after` of a section,
    at the end of the last one without."""
    b, voices = _with_voices(b, script)
    if script.times is not None:
        return lay_along(b, script.parts, mat_of(script.times, b, p), voices=voices)
    if not b.script:
        b = edit_script.add_section(b, title=script.name)
    return put_parts(b, section or b.script[-1].id, after, script.parts, voices=voices)


def summary(b: Breakdown, script: Incoming) -> str:
    """How much there is of it."""
    beats = [beat for part in script.parts for beat in part.beats]
    words = sum(len(words_of(beat.text)) for beat in beats)
    minutes = clock_text(words * 60 / b.narrators[0].pace)
    return f"{words:,} words in {_count(len(beats), 'beat')}, about {minutes} at {b.narrators[0].pace} words a minute."


def times_summary(script: Incoming) -> str:
    """How many times came with it, and from where to where."""
    stamps = stamps_of(script.parts)
    return f"{_count(len(stamps), 'time')}, {clock_text(min(stamps))} to {clock_text(max(stamps))}. They are of"


def speaker_summary(script: Incoming, speaker: str) -> str:
    """How much a speaker says."""
    said = Counter(beat.speaker for part in script.parts for beat in part.beats)[speaker]
    return f"{speaker} says {_count(said, 'beat')}. Who is it?"


def voice_name(speaker: str) -> str:
    """The name of a voice made for a speaker: capitals as in a name."""
    return speaker.title() if speaker.isupper() else speaker


def _count(n: int, what: str) -> str:
    return f"{n:,} {what}{'' if n == 1 else 's'}"


def _is_nobody_yet(b: Breakdown) -> bool:
    """Whether there is one voice, without a name of its own, and nothing for it to say."""
    return len(b.narrators) == 1 and b.narrators[0].name == "Narrator" and not any(x.text.strip() for _, x in b.beats())


def _with_voices(b: Breakdown, script: Incoming) -> tuple[Breakdown, dict[str, str]]:
    """With narrators for the speakers, who are known by these marks from now on."""
    nobody, voices = _is_nobody_yet(b), dict(script.voices)
    for speaker, narrator in script.voices.items():
        name = voice_name(speaker)
        if narrator == NEW:
            b = edit_breakdown.add_narrator(b, name)
            narrator = voices[speaker] = b.narrators[-1].id
        elif nobody and narrator == b.narrators[0].id:
            b, nobody = edit_breakdown.change_narrator(b, narrator, name=name), False
        known = next(n for n in b.narrators if n.id == narrator)
        marks = {known.name.casefold(), *(m.casefold() for m in known.written)}
        if speaker.casefold() not in marks:
            b = edit_breakdown.change_narrator(b, narrator, written=(*known.written, speaker))
    return b, voices
