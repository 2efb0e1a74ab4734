"""Second pictures on the watch clock: a small one in a corner, or one beside the first."""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction

from chapto.clock.passage import STILL, Kind
from chapto.clock.rates import frames_from_seconds
from chapto.document.footage import Footage
from chapto.pacing.fitted import Inset, Leg
from chapto.programme.angles import AngleTrack, pieces_of
from chapto.programme.placed import PlacedInset


def place_insets(
    insets: tuple[Inset, ...], start: Fraction, fps: Fraction, track: AngleTrack, footage: tuple[Footage, ...]
) -> Iterator[PlacedInset]:
    """The second pictures of a section that starts at watch second `start`, cut where the camera has to change; where
    nothing was filmed there is none."""
    for inset in insets:
        at = start + inset.at
        if inset.photo:
            first, end = frames_from_seconds(at, fps), frames_from_seconds(at + inset.seconds, fps)
            if end > first:
                yield PlacedInset(first, end, "", Fraction(0), Fraction(1), fps, beside=False, photo=inset.photo)
            continue
        leg = Leg(Kind.CUTAWAY, inset.mat_in, inset.rate, inset.seconds, camera=inset.camera)
        for piece in pieces_of(leg, track, footage):
            first, end = frames_from_seconds(at, fps), frames_from_seconds(at + piece.seconds, fps)
            at += piece.seconds
            if end > first and piece.footage and piece.kind not in STILL:
                yield PlacedInset(first, end, piece.footage, piece.mat_in, piece.rate, fps, inset.beside)
