"""Names of techniques and positions that were said in a talk: what the log could take from them."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from fractions import Fraction
from functools import lru_cache

from chapto.document import edit_log
from chapto.document.breakdown import Breakdown
from chapto.document.edit_positions import position_at, position_from
from chapto.document.script import Beat, words_of
from chapto.document.talks import Talk
from chapto.document.treatments import GoTo
from chapto.lexicon.lexicon import Lexicon, Named, Technique
from chapto.lexicon.named import Names

AROUND = 4
"""Words shown on each side of a name."""


@dataclass(frozen=True)
class NameSaid:
    """Words `first ≤ i < end` of a beat name `item`, which the log does not have there. They were said over mat second
    `at`, in an `exchange` (by id)."""

    item: Named
    beat: str
    first: int
    end: int
    at: Fraction
    exchange: str
    before: str
    after: str

    @property
    def is_technique(self) -> bool:
        """Whether it is something that somebody does, and not what the two are in."""
        return isinstance(self.item, Technique)


def names_said(b: Breakdown, talk: Talk, lexicon: Lexicon) -> tuple[NameSaid, ...]:
    """What was named in the sections of a talk, each technique once an exchange and each position once a place."""
    names = names_of(lexicon)
    found: list[NameSaid] = []
    seen: set[tuple[str, str]] = set()
    for section in (s for s in b.script if s.id in talk.sections):
        for beat in section.beats:
            words = words_of(beat.text)
            for n in names.within(words):
                at = mat_at_word(b, beat, n.first)
                if at is None or (section.exchange, n.item.id) in seen or _is_logged(b, n.item, section.exchange, at):
                    continue
                seen.add((section.exchange, n.item.id))
                before, after = words[max(n.first - AROUND, 0) : n.first], words[n.end : n.end + AROUND]
                found.append(
                    NameSaid(n.item, beat.id, n.first, n.end, at, section.exchange, " ".join(before), " ".join(after))
                )
    return tuple(found)


def take_names(b: Breakdown, said: Iterable[NameSaid]) -> Breakdown:
    """`b` with names in its log: a technique is that of an exchange which has none yet, else a label where it was said;
    a position holds from there on."""
    for name in said:
        if not name.is_technique:
            b = position_from(b, name.at, name.item.id, None)
        elif name.exchange and not b.exchange(name.exchange).technique:
            b = edit_log.change_exchange(b, name.exchange, technique=name.item.en)
        else:
            near = edit_log.moment_at(b, name.at)
            if near is None:
                b = edit_log.add_moment(b, name.at)
                near = edit_log.moment_at(b, name.at)
            assert near is not None
            b = edit_log.set_label(b, near.id, name.item.en)
    return b


@lru_cache(maxsize=2)
def names_of(lexicon: Lexicon) -> Names:
    """Looks for the names of a lexicon, made once."""
    return Names(lexicon)


def mat_at_word(b: Breakdown, beat: Beat, word: int) -> Fraction | None:
    """The mat second that a word is bound to: of the tie or lead at it, or the last one before it."""
    ties = [(t.word, b.moment(t.moment).at) for t in beat.ties if t.word <= word]
    leads = [(0, beat.treatment), *((t.word, t.treatment) for t in beat.turns)]
    ties += [(w, t.at) for w, t in leads if isinstance(t, GoTo) and w <= word]
    return max(ties, key=lambda tie: tie[0])[1] if ties else None


def _is_logged(b: Breakdown, item: Named, exchange: str, at: Fraction) -> bool:
    names = {n.casefold() for n in item.names()}
    if not isinstance(item, Technique):
        here = position_at(b, at)
        return here is not None and here.position == item.id
    logged = b.exchange(exchange).technique.casefold() if exchange else ""
    labelled = {label.text.casefold() for label in b.labels}
    return logged in names or bool(names & labelled)
