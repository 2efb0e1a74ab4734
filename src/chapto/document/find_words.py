"""Finding and replacing in the words of a script."""

from __future__ import annotations

from dataclasses import dataclass

from chapto.document.breakdown import Breakdown
from chapto.document.edit_script import rewrite


@dataclass(frozen=True, slots=True)
class Found:
    """Letters `start … end` (half-open) of a beat's text."""

    beat: str
    start: int
    end: int


def find_words(b: Breakdown, wanted: str) -> tuple[Found, ...]:
    """Every place of the script where `wanted` stands, in order, whatever its capitals; no two overlap."""
    found: list[Found] = []
    if wanted:
        for _, beat in b.beats():
            # Folding may change the length of a text; letters are compared one by one instead.
            text, at = beat.text, 0
            while at <= len(text) - len(wanted):
                if text[at : at + len(wanted)].casefold() == wanted.casefold():
                    found.append(Found(beat.id, at, at + len(wanted)))
                    at += len(wanted)
                else:
                    at += 1
    return tuple(found)


def replace_found(b: Breakdown, found: tuple[Found, ...], by: str) -> Breakdown:
    """With `by` at places that were found; ties stay on the words that are still there."""
    for beat in dict.fromkeys(x.beat for x in found):
        text = b.find_beat(beat)[1].text
        for x in sorted((x for x in found if x.beat == beat), key=lambda x: -x.start):
            text = text[: x.start] + by + text[x.end :]
        b = rewrite(b, beat, text)
    return b
