"""The compiled programme: the sections one after another, and what lies over them.

Watch times are frames at `fps`, except those of words, whose sound needs no whole frame.
"""

from __future__ import annotations

from bisect import bisect_right
from dataclasses import dataclass, field
from fractions import Fraction
from functools import cached_property
from itertools import chain, pairwise

import numpy as np

from chapto.clock.passage import Passage
from chapto.clock.timemap import TimeMap
from chapto.pacing.fitted import Phrase, Shortfall
from chapto.programme.block import PlacedBlock
from chapto.programme.knowledge import Knowledge, shipped_knowledge
from chapto.programme.placed import (
    Caption as Caption,
)
from chapto.programme.placed import (
    Chapter as Chapter,
)
from chapto.programme.placed import (
    PlacedCaution as PlacedCaution,
)
from chapto.programme.placed import (
    PlacedInset as PlacedInset,
)
from chapto.programme.placed import (
    PlacedLabel as PlacedLabel,
)
from chapto.programme.placed import (
    PlacedName as PlacedName,
)
from chapto.programme.placed import (
    PlacedSection as PlacedSection,
)
from chapto.programme.placed import (
    PlacedTie as PlacedTie,
)
from chapto.programme.placed import (
    PlacedWord as PlacedWord,
)
from chapto.programme.placed import (
    TieState as TieState,
)
from chapto.programme.placed_marks import PlacedMark, Unplaced
from chapto.programme.placed_music import PlacedMusic
from chapto.programme.readings import NOTHING_READ, Readings


@dataclass(frozen=True)
class Programme:
    """Everything the viewer gets, and what of it did not fit. `known` and `readings` are what it was compiled with; the
    `unplaced` marks do not come on the screen."""

    fps: Fraction
    blocks: tuple[PlacedBlock, ...]
    labels: tuple[PlacedLabel, ...]
    chapters: tuple[Chapter, ...]
    shortfalls: tuple[Shortfall, ...] = ()
    names: tuple[PlacedName, ...] = ()
    cautions: tuple[PlacedCaution, ...] = ()
    marks: tuple[PlacedMark, ...] = ()
    unplaced: tuple[Unplaced, ...] = ()
    music: tuple[PlacedMusic, ...] = ()
    readings: Readings = field(default=NOTHING_READ, compare=False, repr=False)
    known: Knowledge = field(default_factory=shipped_knowledge, compare=False, repr=False)

    @cached_property
    def passages(self) -> tuple[Passage, ...]:
        """All passages, which tile the programme without gap or overlap."""
        return tuple(chain.from_iterable(x.passages for x in self.blocks))

    @cached_property
    def sections(self) -> tuple[PlacedSection, ...]:
        """The sections of the script, in order."""
        return tuple(PlacedSection(x.block.section, x.block.title, x.start, x.end) for x in self.blocks)

    @cached_property
    def voice(self) -> tuple[Phrase, ...]:
        """What is said, phrase by phrase."""
        return tuple(chain.from_iterable(x.voice for x in self.blocks))

    @cached_property
    def words(self) -> tuple[PlacedWord, ...]:
        """What is said, word by word."""
        return tuple(chain.from_iterable(x.words for x in self.blocks))

    @cached_property
    def ties(self) -> tuple[PlacedTie, ...]:
        """Every tie, and whether it is met."""
        return tuple(chain.from_iterable(x.ties for x in self.blocks))

    @cached_property
    def insets(self) -> tuple[PlacedInset, ...]:
        """Second pictures."""
        return tuple(chain.from_iterable(x.insets for x in self.blocks))

    @property
    def files_shown(self) -> frozenset[str]:
        """The files, by id, of which pictures are shown."""
        return frozenset({p.footage for p in self.passages} | {i.footage for i in self.insets}) - {""}

    @cached_property
    def captions(self) -> tuple[Caption, ...]:
        """Captions that never overlap: the last of a section ends when the next one begins."""
        found = [list(x.captions) for x in self.blocks if x.block.captions]
        for captions, following in pairwise(found):
            last, begins = captions[-1], following[0].start
            if last.end > begins:
                captions[-1] = Caption(last.start, max(begins, last.start), last.text)
        return tuple(chain.from_iterable(found))

    @cached_property
    def time_map(self) -> TimeMap:
        """Mat time and watch time of this programme."""
        edges = [x.block.mat_edges for x in self.blocks if x.block.passages]
        low, high = (np.concatenate([e[i] for e in edges]) if edges else np.zeros(0) for i in (0, 1))
        return TimeMap(self.passages, (low, high))

    @cached_property
    def _ends(self) -> list[int]:
        return [x.end for x in self.blocks]

    @property
    def frames(self) -> int:
        """Its length in frames."""
        return self.blocks[-1].end if self.blocks else 0

    @property
    def seconds(self) -> Fraction:
        """Its length in seconds."""
        return self.frames / self.fps

    def chapter_spans(self) -> tuple[tuple[Chapter, int], ...]:
        """Every chapter with the frame at which it ends: the next one's start, or the end of the programme."""
        ends = [*(c.start for c in self.chapters[1:]), self.frames]
        return tuple(zip(self.chapters, ends, strict=False))

    def marks_at(self, frame: int) -> tuple[PlacedMark, ...]:
        """The marks on the screen at `frame`."""
        return tuple(m for m in self.marks if m.start <= frame < m.end)

    def inset_at(self, frame: int) -> PlacedInset | None:
        """The second picture at `frame` that shows footage."""
        return next((i for i in self.insets if i.start <= frame < i.end and i.footage), None)

    def photo_at(self, frame: int) -> PlacedInset | None:
        """The small photo at `frame`."""
        return next((i for i in self.insets if i.start <= frame < i.end and i.photo), None)

    def section_at(self, frame: int) -> PlacedSection | None:
        """The section on the screen at `frame`."""
        i = bisect_right(self._ends, frame)
        return self.sections[i] if i < len(self.sections) and self.sections[i].start <= frame else None
