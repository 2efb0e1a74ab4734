"""What a stage of the work is to the window: the one way in to everything a stage package holds.

A new stage is a package with one class that is a `StageView`, and one line in `stages.py`.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path
from typing import Protocol

from PyQt6.QtWidgets import QWidget

from chapto.app.footage_analysis import FootageAnalysis
from chapto.app.screen.feed import PictureFeed
from chapto.app.screen.player import Player
from chapto.app.studio import Studio
from chapto.review.work import NextStep, Stage

Keys = tuple[tuple[str, str], ...]
"""What a key does, as F1 shows it: the key, and a few words."""
Snap = Callable[[str], None]
"""Takes a picture of the window as it is now, under a name."""


@dataclass(frozen=True)
class StageContext:
    """What the window hands to every stage: `screen` makes its picture with the transport, `go` shows a stage, `show`
    leads to what a step is about, and `open_file` opens another breakdown. `feed` fetches pictures."""

    studio: Studio
    player: Player
    facts: FootageAnalysis
    screen: Callable[[], QWidget]
    go: Callable[[Stage], object]
    show: Callable[[NextStep], object]
    open_file: Callable[[Path | None], object]
    feed: PictureFeed


class StageView(Protocol):
    """One stage. Only what says so is asked of a stage that was never entered; it imports and builds nothing until
    then."""

    stage: Stage

    @property
    def page(self) -> QWidget:
        """What is shown while it is the current stage; built when it is first asked for."""
        ...

    @property
    def keys(self) -> Keys:
        """What its keys do."""
        return ()

    def enter(self) -> None:
        """It is shown from now on."""
        return

    def leave(self) -> None:
        """Another one is shown from now on."""
        return

    def shortcuts(self) -> tuple[tuple[str, Callable[[], object]], ...]:
        """Keys that work in every stage, and what they do; also asked before it was entered."""
        return ()

    def waiting(self) -> int:
        """How many things were found that wait for a decision here; also asked before it was entered."""
        return 0

    def take(self, step: NextStep) -> None:
        """Go to what a next step is about; the stage has been entered."""
        return

    def welcome(self, files: list[Path]) -> str:
        """Where files that are dragged over the window would land, if this stage takes any of them; else empty. Also
        asked before it was entered."""
        return ""

    def busy(self) -> str:
        """What would be cut off if the window were closed now, in a sentence; else empty."""
        return ""

    def take_files(self, files: list[Path]) -> None:
        """Take files that were dropped on the window, after they were welcome."""
        return

    def is_settled(self) -> bool:
        """Whether every picture in view has arrived."""
        return True

    def pictures(self, snap: Snap) -> None:
        """Arrange what `chapto pictures` is to show of it, and take each; the stage has been entered."""
        snap(self.stage.value.lower())

    def close(self) -> None:
        """End what it began."""
        return
