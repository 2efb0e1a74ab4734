"""Edits of what holds for the whole breakdown: title, house style, wished length, naming, strips, narrators."""

from __future__ import annotations

from fractions import Fraction
from typing import Any

from msgspec.structs import replace

from chapto.document.breakdown import Breakdown, DocumentError, by_id, new_id
from chapto.document.people import Narrator, SpokenOf


def set_title(b: Breakdown, title: str) -> Breakdown:
    """With another title; an empty one is refused."""
    if not title.strip():
        raise DocumentError("A breakdown needs a title.")
    return replace(b, title=title.strip())


def set_about(b: Breakdown, text: str) -> Breakdown:
    """With other words of the creator's own under the video."""
    return replace(b, about=text.strip())


def add_about(b: Breakdown, text: str) -> Breakdown:
    """With one more line under the video."""
    return set_about(b, f"{b.about}\n{text.strip()}")


def set_style(b: Breakdown, style: str) -> Breakdown:
    """With another house style."""
    return replace(b, style=style)


def set_target(b: Breakdown, seconds: int, *, limit: bool = False) -> Breakdown:
    """With a wished length in whole seconds, 0 for none; as a `limit` it must not be passed."""
    return replace(b, target=Fraction(seconds), target_is_limit=limit and seconds > 0)


def set_loudness(b: Breakdown, lufs: int) -> Breakdown:
    """With another loudness of the finished programme."""
    return replace(b, format=replace(b.format, loudness=lufs))


def set_shown(b: Breakdown, **shown: bool) -> Breakdown:
    """With `control_strip`, `score_strip` or `cautions` painted into the video, or not."""
    return replace(b, **shown)


def speak_of(b: Breakdown, spoken_of: SpokenOf) -> Breakdown:
    """With the two spoken of in another way in what is drafted from now on."""
    return change_naming(b, spoken_of=spoken_of)


def change_naming(b: Breakdown, **changes: Any) -> Breakdown:
    """With techniques named in another way."""
    return replace(b, naming=replace(b.naming, **changes))


def add_narrator(b: Breakdown, name: str) -> Breakdown:
    """With one more voice at the typical pace, spoken by another guide voice than the first."""
    if not name.strip():
        raise DocumentError("A narrator needs a name.")
    made = Narrator(id=new_id(b, "n"), name=name.strip(), guide_voice="en+f3" if len(b.narrators) % 2 else "en")
    return replace(b, narrators=(*b.narrators, made))


def change_narrator(b: Breakdown, narrator: str, **changes: Any) -> Breakdown:
    """With fields of one narrator changed."""
    by_id(b.narrators, narrator, "narrator")
    return replace(b, narrators=tuple(replace(n, **changes) if n.id == narrator else n for n in b.narrators))


def remove_narrator(b: Breakdown, narrator: str) -> Breakdown:
    """Without a narrator; the first one left says what that one would have said. The last one stays."""
    by_id(b.narrators, narrator, "narrator")
    if len(b.narrators) == 1:
        raise DocumentError("A breakdown needs at least one narrator.")
    script = tuple(
        replace(s, beats=tuple(replace(x, narrator="") if x.narrator == narrator else x for x in s.beats))
        for s in b.script
    )
    return replace(b, narrators=tuple(n for n in b.narrators if n.id != narrator), script=script)
