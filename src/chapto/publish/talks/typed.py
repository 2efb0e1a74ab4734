"""Phrases of a talk that were heard and not known, typed afterwards: the words lie where they were said."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from fractions import Fraction

from msgspec.structs import replace

from chapto.document.breakdown import Breakdown, DocumentError, by_id
from chapto.document.edit_script import rewrite
from chapto.document.script import words_of
from chapto.document.takes import WordEdge
from chapto.document.talks import OPEN, SaidWord, Talk


@dataclass(frozen=True)
class OpenPhrase:
    """Word `word` of a beat stands for something that was said from second `start` to `end` of a talk."""

    beat: str
    word: int
    start: Fraction
    end: Fraction


def open_phrases(b: Breakdown, talk: Talk) -> tuple[OpenPhrase, ...]:
    """What is still to be typed in the sections of a talk, in order."""
    edges = {(e.beat, e.word): e for t in b.takes if t.fingerprint == talk.fingerprint for e in t.edges}
    beats = (beat for s in b.script if s.id in talk.sections for beat in s.beats)
    return tuple(
        OpenPhrase(beat.id, i, edges[beat.id, i].start, edges[beat.id, i].end)
        for beat in beats
        for i, word in enumerate(words_of(beat.text))
        if word == OPEN and (beat.id, i) in edges
    )


def type_phrase(b: Breakdown, talk_id: str, phrase: OpenPhrase, text: str) -> Breakdown:
    """`b` with words in the place of an open phrase, each as long as its letters take of it: in the script, in the
    recording, and in what the talk itself says. `DocumentError` without words."""
    words = words_of(text)
    if not words:
        raise DocumentError("Type what is said there, or leave it open.")
    talk = by_id(b.talks, talk_id, "talk-through")
    own = [w for w in talk.said if w.text == OPEN and abs(w.start - phrase.start) <= Fraction(1, 500)]
    said = tuple(_laid(words, phrase.start, phrase.end, own[0].voice if own else 0))
    kept = tuple(x for w in talk.said for x in (said if w in own else (w,)))
    old = words_of(b.find_beat(phrase.beat)[1].text)
    made = rewrite(b, phrase.beat, " ".join((*old[: phrase.word], *words, *old[phrase.word + 1 :])))
    edges = tuple(
        WordEdge(beat=phrase.beat, word=phrase.word + i, start=w.start, end=w.end) for i, w in enumerate(said)
    )

    def with_edges(old: tuple[WordEdge, ...]) -> tuple[WordEdge, ...]:
        mine = {(e.beat, e.word) for e in edges}
        return (*(e for e in old if (e.beat, e.word) not in mine), *edges)

    section = made.find_beat(phrase.beat)[0].id
    takes = tuple(
        replace(t, edges=with_edges(t.edges)) if t.subject == section and t.fingerprint == talk.fingerprint else t
        for t in made.takes
    )
    talks = tuple(replace(t, said=kept) if t.id == talk_id else t for t in made.talks)
    return replace(made, takes=takes, talks=talks)


def _laid(words: tuple[str, ...], start: Fraction, end: Fraction, voice: int) -> Iterator[SaidWord]:
    weights = [len(w) + 1 for w in words]
    at = start
    for word, weight in zip(words, weights, strict=True):
        until = at + (end - start) * weight / sum(weights)
        yield SaidWord(text=word, start=at, end=until, voice=voice)
        at = until
