"""Narrations to fit: the talk that the tests hold, over one exchange that is shorter than it, as long, or longer."""

from __future__ import annotations

import random
from fractions import Fraction

from bench.hour_of_talk import PACE, talk
from chapto.document import edit_script
from chapto.document.bout import Exchange
from chapto.document.breakdown import Breakdown
from chapto.document.footage import Footage
from chapto.document.script import Beat, Section, words_of
from chapto.pacing.breaks import beat_starts
from chapto.pacing.pointing_words import pointing_words
from chapto.pacing.spoken import SpokenLine, estimate

TALKS = ("own-roll", "walk-through")
PAUSE = Fraction(7, 20)
"""Seconds between two beats."""


def texts(name: str) -> list[str]:
    """The beats of a talk."""
    found = []
    for _, words in talk(name):
        starts = beat_starts(words)
        found += [" ".join(words[a:z]) for a, z in zip(starts, [*starts[1:], len(words)], strict=True)]
    return found


def narration(name: str, share: Fraction, style: str, *, every: int = 1) -> tuple[Breakdown, dict[str, SpokenLine]]:
    """A talk over one exchange `share` times as long as it, its pointing words (or every third or so) tied to where an
    even pace says them."""
    beats = [Beat(id=f"b{i}", text=text) for i, text in enumerate(texts(name), 1)]
    lines = {beat.id: estimate(beat.text, PACE) for beat in beats}
    long = sum((line.seconds + PAUSE for line in lines.values()), Fraction(0))
    end = Fraction(round(10 + long * share))
    camera = Footage(
        id="f1", name="Table side", path="f1.mp4", fingerprint="1-f1", duration=end + 60, fps=Fraction(60),
        offset=Fraction(0),
    )  # fmt: skip
    b = Breakdown(
        title=name, footage=(camera,), exchanges=(Exchange(id="x1", start=Fraction(10), end=end),), style=style,
        script=(Section(id="s1", title="Talk", exchange="x1", beats=tuple(beats)),),
    )  # fmt: skip
    wanted, at = [], Fraction(0)
    for beat in beats:
        for word in pointing_words(beat.text):
            mat = 10 + (at + lines[beat.id].words[word][0]) * (end - 10) / long
            wanted.append((beat.id, word, Fraction(round(mat * 100), 100)))
        at += lines[beat.id].seconds + PAUSE
    return edit_script.tie_all(b, wanted[::every]), lines


def uneven(b: Breakdown, seed: int, by: float = 0.25) -> dict[str, SpokenLine]:
    """The lines of a narrator whose pace changes by up to `by` from beat to beat."""
    chance = random.Random(seed)
    return {
        beat.id: estimate(beat.text, round(PACE * chance.uniform(1 - by, 1 + by)))
        for _, beat in b.beats()
        if words_of(beat.text)
    }
