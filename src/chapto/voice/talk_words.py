"""The words of a talk, each with its seconds: of a caption file, recognised, or only heard."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from fractions import Fraction
from pathlib import Path

import numpy as np

from chapto.document.script import words_of
from chapto.document.talks import OPEN, SaidWord
from chapto.lexicon.spelling import Spelling
from chapto.publish.scripts.parts import ImportedSection
from chapto.publish.scripts.read import read_script
from chapto.voice.finding.phrases import RATE, Sound, phrases
from chapto.voice.finding.words_found import find_words
from chapto.voice.listening.listen import listen
from chapto.voice.listening.model import ListenError
from chapto.voice.take_words import sound_to_hear

Span = tuple[float, float]


def words_of_talk(
    sound: Path,
    key: str,
    captions: Path | None = None,
    spelling: Spelling | None = None,
    *,
    progress: Callable[[float], None] = lambda share: None,
    cancelled: Callable[[], bool] = lambda: False,
) -> tuple[SaidWord, ...]:
    """The words in the file `sound` with fingerprint `key`. They are those of `captions` where there are any, each
    found in the sound; else what is recognised. Where recognition is not installed, each phrase heard is `OPEN`.

    Raises `MediaError` where the sound can't be read, `ScriptFileError` for captions and `Cancelled` when stopped.
    """
    heard = sound_to_hear(sound, key, cancelled=cancelled)
    if captions is not None:
        return _captioned(heard, read_script(captions), progress, cancelled)
    try:
        found = listen(heard, spelling, progress=progress, cancelled=cancelled)
    except ListenError:
        return tuple(_said(OPEN, (p.start, p.end)) for p in phrases(heard))
    return tuple(_said(w.text, (w.start, w.end)) for phrase in found for w in phrase.words)


def _captioned(
    heard: Sound, parts: tuple[ImportedSection, ...], progress: Callable[[float], None], cancelled: Callable[[], bool]
) -> tuple[SaidWord, ...]:
    beats = [beat for part in parts for beat in part.beats]
    words = [w for beat in beats for w in words_of(beat.text)]
    stamps: list[float | None] = [None] * len(words)
    at = 0
    for beat in beats:
        for word, second in beat.stamps:
            stamps[at + word] = float(second)
        at += len(words_of(beat.text))
    found = find_words(heard, words, progress=progress, cancelled=cancelled)
    spans = filled([w.span for w in found.words], stamps, len(heard) / RATE)
    return tuple(_said(w, span) for w, span in zip(words, spans, strict=True))


def filled(spans: Sequence[Span | None], stamps: Sequence[float | None], seconds: float) -> list[Span]:
    """Spans in order for all words: one that was not found begins at its stamp, or between its neighbours."""
    starts = [s[0] if s is not None else stamp for s, stamp in zip(spans, stamps, strict=True)]
    known = [(i, a) for i, a in enumerate(starts) if a is not None]
    rows, times = [i for i, _ in known] or [0], [a for _, a in known] or [0.0]
    begin = np.maximum.accumulate(np.interp(range(len(spans)), [*rows, len(spans)], [*times, seconds]))
    ends = [*begin[1:], seconds]
    return [
        (float(a), float(min(max(s[1], a), z)) if s is not None else float(min(z, a + LASTS)))
        for a, z, s in zip(begin, ends, spans, strict=True)
    ]


LASTS = 0.3
"""Seconds of a word that was not found in the sound."""


def _said(text: str, span: Span) -> SaidWord:
    start, end = (Fraction(round(s * 1000), 1000) for s in span)
    return SaidWord(text=text, start=max(start, Fraction(0)), end=max(end, start, Fraction(0)))
