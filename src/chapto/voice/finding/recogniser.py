"""What was said in a phrase, word by word, heard with the script in mind.

PocketSphinx with a bigram model of the script's own words and some common ones, and a dictionary of only these. What it
heard is then aligned by force, which gives finer edges and a score a frame for each word.
"""

from __future__ import annotations

import contextlib
import os
import tempfile
from collections import Counter, defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from importlib import resources
from itertools import pairwise
from math import log10
from pathlib import Path
from typing import Any

import numpy as np

from chapto.voice.finding.phrases import RATE, Phrase, Sound
from chapto.voice.finding.pronouncing import shipped_dictionary

FRAME = 0.01
"""Seconds of one of the recogniser's frames."""
FOLLOWS = 0.9
"""Likelihood that the script's next word follows."""
COMMON = 0.15
"""Likelihood, where the script is left, of each of the common words together."""
PADDING = 0.2
"""Seconds heard before and after a phrase."""
MISFIT = -64.0
"""A word whose two worst phones fit worse was another one (right words lie about −25, exchanged ones about −100)."""
UNKNOWN = "…"
"""The form of what somebody said and nobody understood."""
HASTY = 3.5
"""Frames a phone under which nobody speaks: such a word was only squeezed in (none of 467 right ones, measured)."""
DITHER = 60
"""Amplitude (of 32,767) of the noise that is added: the recogniser fails on digital silence."""


@dataclass(frozen=True)
class Heard:
    """A word that was said: its form, seconds into the recording (half-open), and how well it fits.

    `fit` is the score of a frame, `worst` that of its two worst phones, which tells another word from a noisy one
    better: about −20 and −25 where it is that word at 20 dB, −60 and −100 where it is another (measured). Both are 0
    where nothing was measured.
    """

    form: str
    start: float
    end: float
    fit: float = 0.0
    worst: float = 0.0


@lru_cache(maxsize=1)
def common_words() -> tuple[str, ...]:
    """Words that people say besides their script."""
    return tuple(resources.files(__package__).joinpath("common_words.txt").read_text("utf-8").split())


class Recogniser:
    """Hears phrases of somebody who reads, more or less, the `forms` of a script, in order."""

    def __init__(self, forms: Sequence[str]) -> None:
        from pocketsphinx import Config, Decoder, get_model_path

        said = [f for f in forms if f]
        words = sorted({*said, *common_words()})
        self._names = _entries(words)
        with tempfile.TemporaryDirectory(prefix="chapto-words-") as folder:
            dictionary, model = Path(folder, "words.dict"), Path(folder, "words.arpa")
            dictionary.write_text("".join(f"{name} {phones}\n" for name, (_, phones) in self._names.items()), "utf-8")
            model.write_text(_bigrams(said, words), "utf-8")
            config = Config(
                hmm=get_model_path("en-us/en-us"), dict=str(dictionary), lm=str(model), logfn=os.devnull,
                loglevel="FATAL", beam=1e-48, wbeam=7e-29, pbeam=1e-48, lw=9,
            )  # fmt: skip
            self._decoder = Decoder(config)
        self._search = self._decoder.current_search()

    def hear(self, sound: Sound, phrase: Phrase) -> tuple[Heard, ...]:
        """The words of a phrase of `sound` (n,) int16 mono at 16 kHz; `UNKNOWN` where nothing is understood.

        Their edges are the finer ones of forced alignment, or where that fails, as it does in noise, those first heard.
        """
        begin, data = _cut(sound, phrase, DITHER, PADDING)
        self._decoder.activate_search(self._search)
        self._run(data)
        heard = tuple(
            Heard(self._names[s.word][0], begin + s.start_frame * FRAME, begin + (s.end_frame + 1) * FRAME)
            for s in self._decoder.seg() or ()
            if s.word in self._names
        )
        if not heard:
            return (Heard(UNKNOWN, phrase.start, phrase.end),)
        return self.aligned(sound, phrase, [h.form for h in heard]) or heard

    def aligned(self, sound: Sound, phrase: Phrase, forms: Sequence[str]) -> tuple[Heard, ...]:
        """`forms` found in a phrase by force; none where that fails. It fails by chance: other noise is tried."""
        for dither, padding in _ATTEMPTS if forms else ():
            begin, data = _cut(sound, phrase, dither, padding)
            with contextlib.suppress(RuntimeError):
                self._decoder.set_align_text(" ".join(forms))
                self._run(data)
                self._decoder.set_alignment()
                self._run(data)
                # Words and phones are only there as long as what holds them.
                alignment = self._decoder.get_alignment()
                found = [_heard(w, begin) for w in alignment or () if w.name in self._names]
                if len(found) == len(forms):
                    named = [replace(h, form=form) for form, h in zip(forms, found, strict=True)]
                    return _begun_with(phrase, tuple(named))
        return ()

    def _run(self, data: bytes) -> None:
        self._decoder.start_utt()
        self._decoder.process_raw(data, full_utt=True)
        self._decoder.end_utt()


