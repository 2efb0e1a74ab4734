"""Slips of beats that have one of their own: steps, numbered within their section, and questions to the viewers."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from fractions import Fraction

from chapto.clock.rates import frames_from_seconds
from chapto.document.breakdown import Breakdown
from chapto.document.script import BeatKind, words_of
from chapto.pacing.spoken import pause_after
from chapto.programme.placed import PlacedWord

MOST_WORDS = {BeatKind.STEP: 6, BeatKind.VIEWERS: 12}
"""Words that a slip takes at most from its beat, by kind."""


@dataclass(frozen=True)
class BeatSlip:
    """What the slip of a beat says, for `start ≤ frame < end`."""

    beat: str
    text: str
    start: int
    end: int


def beat_slips(b: Breakdown, words: Iterable[PlacedWord], fps: Fraction) -> Iterator[BeatSlip]:
    """The slips of steps (“1 of 3  Win the underhook”) and of questions, in the order of the script."""
    wanted = [(s, beat) for s, beat in b.beats() if beat.kind in MOST_WORDS and beat.text.strip()]
    if not wanted:
        return
    said: dict[str, list[PlacedWord]] = {}
    for word in words:
        said.setdefault(word.beat, []).append(word)
    for section, beat in wanted:
        own = said.get(beat.id)
        if not own:
            continue
        text = _begins(beat.text, MOST_WORDS[beat.kind])
        if beat.kind is BeatKind.STEP:
            steps = [x.id for x in section.beats if x.kind is BeatKind.STEP and x.text.strip()]
            text = f"{steps.index(beat.id) + 1} of {len(steps)}  {text.rstrip('.,;:!')}"
        yield BeatSlip(
            beat.id, text, int(own[0].start * fps), frames_from_seconds(max(w.end for w in own), fps)
        )  # fmt: skip


def _begins(text: str, most: int) -> str:
    """The first phrase of a text, or as many words of it as a slip holds."""
    words = words_of(text)
    end = next((i + 1 for i, w in enumerate(words) if pause_after(w) > 0), len(words))
    return " ".join(words[: min(end, most)]) + (" …" if end > most else "")
