"""The work as a whole: its stages, and how things stand in it."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from chapto.document.breakdown import Breakdown
from chapto.programme.programme import Programme


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
class Situation:
    """A breakdown and its programme; a sentence for each file that is `missing`, and how many stretches of footage
    something was found in that wait for a decision (`undecided`). `clocked` is whether the files' places were looked
    for, `recorders` are rows of files (by id) that seem to be of one recorder each. So many things are `found` by the
    review that must or should be mended."""

    b: Breakdown
    programme: Programme
    missing: tuple[str, ...] = ()
    undecided: int = 0
    clocked: bool = False
    recorders: tuple[tuple[str, ...], ...] = ()
    found: int = 0


ONE_CLOCK, ONE_CAMERA, RIGHTS, SPREAD, DESCRIPTION = "one clock", "one camera", "rights", "spread", "description"
EXAMPLE = "earlier example"
"""Steps that one press does, or leads right to: items of a step in the stage it names."""


@dataclass(frozen=True)
class NextStep:
    """A sentence, the stage it leads to, and what it is about, if anything: beat and word, footage, or another `item`
    of that stage (an exchange, a mark), by id."""

    sentence: str
    stage: Stage
    beat: str = ""
    word: int = 0
    footage: str = ""
    item: str = ""
