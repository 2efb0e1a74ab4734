"""Large work stays light: a breakdown of up to 3,000 beats after an edit of one (aim: at most 150 ms of CPU, growth
n^1.15 at most), 500 beats with a tie each fitted cold (aim: under 1 s of CPU), 36,000 beats brought in (seconds), and
the memory that decoding two hours of sound takes beyond fourteen seconds of it (aim: at most 150 MB).

CPU times also stand as so many times one pass over the same beats that only splits their words."""

from __future__ import annotations

import math
import os
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from fractions import Fraction
from pathlib import Path

import av
import numpy as np

from bench.long_breakdown import long_breakdown
from chapto.document import edit_script
from chapto.document.breakdown import Breakdown
from chapto.document.checks import checked
from chapto.document.script import words_of
from chapto.pacing.styles import house_styles
from chapto.programme.angles import AngleTrack
from chapto.programme.compile import compile_programme, line_for
from chapto.programme.sections import fit_script
from chapto.publish.scripts.plain_text import parts_of
from chapto.publish.scripts.put_in import put_parts

SIZES = (100, 300, 1000, 3000)
SOUND = """
import resource, sys
from pathlib import Path
from chapto.media.sound import load_sound
load_sound(Path(sys.argv[1]), sys.argv[2])
print(resource.getrusage(resource.RUSAGE_SELF).ru_maxrss)
"""


def main() -> None:
    """Measure and print."""
    b = long_breakdown(500)
    lines = {beat.id: line_for(b, beat, {}) for _, beat in b.beats()}
    # First, while nothing has been fitted yet.
    ties = sum(len(beat.ties) for _, beat in b.beats())
    fitted = _cpu(lambda: fit_script(b, lines, house_styles(), AngleTrack(b)), times=1)
    print(f"{len(lines)} beats with {ties} ties fitted cold: {fitted:.2f} s of CPU")
    edits = []
    for beats in SIZES:
        b = long_breakdown(beats)
        count = sum(1 for _ in b.beats())
        least = _cpu(lambda b=b: [words_of(beat.text) for _, beat in b.beats()])
        lines = {beat.id: line_for(b, beat, {}) for _, beat in b.beats()}
        cold = _cpu(lambda b=b, lines=lines: compile_programme(b, lines), times=1)
        after = min(_edited(b, dict(lines), turn) for turn in range(4))
        checks = _cpu(lambda b=b: checked(b))
        edits.append((count, after))
        print(
            f"{count} beats: compiled cold {cold:.2f} s, after an edit of one {after * 1000:.0f} ms of CPU "
            f"({after / least:.0f} passes), checked in {checks * 1000:.1f} ms"
        )
    (n0, t0), (n1, t1) = edits[0], edits[-1]
    print(f"growth after an edit: n^{math.log(t1 / t0) / math.log(n1 / n0):.2f}")
    text = "\n\n".join(f"Beat number {i} has its words, and a few more of them." for i in range(36_000))
    empty = Breakdown(title="x", script=edit_script.add_section(Breakdown(title="x")).script)
    print(
        f"36,000 beats brought in: {_cpu(lambda: checked(put_parts(empty, 's1', '', parts_of(text))), times=1):.2f} s"
    )
    with tempfile.TemporaryDirectory() as scratch:
        short, long = (_memory(Path(scratch), seconds) for seconds in (14, 7200))
        print(f"decoding two hours of sound takes {(long - short) / 1024:.0f} MB more than fourteen seconds")


def _edited(b: Breakdown, lines: dict[str, object], turn: int) -> float:
    beat = b.script[len(b.script) // 2].beats[0]
    edited = edit_script.rewrite(b, beat.id, f"So {turn} {beat.text}")
    lines[beat.id] = line_for(edited, edited.find_beat(beat.id)[1], {})
    return _cpu(lambda: compile_programme(edited, lines), times=1)  # type: ignore[arg-type]


def _cpu(work: Callable[[], object], times: int = 3) -> float:
    found = []
    for _ in range(times):
        start = time.process_time()
        work()
        found.append(time.process_time() - start)
    return min(found)


def _memory(folder: Path, seconds: int) -> int:
    """Kilobytes at the most that a process needs to decode so many seconds."""
    path = folder / f"{seconds}.mkv"
    with av.open(str(path), "w") as out:
        stream = out.add_stream("flac", rate=48_000, layout="stereo")
        wave = np.repeat((8000 * np.sin(np.arange(48_000) / 20)).astype(np.int16), 2)[None]
        for second in range(seconds):
            frame = av.AudioFrame.from_ndarray(wave, format="s16", layout="stereo")
            frame.sample_rate, frame.pts, frame.time_base = 48_000, second * 48_000, Fraction(1, 48_000)
            out.mux(stream.encode(frame))
        out.mux(stream.encode(None))
    env = {**os.environ, "XDG_CACHE_HOME": str(folder)}
    done = subprocess.run(
        [sys.executable, "-c", SOUND, str(path), f"{seconds}"], env=env, check=True, capture_output=True, text=True
    )
    return int(done.stdout)


if __name__ == "__main__":
    main()
