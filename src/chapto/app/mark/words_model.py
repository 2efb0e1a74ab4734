"""The words of the script with the marks that hang under theirs. Free of Qt."""

from __future__ import annotations

from dataclasses import dataclass

from chapto.document.breakdown import Breakdown
from chapto.document.mark_kinds import PROPOSED, MarkKind
from chapto.document.people import Side
from chapto.document.script import words_of


@dataclass(frozen=True)
class HungMark:
    """A mark under its word: `text` is what its slip says, `trouble` why it does not come."""

    mark: str
    kind: MarkKind
    text: str
    side: Side | None
    trouble: str = ""


@dataclass(frozen=True)
class WordCell:
    """A word of the script; `moment` is what it is tied to, with the kind of mark that proposes."""

    beat: str
    number: int
    text: str
    moment: str = ""
    proposed: MarkKind | None = None
    marks: tuple[HungMark, ...] = ()


@dataclass(frozen=True)
class BeatWords:
    """One beat, under the title of its section where it is the first of it."""

    beat: str
    title: str
    words: tuple[WordCell, ...]


def beats_with_marks(b: Breakdown, unplaced: dict[str, str]) -> tuple[BeatWords, ...]:
    """The whole script; `unplaced` says by mark why one does not come on the screen."""
    moments = {m.id: m for m in b.moments}
    hung: dict[tuple[str, int], list[HungMark]] = {}
    by_moment: dict[str, list[HungMark]] = {}
    for m in b.marks:
        made = HungMark(m.id, m.kind, m.words, m.of, unplaced.get(m.id, ""))
        if m.beat:
            hung.setdefault((m.beat, m.word), []).append(made)
        elif m.moment:
            by_moment.setdefault(m.moment, []).append(made)
    found, title = [], ""
    for section, beat in b.beats():
        ties = {t.word: t.moment for t in beat.ties}
        cells = []
        for number, text in enumerate(words_of(beat.text)):
            moment = ties.get(number, "")
            marks = (*hung.get((beat.id, number), ()), *by_moment.get(moment, ()))
            kind = PROPOSED[moments[moment].kind] if moment else None
            cells.append(WordCell(beat.id, number, text, moment, kind, marks))
        shown = section.title or ("Title" if not section.exchange else "")
        if cells:
            found.append(BeatWords(beat.id, shown if shown != title else "", tuple(cells)))
            title = shown
    return tuple(found)


def stops(beats: tuple[BeatWords, ...]) -> tuple[WordCell, ...]:
    """The words worth going to: tied ones, and those that marks hang under."""
    return tuple(w for beat in beats for w in beat.words if w.moment or w.marks)


def stop_beside(beats: tuple[BeatWords, ...], at: tuple[str, int], by: int) -> WordCell | None:
    """The first stop after the word `at` (beat, number), or the last before it where `by` is below 0."""
    order = {(w.beat, w.number): i for i, w in enumerate(w for beat in beats for w in beat.words)}
    here = order.get(at, -1)
    after = [w for w in stops(beats) if order[w.beat, w.number] > here]
    before = [w for w in stops(beats) if order[w.beat, w.number] < here]
    return next(iter(after), None) if by > 0 else next(reversed(before), None)
