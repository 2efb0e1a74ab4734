"""What the log knows of one exchange, in the words a draft has for it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from fractions import Fraction

from chapto.document.bout import Exchange, Moment, MomentKind, Outcome
from chapto.document.bout_rules import PositionSpan
from chapto.document.breakdown import Breakdown
from chapto.document.people import Side
from chapto.drafting.called import Called, called, noted, other
from chapto.drafting.said_numbers import duration, number
from chapto.lexicon.lexicon import Lexicon, School
from chapto.matlog.bout_clock import BoutClock
from chapto.matlog.ledger import Ledger

GIVEN_AFTER = Fraction(5)
"""Mat seconds after its end within which points are for an exchange (common practice)."""
SAYABLE = frozenset({"guard", "passed", "mount", "back", "turtle", "knee on belly", "legs", "standing"})
"""Groups of positions with names that can stand behind “from” and “in”."""
MOMENTS: Mapping[MomentKind, str] = {
    MomentKind.GRIP: "the grip",
    MomentKind.FRAME: "the frame",
    MomentKind.HIPS: "the hips",
    MomentKind.KNEE_LINE: "the knee line",
    MomentKind.BASE: "the base",
    MomentKind.SLIP: "the mistake",
    MomentKind.FINISH: "the finish",
}
"""What a moment without a note is called; a plain teaching point is none of these."""


@dataclass(frozen=True)
class Told:
    """A moment to be pointed at, and what is said of it (empty where the log says nothing)."""

    moment: Moment
    note: str

    @property
    def kind(self) -> str:
        """The word of its kind, as files have it."""
        return self.moment.kind.value


@dataclass(frozen=True)
class Facts:
    """`attacker` and `answerer` as they are called, None where nobody is logged; `words` fill the slots of the grammar,
    and `knows` are the conditions its rows may need."""

    exchange: Exchange
    family: str
    attacker: Called | None
    answerer: Called | None
    words: Mapping[str, str]
    knows: frozenset[str]
    moments: tuple[Told, ...]


def facts_of(b: Breakdown, x: Exchange, lexicon: Lexicon, ledger: Ledger) -> Facts:
    """What the log knows of an exchange. What it does not know is left out, never guessed."""
    technique = lexicon.technique_named(x.technique) if x.technique else None
    words: dict[str, str] = {}
    knows: set[str] = set()
    tech = technique.name(School(b.naming.school)) if technique else x.technique
    if tech:
        words["tech"] = tech
    before, after = _at(b, x.start), _after(b, x)
    for slot, span in (("pos", before), ("now", after)):
        name = _position(b, lexicon, span)
        if name:
            words[slot] = name
            knows.add(slot)
    if before and after and before.position == after.position:
        knows.add("back")
    if x.by is not None and after is not None and after.top is x.by and _holds_above(lexicon, after):
        knows.add("holds")
    _about_time(b, x, words, knows)
    _about_score(b, x, ledger, words, knows)
    _about_points(x, ledger, words, knows)
    if x.by is not None and called(b, x.by, x.start).is_me:
        knows.add("me")
    if x is not max(b.exchanges, key=lambda o: o.start):
        knows.add("open")
    _about_earlier(b, x, knows)
    if _is_tapped(b, x, technique.family if technique else ""):
        knows.add("tap")
    return Facts(
        x,
        technique.family if technique else "",
        called(b, x.by, x.start) if x.by else None,
        called(b, other(x.by), x.start) if x.by else None,
        words,
        frozenset(knows),
        tuple(Told(m, _note(b, m)) for m in b.moments if x.start <= m.at < x.end),
    )


def _note(b: Breakdown, m: Moment) -> str:
    return noted(b, m.note, m.at) if m.note.strip() else MOMENTS.get(m.kind, "")


def _at(b: Breakdown, mat: Fraction) -> PositionSpan | None:
    return next((p for p in b.positions if p.start <= mat < p.end), None)


def _after(b: Breakdown, x: Exchange) -> PositionSpan | None:
    """The position in which an exchange ends, or the one that begins with its last moments."""
    return _at(b, x.end - Fraction(1, 100)) if x.outcome is not None else None


def _position(b: Breakdown, lexicon: Lexicon, span: PositionSpan | None) -> str:
    known = lexicon.position(span.position) if span else None
    if known is None or known.group not in SAYABLE:
        return ""
    return known.name(School(b.naming.school))


def _holds_above(lexicon: Lexicon, span: PositionSpan) -> bool:
    known = lexicon.position(span.position)
    return known is not None and known.control == "top"


def _about_time(b: Breakdown, x: Exchange, words: dict[str, str], knows: set[str]) -> None:
    clock = BoutClock(b)
    here = clock.round_at(x.start)
    earlier = [o for o in b.exchanges if o.end <= x.start and here is not None and o.start >= here.start]
    if earlier:
        gap = x.start - max(o.end for o in earlier)
        if gap >= 3:
            words["gap"] = duration(gap)
            knows.add("gap")
    # A round much shorter than the bout was no bout: nobody ran a clock in it.
    if here is not None and here.end - here.start >= clock.length / 2 and clock.left(x.start) >= 10:
        words["left"] = duration(clock.left(x.start))
        knows.add("left")


def _about_score(b: Breakdown, x: Exchange, ledger: Ledger, words: dict[str, str], knows: set[str]) -> None:
    """The score as an exchange begins, where points count at all."""
    standing = ledger.standing()
    here = BoutClock(b).round_at(x.start)
    if not standing or here is None or not any(here.start <= at <= here.end for _, _, at in standing):
        return
    score = ledger.score(x.start)
    if score == (0, 0):
        knows.add("no score")
        return
    if any(x.start < at < x.end - 1 for _, _, at in standing):
        return
    words["led"] = f"{number(score[0])} to {number(score[1])}"
    knows.add("led")
    mine, theirs = score if x.by is Side.FIRST else score[::-1]
    if x.by is not None and mine != theirs:
        knows.add("leading" if mine > theirs else "trailing")


def _about_points(x: Exchange, ledger: Ledger, words: dict[str, str], knows: set[str]) -> None:
    mine = [p for side, p, at in ledger.standing() if side is x.by and x.start <= at <= x.end + GIVEN_AFTER]
    if x.outcome is not Outcome.LANDED or sum(mine) <= 0:
        return
    first, second = ledger.score(x.end + GIVEN_AFTER)
    words["n"], words["points"] = number(sum(mine)), "point" if sum(mine) == 1 else "points"
    words["first"], words["second"] = number(first), number(second)
    knows |= {"n", "first"}


def _about_earlier(b: Breakdown, x: Exchange, knows: set[str]) -> None:
    order = sorted(b.exchanges, key=lambda o: o.start)
    before = [o for o in order if o.start < x.start]
    knows.add("later" if before else "first one")
    if any(o.by is x.by and o.technique == x.technique and x.technique for o in before):
        knows.add("again")


def _is_tapped(b: Breakdown, x: Exchange, family: str) -> bool:
    """Whether the bout ended with this: a submission that landed, and the result says so."""
    result = b.ruling.result
    last = max(b.exchanges, key=lambda o: o.end if o.outcome is Outcome.LANDED else Fraction(-1), default=None)
    won = result is not None and result.how == "submission" and result.winner is x.by
    return won and x is last and x.outcome is Outcome.LANDED and family in ("strangle", "armlock", "leglock")


def winner(b: Breakdown) -> tuple[Side, str] | None:
    """Who won, and how, if the result says it."""
    result = b.ruling.result
    return (result.winner, result.how) if result is not None and result.winner is not None else None
