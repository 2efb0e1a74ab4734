"""What checks look at: the whole of a breakdown, or one section of it."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from fractions import Fraction
from functools import cached_property, lru_cache
from itertools import accumulate
from math import floor

from chapto.document.breakdown import Breakdown
from chapto.document.script import Beat, Section
from chapto.lexicon.lexicon import Lexicon
from chapto.pacing.spoken import SpokenLine
from chapto.programme.block import Block
from chapto.programme.placed import PlacedWord
from chapto.programme.programme import Programme
from chapto.review.finding import Where
from chapto.review.limits import Limit
from chapto.review.measured import Heard, Watched

NOT_HEARD, NOT_WATCHED = "The sound was not listened to yet.", "The finished picture was not looked at yet."


class NotChecked(Exception):
    """A check could not be made; its text says why. That is no pass."""


@dataclass(frozen=True)
class Reviewed:
    """A breakdown and its programme, the `limits` by name, and the spoken lines by beat. In the place of what was
    measured of sound and picture stands a sentence where nobody has listened or looked. `settled` are promises that
    were kept or let go on the shelf, as `settled_key` names them."""

    b: Breakdown
    programme: Programme
    limits: Mapping[str, Limit]
    voices: Mapping[str, SpokenLine] = field(default_factory=dict)
    heard: Heard | str = NOT_HEARD
    watched: Watched | str = NOT_WATCHED
    settled: frozenset[str] = frozenset()

    @property
    def lexicon(self) -> Lexicon:
        """The names it was compiled with."""
        return self.programme.known.lexicon

    @property
    def fps(self) -> Fraction:
        """Frames a watch second."""
        return self.programme.fps

    def seconds(self, frame: int) -> Fraction:
        """The watch second of a frame."""
        return frame / self.programme.fps

    @cached_property
    def _part_of(self) -> dict[str, Part]:
        return {beat.id: part for part in self.parts for beat in part.section.beats}

    def placed(self, beat: str, word: int = 0) -> PlacedWord | None:
        """A word where it is said; None where it is not."""
        part = self._part_of.get(beat)
        found = None if part is None else words_of_block(part.block).get((beat, word))
        if part is None or found is None:
            return None
        return _later(found, self.seconds(part.start))

    def said_at(self, beat: str, word: int = 0) -> Fraction | None:
        """The watch second at which a word is said; None where it is not."""
        placed = self.placed(beat, word)
        return None if placed is None else placed.start

    def words_between(self, start: Fraction, end: Fraction) -> list[PlacedWord]:
        """The words of which something is said between two watch seconds."""
        found = []
        for x in self.programme.blocks[self._block_after(start) :]:
            by = self.seconds(x.start)
            if by >= end:
                break
            found += [_later(w, by) for w in x.block.words if w.end > start - by and w.start < end - by]
        return found

    def word_at(self, seconds: Fraction) -> PlacedWord | None:
        """The word that is said at a watch second, or the next one; None behind the last."""
        for x in self.programme.blocks[self._block_after(seconds) :]:
            by = self.seconds(x.start)
            i = bisect_right(word_ends(x.block), seconds - by)
            if i < len(x.block.words):
                return _later(x.block.words[i], by)
        return None

    @cached_property
    def _block_ends(self) -> tuple[int, ...]:
        return tuple(x.end for x in self.programme.blocks)

    def _block_after(self, seconds: Fraction) -> int:
        """The number of the first section that is not over at a watch second."""
        return bisect_right(self._block_ends, floor(seconds * self.fps))

    def where(self, at: Fraction, item: str = "") -> Where:
        """The place of a watch second, with the word that is said there."""
        word = self.word_at(at)
        return Where(at, item=item) if word is None else Where(at, word.beat, word.word, item)

    @cached_property
    def parts(self) -> tuple[Part, ...]:
        """Its sections, in the order of the script."""
        blocks = {x.block.section: (x.block, x.start) for x in self.programme.blocks}
        return tuple(Part(self, s, *blocks.get(s.id, (_nothing(s), 0))) for s in self.b.script)

    def listened(self) -> Heard:
        """What was measured of the sound; raises `NotChecked` while nothing was."""
        if isinstance(self.heard, str):
            raise NotChecked(self.heard)
        return self.heard

    def looked(self) -> Watched:
        """What was measured of the picture; raises `NotChecked` while nothing was."""
        if isinstance(self.watched, str):
            raise NotChecked(self.watched)
        return self.watched


@dataclass(frozen=True)
class Part:
    """One section and what became of it. Its `block` counts from its own start, and so do the times of what a check
    finds in it; `start` is the watch frame at which it stands."""

    r: Reviewed
    section: Section
    block: Block
    start: int

    @property
    def b(self) -> Breakdown:
        """The whole document."""
        return self.r.b

    @property
    def lexicon(self) -> Lexicon:
        """The names it was compiled with."""
        return self.r.lexicon

    @property
    def limits(self) -> Mapping[str, Limit]:
        """The limits by name."""
        return self.r.limits

    @property
    def settled(self) -> frozenset[str]:
        """Promises that were kept or let go."""
        return self.r.settled

    def said_at(self, beat: str, word: int = 0) -> Fraction | None:
        """The second of the section at which a word is said; None where it is not."""
        placed = words_of_block(self.block).get((beat, word))
        return None if placed is None else placed.start

    def read(self) -> Iterator[Beat]:
        """Its beats that a voice reads."""
        return iter(() if self.section.as_filmed else self.section.beats)


@lru_cache(maxsize=1024)
def words_of_block(block: Block) -> dict[tuple[str, int], PlacedWord]:
    """The words of a section by beat and number, counted from its own start."""
    return {(w.beat, w.word): w for w in block.words}


@lru_cache(maxsize=1024)
def word_ends(block: Block) -> tuple[Fraction, ...]:
    """Until when each word of a section is said, or one before it still is, counted from its own start."""
    return tuple(accumulate((w.end for w in block.words), max))


def _later(w: PlacedWord, by: Fraction) -> PlacedWord:
    return PlacedWord(w.beat, w.word, w.text, w.start + by, w.end + by)


def _nothing(section: Section) -> Block:
    return Block(section.id, section.title, 0, (), (), (), (), (), ())
