"""One section of the script, compiled by itself: everything counted from its own first frame.

Sections begin on whole frames of the programme, so a block is the same wherever it comes to stand: after an edit only
the section that changed is compiled, the others are moved.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from fractions import Fraction
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from chapto.clock.passage import Passage, lay
from chapto.clock.timemap import TimeMap
from chapto.document.breakdown import Breakdown
from chapto.document.placeholders import shown_name
from chapto.document.script import Section, words_of
from chapto.pacing.fitted import Fitted, Phrase, PlannedTie
from chapto.pacing.spoken import SpokenLine
from chapto.programme.angles import AngleTrack, pieces_of
from chapto.programme.captions import captions_of
from chapto.programme.placed import Caption, PlacedInset, PlacedTie, PlacedWord
from chapto.programme.second_pictures import place_insets
from chapto.programme.ties import nearest_showing, tie_state

Lines = Mapping[str, SpokenLine]


@dataclass(frozen=True)
class Block:
    """What one section gives: watch frames and seconds count from its start."""

    section: str
    title: str
    frames: int
    passages: tuple[Passage, ...]
    voice: tuple[Phrase, ...]
    words: tuple[PlacedWord, ...]
    ties: tuple[PlacedTie, ...]
    captions: tuple[Caption, ...]
    insets: tuple[PlacedInset, ...]

    # Blocks are kept for as long as they are the same: what hangs on one is found by the object, not by its content.
    __hash__ = object.__hash__

    @cached_property
    def mat_edges(self) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
        """The lowest and the highest mat seconds of each passage, (n,) each."""
        return TimeMap.edges_of(self.passages)


def block_of(
    b: Breakdown,
    section: Section,
    part: Fitted,
    lines: Lines,
    track: AngleTrack,
    *,
    named: bool = False,
    before: str = "",
) -> Block:
    """Compile one fitted section. Where several people talk in the breakdown, captions are `named`; `before` is who
    talked last."""
    fps = b.format.fps
    passages = lay((piece for leg in part.legs for piece in pieces_of(leg, track, b.footage)), fps)
    frames = passages[-1].watch_out if passages else 0
    texts = {beat.id: words_of(beat.text) for beat in section.beats}
    voice = part.phrases
    words = tuple(word for phrase in voice for word in _words(phrase, lines[phrase.beat], texts[phrase.beat]))
    by_place = {(w.beat, w.word): w for w in words}
    moments = {(x.id, t.word): t.moment for x in section.beats for t in x.ties}
    time_map = TimeMap(passages)
    ties = tuple(
        _tie(tie, by_place[tie.beat, tie.word], moments[tie.beat, tie.word], frames, time_map) for tie in part.ties
    )
    names = {x.id: shown_name(b.narrator(x).name) for x in section.beats} if named else {}
    insets = tuple(place_insets(part.insets, Fraction(0), fps, track, b.footage))
    return Block(
        section.id, section.title, frames, passages, voice, words, ties, captions_of(words, names, before), insets
    )


def _words(phrase: Phrase, line: SpokenLine, texts: tuple[str, ...]) -> list[PlacedWord]:
    heard = phrase.heard_at
    return [
        PlacedWord(phrase.beat, i, texts[i], heard(line.words[i][0]), heard(line.words[i][1]))
        for i in range(phrase.first, phrase.end)
    ]


def _tie(tie: PlannedTie, word: PlacedWord, moment: str, frames: int, time_map: TimeMap) -> PlacedTie:
    shown = nearest_showing(time_map, tie.mat, word.start, (0, frames)) if frames else None
    state = tie_state(word.start, word.end, shown)
    return PlacedTie(tie.beat, tie.word, word.text, moment, tie.mat, word.start, tie.shown, shown, state)


@dataclass(frozen=True)
class PlacedBlock:
    """A block where it stands in the programme: from watch frame `start` on, at `fps`. What is moved is worked out
    when it is asked for."""

    block: Block
    start: int
    fps: Fraction

    @property
    def end(self) -> int:
        """The first frame after it."""
        return self.start + self.block.frames

    @cached_property
    def _seconds(self) -> Fraction:
        return self.start / self.fps

    @cached_property
    def passages(self) -> tuple[Passage, ...]:
        """Its passages on the watch clock."""
        return tuple(p.later(self.start) for p in self.block.passages) if self.start else self.block.passages

    @cached_property
    def voice(self) -> tuple[Phrase, ...]:
        """Its phrases on the watch clock."""
        by = self._seconds
        return tuple(replace(x, at=x.at + by) for x in self.block.voice)

    @cached_property
    def words(self) -> tuple[PlacedWord, ...]:
        """Its words on the watch clock."""
        by = self._seconds
        return tuple(PlacedWord(w.beat, w.word, w.text, w.start + by, w.end + by) for w in self.block.words)

    @cached_property
    def ties(self) -> tuple[PlacedTie, ...]:
        """Its ties on the watch clock."""
        by = self._seconds
        return tuple(
            replace(
                t,
                said=t.said + by,
                planned=None if t.planned is None else t.planned + by,
                shown=None if t.shown is None else t.shown + by,
            )
            for t in self.block.ties
        )

    @cached_property
    def insets(self) -> tuple[PlacedInset, ...]:
        """Its second pictures on the watch clock."""
        return tuple(replace(i, start=i.start + self.start, end=i.end + self.start) for i in self.block.insets)

    @cached_property
    def captions(self) -> tuple[Caption, ...]:
        """Its captions on the watch clock; the last may linger into what follows."""
        by = self._seconds
        return tuple(Caption(c.start + by, c.end + by, c.text) for c in self.block.captions)
