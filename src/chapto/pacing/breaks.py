"""Where unpunctuated talk falls into beats, and a beat into phrases: at openers, pauses, names that begin a clause."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache

import numpy as np

from chapto.document.script import plain_word
from chapto.pacing.openers import weights

SHORTEST, LONGEST, MOST = 8, 35, 45
"""Words of a beat: it has at least so many where it can, seldom more, and never more."""
LIKED = (14, 26)
"""Words of a beat that cost nothing: 4 to 8 s at 190 words a minute, so 7 to 12 beats a minute (common practice)."""
PAUSE_WEIGHT, MOST_FOR_A_PAUSE = 3.0, 3.0
"""Weight of a second of silence before a word, and the most that silence weighs."""
BREAK_COSTS = 1.6
"""What a break costs: only what weighs about as much is worth one."""
PHRASE = 4
"""Words of the shortest phrase inside a beat."""
PHRASE_WEIGHT = 0.6
STOPS, CLAUSES = ".!?…", ",;:–—"
SELDOM, CLAUSE_SELDOM = 45, 16
"""Words to a stop, and to any mark, above which talk counts as unpunctuated."""


def is_unpunctuated(words: Sequence[str]) -> bool:
    """Whether words stand there as captions of talk do: hardly a stop among them, nor a comma."""
    inner = [w.rstrip("\"'”’)]")[-1:] for w in words[:-1]]
    stops = sum(mark in STOPS for mark in inner if mark)
    marks = stops + sum(mark in CLAUSES for mark in inner if mark)
    return len(words) > SELDOM * (stops + 1) * 0.6 and len(words) > CLAUSE_SELDOM * (marks + 1)


def beat_starts(words: Sequence[str], pauses: Sequence[float] = ()) -> tuple[int, ...]:
    """Numbers of the words with which beats begin, the first always: the cheapest way to cut unpunctuated talk into
    beats of `SHORTEST` to `LONGEST` words (dynamic programming). `pauses` are the seconds of silence before each word,
    where they are known. Anything of `SHORTEST` words or less is one beat."""
    count = len(words)
    if count == 0:
        return ()
    gain = np.array(weights([plain_word(w) for w in words]))
    for i, pause in enumerate(pauses):
        gain[i] += min(PAUSE_WEIGHT * pause, MOST_FOR_A_PAUSE)
    gain[1:] += [0.8 if w.rstrip("\"'”’)]")[-1:] in STOPS else 0.0 for w in words[:-1]]
    costs = np.array([_length_cost(n) for n in range(MOST + 1)])
    best = np.full(count + 1, np.inf)
    best[0] = 0.0
    came = np.zeros(count + 1, int)
    for end in range(1, count + 1):
        first = max(0, end - MOST)
        starts = np.arange(first, end)
        price = best[starts] + costs[end - starts] + np.where(starts > 0, BREAK_COSTS - gain[starts], 0.0)
        at = int(np.argmin(price))
        best[end], came[end] = price[at], first + at
    found = [int(came[count])]
    while found[-1] > 0:
        found.append(int(came[found[-1]]))
    return tuple(reversed(found))


@lru_cache(maxsize=4096)
def phrases_inside(words: tuple[str, ...]) -> tuple[int, ...]:
    """Numbers of the words with which phrases begin inside an unpunctuated beat: at openers and whoever does something,
    at least `PHRASE` words apart."""
    found = [0]
    for i, weight in enumerate(weights([plain_word(w) for w in words])):
        if i - found[-1] >= PHRASE and len(words) - i >= PHRASE - 1 and weight >= PHRASE_WEIGHT:
            found.append(i)
    return tuple(found)


def _length_cost(n: int) -> float:
    low, high = LIKED
    if n < SHORTEST:
        return 2.0 + 0.6 * (SHORTEST - n)
    if n < low:
        return 0.12 * (low - n)
    if n <= high:
        return 0.0
    return 0.11 * (n - high) if n <= LONGEST else 0.11 * (LONGEST - high) + 0.7 * (n - LONGEST)
