"""What a figure is made of: limbs with girth and colour on the joints of `body`."""

from __future__ import annotations

from dataclasses import dataclass

from chapto.demo.body import Joints
from chapto.demo.raster import Limb

Colour = tuple[float, float, float]


@dataclass(frozen=True)
class Look:
    """Colours of one person, RGB in 0…1."""

    sleeve: Colour
    vest: Colour
    shorts: Colour
    skin: Colour
    hair: Colour
    legs_covered: bool = False


def _hex(code: str) -> Colour:
    return tuple(int(code[i : i + 2], 16) / 255 for i in (1, 3, 5))  # type: ignore[return-value]


WREN = Look(_hex("#F0A830"), _hex("#54443A"), _hex("#352C28"), _hex("#B07A52"), _hex("#241A14"))
MOSS = Look(_hex("#35B3C4"), _hex("#EDEAE2"), _hex("#24505C"), _hex("#E0B48C"), _hex("#8A5A2B"))
REFEREE = Look(_hex("#5A5F66"), _hex("#5A5F66"), _hex("#1B1D22"), _hex("#C89A74"), _hex("#6B6B6B"), True)


def limbs_of(j: Joints, look: Look) -> list[Limb]:
    """The limbs of one figure, ready to draw."""
    limbs: list[Limb] = []
    mid = (j.pelvis + j.chest) / 2
    low = j.chest * 0.82 + j.pelvis * 0.18
    limbs.append(Limb(j.pelvis, mid, 0.125, 0.115, look.vest))
    limbs.append(Limb(mid, low, 0.118, 0.135, look.vest))
    limbs.append(Limb(low, j.chest, 0.13, 0.075, look.vest))
    limbs.append(Limb(j.shoulders[0], j.shoulders[1], 0.075, 0.075, look.sleeve))
    limbs.append(Limb(j.hips[0], j.hips[1], 0.105, 0.105, look.shorts))
    for side in (0, 1):
        limbs.append(Limb(j.shoulders[side], j.elbows[side], 0.068, 0.05, look.sleeve))
        limbs.append(Limb(j.elbows[side], j.wrists[side], 0.05, 0.036, look.sleeve))
        limbs.append(Limb(j.wrists[side], j.hands[side], 0.038, 0.03, look.skin))
        thigh_mid = j.hips[side] * 0.4 + j.knees[side] * 0.6
        cover = look.shorts if look.legs_covered else look.skin
        limbs.append(Limb(j.hips[side], thigh_mid, 0.1, 0.082, look.shorts))
        limbs.append(Limb(thigh_mid, j.knees[side], 0.078, 0.06, cover))
        calf = j.knees[side] * 0.65 + j.ankles[side] * 0.35
        limbs.append(Limb(j.knees[side], calf, 0.058, 0.06, cover))
        limbs.append(Limb(calf, j.ankles[side], 0.06, 0.038, cover))
        limbs.append(Limb(j.ankles[side], j.toes[side], 0.042, 0.026, look.skin))
    limbs.append(Limb(j.chest, j.head, 0.055, 0.052, look.skin))
    crown = j.head + (j.head - j.chest) * 0.45
    limbs.append(Limb(j.head, crown, 0.094, 0.092, look.skin))
    back = -j.face * 0.035
    top = crown + (j.head - j.chest) * 0.08 + back * 0.9
    limbs.append(Limb(j.head + (j.head - j.chest) * 0.2 + back * 1.4, top, 0.088, 0.09, look.hair))
    limbs.append(Limb(j.head + j.face * 0.085, j.head + j.face * 0.1, 0.02, 0.016, look.skin))
    return limbs