def _heard(word: Any, begin: float) -> Heard:
    """An entry of an alignment that begins at second `begin`."""
    phones = sorted(p.score / max(p.duration, 1) for p in word)
    hasty = len(phones) > 2 and word.duration < HASTY * len(phones)
    return Heard(
        word.name,
        begin + word.start * FRAME,
        begin + (word.start + word.duration) * FRAME,
        word.score / max(word.duration, 1),
        min(sum(phones[:2]) / len(phones[:2]), 10 * MISFIT if hasty else 0.0) if phones else 0.0,
    )


def _begun_with(phrase: Phrase, words: tuple[Heard, ...]) -> tuple[Heard, ...]:
    """`words` with the first beginning half-way between its own start and the phrase's: the two err apart."""
    first = words[0]
    if abs(first.start - phrase.start) > PADDING or phrase.start >= first.end:
        return words
    return (replace(first, start=(first.start + phrase.start) / 2), *words[1:])


_ATTEMPTS = tuple((DITHER * k, PADDING + 0.04 * n) for n, k in enumerate((1.0, 0.7, 1.3, 0.5, 1.6, 1.0, 2.0, 0.8)))


def _cut(sound: Sound, phrase: Phrase, dither: float, padding: float) -> tuple[float, bytes]:
    """(second at which it begins, samples) of a phrase with some sound round it and a little noise in it."""
    first = max(round((phrase.start - padding) * RATE), 0)
    part = sound[first : round((phrase.end + padding) * RATE)]
    noise = np.random.default_rng(len(part)).normal(0, dither / 2, len(part))
    return first / RATE, np.clip(part + noise, -32768, 32767).astype(np.int16).tobytes()


def _entries(words: Iterable[str]) -> dict[str, tuple[str, str]]:
    """By its name in the recogniser's dictionary, each word's form and phones."""
    known = shipped_dictionary()
    return {
        form if i == 0 else f"{form}({i + 1})": (form, phones)
        for form in words
        for i, phones in enumerate(known.phones(form))
    }


def _bigrams(said: Sequence[str], words: Sequence[str]) -> str:
    """A bigram model in the ARPA format: the script's next word is likely, any word is possible."""
    counts = Counter(said)
    total = sum(counts.values()) or 1
    alone = {w: (1 - COMMON) * counts[w] / total + COMMON / len(words) for w in words}
    after: defaultdict[str, Counter[str]] = defaultdict(Counter)
    for one, other in pairwise(said):
        after[one][other] += 1
    rows = [
        f"{log10(FOLLOWS * n / sum(others.values())):.4f} {one} {other}"
        for one, others in sorted(after.items())
        for other, n in sorted(others.items())
    ]
    leaves = log10(1 - FOLLOWS)
    singles = [f"{log10(p * 0.9):.4f} {w} {leaves if w in after else 0.0:.4f}" for w, p in alone.items()]
    return "\n".join([
        "\\data\\", f"ngram 1={len(singles) + 2}", f"ngram 2={len(rows)}", "", "\\1-grams:",
        "-99 <s> 0.0", f"{log10(0.1):.4f} </s>", *singles, "", "\\2-grams:", *rows, "", "\\end\\", "",
    ])  # fmt: skip
