"""One technique under two names, and one person's name spelled in two ways."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator
from functools import lru_cache

from rapidfuzz.distance import OSA

from chapto.document.script import MARKS
from chapto.lexicon.lexicon import Technique
from chapto.lexicon.likeness import words as likeness_words
from chapto.lexicon.ordinary import is_ordinary
from chapto.review.finding import Finding, Weight, Where
from chapto.review.mends import write_instead
from chapto.review.reviewed import Reviewed
from chapto.review.texts import names_in, read


def techniques(r: Reviewed) -> Iterator[Finding]:
    """Another name than before for the same technique, where no line gave both."""
    lexicon = r.lexicon
    first: dict[str, str] = {}
    told: defaultdict[str, set[str]] = defaultdict(set)
    for _, beat in r.b.read_beats():
        text = read(beat.text)
        here = [n for n in names_in(lexicon, beat.text) if isinstance(n.item, Technique)]
        forms = {n: _form(text.quote(n.first, n.end)) for n in here}
        for n in here:
            both = {forms[o] for o in here if o.item.id == n.item.id}
            told[n.item.id] |= both if len(both) > 1 else set()
            name = first.setdefault(n.item.id, text.quote(n.first, n.end))
            if forms[n] == _form(name) or {forms[n], _form(name)} <= told[n.item.id] or _part_of(forms[n], name):
                continue
            quote = text.quote(n.first, n.end)
            sentence = f"“{quote}” is what you called “{name}” before, and nobody was told that it is the same."
            where = Where(r.said_at(beat.id, n.first), beat.id, n.first)
            mend = write_instead(beat.id, n.first, n.end, name)
            yield Finding(Weight.SHOULD, sentence, where, quote, mend=mend)


def people(r: Reviewed) -> Iterator[Finding]:
    """Words with a capital that are nearly the name of somebody, and no word of English."""
    b = r.b
    whole = [b.first.name, b.second.name, *(n.name for n in b.narrators), *(p.name for p in b.people)]
    names = {w for name in whole for w in likeness_words(name) if len(w) > 3}
    spelled = {w: part for name in whole for part in name.split() for w in likeness_words(part)}
    for _, beat in b.read_beats():
        text = read(beat.text)
        for i, said in _unknown(beat.text):
            if said in names:
                continue
            near = next((n for n in names if OSA.distance(said, n) == 1 or _doubled(said, n)), None)
            if near is None:
                continue
            right = spelled[near]
            whose = f"{right}’s" if text.plain[i].endswith("'s") else right
            sentence = f"“{text.quote(i, i + 1)}” is nearly “{right}”: one of the two is spelled wrong."
            where = Where(r.said_at(beat.id, i), beat.id, i)
            mend = write_instead(beat.id, i, i + 1, whose)
            yield Finding(Weight.MUST, sentence, where, text.quote(i, i + 1), mend=mend)


@lru_cache(maxsize=8192)
def _unknown(text: str) -> tuple[tuple[int, str], ...]:
    """Words of a text with a capital that are no English, in small plain letters, by their numbers."""
    found = []
    for i, (word, plain) in enumerate(zip(read(text).words, read(text).plain, strict=True)):
        if word.strip(MARKS)[:1].isupper() and len(plain) > 3 and not is_ordinary(plain.removesuffix("'s")):
            found.append((i, "".join(likeness_words(plain.removesuffix("'s")))))
    return tuple(found)


def _form(name: str) -> str:
    """A name without what is only another way of writing it."""
    joined = "".join(likeness_words(name))
    return joined.removesuffix("s")


def _part_of(form: str, name: str) -> bool:
    """“The slide” for “the knee slide” is no other name."""
    return form in _form(name) or _form(name) in form


def _doubled(a: str, b: str) -> bool:
    """Whether two differ by doubled letters only."""

    def single(word: str) -> str:
        return "".join(c for i, c in enumerate(word) if i == 0 or c != word[i - 1])

    return a != b and single(a) == single(b)
