"""Breakdowns of rounds that were never drawn: invented logs of the demo's two, as a shelf holds them after some months.

Their footage lies on a disk that is not there: the log can be searched, and nothing is shown under wrong words.
"""

from __future__ import annotations

import random
from dataclasses import dataclass
from datetime import date
from fractions import Fraction

from msgspec.structs import replace

from chapto.document.bout import Exchange, Moment, MomentKind, Outcome, Round
from chapto.document.bout_rules import PositionSpan
from chapto.document.breakdown import Breakdown
from chapto.document.checks import checked
from chapto.document.clearance import Agreement, Clearance, Person
from chapto.document.footage import Footage
from chapto.document.people import Athlete, Narrator, Side
from chapto.document.publishing import Published, Publishing
from chapto.document.script import Beat, BeatKind, Section
from chapto.matlog.stays import other_side

WREN = Athlete(name="Wren Adeyo", kit="marigold sleeves", kit_colour="#E3A33A")
MOSS = Athlete(name="Moss Tarrant", kit="lagoon sleeves", kit_colour="#3AA6B5")


@dataclass(frozen=True)
class Move:
    """A technique: where it starts, whether the one who does it is on top there, where it leads to, and whether they
    are on top then; how often of ten it lands."""

    technique: str
    start: str
    top: bool
    to: str
    then_top: bool
    lands: int


MOVES = (
    Move("knee slide", "half-guard", True, "side-control", True, 4),
    Move("smash pass", "half-guard", True, "side-control", True, 5),
    Move("hip switch pass", "half-guard", True, "reverse-scarf-hold", True, 5),
    Move("underhook sweep", "half-guard", False, "half-guard", True, 4),
    Move("far foot sweep", "half-guard", False, "half-guard", True, 3),
    Move("scissor sweep", "closed-guard", False, "mount", True, 4),
    Move("hip bump sweep", "closed-guard", False, "mount", True, 3),
    Move("standing guard break", "closed-guard", True, "open-guard", True, 7),
    Move("bullfighter pass", "open-guard", True, "side-control", True, 4),
    Move("leg drag", "open-guard", True, "leg-drag", True, 4),
    Move("elbow-knee escape", "side-control", False, "half-guard", False, 5),
    Move("figure-four shoulder lock", "side-control", True, "side-control", True, 3),
    Move("elbow-knee escape", "mount", False, "half-guard", False, 5),
    Move("arm bar", "mount", True, "mount", True, 3),
)
"""As the lexicon has them; how often they land is invented."""
NOTES = {
    MomentKind.FRAME: ("far arm frames on the collarbone", "forearm across the neck", "frame on the hip"),
    MomentKind.BASE: ("posts with the far hand", "foot back, base wide"),
    MomentKind.GRIP: ("underhook first", "grip behind the knee", "cross grip on the wrist"),
    MomentKind.HIPS: ("hips turn in", "hips too high"),
}
TOLD = (
    "{who} starts the {technique} here. {answer}{end}",
    "Look at the {position}: {who} goes for the {technique}. {answer}{end}",
    "The {technique} again, by {who}. {answer}{end}",
)
PROMISES = (
    "In another video I will show what comes after it.",
    "Part two has the same from the other side.",
    "The drill for it is linked below.",
    "",
)
RULES = (
    "Arm first, knee second.",
    "Whoever has the inside has the time.",
    "The frame has to be there before the weight.",
    "Move your own hips before you move theirs.",
)


