"""Understanding a line: techniques in any school or spelling, positions before and after, people, outcomes, kinds of
moment, dates and lengths. What it does not know is a word to be found."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from datetime import date

from rapidfuzz import fuzz

from chapto.document.bout import MomentKind, Outcome
from chapto.lexicon.find import Finder
from chapto.lexicon.lexicon import Lexicon, Named, Position
from chapto.lexicon.likeness import words as plain_words
from chapto.shelf.dates_said import dates_at
from chapto.shelf.query import Asks, Filter, Query
from chapto.shelf.viewed import ABOVE, BELOW

OUTCOMES = {
    Outcome.LANDED: ("landed", "lands", "worked", "works", "successful", "finished"),
    Outcome.STOPPED: ("stopped", "failed", "defended", "blocked", "countered", "missed"),
    Outcome.HALF: ("half landed", "partly", "nearly"),
}
SAID = {Outcome.LANDED: "landed", Outcome.STOPPED: "stopped", Outcome.HALF: "half landed"}
KINDS = {
    MomentKind.GRIP: ("grip", "grips"),
    MomentKind.FRAME: ("frame", "frames"),
    MomentKind.HIPS: ("hips", "hip"),
    MomentKind.KNEE_LINE: ("knee line",),
    MomentKind.BASE: ("base", "post"),
    MomentKind.SLIP: ("slip", "mistake", "mistakes", "slips"),
    MomentKind.FINISH: ("finish", "submission", "tap"),
}
COMES_FROM, LEADS_TO = ("after", "from", "out of"), ("into", "to", "leading to", "ending in")
LESS = ("under", "shorter than", "less than", "at most", "below")
MORE = ("over", "longer than", "more than", "at least")
UNITS = {"s": 1.0, "sec": 1.0, "secs": 1.0, "second": 1.0, "seconds": 1.0, "min": 60.0, "minute": 60.0, "minutes": 60.0}
UPPER, LOWER = ("top", "above"), ("bottom", "below", "underneath")
SMALL = frozenset(
    (
        *(
            "a",
            "an",
            "the",
            "of",
            "with",
            "and",
            "or",
            "in",
            "on",
            "at",
            "is",
            "was",
            "where",
            "when",
            "it",
            "he",
            "she",
        ),
        *("they", "show", "find", "me", "all", "any", "every", "exchange", "exchanges", "try", "tries", "attempt"),
        *("attempts", "by", "against", "for", "his", "her", "their"),
    )
)
"""Words that say nothing about what is looked for."""
LIKE = 84
"""How like a name has to be (0…100) to be taken for a person's."""


