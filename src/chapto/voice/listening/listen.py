"""What is said in a recording, without a script: phrases and their words.

Whisper (by faster-whisper, on the processor) writes down the words; PocketSphinx finds when each is said, since its
edges are finer; names of techniques are then put right by the lexicon.
"""

from __future__ import annotations

import os
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

import numpy as np

from chapto.errors import Cancelled
from chapto.lexicon.spelling import Spelling
from chapto.voice.finding.phrases import RATE, Phrase, Sound, phrases
from chapto.voice.finding.words_found import find_words
from chapto.voice.listening.model import INSTALL, ListenError, model_folder

LONGEST = 27.0
"""Seconds heard at once; the model hears 30."""
APART = 1.2
"""Seconds of silence over which two phrases are not heard at once."""
MARGIN = 0.2
PAUSE, STOP = 0.45, 0.12
"""Seconds of silence that part two phrases, and that do so after a full stop, which may only end a short form."""
THREADS = 2
NOBODY = 0.6
"""A stretch that the model holds for silence with this likelihood, and hears badly, holds no words."""


@dataclass(frozen=True)
class HeardWord:
    """A word as it is written, with its half-open seconds of the recording."""

    text: str
    start: float
    end: float


@dataclass(frozen=True)
class HeardPhrase:
    """Words that were said without a longer pause; `as_heard` is what they were before names were put right."""

    words: tuple[HeardWord, ...]
    as_heard: str

    @property
    def text(self) -> str:
        """The words in order."""
        return " ".join(w.text for w in self.words)


def listen(
    sound: Sound,
    spelling: Spelling | None = None,
    *,
    progress: Callable[[float], None] = lambda share: None,
    cancelled: Callable[[], bool] = lambda: False,
) -> tuple[HeardPhrase, ...]:
    """The phrases of `sound` (n,) int16 mono at 16 kHz. No names are prompted: the model would then hear them where
    nobody said them. Raises `ListenError` where recognition is not installed, and `Cancelled` when stopped."""
    model = _model(str(model_folder()))
    found: list[HeardPhrase] = []
    stretches = _stretches(phrases(sound))
    for number, stretch in enumerate(stretches):
        if cancelled():
            raise Cancelled
        first = max(round((stretch.start - MARGIN) * RATE), 0)
        part = sound[first : round((stretch.end + MARGIN) * RATE)]
        text = _written(model, part)
        if text:
            words = text.split()
            found += _parted(_timed(part, words, first / RATE), spelling)
        progress((number + 1) / len(stretches))
    return tuple(found)


def _stretches(found: Sequence[Phrase]) -> list[Phrase]:
    """Phrases joined to what can be heard at once."""
    joined: list[Phrase] = []
    for phrase in found:
        last = joined[-1] if joined else None
        if last and phrase.start - last.end < APART and phrase.end - last.start < LONGEST:
            joined[-1] = Phrase(last.start, phrase.end)
        else:
            joined.append(phrase)
    return joined


@lru_cache(maxsize=1)
def _model(folder: str) -> Any:
    os.environ["HF_HUB_OFFLINE"] = "1"
    try:
        from faster_whisper import WhisperModel
        from tqdm import tqdm

        # It would start a thread of its own to watch progress that nobody shows.
        tqdm.monitor_interval = 0
    except ImportError:
        raise ListenError(INSTALL) from None
    return WhisperModel(folder, device="cpu", compute_type="int8", cpu_threads=THREADS, local_files_only=True)


def _written(model: Any, part: Sound) -> str:
    segments, _ = model.transcribe(
        part.astype(np.float32) / 32768, language="en", beam_size=5, condition_on_previous_text=False,
        without_timestamps=True, vad_filter=False,
    )  # fmt: skip
    return " ".join(s.text.strip() for s in segments if not (s.no_speech_prob > NOBODY and s.avg_logprob < -1)).strip()


def _timed(part: Sound, words: list[str], later: float) -> tuple[HeardWord, ...]:
    """Words with the seconds at which they are said; those that are not found lie between their neighbours."""
    spans = [w.span for w in find_words(part, words).words]
    length = len(part) / RATE
    known = [i for i, s in enumerate(spans) if s is not None]
    if not known:
        step = length / len(words)
        return tuple(HeardWord(w, later + i * step, later + (i + 1) * step) for i, w in enumerate(words))
    starts = np.interp(range(len(words)), known, [spans[i][0] for i in known])  # type: ignore[index]
    ends = np.interp(range(len(words)), known, [spans[i][1] for i in known])  # type: ignore[index]
    return tuple(
        HeardWord(w, later + float(a), later + float(max(a, z))) for w, a, z in zip(words, starts, ends, strict=True)
    )


def _parted(words: tuple[HeardWord, ...], spelling: Spelling | None) -> list[HeardPhrase]:
    """Parted where a pause or a full stop is."""
    parts: list[list[HeardWord]] = [[]]
    for word in words:
        last = parts[-1][-1] if parts[-1] else None
        gap = word.start - last.end if last else 0.0
        if last and (gap > PAUSE or (gap > STOP and last.text[-1] in ".!?")):
            parts.append([])
        parts[-1].append(word)
    return [_repaired(tuple(p), spelling) for p in parts if p]


def _repaired(words: tuple[HeardWord, ...], spelling: Spelling | None) -> HeardPhrase:
    text = " ".join(w.text for w in words)
    if spelling is None:
        return HeardPhrase(words, text)
    out = list(words)
    for slip in reversed(spelling.slips(text)):
        said = out[slip.first : slip.end]
        names = slip.right.split()
        step = (said[-1].end - said[0].start) / len(names)
        tail = said[-1].text[len(said[-1].text.rstrip(".,;:!?")) :]
        names[-1] += tail
        out[slip.first : slip.end] = [
            HeardWord(name, said[0].start + i * step, said[0].start + (i + 1) * step) for i, name in enumerate(names)
        ]
    return HeardPhrase(tuple(out), text)
