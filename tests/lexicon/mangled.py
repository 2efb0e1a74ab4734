"""Names of the sport as captions mangle them: by rules here, and as the free recogniser heard the guide voice."""

from __future__ import annotations

import random
import re
from functools import lru_cache
from pathlib import Path

import jellyfish
from rapidfuzz import fuzz

from chapto.lexicon.lexicon import shipped_lexicon
from chapto.lexicon.ordinary import ordinary_words
from chapto.lexicon.spelling import Spelling

HEARD = Path(__file__).parents[1] / "talk" / "heard-names.txt"
RESPELT = (
    ("ph", "f"), ("ck", "k"), ("ee", "ea"), ("ea", "ee"), ("oo", "u"), ("igh", "y"), ("qu", "kw"), ("tri", "try"),
    ("ou", "ow"), ("gu", "g"), ("ll", "l"), ("tt", "t"), ("ss", "s"), ("l", "ll"), ("c", "k"), ("k", "c"), ("z", "s"),
    ("s", "z"), ("i", "y"), ("ei", "ey"), ("a", "e"), ("o", "a"), ("u", "oo"), ("er", "ar"), ("ar", "er"), ("e", "i"),
    ("y", "ie"),
)  # fmt: skip
CARRIERS = (
    "and from here he goes for the {} but she sees it",
    "you can see the {} very well",
    "then she tries a {} and it works",
    "that is how his {} starts",
    "so we get to {} again",
)


def all_names() -> list[str]:
    """Every right name of two or more sounds worth mangling: at least six letters."""
    lexicon = shipped_lexicon()
    named = (*lexicon.techniques.values(), *lexicon.positions.values())
    return sorted({n for x in named for n in x.names() if len(re.sub(r"[^a-z]", "", n.casefold())) >= 6})


def by_rules(seed: int) -> list[tuple[str, str]]:
    """Right name and mangled one: respelt by sound, split, joined, and with a word that sounds the same."""
    rng = random.Random(seed)
    found = []
    for name in all_names():
        for mangle in (_respelt, _split, _joined, _homophone):
            made = mangle(name, rng)
            if made is not None and made != name:
                found.append((name, made))
    return found


def by_recogniser() -> list[tuple[str, str]]:
    """Right name and what was heard, where that is something else."""
    pairs = (line.split(" | ") for line in HEARD.read_text("utf-8").splitlines())
    return [(name, heard) for name, heard in pairs if _bare(name) != _bare(heard) and len(_bare(name)) >= 6]


def in_a_sentence(mangled: str, number: int) -> tuple[str, int, int]:
    """The words in talk, and the half-open range of words they stand at."""
    carrier = CARRIERS[number % len(CARRIERS)]
    first = carrier.split("{}")[0].split()
    return carrier.format(mangled), len(first), len(first) + len(mangled.split())


def _bare(text: str) -> str:
    return re.sub(r"[^a-z0-9]", "", text.casefold())


def _respelt(name: str, rng: random.Random) -> str | None:
    rules = [r for r in RESPELT if r[0] in name]
    made = name
    for old, new in rng.sample(rules, min(len(rules), 2)):
        places = [m.start() for m in re.finditer(old, made)]
        if places:
            at = rng.choice(places)
            made = made[:at] + new + made[at + len(old) :]
    return made


def _split(name: str, rng: random.Random) -> str | None:
    long = [w for w in name.split() if len(w) >= 7]
    if not long:
        return None
    word = rng.choice(long)
    places = [i for i in range(3, len(word) - 2) if word[i - 1] in "aeiou" or word[i] not in "aeiou"]
    at = rng.choice(places or [3])
    return name.replace(word, f"{word[:at]} {word[at:]}", 1)


def _joined(name: str, rng: random.Random) -> str | None:
    words = name.split()
    if len(words) < 2:
        return None
    at = rng.randrange(len(words) - 1)
    return " ".join([*words[:at], words[at] + words[at + 1], *words[at + 2 :]])


@lru_cache(maxsize=1)
def _by_sound() -> dict[str, list[str]]:
    found: dict[str, list[str]] = {}
    for word in ordinary_words():
        if word.isalpha() and len(word) >= 3:
            found.setdefault(jellyfish.metaphone(word), []).append(word)
    return found


def _homophone(name: str, rng: random.Random) -> str | None:
    words = name.split()
    choices = [
        (i, other)
        for i, w in enumerate(words)
        if len(w) >= 4
        for other in _by_sound().get(jellyfish.metaphone(w), ())
        if other != w and not other.startswith(w[:-1]) and fuzz.ratio(w, other) >= 60
    ]
    if not choices:
        return None
    i, other = rng.choice(choices)
    return " ".join([*words[:i], other, *words[i + 1 :]])


def caught_and_right(pairs: list[tuple[str, str]], spelling: Spelling) -> tuple[float, float]:
    """Share of mangled names at which something is said, and of what is said the share that is right: it names the
    thing, or the part of its name that it takes the place of, and takes no other word with it."""
    lexicon = shipped_lexicon()
    names: dict[str, set[str]] = {}
    for item in (*lexicon.techniques.values(), *lexicon.positions.values()):
        for name in item.names():
            names.setdefault(name, set()).update(item.names())
    caught = said = right = 0
    for number, (name, mangled) in enumerate(pairs):
        text, first, end = in_a_sentence(mangled, number)
        slips = [s for s in spelling.slips(text) if s.first < end and s.end > first]
        caught += bool(slips)
        for slip in slips:
            said += 1
            inside = first <= slip.first and slip.end <= end
            right += inside and any(f" {slip.right} " in f" {n} " for n in names[name])
    return caught / len(pairs), right / max(said, 1)