class Asking:
    """Made once for a lexicon; `people` are the names that are known."""

    def __init__(self, lexicon: Lexicon, people: Iterable[str] = ()) -> None:
        self._lexicon = lexicon
        self._names: dict[tuple[str, ...], Named] = {}
        for item in (*lexicon.techniques.values(), *lexicon.positions.values()):
            for name in item.names():
                self._names.setdefault(plain_words(name), item)
        self._longest = max(map(len, self._names), default=1)
        self._finder = Finder((*lexicon.techniques.values(), *lexicon.positions.values()))
        self.knows(people)

    def knows(self, people: Iterable[str]) -> None:
        """The people who are on the shelf now."""
        self._people = tuple(dict.fromkeys(p for p in people if p))

    def understood(self, line: str, today: date) -> Query:
        """What a line asks for."""
        words = tuple(w for part in line.replace("–", "-").split() for w in _pieces(part))
        reading = _Line(words)
        while reading.at < len(words):
            self._next(reading, today)
        self._by_likeness(reading)
        return Query(tuple(dict.fromkeys(reading.filters)), tuple(w for w in reading.left() if w not in SMALL))

    def _next(self, r: _Line, today: date) -> None:
        used, found = dates_at(r.words, r.at, today)
        if found and not (r.words[r.at] in ("after", "from") and self._position(r, r.at + 1)):
            r.take(used, *found)
        elif not (
            self._length(r)
            or self._state(r)
            or self._outcome(r)
            or self._side(r)
            or self._name(r)
            or self._kind(r)
            or self._person(r)
        ):
            r.leave()

    def _length(self, r: _Line) -> bool:
        for phrases, asks, said in ((LESS, Asks.SHORTER, "under"), (MORE, Asks.LONGER, "over")):
            used = r.phrase(phrases)
            if not used:
                continue
            number, unit = r.word(used), r.word(used + 1)
            digits = number.rstrip("smin")
            if digits.replace(".", "", 1).isdigit():
                glued = number[len(digits) :]
                by = UNITS.get(glued or unit, 1.0)
                seconds = float(digits) * by
                r.take(
                    used + (1 if glued or unit not in UNITS else 2),
                    Filter(asks, f"{seconds:g}", f"{said} {seconds:g} s"),
                )
                return True
        return False

    def _state(self, r: _Line) -> bool:
        if used := r.phrase(("never explained", "not explained", "unexplained")):
            r.take(used, Filter(Asks.EXPLAINED, "", "never explained"))
            return True
        if used := r.phrase(("explained",)):
            r.take(used, Filter(Asks.EXPLAINED, "yes", "explained"))
            return True
        return False

    def _outcome(self, r: _Line) -> bool:
        for outcome, said in OUTCOMES.items():
            if used := r.phrase(said):
                found = [Filter(Asks.OUTCOME, outcome.value, SAID[outcome])]
                gap = 1 + (r.word(used + 1) in ("a", "the")) if r.word(used) in ("by", "with") else 0
                kind = _kind_at(r, used + gap) if gap else None
                if kind is not None:
                    found.append(Filter(Asks.ANSWER, kind[1].value, f"answered by {kind[1].value}"))
                    used += gap + kind[0]
                r.take(used, *found)
                return True
        return False

    def _side(self, r: _Line) -> bool:
        """“after half guard”, “into mount”, “by Moss”, “against Moss”."""
        ways: tuple[tuple[Sequence[str], Asks, str], ...] = (
            (COMES_FROM, Asks.BEFORE, "from"),
            (LEADS_TO, Asks.AFTER, "into"),
        )
        for phrases, asks, said in ways:
            used = r.phrase(phrases)
            if used and (found := self._position(r, r.at + used)):
                count, position, part = found
                label = f"{said} {position.en.lower()}{ {ABOVE: ', on top', BELOW: ', below'}.get(part, '') }"
                r.take(used + count, Filter(asks, position.id + part, label))
                return True
        sides: tuple[tuple[Sequence[str], Asks, str], ...] = (
            (("by",), Asks.BY, "by"),
            (("against", "on"), Asks.AGAINST, "against"),
        )
        for phrases, asks, said in sides:
            used = r.phrase(phrases)
            if used and (who := self._person_at(r, r.at + used)):
                r.take(used + who[0], Filter(asks, who[1], f"{said} {who[1]}"))
                return True
        return False

    def _position(self, r: _Line, at: int) -> tuple[int, Position, str] | None:
        part, first = "", at
        if r.absolute(at) in (*UPPER, *LOWER):
            part, first = ABOVE if r.absolute(at) in UPPER else BELOW, at + 1
        found = self._named(r, first)
        if found is None or not isinstance(found[1], Position):
            return None
        end = first + found[0]
        if not part and r.absolute(end) in (*UPPER, *LOWER):
            part, end = ABOVE if r.absolute(end) in UPPER else BELOW, end + 1
        return end - at, found[1], part

    def _name(self, r: _Line) -> bool:
        found = self._named(r, r.at)
        if found is None:
            return False
        count, item = found
        is_position = item.id in self._lexicon.positions and self._lexicon.positions[item.id] is item
        asks = Asks.POSITION if is_position else Asks.TECHNIQUE
        r.take(count, Filter(asks, item.id, item.en))
        return True

    def _named(self, r: _Line, at: int) -> tuple[int, Named] | None:
        for count in range(min(self._longest, len(r.words) - at), 0, -1):
            name = plain_words(" ".join(r.words[at : at + count]))
            if name in self._names and " ".join(name) not in _ALL_KINDS:
                return count, self._names[name]
        return None

    def _kind(self, r: _Line) -> bool:
        found = _kind_at(r, 0)
        if found is None:
            return False
        r.take(found[0], Filter(Asks.MOMENT, found[1].value, f"with {found[1].value}"))
        return True

    def _person(self, r: _Line) -> bool:
        found = self._person_at(r, r.at)
        if found is None:
            return False
        r.take(found[0], Filter(Asks.PERSON, found[1], found[1]))
        return True

    def _person_at(self, r: _Line, at: int) -> tuple[int, str] | None:
        if at >= len(r.words):
            return None
        for name in self._people:
            parts = [" ".join(plain_words(p)) for p in name.split()]
            said = [" ".join(plain_words(w)) for w in r.words[at : at + len(parts)]]
            if said == parts:
                return len(parts), name
        word = " ".join(plain_words(r.words[at]))
        for name in self._people:
            if word and word in [" ".join(plain_words(p)) for p in name.split()]:
                return 1, name
        return None

    def _by_likeness(self, r: _Line) -> None:
        """What was left of the line may be a name spelled otherwise."""
        for first, end in r.runs():
            for count in range(min(end - first, 4), 0, -1):
                for at in range(first, end - count + 1):
                    if r.is_free(at, count) and not set(r.words[at : at + count]) <= SMALL:
                        self._like(r, at, count)

    def _like(self, r: _Line, at: int, count: int) -> None:
        text = " ".join(r.words[at : at + count])
        if len(text) < 5 or r.words[at] in SMALL or r.words[at + count - 1] in SMALL:
            return
        item = self._finder.sure(text)
        if item is not None:
            is_position = self._lexicon.positions.get(item.id) is item
            r.use(at, count, Filter(Asks.POSITION if is_position else Asks.TECHNIQUE, item.id, item.en))
            return
        for name in self._people:
            if count == len(name.split()) and fuzz.ratio(text, name.casefold()) >= LIKE:
                r.use(at, count, Filter(Asks.PERSON, name, name))
                return
            if count == 1 and any(len(p) > 3 and fuzz.ratio(text, p.casefold()) >= LIKE for p in name.split()):
                r.use(at, count, Filter(Asks.PERSON, name, name))
                return


