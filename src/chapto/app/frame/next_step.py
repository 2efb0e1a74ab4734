"""What is best done next, and what is still open in each stage. Free of Qt."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from chapto.document.breakdown import Breakdown
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
    """A sentence, the stage it leads to, and the beat and word it is about, if any."""

    sentence: str
    stage: Stage
    beat: str = ""
    word: int = 0


def next_step(b: Breakdown, p: Programme, missing: tuple[str, ...]) -> NextStep:
    """The first of: find footage, log, write, mend what does not meet, render."""
    if not b.footage:
        return NextStep("Bring in a video: press here, or drop it on the window.", Stage.FOOTAGE)
    if missing:
        return NextStep(missing[0], Stage.FOOTAGE)
    if not b.exchanges:
        return NextStep("Watch the footage and log the first exchange worth explaining.", Stage.LOG)
    if not any(beat.text.strip() for _, beat in b.beats()):
        return NextStep("Write what happened in the first exchange.", Stage.WRITE)
    if p.shortfalls:
        first = p.shortfalls[0]
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
    return NextStep(f"All {len(p.ties)} ties meet. Watch it once, then render it.", Stage.PUBLISH)


def open_counts(b: Breakdown, p: Programme, missing: tuple[str, ...]) -> dict[Stage, int]:
    """How many things are open in each stage that works so far."""
    return {
        Stage.FOOTAGE: len(missing),
        Stage.LOG: sum(1 for x in b.exchanges if not x.technique or x.outcome is None),
        Stage.WRITE: sum(1 for t in p.ties if t.state is not TieState.MET),
        Stage.PUBLISH: len(chapter_problems(p)),
    }
