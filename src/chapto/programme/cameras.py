"""Which camera shows a stretch of mat time."""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction
from itertools import groupby, pairwise

from chapto.clock.passage import STILL, Kind, Piece
from chapto.document.footage import Footage
from chapto.pacing.fitted import Leg


def camera_for(footage: tuple[Footage, ...], mat: Fraction) -> Footage | None:
    """The first file, in the order of the document, with a picture for `mat`; None where nothing was filmed."""
    return next((c for c in footage if c.covers(mat)), None)


def pieces_of(leg: Leg, footage: tuple[Footage, ...]) -> Iterator[Piece]:
    """A leg cut where the camera has to change. Where nothing was filmed, the last picture before stands."""
    if leg.kind in STILL:
        camera = camera_for(footage, leg.mat_in)
        if camera is None:
            yield _still(footage, leg.mat_in, leg.seconds)
        else:
            yield Piece(leg.kind, camera.id, leg.mat_in, leg.rate, leg.seconds)
        return
    end = leg.mat_in + leg.seconds * leg.rate
    edges = {edge for c in footage for edge in (c.mat_in, c.mat_out) if leg.mat_in < edge < end}
    spans = pairwise([leg.mat_in, *sorted(edges), end])
    for camera, group in groupby(spans, key=lambda span: camera_for(footage, span[0])):
        parts = list(group)
        mat, seconds = parts[0][0], (parts[-1][1] - parts[0][0]) / leg.rate
        if camera is None:
            yield _still(footage, mat, seconds)
        else:
            yield Piece(leg.kind, camera.id, mat, leg.rate, seconds)


def _still(footage: tuple[Footage, ...], mat: Fraction, seconds: Fraction) -> Piece:
    """The last picture filmed before `mat`, held; a card where there is none at all."""
    before = max((c for c in footage if c.mat_out <= mat), key=lambda c: c.mat_out, default=None)
    if before is None:
        return Piece(Kind.CARD, "", mat, Fraction(0), seconds)
    return Piece(Kind.HOLD, before.id, before.mat_out - 1 / before.fps, Fraction(0), seconds)
