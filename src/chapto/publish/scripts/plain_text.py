"""A script from plain text, Markdown or caption files, split into sections and beats."""

from __future__ import annotations

import html
import re
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

import pysubs2
from msgspec.structs import replace

from chapto.document.bounds import LONGEST_TEXT
from chapto.document.breakdown import Breakdown, fresh_ids
from chapto.document.script import Beat, Section
from chapto.errors import ChaptoError

LONGEST = 45
"""Words of a beat above which a paragraph is split at its sentences: about 14 s at 190 words a minute."""
_SENTENCE = re.compile(r"(?<=[.!?…])[\"'”’)\]]*\s+")


class ScriptFileError(ChaptoError):
    """A script file that can't be read."""


@dataclass(frozen=True)
class ImportedSection:
    """A heading (empty before the first) and the beats under it."""

    title: str
    beats: tuple[str, ...]


def parts_of(text: str) -> tuple[ImportedSection, ...]:
    """Markdown headings begin parts, blank lines and list marks begin beats, and long paragraphs are split."""
    found: list[tuple[str, list[str]]] = [("", [])]
    paragraph: list[str] = []

    def end() -> None:
        if paragraph:
            found[-1][1].extend(split_beats(" ".join(paragraph)))
            paragraph.clear()

    for raw in text.replace("\r\n", "\n").lstrip("\ufeff").split("\n"):
        line = raw.strip()
        heading = _heading(line)
        if heading is not None:
            end()
            found.append((_plain(heading), []))
        elif not line or set(line) <= {"-", "*", "_"}:
            end()
        else:
            listed = re.match(r"^(?:[-*+]|\d+[.)])\s+(.*)", line)
            if listed:
                end()
            paragraph.append(_plain(listed[1] if listed else line.lstrip("> ")))
    end()
    return tuple(ImportedSection(title, tuple(beats)) for title, beats in found if title or beats)


def split_beats(paragraph: str) -> tuple[str, ...]:
    """A paragraph as beats of at most `LONGEST` words where its sentences allow that."""
    text = " ".join(paragraph.split())
    if len(text.split()) <= LONGEST:
        return tuple(_short_enough(text)) if text else ()
    beats: list[str] = []
    count = 0
    for sentence in _SENTENCE.split(text):
        words = len(sentence.split())
        if beats and count + words <= LONGEST:
            beats[-1], count = f"{beats[-1]} {sentence}", count + words
        else:
            beats.append(sentence)
            count = words
    return tuple(part for beat in beats for part in _short_enough(beat))


def _short_enough(beat: str) -> Iterator[str]:
    """A beat in parts that a document can hold, cut between words; words longer than that are cut too."""
    while len(beat) > LONGEST_TEXT:
        cut = beat.rfind(" ", 1, LONGEST_TEXT)
        cut = cut if cut > 0 else LONGEST_TEXT
        yield beat[:cut]
        beat = beat[cut:].lstrip()
    yield beat


def read_script(path: Path) -> tuple[ImportedSection, ...]:
    """The script in a .txt, .md, .srt or .vtt file; `ScriptFileError` says in a sentence why not."""
    try:
        text = path.read_text("utf-8-sig")
    except UnicodeDecodeError:
        raise ScriptFileError(f"“{path.name}” is no UTF-8 text; save it as such and open it again.") from None
    except OSError as error:
        raise ScriptFileError(f"“{path.name}” can't be read: {error.strerror or error}.") from None
    if path.suffix.lower() in (".srt", ".vtt"):
        text = _said_in_captions(text, path)
    parts = parts_of(text)
    if not parts:
        raise ScriptFileError(f"There are no words in “{path.name}”.")
    return parts


def put_parts(b: Breakdown, section_id: str, after: str, parts: tuple[ImportedSection, ...]) -> Breakdown:
    """With the beats of a script. Those before the first heading come after beat `after` of a section, at its end when
    `after` is empty. Each heading makes a section of its own behind it. An empty beat `after` is filled first."""
    ids = fresh_ids(b)
    place = next(i for i, s in enumerate(b.script) if s.id == section_id)
    here, new = b.script[place], list[Section]()
    for part in parts:
        beats = [Beat(id=next(ids["b"]), text=text) for text in part.beats]
        if part.title:
            new.append(Section(id=next(ids["s"]), title=part.title, beats=tuple(beats)))
        elif new:
            new[-1] = replace(new[-1], beats=(*new[-1].beats, *beats))
        else:
            here = _put_after(here, after, beats)
    return replace(b, script=(*b.script[:place], here, *new, *b.script[place + 1 :]))


def _put_after(section: Section, after: str, beats: list[Beat]) -> Section:
    """With beats behind beat `after`, which takes the first of them when it is empty."""
    known = [x.id for x in section.beats]
    at = known.index(after) + 1 if after in known else len(known)
    before, behind = list(section.beats[:at]), section.beats[at:]
    if after in known and beats and not before[-1].text.strip():
        before[-1] = replace(before[-1], text=beats[0].text)
        beats = beats[1:]
    return replace(section, beats=(*before, *beats, *behind))


def _said_in_captions(text: str, path: Path) -> str:
    """The words of a caption file as one paragraph, repeated lines of rolling captions once."""
    try:
        events = pysubs2.SSAFile.from_string(text, format_=path.suffix.lower().lstrip("."))
    except (pysubs2.Pysubs2Error, ValueError, KeyError) as error:
        raise ScriptFileError(f"“{path.name}” is no caption file that can be read: {error}.") from None
    lines: list[str] = []
    for event in events:
        for line in event.plaintext.split("\n"):
            if line.strip() and (not lines or lines[-1] != line.strip()):
                lines.append(line.strip())
    return html.unescape(" ".join(lines))


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
