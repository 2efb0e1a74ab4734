"""Made talk-throughs whose intention is known: what was meant under each phrase, and how clumsily it was done."""

from __future__ import annotations

from dataclasses import dataclass, field
from fractions import Fraction

import numpy as np
from msgspec.structs import replace

from chapto.document.talks import Act, Acted, Done, Moved, SaidWord

WORDS = (
    "then", "she", "takes", "the", "grip", "and", "brings", "her", "knee", "across", "while", "he", "looks", "for",
    "far", "frame", "under", "it",
)  # fmt: skip


@dataclass
class Session:
    """What was done and said, and for each phrase that was meant its words (by number of `said`), the mat second under
    its first word, and whether that picture runs."""

    moved: list[Moved] = field(default_factory=list)
    said: list[SaidWord] = field(default_factory=list)
    acts: list[Acted] = field(default_factory=list)
    phrases: list[tuple[tuple[int, ...], float, float]] = field(default_factory=list)
    hunted: list[float] = field(default_factory=list)
    seconds: float = 0.0

    @property
    def done(self) -> Done:
        return Done(picture=tuple(self.moved), acts=tuple(self.acts))


class Maker:
    """Lays one thing after another: `now` is the second of the take, `mat` what the picture shows."""

    def __init__(self, seed: int) -> None:
        self.chance = np.random.default_rng(seed)
        self.s, self.now, self.mat, self.rate = Session(), 0.0, 20.0, 0.0
        self.move(20.0, 0.0)

    def move(self, mat: float, rate: float) -> None:
        self.mat, self.rate = mat, rate
        self.s.moved.append(
            Moved(at=_f(self.now), mat=_f(mat), rate=_f(rate or 1.0), playing=rate > 0)
        )  # fmt: skip

    def wait(self, seconds: float) -> None:
        self.now += seconds
        self.mat += self.rate * seconds

    def word(self, text: str) -> int:
        lasts = float(self.chance.uniform(0.14, 0.34))
        self.s.said.append(SaidWord(text=text, start=_f(self.now), end=_f(self.now + lasts)))
        self.wait(lasts)
        return len(self.s.said) - 1

    def phrase(self, meant: float | None = None) -> None:
        """Some words; `meant` is the picture they are about where it is not the one on the screen."""
        at, rate = self.mat if meant is None else meant, self.rate
        numbers = []
        for _ in range(int(self.chance.integers(3, 9))):
            numbers.append(self.word(str(self.chance.choice(WORDS))))
            self.wait(float(self.chance.uniform(0.0, 0.05)))
        self.s.phrases.append((tuple(numbers), at, rate))

    def silence(self, low: float = 0.35, high: float = 0.6) -> None:
        self.wait(float(self.chance.uniform(low, high)))

    # ── what people do ───────────────────────────────────────────────────────────────────────────────────
    def run(self, rate: float) -> None:
        self.move(self.mat, rate)
        self.silence(0.2, 0.4)
        for _ in range(int(self.chance.integers(1, 5))):
            self.phrase()
            self.silence()

    def stand(self) -> None:
        self.move(self.mat, 0.0)
        if self.chance.random() < 0.3:
            # Stopped too late, and put right by some steps.
            for _ in range(int(self.chance.integers(2, 8))):
                self.wait(float(self.chance.uniform(0.08, 0.2)))
                self.move(self.mat - 1 / 30, 0.0)
        self.silence(0.15, 0.4)
        for _ in range(int(self.chance.integers(1, 4))):
            self.phrase()
            self.silence()

    def go(self, to: float, rate: float) -> None:
        """Look for a place, perhaps while the first words about it are said already, and go on from there."""
        hunts = int(self.chance.choice([0, 0, 1, 3]))
        for _ in range(hunts):
            wrong = max(to + float(self.chance.uniform(-9, 9)), 0.0)
            if abs(wrong - to) < 1:
                continue
            self.move(wrong, 0.0)
            self.s.hunted.append(wrong)
            self.wait(float(self.chance.uniform(0.2, 1.5)))
        if self.chance.random() < 0.25:
            # The words begin before the place is found.
            numbers = [self.word(str(self.chance.choice(WORDS))) for _ in range(2)]
            self.move(to, rate)
            numbers += [self.word(str(self.chance.choice(WORDS))) for _ in range(4)]
            self.s.phrases.append((tuple(numbers), to, 0.0))
        else:
            self.move(to, rate)
            self.silence(0.1, 0.3)
            self.phrase()
        self.silence()

    def stumble(self) -> None:
        """A beginning that is made twice, a filler, a sentence that is taken back."""
        kind = int(self.chance.integers(0, 3))
        if kind == 0:
            self.word("um")
            self.silence(0.3, 0.5)
        elif kind == 1:
            begun = [str(w) for w in self.chance.choice(WORDS, 2, replace=False)]
            for word in begun:
                self.word(word)
            self.silence(0.3, 0.6)
            at, rate = self.mat, self.rate
            numbers = tuple(self.word(w) for w in (*begun, "across", "there"))
            self.s.phrases.append((numbers, at, rate))
            self.silence(0.9, 1.2)
        else:
            self.silence(0.9, 1.2)
            for word in ("no", "the", "other", "way", "round"):
                self.word(word)
            self.silence(0.2, 0.4)
            self.s.acts.append(Acted(at=_f(self.now), act=Act.WRONG))
            self.silence(0.9, 1.2)


def session(seed: int) -> Session:
    """A talk of about a minute and a half."""
    m = Maker(seed)
    m.silence(0.8, 2.5)
    m.phrase()
    m.silence()
    for _ in range(int(m.chance.integers(8, 14))):
        kind = int(m.chance.integers(0, 7))
        if kind == 0:
            m.run(1.0)
        elif kind == 1:
            m.run(float(m.chance.choice([0.25, 0.5])))
        elif kind == 2:
            m.stand()
        elif kind == 3:
            m.go(max(m.mat - float(m.chance.uniform(2, 7)), 1.0), float(m.chance.choice([0.0, 0.5, 1.0])))
        elif kind == 4:
            m.go(m.mat + float(m.chance.uniform(3, 12)), float(m.chance.choice([0.0, 1.0])))
        elif kind == 5:
            m.silence(2.0, 5.0)
        else:
            m.stumble()
    m.move(m.mat, 0.0)
    m.silence(0.5, 1.5)
    m.s.seconds = m.now
    return m.s


def shaken(s: Session, seed: int, most: float) -> Done:
    """What was done, each move up to `most` seconds earlier or later than it was meant."""
    off = np.random.default_rng(1000 + seed).uniform(-most, most, len(s.moved))
    off[0] = 0.0
    times = np.maximum.accumulate([max(float(m.at) + o, 0.0) for m, o in zip(s.moved, off, strict=True)])
    moved = (replace(m, at=_f(at)) for m, at in zip(s.moved, times, strict=True))
    return Done(picture=tuple(moved), acts=tuple(s.acts))


def _f(seconds: float) -> Fraction:
    return Fraction(round(seconds * 1000), 1000)
