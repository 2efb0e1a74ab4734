"""The angle track: which camera shows each stretch of mat time."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from fractions import Fraction
from itertools import pairwise

from chapto.clock.passage import STILL, Kind, Piece
from chapto.document.breakdown import Breakdown
from chapto.document.condition import UNUSABLE
from chapto.document.footage import Footage
from chapto.pacing.fitted import Leg


@dataclass(frozen=True, slots=True)
class AngleSpan:
    """Mat seconds `start ≤ t < end` shown by `footage`; `chosen` when the creator said so."""

    start: Fraction
    end: Fraction
    footage: Footage
    chosen: bool


BLINK = Fraction(1)
"""Watch seconds for which a camera is seen at least (common practice): a shorter glimpse startles."""
Stretch = tuple[Fraction, Fraction, Footage | None]
"""Mat seconds `start ≤ t < end` and the file that shows them, None where nothing was filmed."""


class AngleTrack:
    """The creator's choice where there is one and that camera was running; else the first camera, in the order of
    the document, whose picture is good; else the first that was running at all."""

    def __init__(self, b: Breakdown) -> None:
        self._b = b
        self._bad: dict[str, list[tuple[Fraction, Fraction]]] = {}
        files = {c.id: c for c in b.footage}
        for x in b.conditions:
            if x.accepted and x.kind in UNUSABLE:
                c = files[x.footage]
                self._bad.setdefault(c.id, []).append((c.mat_at(x.start), c.mat_at(x.end)))
        self.spans = self._spans()
        self._starts = [s.start for s in self.spans]

    def at(self, mat: Fraction, camera: str = "") -> Footage | None:
        """The file that shows `mat`, one of `camera` (by name) if that ran; None where nothing was filmed."""
        own = next((c for c in self._b.footage if camera and c.camera_name == camera and c.covers(mat)), None)
        if own is not None:
            return own
        i = bisect_right(self._starts, mat) - 1
        return self.spans[i].footage if i >= 0 and mat < self.spans[i].end else None

    def seen_at(self, mat: Fraction) -> Fraction | None:
        """The mat second whose picture shows `mat`: itself, the last picture of a file that ends there, or None where
        nothing was filmed."""
        if self.at(mat) is not None:
            return mat
        last = [c for c in self._b.footage if c.mat_out - 1 / c.fps < mat <= c.mat_out + 1 / c.fps]
        return max((c.mat_out - 1 / c.fps for c in last), default=None)

    def filmed_until(self, mat: Fraction) -> Fraction:
        """The mat second up to which something was filmed without a break from `mat` on."""
        for span in self.spans[max(bisect_right(self._starts, mat) - 1, 0) :]:
            if span.start > mat:
                break
            mat = max(mat, span.end)
        return mat

    def within(self, start: Fraction, end: Fraction, camera: str = "") -> Iterator[Stretch]:
        """Stretches that tile `start … end`, each with its file, or None where nothing was filmed. Where a `camera` (by
        name) is asked for and ran, its files show them."""
        if camera:
            yield from self._seen_from(camera, start, end)
            return
        at, number = start, max(bisect_right(self._starts, start) - 1, 0)
        for span in self.spans[number:]:
            if span.end <= at:
                continue
            if span.start >= end:
                break
            if span.start > at:
                yield at, span.start, None
                at = span.start
            until = min(span.end, end)
            yield at, until, span.footage
            at = until
        if at < end:
            yield at, end, None

    def without_blinks(self, stretches: Iterable[Stretch], rate: Fraction) -> list[Stretch]:
        """Stretches of a way at `rate` in which no camera is seen for less than `BLINK` watch seconds where its
        neighbour saw the same; what the creator chose stays."""
        found = list(stretches)
        short = BLINK * rate
        for i, (start, end, camera) in enumerate(found):
            if end - start >= short or any(a.start < end and start < a.end for a in self._b.angles):
                continue
            beside = (other for _, _, other in (*found[max(i - 1, 0) : i], *found[i + 1 : i + 2]) if other is not None)
            found[i] = start, end, next((c for c in beside if c.covers(start) and c.mat_out >= end), camera)
        joined: list[Stretch] = []
        for start, end, camera in found:
            if joined and joined[-1][2] is camera:
                joined[-1] = joined[-1][0], end, camera
            else:
                joined.append((start, end, camera))
        return joined

    def _seen_from(self, camera: str, start: Fraction, end: Fraction) -> Iterator[Stretch]:
        at = start
        for c in sorted((c for c in self._b.footage if c.camera_name == camera), key=lambda c: c.mat_in):
            first, last = max(c.mat_in, at), min(c.mat_out, end)
            if first >= last:
                continue
            if first > at:
                yield from self.within(at, first)
            yield first, last, c
            at = last
        if at < end:
            yield from self.within(at, end)

    def _spans(self) -> tuple[AngleSpan, ...]:
        edges = {edge for c in self._b.footage for edge in (c.mat_in, c.mat_out)}
        edges |= {edge for spans in self._bad.values() for span in spans for edge in span}
        edges |= {edge for a in self._b.angles for edge in (a.start, a.end)}
        places = sorted(edges)
        found: list[AngleSpan] = []
        for start, end in pairwise(places):
            footage, chosen = self._pick(start)
            if footage is None:
                continue
            last = found[-1] if found else None
            if last and last.end == start and (last.footage, last.chosen) == (footage, chosen):
                found[-1] = AngleSpan(last.start, end, footage, chosen)
            else:
                found.append(AngleSpan(start, end, footage, chosen))
        return tuple(found)

    def _pick(self, mat: Fraction) -> tuple[Footage | None, bool]:
        running = [c for c in self._b.footage if c.covers(mat)]
        wanted = next((a.camera for a in self._b.angles if a.start <= mat < a.end), None)
        chosen = next((c for c in running if c.camera_name == wanted), None)
        if chosen is not None:
            return chosen, True
        good = (c for c in running if not any(a <= mat < z for a, z in self._bad.get(c.id, ())))
        return next(good, running[0] if running else None), False


def pieces_of(leg: Leg, track: AngleTrack, footage: tuple[Footage, ...]) -> Iterator[Piece]:
    """A leg cut where the camera has to change. Where nothing was filmed, the last picture before stands."""
    if leg.kind is Kind.CARD:
        yield Piece(Kind.CARD, "", leg.mat_in, Fraction(0), leg.seconds, leg.text, leg.photo)
        return
    if leg.kind in STILL:
        camera = track.at(leg.mat_in, leg.camera)
        if camera is None:
            yield _still(footage, leg.mat_in, leg.seconds)
        else:
            yield Piece(leg.kind, camera.id, leg.mat_in, leg.rate, leg.seconds)
        return
    low, high = sorted((leg.mat_in, leg.mat_in + leg.seconds * leg.rate))
    stretches = track.without_blinks(track.within(low, high, leg.camera), abs(leg.rate))
    for start, end, camera in stretches if leg.rate > 0 else reversed(stretches):
        seconds = (end - start) / abs(leg.rate)
        if camera is None:
            yield _still(footage, start, seconds)
        else:
            yield Piece(leg.kind, camera.id, start if leg.rate > 0 else end, leg.rate, seconds)


def _still(footage: tuple[Footage, ...], mat: Fraction, seconds: Fraction) -> Piece:
    """The last picture filmed before `mat`, held; a card where there is none at all."""
    before = max((c for c in footage if c.mat_out <= mat), key=lambda c: c.mat_out, default=None)
    if before is None:
        return Piece(Kind.CARD, "", mat, Fraction(0), seconds)
    return Piece(Kind.HOLD, before.id, before.mat_out - 1 / before.fps, Fraction(0), seconds)
