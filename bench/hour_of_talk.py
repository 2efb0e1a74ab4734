"""A caption file with an hour of unpunctuated talk by two people, made from the talk that the tests hold, and footage
for it in which nothing is logged. The words are invented and come round again; the times go on."""

from __future__ import annotations

from fractions import Fraction
from pathlib import Path

from chapto.document.breakdown import Breakdown
from chapto.document.footage import Footage

TALK = Path(__file__).parent.parent / "tests" / "talk"
PACE = 190
CUE = 7
"""Words of a cue, as captions made by machines have them."""


def talk(name: str) -> list[tuple[str, list[str]]]:
    """Turns of a talk: who speaks (as written, empty where nobody is named), and the words."""
    turns = []
    for line in (TALK / f"{name}.txt").read_text("utf-8").splitlines():
        speaker, _, said = line.partition(": ") if line.split(" ")[0].endswith(":") else ("", "", line)
        if said.strip():
            turns.append((speaker, said.split()))
    return turns


def captions(minutes: float) -> str:
    """WebVTT of so many minutes."""
    turns = talk("walk-through")
    out, at, turn = ["WEBVTT\n"], 5.0, 0
    while at < minutes * 60:
        speaker, words = turns[turn % len(turns)]
        for i in range(0, len(words), CUE):
            part = words[i : i + CUE]
            end = at + len(part) * 60 / PACE
            out.append(f"{_clock(at)} --> {_clock(end)}\n<v {speaker}>{' '.join(part)}\n")
            at = end
        at += 0.4
        turn += 1
    return "\n".join(out)


def filmed(minutes: int) -> Breakdown:
    """A document with one camera that ran all the while."""
    camera = Footage(
        id="f1", name="Table side", path="f1.mp4", fingerprint="1-f1", duration=Fraction(minutes * 60 + 30),
        fps=Fraction(30), offset=Fraction(0),
    )  # fmt: skip
    return Breakdown(title="An hour", footage=(camera,))


def _clock(seconds: float) -> str:
    return f"{int(seconds // 3600):02d}:{int(seconds % 3600 // 60):02d}:{seconds % 60:06.3f}"
