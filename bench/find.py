"""Quick find in the whole lexicon against plain fuzzy extraction over the same names.

Prints the median time of a find as a ratio to `rapidfuzz.process.extract` with its general scorer; the aim is that a
find stays under 5 ms on an ordinary machine, which is printed too.
"""

from __future__ import annotations

import time

import numpy as np
from rapidfuzz import fuzz, process

from chapto.lexicon.find import Finder
from chapto.lexicon.lexicon import shipped_lexicon

ASKED = ("kn sl", "barambolo", "hill hook", "single leg", "nee slide", "guillotine", "x", "underhook sw")


def main() -> None:
    """Ask both the same, in turn."""
    lexicon = shipped_lexicon()
    items = [*lexicon.techniques.values(), *lexicon.positions.values()]
    finder = Finder(items)
    names = [name for item in items for name in (*item.names(), *item.wrong)]
    ours, plain = [], []
    for _ in range(20):
        for asked in ASKED:
            start = time.perf_counter()
            finder.find(asked)
            middle = time.perf_counter()
            process.extract(asked, names, scorer=fuzz.WRatio, limit=8)
            ours.append(middle - start)
            plain.append(time.perf_counter() - middle)
    print(f"quick find: {np.median(ours) / np.median(plain):.2f} of plain fuzzy extraction")
    print(f"  {np.median(ours) * 1000:.1f} ms a find here (aim: under 5)")


if __name__ == "__main__":
    main()
