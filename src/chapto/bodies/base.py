"""Whether the weight lies over what carries it, along the picture."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from chapto.bodies.centre import Centre
from chapto.bodies.fact import SHARES, Fact
from chapto.bodies.posture import Posture, Vec
from chapto.document.joints import Joint

SURE = 0.1
"""Of the base's width: nearer to its edge than this nothing is said."""


def plumb_line(centre: Centre, posture: Posture, carries: Sequence[Joint]) -> Fact | None:
    """How far the centre lies inside the base (above 0) or outside it (below), as a share of the base's width.

    `carries` are the joints that rest on the mat. It holds for this camera alone: the base is what is seen of it from
    left to right. None where fewer than two of them were put down, or they stand at one place.
    """
    places = [posture.at(j)[0] for j in carries if not np.isnan(posture.at(j)[0])]
    if len(places) < 2:
        return None
    left, right = min(places), max(places)
    width = right - left
    if width < 2 * posture.click:
        return None
    inside = min(centre.place[0] - left, right - centre.place[0]) / width
    error = float(np.hypot(centre.error, posture.click)) / width
    return Fact(float(inside), error, SHARES, bool(abs(inside) - 2 * error > SURE))


def base_outline(points: Vec) -> Vec:
    """The corners, in order, of the smallest convex outline of (n, 2) points; they themselves where they make none."""
    from scipy.spatial import ConvexHull, QhullError

    known = points[~np.isnan(points).any(1)]
    if len(known) < 3:
        return known
    try:
        return np.asarray(known[ConvexHull(known).vertices])
    except QhullError:
        spread = known - known.mean(0)
        along = spread @ np.linalg.svd(spread)[2][0]
        return known[[int(np.argmin(along)), int(np.argmax(along))]]
