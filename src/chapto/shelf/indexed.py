"""What the shelf knows of one breakdown, worked out from its document alone."""

from __future__ import annotations

from dataclasses import dataclass

from chapto.review.checks.promises import settled_key


@dataclass(frozen=True, kw_only=True)
class Place:
    """Something that can be found and shown: an exchange, or a section that is told over none (`key` is its id).

    `start` and `end` are mat seconds, `media_in` and `media_out` seconds of `footage` (by id), which shows it; both 0
    where nothing was filmed. `technique` is an id of the lexicon, or empty, and `called` how it was written. `who`
    began it, `against` whom, by name. `before` and `after` are positions as in `viewed`, `way` all from one to the
    other. `moments` are kinds with seconds after the start. So many sections have `explained` it. The answer is the
    first moment that can be one: its kind, and seconds after the start. `same` is by what it is known again in another
    breakdown: the same second of the same file.
    """

    key: str
    is_exchange: bool
    start: float
    end: float
    footage: str = ""
    media_in: float = 0.0
    media_out: float = 0.0
    technique: str = ""
    called: str = ""
    who: str = ""
    against: str = ""
    outcome: str = ""
    before: str = ""
    after: str = ""
    way: tuple[str, ...] = ()
    moments: tuple[tuple[str, float], ...] = ()
    explained: int = 0
    answer: str = ""
    answer_after: float | None = None
    round: str = ""
    names: str = ""
    said: str = ""
    noted: str = ""
    same: str = ""

    @property
    def seconds(self) -> float:
        """How long it lasts."""
        return self.end - self.start


@dataclass(frozen=True, kw_only=True)
class Stay:
    """A stretch in one position (by id): seconds, who was on top by name, and whether it was explained. `same` as in
    `Place`."""

    position: str
    start: float
    seconds: float
    top: str
    explained: bool
    same: str = ""


@dataclass(frozen=True, kw_only=True)
class Step:
    """A change from a position to another one at a mat second, in the exchange `key` if in one, which ended so."""

    start: str
    end: str
    at: float
    key: str
    outcome: str
    explained: bool
    same: str = ""


@dataclass(frozen=True, kw_only=True)
class File:
    """A file of footage: its id, the path as the breakdown has it, and its fingerprint."""

    id: str
    name: str
    path: str
    fingerprint: str
    mirrored: bool


@dataclass(frozen=True, kw_only=True)
class Seen:
    """Somebody who can be seen, and how far asking them has come. `until` is till when what they are seen in may be
    used, as it was written."""

    name: str
    part: str
    agreement: str
    how: str
    when: str
    minor: bool | None
    credit: str = ""
    until: str = ""
    is_owner: bool = False


@dataclass(frozen=True, kw_only=True)
class Out:
    """That it went out: UTC as ISO 8601, to which site, under which address and title."""

    at: str
    site: str
    address: str
    title: str
    goes_public: str
    withdrawn: str


@dataclass(frozen=True, kw_only=True)
class Promise:
    """What was promised: its kind, the words, the sentence they stand in, and where: word `word` of `beat`, which is
    empty for the words under the video. `place` is the key of the place it was said over."""

    kind: str
    quote: str
    sentence: str
    beat: str
    word: int
    place: str = ""

    @property
    def key(self) -> str:
        """By what it is known again in its breakdown, wherever its words have moved to."""
        return settled_key(self.beat, self.kind, self.quote)


@dataclass(frozen=True, kw_only=True)
class Indexed:
    """All of it."""

    title: str
    part: str
    first: str
    second: str
    rules: str
    style: str
    about: str
    sections: tuple[str, ...]
    marks: tuple[str, ...]
    files: tuple[File, ...]
    places: tuple[Place, ...]
    stays: tuple[Stay, ...]
    steps: tuple[Step, ...]
    people: tuple[Seen, ...]
    outs: tuple[Out, ...]
    promises: tuple[Promise, ...]
