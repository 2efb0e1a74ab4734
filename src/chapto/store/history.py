"""Undo and redo: the documents that were, with what each step is called."""

from __future__ import annotations

import time
from collections.abc import Callable

from chapto.document.breakdown import Breakdown

MERGE_WITHIN = 1.5
"""Edits of one kind closer together than this many seconds are one step of undo."""
LONGEST = 500


class History:
    """The steps before and after the document as it is. `clock` gives rising seconds."""

    def __init__(self, clock: Callable[[], float] = time.monotonic) -> None:
        self._clock = clock
        self._undo: list[tuple[str, Breakdown]] = []
        self._redo: list[tuple[str, Breakdown]] = []
        self._merge: tuple[str, float] = ("", 0.0)

    def step(self, what: str, before: Breakdown, *, merge: str = "") -> None:
        """Note that `before` was left by a step called `what`; quick steps with the same `merge` become one."""
        now = self._clock()
        joined = bool(merge) and merge == self._merge[0] and now - self._merge[1] < MERGE_WITHIN and bool(self._undo)
        if not joined:
            self._undo = [*self._undo[-LONGEST + 1 :], (what, before)]
        self._merge = (merge, now)
        self._redo.clear()

    def back(self, now: Breakdown) -> Breakdown | None:
        """The document before `now`; None at the beginning."""
        return self._move(self._undo, self._redo, now)

    def forward(self, now: Breakdown) -> Breakdown | None:
        """The document that the last step back left; None when there is none."""
        return self._move(self._redo, self._undo, now)

    @property
    def would_undo(self) -> str:
        """What a step back would take back; empty when nothing."""
        return self._undo[-1][0] if self._undo else ""

    @property
    def would_redo(self) -> str:
        """What a step forward would bring back; empty when nothing."""
        return self._redo[-1][0] if self._redo else ""

    def rewrite(self, change: Callable[[Breakdown], Breakdown]) -> None:
        """Change every document that was, alike."""
        self._undo = [(what, change(b)) for what, b in self._undo]
        self._redo = [(what, change(b)) for what, b in self._redo]

    def _move(
        self, source: list[tuple[str, Breakdown]], target: list[tuple[str, Breakdown]], now: Breakdown
    ) -> Breakdown | None:
        if not source:
            return None
        what, found = source.pop()
        target.append((what, now))
        self._merge = ("", 0.0)
        return found
