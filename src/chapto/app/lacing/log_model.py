"""What the log says along the mat rail: who controls, and points. Free of Qt's widgets."""

from __future__ import annotations

from dataclasses import dataclass

from chapto.app.lacing.model import Control, LacingModel, Scored
from chapto.document.breakdown import Breakdown
from chapto.document.people import Side
from chapto.matlog.control import controller
from chapto.matlog.ledger import ledger
from chapto.matlog.rules import MatlogError, rule_set
from chapto.programme.knowledge import Knowledge

GIVEN = 6.0
"""Mat seconds after an exchange within which points are for it."""


@dataclass(frozen=True)
class LogLine:
    """Control as (mat start, mat end, kit colour, position), points as (mat, who, how many, kit colour); in order."""

    control: tuple[tuple[float, float, str, str], ...] = ()
    points: tuple[tuple[float, Side, int, str], ...] = ()


def log_line(b: Breakdown, known: Knowledge) -> LogLine:
    """The line of a breakdown's whole log; points are those that stand, by log and referee."""
    control = []
    lexicon = known.lexicon
    for x in b.positions:
        side, position = controller(x.position, x.top, lexicon)[0], lexicon.position(x.position)
        kit = b.athlete(side, x.start).kit_colour if side is not None else ""
        control.append((float(x.start), float(x.end), kit, position.en if position else x.position))
    points: list[tuple[float, Side, int, str]] = []
    for within in b.rounds:
        try:
            found = ledger(b, lexicon, rule_set(b.ruling.rules, known.rules), within)
        except MatlogError:
            continue
        points += [(float(at), side, n, b.athlete(side, within.start).kit_colour) for side, n, at in found.standing()]
    return LogLine(tuple(control), tuple(sorted(points, key=lambda p: p[0])))


def on_rail(line: LogLine, model: LacingModel) -> tuple[tuple[Control, ...], tuple[Scored, ...]]:
    """Control and points where the lacing's stretches show them."""
    control, scored = [], []
    for s in model.stretches:
        for start, end, kit, position in line.control:
            if start < s.mat_out and end > s.mat_in:
                places = s.place(max(start, s.mat_in)), s.place(min(end, s.mat_out))
                control.append(Control(*places, kit, position))
        # Points are given when what earned them has lasted, often just after the exchange.
        for at, side, n, kit in line.points:
            if s.mat_in <= at <= s.mat_out + GIVEN:
                scored.append(Scored(s.place(min(at, s.mat_out)), side, n, kit))
    return tuple(control), tuple(scored)
