"""The fit: an exchange of 20 beats (aim: under 50 ms), a breakdown of 500 beats (under 1 s), an edit of one word in it;
each also as so many times one empty call of the solver in the same run."""

from __future__ import annotations

import time
from collections.abc import Callable
from fractions import Fraction

import numpy as np
from scipy.optimize import Bounds, LinearConstraint, milp

from bench.long_breakdown import long_breakdown
from chapto.document import edit_script
from chapto.pacing.fit import fit
from chapto.pacing.fitted import FitBeat, FitExchange, Stop
from chapto.pacing.spoken import estimate
from chapto.pacing.styles import house_styles
from chapto.programme.angles import AngleTrack
from chapto.programme.compile import compile_programme, line_for
from chapto.programme.sections import fit_script

WORDS = "She turns the corner here and the frame is gone before he can post with the other arm."


def main() -> None:
    """Time each, and print it beside the solver's own least time."""
    least = _best(_empty_solver, 20)
    print(f"one solver call over one whole variable: {least * 1000:.1f} ms")
    line = estimate(WORDS, 190)
    for name, style in house_styles().items():
        found = []
        for turn in range(6):
            beats = tuple(FitBeat(f"b{i}", (Stop(4, Fraction((30 + turn) * i + 20, 10)),), (0, 5)) for i in range(20))
            exchange, voice = FitExchange(Fraction(0), Fraction(72), beats), {beat.id: line for beat in beats}
            start = time.perf_counter()
            fit(exchange, voice, style)
            found.append(time.perf_counter() - start)
        middle = sorted(found)[3]
        print(f"20 beats with a tie each, {name}: {middle * 1000:.0f} ms, {middle / least:.1f} solver calls")
    b = long_breakdown(500)
    lines = {beat.id: line_for(b, beat, {}) for _, beat in b.beats()}
    track = AngleTrack(b)
    start = time.perf_counter()
    fit_script(b, lines, house_styles(), track)
    fitted = time.perf_counter() - start
    p = compile_programme(b, {})
    whole = time.perf_counter() - start
    size = f"{sum(1 for _ in b.beats())} beats, {len(p.ties)} ties"
    print(f"{size}, fitted cold: {fitted:.2f} s, {fitted / least:.0f} solver calls; compiled: {whole:.2f} s")
    beat = b.script[len(b.script) // 2].beats[0]
    edited = edit_script.rewrite(b, beat.id, "So " + beat.text)
    start = time.perf_counter()
    compile_programme(edited, {})
    again = time.perf_counter() - start
    print(f"after an edit of one beat: {again:.2f} s, {again / whole:.2f} of the whole")


def _best(work: Callable[[], object], times: int) -> float:
    found = []
    for _ in range(times):
        start = time.perf_counter()
        work()
        found.append(time.perf_counter() - start)
    return min(found)


def _empty_solver() -> object:
    one = np.ones(1)
    return milp(one, constraints=LinearConstraint(one, 0.5, 2), bounds=Bounds(0, 1), integrality=one)


if __name__ == "__main__":
    main()
