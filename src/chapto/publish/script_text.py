"""A script from plain text, Markdown or caption files, split into sections and beats."""

from __future__ import annotations

import html
import re
from dataclasses import dataclass
from pathlib import Path

import pysubs2

from chapto.document import edit_script
from chapto.document.breakdown import Breakdown
from chapto.errors import ChaptoError

LONGEST = 45
"""Words of a beat above which a paragraph is split at its sentences: about 14 s at 190 words a minute."""
_HEADING = re.compile(r"^#{1,6}\s+(.*?)\s*#*$")
_SENTENCE = re.compile(r"(?<=[.!?…])[\"'”’)\]]*\s+")
_MARKUP = re.compile(r"(\*\*|__|\*|_|`)(?=\S)(.+?)(?<=\S)\1")


class ScriptFileError(ChaptoError):
    """A script file that can't be read."""


@dataclass(frozen=True)
class Part:
    """A heading (empty before the first) and the beats under it."""

    title: str
    beats: tuple[str, ...]


def parts_of(text: str) -> tuple[Part, ...]:
    """Markdown headings begin parts, blank lines and list marks begin beats, and long paragraphs are split."""
    found: list[tuple[str, list[str]]] = [("", [])]
    paragraph: list[str] = []

    def end() -> None:
        if paragraph:
            found[-1][1].extend(split_beats(" ".join(paragraph)))
            paragraph.clear()

    for raw in text.replace("\r\n", "\n").lstrip("\ufeff").split("\n"):
        line = raw.strip()
        heading = _HEADING.match(line)
        if heading:
            end()
            found.append((_plain(heading[1]), []))
        elif not line or set(line) <= {"-", "*", "_"}:
            end()
        else:
            listed = re.match(r"^(?:[-*+]|\d+[.)])\s+(.*)", line)
            if listed:
                end()
            paragraph.append(_plain(listed[1] if listed else line.lstrip("> ")))
    end()
    return tuple(Part(title, tuple(beats)) for title, beats in found if title or beats)


def split_beats(paragraph: str) -> tuple[str, ...]:
    """A paragraph as beats of at most `LONGEST` words where its sentences allow that."""
    text = " ".join(paragraph.split())
    if len(text.split()) <= LONGEST:
        return (text,) if text else ()
    beats: list[str] = []
    for sentence in _SENTENCE.split(text):
        if beats and len(beats[-1].split()) + len(sentence.split()) <= LONGEST:
            beats[-1] = f"{beats[-1]} {sentence}"
        else:
            beats.append(sentence)
    return tuple(beats)


def read_script(path: Path) -> tuple[Part, ...]:
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


def put_parts(b: Breakdown, section_id: str, after: str, parts: tuple[Part, ...]) -> Breakdown:
    """With the beats of a script: those before the first heading after beat `after` of a section (at its end when that
    is empty), each heading a section of its own behind it. An empty beat `after` is filled first."""
    for part in parts:
        if part.title:
            place = next(i for i, s in enumerate(b.script) if s.id == section_id) + 1
            known = {s.id for s in b.script}
            b = edit_script.add_section(b, title=part.title, at=place)
            section_id = next(s.id for s in b.script if s.id not in known)
            after = ""
        for text in part.beats:
            beats = next(s.beats for s in b.script if s.id == section_id)
            here = next((x for x in beats if x.id == after), None)
            if here is not None and not here.text.strip():
                b = edit_script.rewrite(b, here.id, text)
                continue
            known_beats = {x.id for x in beats}
            b = edit_script.add_beat(b, section_id, text, after=after)
            after = next(x.id for s in b.script if s.id == section_id for x in s.beats if x.id not in known_beats)
    return b


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
    return _MARKUP.sub(r"\2", text).strip()
