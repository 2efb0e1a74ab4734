"""How far two points are apart, on which side of a line one lies, and how fast it moves."""

from __future__ import annotations

import numpy as np

from chapto.bodies.fact import TORSOS, TORSOS_A_SECOND, Fact
from chapto.bodies.posture import Vec, is_known
from chapto.bodies.scale import Scale


def gap(one: Vec, other: Vec, scale: Scale, *, click: float = 3.0) -> Fact | None:
    """Torsos between two points, at least: what lies along the line of sight is not seen."""
    if not is_known(one, other):
        return None
    apart = float(np.linalg.norm(one - other)) / scale.torso
    error = float(np.hypot(np.sqrt(2) * click / scale.torso, apart * scale.error / scale.torso))
    return Fact(apart, error, TORSOS, apart > 2 * error, at_least=True)


def across(point: Vec, line: tuple[Vec, Vec], scale: Scale, *, click: float = 3.0) -> Fact | None:
    """Torsos by which a knee (`point`) lies across a `line`, from its first end to its second: above 0 to its right."""
    start, end = line
    if not is_known(point, start, end):
        return None
    along = end - start
    length = float(np.linalg.norm(along))
    if length < 2 * click:
        return None
    offset = point - start
    signed = float(along[0] * offset[1] - along[1] * offset[0]) / length / scale.torso
    share = float(along @ offset) / length**2
    # A point off the ends of the line feels the clicks on them the more.
    click_error = click * np.sqrt(1 + share**2 + (1 - share) ** 2) / scale.torso
    return Fact(signed, float(click_error), TORSOS, bool(abs(signed) > 2 * click_error))


def speed(before: Vec, after: Vec, seconds: float, scale: Scale, *, click: float = 3.0) -> Fact | None:
    """Torsos a second between two places of a point, at least."""
    moved = gap(before, after, scale, click=click)
    if moved is None or seconds <= 0:
        return None
    return Fact(moved.value / seconds, moved.error / seconds, TORSOS_A_SECOND, moved.may_be_said, at_least=True)
