"""Beats in which the picture turns at a word: each part is fitted like a beat of its own, and put together again."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace
from fractions import Fraction

from msgspec import structs

from chapto.document.script import Beat, words_of
from chapto.document.treatments import Cutaway, Pace, ShowPhoto, Treatment
from chapto.pacing.fitted import Fitted
from chapto.pacing.spoken import SpokenLine

PARTED = "\x1f"
"""Stands between the id of a beat and the first word of a part of it; no id has it."""


@dataclass(frozen=True, slots=True)
class BeatPart:
    """Words `first ≤ i < end` of a beat under one treatment. Where the fit decides the picture goes at `pace`, None
    being the house style's. It begins `overlap` seconds before the one before it is out."""

    beat: Beat
    first: int
    end: int
    treatment: Treatment | None
    pace: Fraction | None
    overlap: Fraction = Fraction(0)

    @property
    def id(self) -> str:
        """The beat's, with the first word of a later part."""
        return f"{self.beat.id}{PARTED}{self.first}" if self.first else self.beat.id


def parts_of(beat: Beat, line: SpokenLine, pace: Fraction | None) -> Iterator[BeatPart]:
    """The parts of a beat, in order; at least one. `pace` holds until the beat sets another one.

    A cutaway inside a beat that lasts some seconds ends before the first word that is said after them; then the picture
    does what it did before.
    """
    turns = [(0, beat.treatment), *((turn.word, turn.treatment) for turn in beat.turns)]
    ends = [word for word, _ in turns[1:]] + [len(words_of(beat.text))]
    before: Treatment | None = None
    for (first, treatment), end in zip(turns, ends, strict=True):
        if isinstance(treatment, Pace):
            pace = treatment.rate or None
        if first and isinstance(treatment, Cutaway | ShowPhoto) and treatment.seconds and not treatment.inset:
            over = line.words[first][0] + treatment.seconds
            until = next((i for i in range(first + 1, end) if line.words[i][0] >= over), end)
            yield BeatPart(beat, first, until, structs.replace(treatment, seconds=Fraction(0)), pace)
            if until < end:
                yield BeatPart(beat, until, end, before, pace)
        else:
            yield BeatPart(beat, first, end, treatment, pace)
            before = treatment


def part_line(line: SpokenLine, part: BeatPart) -> SpokenLine:
    """The part of a beat's line, counted from its own start."""
    start, end = line.cut_before(part.first), line.cut_before(part.end)
    words = tuple((a - start, z - start) for a, z in line.words[part.first : part.end])
    return SpokenLine(words, end - start, line.tempo)


def put_together(fitted: Fitted, lines: Mapping[str, SpokenLine]) -> Fitted:
    """What was fitted by parts, by the beats they are of. `lines` has the whole line of every beat."""
    if not any(PARTED in p.beat for p in fitted.phrases):
        return fitted

    def of(part: str) -> tuple[str, int]:
        beat, _, first = part.partition(PARTED)
        return beat, int(first or 0)

    phrases = []
    for p in fitted.phrases:
        beat, first = of(p.beat)
        cut = lines[beat].cut_before(first)
        phrases.append(
            replace(
                p,
                beat=beat,
                first=p.first + first,
                end=p.end + first,
                voice_in=p.voice_in + cut,
                voice_out=p.voice_out + cut,
            )
        )
    ties = tuple(replace(t, beat=of(t.beat)[0], word=t.word + of(t.beat)[1]) for t in fitted.ties)
    lacks = tuple(replace(s, beat=of(s.beat)[0], word=s.word + of(s.beat)[1]) for s in fitted.shortfalls)
    return replace(fitted, phrases=tuple(phrases), ties=ties, shortfalls=lacks)
