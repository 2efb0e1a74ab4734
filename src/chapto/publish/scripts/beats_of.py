"""A paragraph of what is said, as beats."""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator, Sequence
from itertools import groupby, pairwise

from chapto.document.bounds import LONGEST_TEXT
from chapto.document.script import words_of
from chapto.pacing.breaks import beat_starts, is_unpunctuated
from chapto.publish.scripts.parts import ImportedBeat, Said

LONGEST = 45
"""Words of a beat above which a paragraph is split at its sentences: about 14 s at 190 words a minute."""
_SENTENCE = re.compile(r"(?<=[.!?…])[\"'”’)\]]*\s+")


def beats_of(paragraph: Sequence[Said]) -> tuple[ImportedBeat, ...]:
    """Beats of one paragraph: a new one where somebody else speaks; talk without stops is split where something new
    begins, all else at its sentences where it is long. A beat keeps the first time that stands in it."""
    return tuple(
        beat for speaker, lines in groupby(paragraph, lambda x: x.speaker) for beat in _of_one(speaker, list(lines))
    )


def split_beats(paragraph: str) -> tuple[str, ...]:
    """A paragraph of punctuated text as beats of at most `LONGEST` words where its sentences allow that."""
    text = " ".join(paragraph.split())
    if len(text.split()) <= LONGEST:
        return (text,) if text else ()
    beats: list[str] = []
    count = 0
    for sentence in _SENTENCE.split(text):
        words = len(sentence.split())
        if beats and count + words <= LONGEST:
            beats[-1], count = f"{beats[-1]} {sentence}", count + words
        else:
            beats.append(sentence)
            count = words
    return tuple(beats)


def _of_one(speaker: str, lines: list[Said]) -> Iterator[ImportedBeat]:
    words: list[str] = []
    pauses: list[float] = []
    stamps = []
    for line in lines:
        own = words_of(line.text)
        if not own:
            continue
        if line.at is not None:
            stamps.append((len(words), line.at))
        words += own
        pauses += [line.pause, *[0.0] * (len(own) - 1)]
    at = 0
    for text in _texts(words, pauses):
        end = at + len(words_of(text))
        inside = next(((word - at, mat) for word, mat in stamps if at <= word < end), None)
        for i, part in enumerate(_short_enough(text)):
            yield ImportedBeat(part, speaker, (inside,) if inside and not i and inside[0] < len(words_of(part)) else ())
        at = end


def _texts(words: Sequence[str], pauses: Sequence[float]) -> Iterable[str]:
    if is_unpunctuated(words):
        return (" ".join(words[a:z]) for a, z in pairwise((*beat_starts(words, pauses), len(words))))
    return split_beats(" ".join(words))


def _short_enough(beat: str) -> Iterator[str]:
    """A beat in parts that a document can hold, cut between words; words longer than that are cut too."""
    while len(beat) > LONGEST_TEXT:
        cut = beat.rfind(" ", 1, LONGEST_TEXT)
        cut = cut if cut > 0 else LONGEST_TEXT
        yield beat[:cut]
        beat = beat[cut:].lstrip()
    yield beat
