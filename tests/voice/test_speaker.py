"""The stand-in speaker takes sound at the pace of the clock."""

import itertools

import numpy as np
from numpy.typing import NDArray

from chapto.voice.speaker import RATE, StandInSpeaker


def test_the_stand_in_reads_the_source_in_step_with_the_clock() -> None:
    now = [100.0]
    taken: list[tuple[int, int]] = []

    def source(first: int, count: int) -> NDArray[np.float32]:
        taken.append((first, count))
        return np.full((count, 2), 0.25, np.float32)

    speaker = StandInSpeaker(lambda: now[0])
    speaker.start(source, 480)
    for _ in range(50):
        now[0] += 0.02
        speaker.played()
    assert abs(speaker.played() - 1.0) < 1e-6
    assert taken[0][0] == 480
    assert sum(count for _, count in taken) >= RATE - StandInSpeaker.BLOCK
    for (first, count), (following, _) in itertools.pairwise(taken):
        assert first + count == following
    assert speaker.loudest == 0.25
    speaker.stop()
    assert speaker.played() == 0
