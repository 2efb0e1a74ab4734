"""Whose hips are higher."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from chapto.bodies.fact import TORSOS, Fact
from chapto.bodies.posture import Posture
from chapto.bodies.scale import Scale
from chapto.document.joints import Joint

LEAST = 0.15
"""Torsos by which hips must differ before one is called higher."""
DEPTH = 0.15
"""Torsos of standard error from a contact that lies nearer to the camera than the hips, or farther: nobody knows how
much the camera looks down (measured on the demo, seen from 2.3 m of height)."""


@dataclass(frozen=True)
class Standing:
    """An athlete with what carries them, and their size."""

    posture: Posture
    carries: tuple[Joint, ...]
    scale: Scale


def higher_hips(one: Standing, other: Standing) -> Fact | None:
    """By how many torsos the hips of `one` are higher than those of `other`, each above what carries them.

    None where hips or contacts of either were not put down.
    """
    mine, theirs = _height(one), _height(other)
    if mine is None or theirs is None:
        return None
    difference = mine[0] - theirs[0]
    error = float(np.hypot(mine[1], theirs[1]))
    return Fact(difference, error, TORSOS, bool(abs(difference) > max(LEAST, 2 * error)))


def _height(who: Standing) -> tuple[float, float] | None:
    """Torsos from the contacts up to the hips, and their standard error.

    A camera that looks down shows a contact lower the nearer it is. So their middle counts, and how far they lie apart
    adds to the error.
    """
    posture, scale = who.posture, who.scale
    ground = [posture.at(j)[1] for j in who.carries if not np.isnan(posture.at(j)[1])]
    hips = posture.hips[1]
    if not ground or np.isnan(hips):
        return None
    torsos = float((max(ground) + min(ground)) / 2 - hips) / scale.torso
    apart = (max(ground) - min(ground)) / 2 / scale.torso
    # Two hips and one contact.
    click = np.sqrt(1.5) * posture.click / scale.torso
    return torsos, float(np.sqrt(click**2 + apart**2 + DEPTH**2 + (torsos * scale.error / scale.torso) ** 2))
