"""Scripts as people have them. Unpunctuated talk: beats a minute (aim: 6 to 12), the longest (45 words), how many begin
at an opener (four of five). Pointing words on the sentences of the tests: found (0.93), right (0.9), and of those that
name a moment the right one. An hour of captions by two people, from the file to a tied and compiled document (aim:
10 s); as a ratio to reading the same file with the caption library alone."""

from __future__ import annotations

import tempfile
import time
from pathlib import Path

import pysubs2
from tests.pacing.pointing_sentences import found_and_right

from bench.hour_of_talk import PACE, captions, filmed, talk
from chapto.document import edit_script
from chapto.document.checks import checked
from chapto.pacing.breaks import beat_starts
from chapto.pacing.offers import offers
from chapto.pacing.openers import OPENS, weights
from chapto.programme.compile import compile_programme, line_for
from chapto.programme.placed import TieState
from chapto.publish.scripts.incoming import incoming, put_into
from chapto.publish.scripts.read import read_script


def main() -> None:
    """Measure and print."""
    for name in ("own-roll", "walk-through"):
        beats = opened = longest = count = 0
        for _, words in talk(name):
            starts = beat_starts(words)
            heavy = weights(words)
            beats += len(starts)
            opened += sum(i == 0 or heavy[i] >= OPENS for i in starts)
            longest = max(longest, *(z - a for a, z in zip(starts, (*starts[1:], len(words)), strict=True)))
            count += len(words)
        print(
            f"{name}: {beats / count * PACE:.1f} beats a minute, the longest has {longest} words, "
            f"{opened / beats:.0%} begin at an opener"
        )
    found, right, meant = found_and_right()
    print(f"pointing words: {found:.2f} found, {right:.2f} right; {meant:.2f} of named moments right")
    with tempfile.TemporaryDirectory() as scratch:
        path = Path(scratch) / "hour.vtt"
        path.write_text(captions(60), "utf-8")
        begun = time.perf_counter()
        pysubs2.load(str(path))
        least = time.perf_counter() - begun
        begun = time.perf_counter()
        b = filmed(60)
        script = incoming(b, "hour", read_script(path))
        p = compile_programme(b, {})
        b = checked(put_into(b, p, script))
        read = time.perf_counter() - begun
        b = checked(edit_script.tie_all(b, [(o.beat, o.word, o.at) for o in offers(b) if o.stamped]))
        p = compile_programme(b, {beat.id: line_for(b, beat, {}) for _, beat in b.beats()})
        whole = time.perf_counter() - begun
    met = sum(t.state is TieState.MET for t in p.ties)
    print(
        f"an hour of captions: {len(list(b.beats()))} beats in {len(b.script)} sections, {len(p.ties)} ties, "
        f"{met / len(p.ties):.0%} met; read in {read:.1f} s, tied and compiled after {whole:.1f} s "
        f"({whole / least:.0f} times the caption library alone)"
    )


if __name__ == "__main__":
    main()
