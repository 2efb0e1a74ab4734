"""The frames of a programme that tell most: where it holds and is drawn on, or where a tied word meets its moment."""

from __future__ import annotations

from dataclasses import dataclass

from chapto.clock.passage import Kind
from chapto.programme.block import PlacedBlock
from chapto.programme.programme import Programme

A_SECTION = 4
"""Frames of one section, at most."""
APART = 1
"""Seconds of the footage by which two differ at least: less shows the same again."""
SETTLED = 6
"""Frames after the last mark has come, until which it is there in full."""


@dataclass(frozen=True, slots=True)
class KeyFrame:
    """A frame of the programme, in the section with this id; `marks` is how many stand on it."""

    frame: int
    section: str
    marks: int


def key_frames(programme: Programme) -> tuple[KeyFrame, ...]:
    """In order of time; every section that shows footage has one at least."""
    return tuple(k for block in programme.blocks for k in sorted(_of_block(programme, block), key=lambda k: k.frame))


def _of_block(programme: Programme, block: PlacedBlock) -> list[KeyFrame]:
    held = [_held(programme, p.watch_in, p.watch_out) for p in block.passages if p.kind is Kind.HOLD and p.footage]
    fps, name = programme.fps, block.block.section
    met = [
        int(t.shown * fps)
        for t in programme.ties
        if t.shown is not None and block.start <= t.shown * fps < block.end and not held
    ]
    shown = [p for p in block.passages if p.footage]
    wanted = held or met or [p.watch_in for p in shown[len(shown) // 2 :][:1]]
    found: list[KeyFrame] = []
    # The most marked ones first: of two that show the same, that one stays.
    for frame in sorted(set(wanted), key=lambda f: (-len(programme.marks_at(f)), f)):
        passage = programme.time_map.passage_at(frame)
        mat = passage.mat_at(frame)
        known = [programme.time_map.passage_at(k.frame) for k in found]
        near = any(
            p.footage == passage.footage and abs(p.mat_at(k.frame) - mat) < APART
            for p, k in zip(known, found, strict=True)
        )
        if passage.footage and not near:
            found.append(KeyFrame(frame, name, len(programme.marks_at(frame))))
    return found[:A_SECTION]


def _held(programme: Programme, start: int, stop: int) -> int:
    """The frame of a hold on which most is drawn, once it is all there."""
    edges = sorted({start, *(m.start + SETTLED for m in programme.marks if start <= m.start + SETTLED < stop)})
    return max(edges, key=lambda f: (len(programme.marks_at(f)), f))
