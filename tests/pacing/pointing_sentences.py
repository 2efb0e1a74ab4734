"""The sentences of `tests/talk/pointing.txt`, and how well their pointing words and moments are found."""

from __future__ import annotations

from fractions import Fraction
from pathlib import Path

from msgspec.structs import replace

from chapto.document.bout import Moment, MomentKind
from chapto.document.script import Beat, Section
from chapto.pacing.offers import section_offers
from chapto.pacing.pointing_words import pointing_words
from tests.document.samples import small

FILE = Path(__file__).parents[1] / "talk" / "pointing.txt"
K = MomentKind
LOGGED = (
    (K.POINT, ""), (K.FRAME, "far arm against the neck"), (K.GRIP, "sleeve"), (K.BASE, "one foot left"),
    (K.KNEE_LINE, ""), (K.HIPS, "low"), (K.SLIP, ""), (K.FINISH, "tap"),
)  # fmt: skip
"""What is logged in the exchange of each sentence, in order: a plain point first, which order alone would take."""


def sentences() -> list[tuple[str, set[int], str]]:
    """Each sentence, the numbers of its pointing words, and the kind of the moment it names (empty for none)."""
    found = []
    for line in FILE.read_text("utf-8").splitlines():
        marked, _, kind = line.rpartition("|")
        words = marked.split()
        found.append((" ".join(words).replace("*", ""), {i for i, w in enumerate(words) if "*" in w}, kind.strip()))
    return found


def found_and_right() -> tuple[float, float, float]:
    """Share of the pointing words that are found, of the found ones that are right, and of named moments offered."""
    hit = wanted = got = 0
    named: list[bool] = []
    for text, points, kind in sentences():
        found = set(pointing_words(text))
        hit, wanted, got = hit + len(found & points), wanted + len(points), got + len(found)
        if kind:
            named.append(_offered(text) == kind)
    return hit / wanted, hit / got, sum(named) / len(named)


def _offered(text: str) -> str:
    moments = tuple(Moment(id=f"m{i}", at=Fraction(11 + i), kind=k, note=n) for i, (k, n) in enumerate(LOGGED))
    section = Section(id="s1", exchange="x1", beats=(Beat(id="b1", text=text),))
    b = replace(small(), moments=moments, labels=(), script=(section,))
    first = next(iter(section_offers(b, section)), None)
    return first.moment.kind.value if first is not None and first.moment is not None else ""
