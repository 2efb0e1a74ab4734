"""What a microphone does, and its name among others."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Protocol

import numpy as np
from numpy.typing import NDArray

RATE = 48_000
Block = NDArray[np.int16]
"""(n, channels) samples at `RATE`."""
Hear = Callable[[Block], object]
Lost = Callable[[str], object]
"""Takes a sentence that says why nothing is heard any more."""


@dataclass(frozen=True)
class MicrophoneName:
    """One device to choose: its `id` for the system, what people call it, and whether it is only the stand-in."""

    id: str
    title: str
    is_stand_in: bool = False


@dataclass(frozen=True)
class Prompt:
    """A line to be said `after` seconds from the start, or when the one before it has been said."""

    text: str
    after: float


class Microphone(Protocol):
    """Hears until it is stopped. `channels` is 1 or 2."""

    channels: int

    def prompt(self, lines: Sequence[Prompt]) -> None:
        """The prompter will show these, from the start on; only the stand-in cares."""

    def start(self, hear: Hear, lost: Lost) -> None:
        """Begin; `hear` gets every block in a thread of its own, `lost` once where the device goes away."""

    def stop(self) -> None:
        """End; no block comes after this returns."""