def round_breakdown(
    title: str, part: str, seed: int, *, exchanges: int = 8, day: date | None = None, out: bool = False
) -> Breakdown:
    """A sparring round with a log of so many exchanges. `day` is when it was filmed and published, if it is `out`; the
    answers come the sooner the later that is in the year."""
    r = random.Random(seed)
    log = _Log(r, sooner=(day.month - 1) * 0.12 if day is not None else 0.0)
    for _ in range(exchanges):
        log.step()
    script, told = [], r.sample(range(exchanges), k=max(exchanges * 5 // 8, 1))
    for number, i in enumerate(sorted(told), 1):
        script.append(_section(log, log.exchanges[i], number, r))
    stamp = f"{day.isoformat()}T18:00:00+00:00" if day is not None else ""
    published = Published(
        at=stamp, site="Stand-in", address=f"https://site.example/v/{seed:06d}", title=title, video="0" * 64
    )  # fmt: skip
    return checked(
        Breakdown(
            title=title,
            part=part,
            first=WREN,
            second=MOSS,
            about=f"{title}, from {part}.",
            narrators=(Narrator(id="n1", name="Ilka", guide_voice="en+f3"),),
            footage=(_footage(seed, day, log.at),),
            people=_people(r, day),
            rounds=(Round(id="r1", name="Round", start=Fraction(0), end=log.at),),
            positions=tuple(log.positions),
            exchanges=tuple(log.exchanges),
            moments=tuple(log.moments),
            script=tuple(script),
            publishing=Publishing(published=(published,) if out else ()),
        )
    )


class _Log:
    """A round as it goes on: who is where on the mat clock."""

    def __init__(self, r: random.Random, sooner: float) -> None:
        self._r, self._sooner = r, sooner
        self.at = Fraction(4)
        self.positions: list[PositionSpan] = []
        self.exchanges: list[Exchange] = []
        self.moments: list[Moment] = []
        self._since, self._position = self.at, "half-guard"
        self._top = r.choice((Side.FIRST, Side.SECOND))

    def step(self) -> None:
        """Nothing for a while, then somebody tries something."""
        r = self._r
        self.at += Fraction(r.randint(20, 140), 10)
        moves = [m for m in MOVES if m.start == self._position]
        if not moves:
            self._go("half-guard", self._top)
            moves = [m for m in MOVES if m.start == self._position]
        move = r.choice(moves)
        by = self._top if move.top else other_side(self._top)
        start, lasts = self.at, Fraction(r.randint(40, 110), 10)
        lands = r.random() * 10 < move.lands
        outcome = Outcome.LANDED if lands else r.choice((Outcome.STOPPED, Outcome.STOPPED, Outcome.HALF))
        first = Fraction(r.randint(4, 14), 10)
        self._moment(start + first, r.choice((MomentKind.GRIP, MomentKind.HIPS)))
        if not lands or r.random() < 0.4:
            after = max(1.6 + r.gauss(0.9, 0.5) - self._sooner, 0.5)
            answer = start + min(Fraction(round(after * 10), 10), lasts - Fraction(1, 2))
            self._moment(max(answer, start + first + Fraction(1, 5)), r.choice((MomentKind.FRAME, MomentKind.BASE)))
        self.at = start + lasts
        self.exchanges.append(
            Exchange(
                id=f"x{len(self.exchanges) + 1}",
                start=start,
                end=self.at,
                technique=move.technique,
                by=by,
                outcome=outcome,
            )
        )
        if lands:
            self._go(move.to, by if move.then_top else other_side(by))
        else:
            self._go(self._position, self._top, anew=False)

    def name(self, side: Side | None) -> str:
        """The first name of a side."""
        return (WREN if side is Side.FIRST else MOSS).name.split()[0]

    def _moment(self, at: Fraction, kind: MomentKind) -> None:
        note = self._r.choice(NOTES[kind])
        self.moments.append(Moment(id=f"m{len(self.moments) + 1}", at=at, kind=kind, note=note))

    def _go(self, position: str, top: Side, *, anew: bool = True) -> None:
        if self.positions and not anew:
            last = self.positions[-1]
            if (last.position, last.top) == (position, top):
                self.positions[-1] = PositionSpan(start=last.start, end=self.at, position=position, top=top)
                self._since = self.at
                return
        if self.at > self._since:
            self.positions.append(PositionSpan(start=self._since, end=self.at, position=self._position, top=self._top))
        self._since, self._position, self._top = self.at, position, top


def _section(log: _Log, x: Exchange, number: int, r: random.Random) -> Section:
    who, other = log.name(x.by), log.name(other_side(x.by) if x.by is not None else None)
    answer = next(
        (m for m in log.moments if x.start <= m.at < x.end and m.kind in (MomentKind.FRAME, MomentKind.BASE)), None
    )
    said = f"{other} has the answer: {answer.note}. " if answer is not None else ""
    end = {Outcome.LANDED: "It lands.", Outcome.STOPPED: "It is stopped."}.get(
        x.outcome or Outcome.HALF, "Half of it lands."
    )
    position = next((p.position for p in log.positions if p.start <= x.start < p.end), "half-guard").replace("-", " ")
    text = r.choice(TOLD).format(who=who, technique=x.technique, answer=said, end=end, position=position)
    beats = [Beat(id=f"b{number}a", text=text)]
    beats.append(Beat(id=f"b{number}b", text=r.choice(RULES), kind=BeatKind.RULE))
    if number == 1 and (promise := r.choice(PROMISES)):
        beats.append(Beat(id=f"b{number}c", text=promise, kind=BeatKind.ASK))
    return Section(id=f"s{number}", title=x.technique.capitalize(), exchange=x.id, beats=tuple(beats))


def _footage(seed: int, day: date | None, end: Fraction) -> Footage:
    name = f"tuesday-{day.isoformat()}" if day is not None else f"round-{seed}"
    return Footage(
        id="f1", name=name, path=f"archive/{name}.mp4", fingerprint=f"{9_000_000 + seed}-{seed:016x}",
        duration=end + 6, fps=Fraction(30), seen=("p1", "p2"),
        clearance=Clearance(
            owner="Tidewrack Grappling", agreement=Agreement.AGREED, how="the club's own",
            when=day.isoformat() if day is not None else "", credit="Sparring: Tidewrack Grappling", scope="breakdowns",
        ),
    )  # fmt: skip


def _people(r: random.Random, day: date | None) -> tuple[Person, ...]:
    when = day.isoformat() if day is not None else ""
    moss = r.choice((Agreement.AGREED, Agreement.AGREED, Agreement.AGREED, Agreement.ASKED))
    wren = Person(id="p1", name=WREN.name, part=WREN.kit, agreement=Agreement.AGREED, how="in person", when=when)
    other = Person(id="p2", name=MOSS.name, part=MOSS.kit, agreement=moss, how="by message", when=when)
    return replace(wren, minor=False), replace(other, minor=False)