class _Line:
    """The words of a line, read from left to right, and what was made of them."""

    def __init__(self, words: Sequence[str]) -> None:
        self.words, self.at = words, 0
        self.filters: list[Filter] = []
        self._free = [False] * len(words)

    def word(self, ahead: int = 0) -> str:
        """The word so many ahead; empty behind the last."""
        return self.absolute(self.at + ahead)

    def absolute(self, at: int) -> str:
        """Word number `at`; empty behind the last."""
        return self.words[at] if at < len(self.words) else ""

    def phrase(self, wanted: Sequence[str], ahead: int = 0) -> int:
        """How many words one of some phrases takes here; 0 where none of them stands."""
        for phrase in wanted:
            parts = phrase.split()
            at = self.at + ahead
            if tuple(self.words[at : at + len(parts)]) == tuple(parts):
                return len(parts)
        return 0

    def take(self, count: int, *found: Filter) -> None:
        """The next words ask for this."""
        self.filters += found
        self.at += count

    def leave(self) -> None:
        """The next word is none that is known."""
        self._free[self.at] = True
        self.at += 1

    def use(self, at: int, count: int, found: Filter) -> None:
        """Words that were left ask for this after all."""
        self.filters.append(found)
        self._free[at : at + count] = [False] * count

    def is_free(self, at: int, count: int) -> bool:
        """Whether all of some words were left."""
        return all(self._free[at : at + count])

    def runs(self) -> list[tuple[int, int]]:
        """Half-open stretches of words that were left."""
        found, first = [], None
        for i, free in enumerate([*self._free, False]):
            if free and first is None:
                first = i
            elif not free and first is not None:
                found.append((first, i))
                first = None
        return found

    def left(self) -> tuple[str, ...]:
        """The words that were left."""
        return tuple(w for w, free in zip(self.words, self._free, strict=True) if free)


_ALL_KINDS = frozenset(w for names in KINDS.values() for w in names)


def _kind_at(r: _Line, ahead: int) -> tuple[int, MomentKind] | None:
    for kind, names in KINDS.items():
        if used := r.phrase(names, ahead):
            return used, kind
    return None


def _pieces(part: str) -> tuple[str, ...]:
    """A part of the line in small letters, without the marks round it; hyphens of names part it, those of dates do
    not."""
    bare = part.casefold().strip("\"'“”‘’.,;:!?…()")
    if bare[:1].isdigit():
        return (bare,)
    return tuple(w for w in bare.replace("’", "'").split("-") if w)
