"""A script from plain text or Markdown."""

from __future__ import annotations

import re
from collections.abc import Collection, Iterator
from dataclasses import dataclass, replace
from fractions import Fraction
from statistics import median

from chapto.document.script import words_of
from chapto.pacing.spoken import STOP_PAUSE, pause_after
from chapto.publish.scripts.beats_of import beats_of
from chapto.publish.scripts.parts import ImportedBeat, ImportedSection, Said
from chapto.publish.scripts.sound_notes import without_sounds
from chapto.publish.scripts.speakers import is_a_name, speakers_in, split_speaker
from chapto.publish.scripts.stamps import is_cue_time, leading_stamp, trailing_stamp

RUNNING = 12
"""Words from one time to the next under which the times stand beside lines of running talk, not beside beats."""
_LISTED = re.compile(r"^(?:[-*+]|\d+[.)])\s+(.*)")


@dataclass(frozen=True)
class _Line:
    """One line: a heading, an end (of a paragraph, or before a listed line), or words."""

    text: str = ""
    at: Fraction | None = None
    speaker: str = ""
    heading: bool = False
    ends: bool = False


def parts_of(text: str, known: Collection[str] = ()) -> tuple[ImportedSection, ...]:
    """Markdown headings begin parts; blank lines, list marks, times and other speakers begin beats, and long paragraphs
    are split. Where a time stands beside each few words the lines run on. `known` are names of people who speak."""
    lines = list(_lines(text, frozenset(known)))
    runs_on = _runs_on(lines)
    found: list[tuple[str, list[ImportedBeat]]] = [("", [])]
    paragraph: list[Said] = []
    speaker, waiting = "", None

    def end() -> None:
        found[-1][1].extend(beats_of(paragraph))
        paragraph.clear()

    for line in lines:
        if line.heading:
            end()
            found.append((_plain(line.text), []))
            speaker, waiting = "", None
            continue
        stamped = line.at is not None
        if (line.ends and not (runs_on and not line.text)) or (stamped and not runs_on):
            end()
        speaker = line.speaker or speaker
        waiting = line.at if stamped else waiting
        if line.text:
            paragraph.append(Said(_plain(line.text), waiting, speaker=speaker))
            waiting = None
    end()
    return tuple(ImportedSection(title, tuple(beats)) for title, beats in found if title or beats)


def _lines(text: str, known: frozenset[str]) -> Iterator[_Line]:
    raw = [line.strip() for line in text.replace("\r\n", "\n").lstrip("\ufeff").split("\n")]
    raw = [line for i, line in enumerate(raw) if not (line.isdigit() and i + 1 < len(raw) and is_cue_time(raw[i + 1]))]
    split = [_split(line) for line in raw]
    speakers = speakers_in((line.text for line in split if not line.heading), known)
    for line in split:
        if line.heading or not line.text:
            yield line
            continue
        speaker, said = split_speaker(line.text, speakers)
        behind = leading_stamp(said) if line.at is None else None
        if behind is not None:
            line, said = replace(line, at=behind[0]), behind[1]
        yield replace(line, text=without_sounds(said), speaker=speaker)


def _split(line: str) -> _Line:
    """A line with its heading, list mark and time told apart from its words."""
    heading = _heading(line)
    if heading is not None:
        return _Line(heading, heading=True)
    if not line or set(line) <= {"-", "*", "_"}:
        return _Line(ends=True)
    listed = _LISTED.match(line)
    rest = listed[1] if listed else line.lstrip("> ") if not line.startswith(">>") else line
    named = trailing_stamp(rest)
    if named is not None and is_a_name(named[0].rstrip(":")):
        return _Line(f"{named[0].rstrip(':')}:", named[1])
    stamp = leading_stamp(rest)
    return _Line(stamp[1] if stamp else rest, stamp[0] if stamp else None, ends=listed is not None)


def _runs_on(lines: list[_Line]) -> bool:
    """Whether times stand beside each few words, most of which end no sentence, as in captions copied from a page."""
    said: list[list[str]] = []
    for line in lines:
        if line.at is not None:
            said.append([])
        if said:
            said[-1] += words_of(line.text)
    ended = sum(bool(words) and pause_after(words[-1]) == STOP_PAUSE for words in said)
    return len(said) >= 3 and median(map(len, said)) < RUNNING and 2 * ended < len(said)


def _plain(text: str) -> str:
    """Without the marks of emphasis and code that stand in pairs round words."""
    for mark in ("**", "__", "*", "_", "`"):
        if mark in text:
            text = _without_pairs(text, mark)
    return text.strip()


def _without_pairs(text: str, mark: str) -> str:
    pieces = text.split(mark)
    out, opened = [pieces[0]], False
    for i, piece in enumerate(pieces[1:], 1):
        closes = opened and bool(out[-1]) and not out[-1][-1].isspace()
        # An opening mark stands before a word, and has a partner further on.
        opens = not opened and bool(piece) and not piece[0].isspace() and i + 1 < len(pieces)
        if closes or opens:
            opened = opens
        else:
            out.append(mark)
        out.append(piece)
    return "".join(out)


def _heading(line: str) -> str | None:
    """The words of a Markdown heading; None where the line is none."""
    marks = len(line) - len(line.lstrip("#"))
    if not 1 <= marks <= 6 or not line[marks : marks + 1].isspace():
        return None
    return line[marks:].strip().rstrip("#").strip()
