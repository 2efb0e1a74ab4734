"""A script from a caption file: SubRip or WebVTT."""

from __future__ import annotations

import html
import re
from collections.abc import Collection, Iterator
from dataclasses import replace
from fractions import Fraction
from pathlib import Path

import pysubs2

from chapto.publish.scripts.beats_of import beats_of
from chapto.publish.scripts.parts import ImportedSection, Said, ScriptFileError
from chapto.publish.scripts.sound_notes import without_sounds
from chapto.publish.scripts.speakers import speakers_in, split_speaker

_WITHIN = re.compile(r"</?c(?:\.[^>]*)?>|<\d[\d:.]*>")
"""Colours and the times of single words, which stand inside the cues of captions made by machines."""
_VOICE = re.compile(r"<v(?:\.[^ >]*)?\s+([^>]+)>")
_TAG = re.compile(r"</?[a-zA-Z][^>]*>|\{\\[^}]*\}")
LONG_PAUSE = 6.0
"""Seconds without a cue that end a paragraph, whoever speaks after them."""


def captions_as_parts(text: str, path: Path, known: Collection[str] = ()) -> tuple[ImportedSection, ...]:
    """The words of a caption file with its times, pauses and speakers; repeated lines of rolling captions once."""
    try:
        events = pysubs2.SSAFile.from_string(
            _WITHIN.sub("", text), format_=path.suffix.lower().lstrip("."), keep_html_tags=True
        )
    except (pysubs2.Pysubs2Error, ValueError, KeyError) as error:
        raise ScriptFileError(f"“{path.name}” is no caption file that can be read: {error}.") from None
    lines = list(_lines(events))
    speakers = speakers_in((line.text for line in lines), known)
    paragraphs: list[list[Said]] = [[]]
    speaker = ""
    for line in lines:
        named, said = split_speaker(line.text, speakers)
        speaker = line.speaker or named or speaker
        if line.pause > LONG_PAUSE:
            paragraphs.append([])
        paragraphs[-1].append(replace(line, text=said, speaker=speaker))
    beats = tuple(beat for paragraph in paragraphs for beat in beats_of(paragraph))
    return (ImportedSection("", beats),) if beats else ()


def _lines(events: pysubs2.SSAFile) -> Iterator[Said]:
    until, last = 0, ""
    for event in events:
        if event.is_comment:
            continue
        at, pause = Fraction(event.start, 1000), max((event.start - until) / 1000, 0.0)
        for raw in event.text.replace("\\N", "\n").replace("\\n", "\n").split("\n"):
            voices = _VOICE.split(raw)
            # Words, then by turns a name and its words.
            for name, words in [("", voices[0]), *zip(voices[1::2], voices[2::2], strict=True)]:
                said = without_sounds(html.unescape(_TAG.sub("", words))).strip()
                if said and said != last:
                    yield Said(said, at, pause, html.unescape(name).strip())
                    last, pause = said, 0.0
        until = max(until, event.end)
