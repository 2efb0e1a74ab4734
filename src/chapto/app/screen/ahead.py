"""What the screen is going to show, from one picture to the next: each is worked out once while it plays."""

from __future__ import annotations

from collections.abc import Callable, Hashable
from dataclasses import dataclass

from chapto.app.playhead import Playhead
from chapto.app.screen.feed import Want
from chapto.document.breakdown import Breakdown
from chapto.programme.programme import Programme

KEPT = 240
"""Pictures remembered at most."""


@dataclass(frozen=True, slots=True)
class Shown:
    """The pictures of one playhead: the first, and the second where there are two."""

    first: Want
    second: Want | None

    @property
    def wants(self) -> tuple[Want, ...]:
        """One picture, or both."""
        return (self.first,) if self.second is None else (self.first, self.second)


class Ahead:
    """`look` gives the pictures of a playhead, `follow` the playhead one picture later. Both hang on nothing but what
    is told with `of`."""

    def __init__(self, look: Callable[[Playhead], Shown], follow: Callable[[Playhead], Playhead]) -> None:
        self._look, self._follow = look, follow
        self._of: tuple[Breakdown, Programme, Hashable] | None = None
        self._shown: dict[Playhead, Shown] = {}
        self._next: dict[Playhead, Playhead] = {}

    def of(self, breakdown: Breakdown, programme: Programme, place: Hashable) -> None:
        """What pictures hang on: the very document and programme, and where they lie. Where one is another than before,
        all is forgotten."""
        was = self._of
        same = was is not None and was[0] is breakdown and was[1] is programme and was[2] == place
        if not same or len(self._shown) > KEPT:
            self._of = breakdown, programme, place
            self._shown.clear()
            self._next.clear()

    def at(self, head: Playhead) -> Shown:
        """The pictures of a playhead."""
        if head not in self._shown:
            self._shown[head] = self._look(head)
        return self._shown[head]

    def row(self, head: Playhead, count: int) -> list[Want]:
        """Everything that is wanted for the next `count` pictures, from the one of `head` on."""
        found = list(self.at(head).wants)
        for _ in range(count - 1):
            if head not in self._next:
                self._next[head] = self._follow(head)
            head = self._next[head]
            found += self.at(head).wants
        return found
