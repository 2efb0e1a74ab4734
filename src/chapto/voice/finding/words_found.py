"""The words of a script in a recording: when each was said, what was said otherwise, left out or added."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from itertools import chain, pairwise

import numpy as np

from chapto.errors import Cancelled
from chapto.voice.finding.comparing import AddedWord, FoundWord, Said, compared, paired
from chapto.voice.finding.phrases import RATE, Phrase, Sound, phrases
from chapto.voice.finding.pronouncing import spoken_form
from chapto.voice.finding.recogniser import FRAME, Heard, Recogniser

TOLERANCE = 22.0
"""The script is believed where, a frame of what differs, it fits no more than this worse than what was heard."""
VERSION = 3


@dataclass(frozen=True)
class WordsFound:
    """`words` has one entry for each word of the script; `phrases` are the stretches in which somebody speaks."""

    words: tuple[FoundWord, ...]
    added: tuple[AddedWord, ...]
    phrases: tuple[Phrase, ...]

    @property
    def as_written(self) -> int:
        """How many words of the script were said as they are written."""
        return sum(w.state is Said.AS_WRITTEN for w in self.words)


def find_words(
    sound: Sound,
    words: Sequence[str],
    *,
    progress: Callable[[float], None] = lambda share: None,
    cancelled: Callable[[], bool] = lambda: False,
) -> WordsFound:
    """Find `words` of a script, written, in `sound` (n,) int16 mono at 16 kHz. Raises `Cancelled` when stopped."""
    forms = [spoken_form(w) for w in words]
    recogniser = Recogniser(forms)
    spoken = phrases(sound)
    heard: list[tuple[Heard, ...]] = []
    for i, phrase in enumerate(spoken):
        if cancelled():
            raise Cancelled
        heard.append(recogniser.hear(sound, phrase))
        progress((i + 1) / len(spoken))
    believed = _script_believed(recogniser, sound, spoken, heard, [f for f in forms if f])
    comparison = compared(forms, believed)
    return WordsFound(comparison.words, comparison.added, spoken)


def warm_up() -> None:
    """Load detector, recogniser and dictionary, which takes a moment the first time."""
    find_words(np.random.default_rng(1).normal(0, 300, RATE).astype(np.int16), ["ready"])


def _script_believed(
    recogniser: Recogniser, sound: Sound, spoken: Sequence[Phrase], heard: Sequence[tuple[Heard, ...]], said: list[str]
) -> tuple[Heard, ...]:
    """What was heard, with the script's words put back where they fit nearly as well."""
    pairs = paired(said, list(chain.from_iterable(heard)))
    ends = [0]
    for words in heard:
        ends.append(ends[-1] + len(words))
    believed: list[Heard] = []
    for phrase, words, (first, end) in zip(spoken, heard, pairwise(ends), strict=True):
        here = _script_part(pairs, first, end)
        wanted = said[here[0] : here[1]]
        forms = [w.form for w in words]
        if wanted != forms and wanted and words and words[0].fit:
            fitted = recogniser.aligned(sound, phrase, wanted)
            words = _better(wanted, fitted, words) if fitted else words
        believed += words
    return tuple(believed)


def _script_part(pairs: Sequence[tuple[int | None, int | None]], first: int, end: int) -> tuple[int, int]:
    """Half-open range of the script's words that belong to the heard words `first … end`."""
    start, stop, passed = None, 0, 0
    for i, j in pairs:
        if i is not None:
            if j is not None and first <= j < end:
                start = i if start is None else start
                stop = i + 1
            if j is not None and j < first:
                passed = i + 1
    return (passed, passed) if start is None else (start, stop)


def _better(wanted: Sequence[str], fitted: Sequence[Heard], heard: tuple[Heard, ...]) -> tuple[Heard, ...]:
    """`heard`, with what differs from the script taken from `fitted` where that fits nearly as well."""
    out: list[Heard] = []
    i = j = 0
    anchors = [
        (a, b) for a, b in paired(wanted, heard) if a is not None and b is not None and wanted[a] == heard[b].form
    ]
    for a, b in [*anchors, (len(wanted), len(heard))]:
        ours, theirs = fitted[i:a], heard[j:b]
        out += ours if ours and _worth(ours) >= _worth(theirs) - TOLERANCE * _frames((*ours, *theirs)) else theirs
        out += heard[b : b + 1]
        i, j = a + 1, b + 1
    return tuple(out)


def _worth(words: Sequence[Heard]) -> float:
    return sum(w.fit * (w.end - w.start) / FRAME for w in words)


def _frames(words: Sequence[Heard]) -> float:
    if not words:
        return 0.0
    return (max(w.end for w in words) - min(w.start for w in words)) / FRAME
