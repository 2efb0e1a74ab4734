"""What things of the log and the script are called on the screen and in the video. Files keep their own words."""

from __future__ import annotations

from enum import StrEnum

from chapto.document.bout import MomentKind, Outcome
from chapto.document.script import BeatKind

_WORDS: tuple[tuple[StrEnum, str], ...] = (
    (Outcome.STOPPED, "defended"),
    (Outcome.HALF, "partly"),
    (MomentKind.SLIP, "mistake"),
    (MomentKind.POINT, "teaching point"),
    (MomentKind.LATER, "revisit"),
    (BeatKind.SLIP, "mistake"),
)


def trade_word(kind: Outcome | MomentKind | BeatKind) -> str:
    """The word of the trade for a kind; its own where that is the word already."""
    return next((word for known, word in _WORDS if known is kind), kind.value)
