"""A clock that a test moves by hand: nothing about it depends on how busy the machine is."""

from __future__ import annotations

from chapto.app.screen.player import Player
from chapto.voice.speaker import StandInSpeaker


class HandClock:
    """Stands for the module `time` where only `monotonic` is asked for, and is a clock itself."""

    def __init__(self) -> None:
        self.now = 0.0

    def __call__(self) -> float:
        return self.now

    monotonic = __call__


def played_by_hand(player: Player) -> HandClock:
    """A clock in place of the one that `player` plays by."""
    clock = HandClock()
    player.speaker.close()
    player.speaker = StandInSpeaker(clock)
    return clock


def played(player: Player, clock: HandClock, seconds: float) -> None:
    """`player` goes on by `seconds`, in blocks of sound as a device takes them."""
    steps = max(round(seconds / 0.05), 1)
    for _ in range(steps):
        clock.now += seconds / steps
        player.tick()
