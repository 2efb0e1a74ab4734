"""The parts of a body between joints: their length by stature, and their share of the mass with its place.

From memory; the publications named are the source. Lengths: Drillis and Contini 1966, as in Winter, *Biomechanics and
Motor Control of Human Movement*. Masses: de Leva 1996 (men), and Winter after Dempster.
"""

from __future__ import annotations

from dataclasses import dataclass

from chapto.document.joints import Joint

TRUNK_LENGTH = 0.288
"""Share of stature from the neck to the middle of the hips; this length is a torso."""


@dataclass(frozen=True)
class Limb:
    """Two limbs of a kind, left and right, by their joints; `length` is a share of stature.

    Each of the two tables has its share of the mass, and where its centre lies: from the upper joint (0) to the lower
    (1).
    """

    left: tuple[Joint, Joint]
    right: tuple[Joint, Joint]
    length: float
    de_leva: tuple[float, float]
    winter: tuple[float, float]


J = Joint
UPPER_ARM = Limb(
    (J.LEFT_SHOULDER, J.LEFT_ELBOW), (J.RIGHT_SHOULDER, J.RIGHT_ELBOW), 0.186, (0.0271, 0.577), (0.028, 0.436)
)
FOREARM = Limb((J.LEFT_ELBOW, J.LEFT_WRIST), (J.RIGHT_ELBOW, J.RIGHT_WRIST), 0.146, (0.0162, 0.457), (0.016, 0.430))
THIGH = Limb((J.LEFT_HIP, J.LEFT_KNEE), (J.RIGHT_HIP, J.RIGHT_KNEE), 0.245, (0.1416, 0.410), (0.100, 0.433))
SHANK = Limb((J.LEFT_KNEE, J.LEFT_ANKLE), (J.RIGHT_KNEE, J.RIGHT_ANKLE), 0.246, (0.0433, 0.446), (0.0465, 0.433))
LIMBS = (UPPER_ARM, FOREARM, THIGH, SHANK)


@dataclass(frozen=True)
class MassTable:
    """What is not a limb between two joints of a `Posture`: shares of head, trunk, hand and foot, and the place of the
    trunk's centre from the neck to the hips. A hand lies at its wrist, a foot at its ankle."""

    head: float
    trunk: tuple[float, float]
    hand: float
    foot: float


DE_LEVA = MassTable(0.0694, (0.4346, 0.514), 0.0061, 0.0137)
WINTER = MassTable(0.081, (0.497, 0.50), 0.006, 0.0145)
