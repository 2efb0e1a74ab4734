"""Bouts in one line: `position side seconds`, side 1, 2 or - for nobody; `?` is a stretch that was not logged."""

from __future__ import annotations

from fractions import Fraction

from msgspec.structs import replace

from chapto.document.bout import Exchange, Round
from chapto.document.bout_rules import PositionSpan, Ruling
from chapto.document.breakdown import Breakdown
from chapto.document.people import Side

SHORT = {
    "st": "standing", "leg": "in-on-the-leg", "cg": "closed-guard", "og": "open-guard", "hg": "half-guard",
    "sc": "side-control", "ns": "north-south", "kob": "knee-on-belly", "mt": "mount", "bk": "back-control",
    "tt": "turtle", "sm": "scramble", "dog": "dogfight", "ashi": "outside-ashi", "bt": "body-triangle",
    "sfh": "standing-front-headlock", "ff": "fifty-fifty", "ld": "leg-drag", "hook": "back-one-hook",
    "web": "spider-web", "both": "double-seated",
}  # fmt: skip
SIDES = {"1": Side.FIRST, "2": Side.SECOND, "-": None}


def bout(line: str, *, pull: str = "", takedown: str = "", length: int = 300, start: int = 0) -> Breakdown:
    """`pull` and `takedown` are "side@second": an exchange in the log; side - is both."""
    at, spans = Fraction(start), []
    for part in line.split(","):
        what, *rest = part.split()
        side, seconds = ("-", rest[0]) if what == "?" else rest
        end = at + Fraction(seconds)
        if what != "?":
            spans.append(PositionSpan(start=at, end=end, position=SHORT[what], top=SIDES[side]))
        at = end
    b = Breakdown(
        title="Bout",
        positions=tuple(spans),
        rounds=(Round(id="r1", name="Bout", start=Fraction(start), end=at),),
        ruling=Ruling(length=Fraction(length)),
    )
    logged = []
    for number, (what, name) in enumerate(((pull, "guard pull"), (takedown, "double leg takedown"))):
        if what:
            side, _, when = what.partition("@")
            mat = Fraction(when) + start
            logged.append(Exchange(id=f"x{number}", start=mat - 1, end=mat + 1, technique=name, by=SIDES[side]))
    return replace(b, exchanges=tuple(logged))
