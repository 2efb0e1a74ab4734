"""Speech made quicker or slower without changing its pitch: libavfilter's `atempo`, which joins like waves."""

from __future__ import annotations

import av
import av.error
import numpy as np
from av.filter import Graph
from numpy.typing import NDArray

from chapto.media.sound import RATE

Samples = NDArray[np.float32]
BLOCK = 8192


def stretched(samples: Samples, tempo: float) -> Samples:
    """(n,) samples at 48 kHz, `tempo` (0.5 … 2) times as fast: exactly round(n / tempo) of them."""
    wanted = round(len(samples) / tempo)
    if abs(tempo - 1) < 1e-4 or not len(samples):
        return samples
    graph = Graph()
    source = graph.add_abuffer(sample_rate=RATE, format="flt", layout="mono", time_base=None)
    middle, sink = graph.add("atempo", f"{tempo:.5f}"), graph.add("abuffersink")
    source.link_to(middle)
    middle.link_to(sink)
    graph.configure()
    out: list[Samples] = []
    for at in range(0, len(samples), BLOCK):
        block = np.ascontiguousarray(samples[at : at + BLOCK], dtype=np.float32)
        frame = av.AudioFrame.from_ndarray(block.reshape(1, -1), format="flt", layout="mono")
        frame.sample_rate, frame.pts = RATE, at
        graph.push(frame)
        out += _pulled(graph)
    graph.push(None)
    out += _pulled(graph)
    whole = np.concatenate([*out, np.zeros(wanted, np.float32)])
    return np.asarray(whole[:wanted], dtype=np.float32)


def _pulled(graph: Graph) -> list[Samples]:
    blocks: list[Samples] = []
    while True:
        try:
            blocks.append(np.asarray(graph.pull().to_ndarray().reshape(-1), dtype=np.float32))
        except (BlockingIOError, EOFError, av.error.BlockingIOError, av.error.EOFError):
            return blocks
