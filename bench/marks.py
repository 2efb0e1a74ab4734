"""What marks cost: a moving frame with three of them, a spotlight, a key that is moved: `python -m bench.marks`.

Times are of this machine; beside each stands its ratio to a frame without marks, measured in the same run.
"""

from __future__ import annotations

import os
import sys
import time
from collections.abc import Callable
from fractions import Fraction
from pathlib import Path
from tempfile import TemporaryDirectory

import numpy as np
from msgspec.structs import replace

from chapto.demo.generate import FOOTAGE
from chapto.demo.story import demo_breakdown
from chapto.document.bout import Exchange, Moment
from chapto.document.breakdown import Breakdown
from chapto.document.checks import checked
from chapto.document.edit_marks import add_figure, add_mark, put_anchor, set_key
from chapto.document.joints import Joint
from chapto.document.mark_kinds import MarkKind
from chapto.document.marks import Until
from chapto.document.people import Side
from chapto.document.script import Beat, Section, Tie
from chapto.document.treatments import Run
from chapto.programme.compile import compile_programme, read_anew
from chapto.programme.needed import needed_of
from chapto.render.followed import follow_marks
from chapto.render.frames import ProgrammeFrames

F = Fraction
FRAMES = 60


def running(folder: Path) -> Breakdown:
    """Eight seconds of the guard under words, nothing held."""
    b = demo_breakdown(folder)
    beat = Beat(
        id="b1", text="Look here now and see how it goes on.", ties=(Tie(word=1, moment="m1"),), treatment=Run()
    )
    return replace(
        b, moments=(Moment(id="m1", at=F(49)),), script=(Section(id="s1", exchange="x1", beats=(beat,)),), labels=(),
        exchanges=(Exchange(id="x1", start=F(48), end=F(54)),), cautions=False, score_strip=False,
        naming=replace(b.naming, automatic=False), ruling=replace(b.ruling, points=()), positions=(),
    )  # fmt: skip


def marked(b: Breakdown, kinds: tuple[MarkKind, ...]) -> Breakdown:
    for n, kind in enumerate(kinds):
        ids = []
        for k in range(2 if kind in (MarkKind.FRAME, MarkKind.GAP) else 1):
            b = put_anchor(b, "f1", F(49), (0.45 + 0.06 * n + 0.05 * k, 0.5))
            b = set_key(b, b.anchors[-1].id, F(53), (0.46 + 0.06 * n + 0.05 * k, 0.52))
            ids.append(b.anchors[-1].id)
        b = add_mark(b, kind, anchors=tuple(ids), beat="b1", word=1, of=Side.FIRST, words="Words", until=Until.BEAT)
    return checked(b)


def lit(b: Breakdown) -> Breakdown:
    places = {j: (0.42 + 0.012 * i, 0.4 + 0.015 * i) for i, j in enumerate(Joint)}
    b = add_figure(b, "f1", Side.FIRST, F(49), places)
    for a in b.figures[0].anchors:
        key = next(x for x in b.anchors if x.id == a).keys[0]
        b = set_key(b, a, F(53), (key.x + 0.01, key.y + 0.01))
    return checked(add_mark(b, MarkKind.SPOTLIGHT, figure=b.figures[0].id, beat="b1", word=1, until=Until.BEAT))


def frame_seconds(b: Breakdown, first: int) -> float:
    """Seconds of a frame, of `FRAMES` one after another, without decoding for the first time."""
    bare = compile_programme(b, {})
    p = read_anew(b, bare, follow_marks(b, None, needed_of(b, bare)).readings)
    frames = ProgrammeFrames(b, p, {c.id: FOOTAGE / Path(c.path).name for c in b.footage})
    begin = p.marks[0].start + 6 if p.marks else first
    frames.frame(begin - 1)
    begun = time.perf_counter()
    for k in range(begin, begin + FRAMES):
        frames.frame(k)
    took = (time.perf_counter() - begun) / FRAMES
    frames.close()
    return took


def best(work: Callable[[], float]) -> float:
    return float(np.min([work() for _ in range(3)]))


def moved_key(b: Breakdown) -> tuple[float, float]:
    """Seconds from a moved key to its programme, and those of a compilation alone: three keys three seconds apart."""
    b = put_anchor(b, "f1", F("48.5"), (0.5, 0.5))
    for mat in ("50", "51.5"):
        b = set_key(b, "a1", F(mat), (0.51, 0.51))
    b = checked(add_mark(b, MarkKind.GRIP, anchors=("a1",), beat="b1", word=1, until=Until.BEAT))
    follow_marks(b, None, needed_of(b, compile_programme(b, {})))
    moved = set_key(b, "a1", F("50"), (0.52, 0.5))
    begun = time.perf_counter()
    bare = compile_programme(moved, {})
    alone = time.perf_counter() - begun
    read_anew(moved, bare, follow_marks(moved, None, needed_of(moved, bare)).readings)
    return time.perf_counter() - begun, alone


def main() -> int:
    with TemporaryDirectory() as cache:
        os.environ["XDG_CACHE_HOME"] = cache
        b = running(Path(cache))
        three = marked(b, (MarkKind.GRIP, MarkKind.FRAME, MarkKind.GAP))
        bare = compile_programme(three, {})
        start = read_anew(three, bare, follow_marks(three, None, needed_of(three, bare)).readings).marks[0].start + 6
        alone = best(lambda: frame_seconds(b, start))
        for name, made in (("three moving marks with slips", three), ("a spotlight on a figure", lit(b))):
            took = best(lambda made=made: frame_seconds(made, start))
            more, share = (took - alone) * 1000, took / alone
            print(f"{name}: {more:.1f} ms more a frame, {share:.2f}× one without ({alone * 1000:.1f} ms)")
        took, compiled = moved_key(b)
        print(f"a moved key on three seconds: {took:.2f} s, {took / compiled:.0f}× a compilation alone")
    return 0


if __name__ == "__main__":
    sys.exit(main())
