"""What is best done next, and what is still open in each stage. Free of Qt."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from chapto.document.breakdown import Breakdown
from chapto.document.cleared import open_points
from chapto.pacing.fitted import Lack
from chapto.programme.programme import Programme, TieState
from chapto.publish.chapter_list import chapter_problems


class Stage(StrEnum):
    """The stages in the order of the work, the shelf apart."""

    FOOTAGE = "Footage"
    LOG = "Log"
    WRITE = "Write"
    MARK = "Mark"
    VOICE = "Voice"
    REVIEW = "Review"
    PUBLISH = "Publish"
    SHELF = "Shelf"


@dataclass(frozen=True)
class NextStep:
    """A sentence, the stage it leads to, and the beat and word or the footage it is about, if any."""

    sentence: str
    stage: Stage
    beat: str = ""
    word: int = 0
    footage: str = ""


def next_step(b: Breakdown, p: Programme, missing: tuple[str, ...], *, undecided: int = 0) -> NextStep:
    """The first of: find footage, judge it, log, write, mend what does not meet, ask people, render. `undecided` is
    how many stretches of footage wait for a decision."""
    if not b.footage:
        return NextStep("Bring in a video: press here, or drop it on the window.", Stage.FOOTAGE)
    if missing:
        return NextStep(missing[0], Stage.FOOTAGE)
    if not b.exchanges and undecided:
        stretches = "1 stretch" if undecided == 1 else f"{undecided} stretches"
        return NextStep(f"Something was found in {stretches} of your footage: take it or throw it away.", Stage.FOOTAGE)
    if not b.exchanges:
        return NextStep("Watch the footage and log the first exchange worth explaining.", Stage.LOG)
    if not any(beat.text.strip() for _, beat in b.beats()):
        return NextStep("Write what happened in the first exchange.", Stage.WRITE)
    if p.shortfalls:
        first = min(p.shortfalls, key=lambda s: s.lack in (Lack.SILENT, Lack.LENGTH))
        word = next((t.text for t in p.ties if (t.beat, t.word) == (first.beat, first.word)), "")
        named = f"At “{word.strip('.,;:!?')}”: " if word else ""
        sentence = named + first.sentence[0].lower() + first.sentence[1:] if named else first.sentence
        return NextStep(sentence, Stage.WRITE, first.beat, first.word)
    broken = [t for t in p.ties if t.state is not TieState.MET]
    if broken:
        t = broken[0]
        return NextStep(
            f"“{t.text.strip('.,;:!?')}” does not meet its moment; see its lace.", Stage.WRITE, t.beat, t.word
        )
    if not p.ties:
        return NextStep("Tie a word to its moment: put the caret on it, find the frame, press Ctrl+T.", Stage.WRITE)
    met = "The tie meets." if len(p.ties) == 1 else f"All {len(p.ties)} ties meet."
    for c in b.footage:
        if c.id in {x.footage for x in p.passages} and (points := open_points(b, c)):
            return NextStep(f"{met} Before it is shown: {points[0]}", Stage.FOOTAGE, footage=c.id)
    return NextStep(f"{met} Watch it once, then render it.", Stage.PUBLISH)


def open_counts(
    b: Breakdown, p: Programme, missing: tuple[str, ...], *, undecided: int = 0
) -> dict[Stage, int]:  # fmt: skip
    """How many things are open in each stage that works so far; a file counts once, however much is open in it."""
    return {
        Stage.FOOTAGE: len(missing) + undecided + sum(1 for c in b.footage if open_points(b, c)),
        Stage.LOG: sum(1 for x in b.exchanges if not x.technique or x.outcome is None),
        Stage.WRITE: sum(1 for t in p.ties if t.state is not TieState.MET),
        Stage.PUBLISH: len(chapter_problems(p)),
    }
