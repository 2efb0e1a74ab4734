"""Mangled names: how many are caught and how many of the repairs are right (aims: 0.8 and 0.95), by rules and as the
free recogniser heard the guide voice say them. False alarms a thousand words of ordinary talk (aim: 0.2 at most), and
how long checking a thousand words takes, as so many times splitting them into words."""

from __future__ import annotations

import random
import time
from pathlib import Path

from tests.lexicon.mangled import by_recogniser, by_rules, caught_and_right
from tests.pacing.pointing_sentences import sentences

from bench.hour_of_talk import talk
from chapto.document.script import words_of
from chapto.lexicon.lexicon import shipped_lexicon
from chapto.lexicon.spelling import Spelling

ROOT = Path(__file__).parent.parent


def main() -> None:
    """Measure and print."""
    spelling = Spelling(shipped_lexicon())
    pairs = by_rules(7)
    random.Random(7).shuffle(pairs)
    for what, asked in (("by rules", pairs), ("by the recogniser", by_recogniser())):
        caught, right = caught_and_right(asked, spelling)
        print(f"{len(asked)} names mangled {what}: {caught:.2f} caught, {right:.2f} of the repairs right")
    said = [" ".join(words) for name in ("own-roll", "walk-through") for _, words in talk(name)]
    said += [text for text, _, _ in sentences()]
    said += (ROOT / "docs" / "guide.md").read_text("utf-8").splitlines()
    said += (ROOT / "LICENSE").read_text("utf-8").splitlines()
    count = sum(len(words_of(t)) for t in said)
    begun = time.perf_counter()
    alarms = [s for t in said for s in spelling.slips(t)]
    took = time.perf_counter() - begun
    begun = time.perf_counter()
    for t in said:
        words_of(t)
    least = time.perf_counter() - begun
    print(f"{len(alarms)} false alarms in {count:,} words ({1000 * len(alarms) / count:.2f} a thousand)")
    print(f"{1000 * took / count * 1000:.0f} ms a thousand words, {took / least:.0f} times splitting them")


if __name__ == "__main__":
    main()
