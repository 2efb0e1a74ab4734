"""What the two are called in a draft: by name, by the colour of the kit, or as "I" and "my partner"."""

from __future__ import annotations

import re
from dataclasses import dataclass
from fractions import Fraction

from chapto.document.breakdown import Breakdown
from chapto.document.people import Athlete, Side, SpokenOf

_IRREGULAR = {"has": "have", "is": "am", "does": "do", "goes": "go", "was": "was"}
ME = {SpokenOf.FIRST_IS_ME: Side.FIRST, SpokenOf.SECOND_IS_ME: Side.SECOND}


@dataclass(frozen=True)
class Called:
    """How one of the two is spoken of: as a subject, as an object, whose things are, and in full."""

    subject: str
    me: str
    my: str
    whole: str
    is_me: bool = False

    def verb(self, third: str) -> str:
        """A verb given for somebody else, for this one."""
        return first_person(third) if self.is_me else third


def first_person(third: str) -> str:
    """“Goes” as “go”, “tries” as “try”, “reaches” as “reach”."""
    if third in _IRREGULAR:
        return _IRREGULAR[third]
    if third.endswith("ies") and len(third) > 4:
        return third[:-3] + "y"
    if third.endswith(("ches", "shes", "sses", "xes", "zes")):
        return third[:-2]
    return third.removesuffix("s")


def other(side: Side) -> Side:
    """The other one."""
    return Side.SECOND if side is Side.FIRST else Side.FIRST


def called(b: Breakdown, side: Side, mat: Fraction | None = None) -> Called:
    """How `side` is spoken of at a mat time, as the breakdown wants it. Kits without a name leave the athlete's."""
    athlete = b.athlete(side, mat)
    spoken = b.naming.spoken_of
    if spoken in ME:
        kit = f" in {athlete.kit}" if athlete.kit else ""
        if ME[spoken] is side:
            return Called("I", "me", "my", f"Me{kit}", is_me=True)
        return Called("my partner", "my partner", "my partner's", f"my partner{kit}")
    kit = f"{athlete.name} in {athlete.kit}" if athlete.kit else athlete.name
    name = _short(b, side, athlete, mat) if spoken is SpokenOf.NAMES or not athlete.kit else _colour(athlete)
    return Called(name, name, f"{name}'s", kit)


def noted(b: Breakdown, note: str, mat: Fraction) -> str:
    """A note with both spoken of as the draft does; without a capital and a stop of its own."""
    text = " ".join(note.split()).rstrip(".!…")
    for side in Side:
        who, athlete = called(b, side, mat), b.athlete(side, mat)
        for name in sorted({athlete.name, *athlete.name.split()[:1]}, key=len, reverse=True):
            text = _with_name(text, re.escape(name), who)
    if b.naming.spoken_of in ME:
        text = _with_my_pronouns(text, _pronouns(b).get(ME[b.naming.spoken_of], ""))
    subjects = tuple(called(b, side, mat).subject for side in Side)
    keeps = text.startswith(subjects) or text.split(" ")[0].isupper()
    return text if keeps else text[:1].lower() + text[1:]


def _with_name(text: str, name: str, who: Called) -> str:
    """With a name as it is spoken of: possessive, subject of a verb, or object."""
    text = re.sub(rf"\b{name}(?:'s|’s)\b", who.my, text)

    def begins(m: re.Match[str]) -> str:
        acts = m[1].endswith("s") and m[1] not in ("across", "towards", "as", "his", "its")
        return f"{who.subject} {who.verb(m[1])}" if acts else f"{who.me} {m[1]}"

    text = re.sub(rf"^{name} (\w+)\b", begins, text)
    return re.sub(rf"\b{name}\b", who.me, text)


_PRONOUNS = {"she": ("she", "her", "hers"), "he": ("he", "him", "his")}


def _pronouns(b: Breakdown) -> dict[Side, str]:
    """Which pronoun the notes have for each of the two ("she", "he"), where that can be told: from notes that name one
    of them and use one."""
    votes = {side: dict.fromkeys(_PRONOUNS, 0) for side in Side}
    for m in b.moments:
        words = {w.strip(".,;:!?'’") for w in m.note.casefold().replace("’s", " ").replace("'s", " ").split()}
        named = [side for side in Side if b.athlete(side, m.at).name.split()[0].casefold() in words]
        used = [p for p, forms in _PRONOUNS.items() if words & set(forms)]
        if len(named) == 1 and len(used) == 1:
            votes[named[0]][used[0]] += 1
    found = {side: max(v, key=lambda p: v[p]) for side, v in votes.items() if len(set(v.values())) > 1}
    for side in Side:
        if side not in found and other(side) in found:
            # The notes use two pronouns, and one of them is taken.
            found[side] = next(p for p in _PRONOUNS if p != found[other(side)])
    return found if len(set(found.values())) == len(found) else {}


def _with_my_pronouns(text: str, pronoun: str) -> str:
    """With the pronouns of whoever talks in the first person; those of the other one stay."""
    if not pronoun:
        return text
    subject, thing, _ = _PRONOUNS[pronoun]
    mine = "his" if pronoun == "he" else "her"
    text = re.sub(rf"\b{subject} (\w+)\b", lambda m: f"I {first_person(m[1])}", text, flags=re.IGNORECASE)
    text = re.sub(rf"\b{mine} (?=\w)", "my ", text, flags=re.IGNORECASE)
    return re.sub(rf"\b{thing}\b", "me", text, flags=re.IGNORECASE)


def _short(b: Breakdown, side: Side, athlete: Athlete, mat: Fraction | None) -> str:
    """The first name, or the whole one where both begin alike."""
    first = athlete.name.split()[0] if athlete.name.split() else athlete.name
    theirs = b.athlete(other(side), mat).name.split()[:1]
    return athlete.name if theirs == [first] or first.casefold() in ("the", "a") else first


def _colour(athlete: Athlete) -> str:
    colour = athlete.kit.split()[0]
    return colour[:1].upper() + colour[1:]
