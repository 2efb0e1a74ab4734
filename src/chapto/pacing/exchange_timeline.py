"""The way of the picture and of the voice through an exchange while it is being laid: two clocks and what was put
down on them."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace
from fractions import Fraction

from chapto.clock.passage import Kind, PhotoCard
from chapto.pacing.fitted import Inset, Leg, Phrase
from chapto.pacing.saying import Saying
from chapto.pacing.skipping import ShortClock, Span

ZERO = Fraction(0)
BLINK = Fraction(1)
"""Watch seconds under which a picture that comes between two others is not made out (common practice)."""


class ExchangeTimeline:
    """`mat` is where the picture stands, seen from `camera` (by name; empty: by the angle track). `shown` and `said`
    are the watch times up to which picture and voice are laid, in seconds from the start of the exchange."""

    def __init__(self, mat: Fraction, said: Fraction) -> None:
        self.mat, self.shown, self.said, self.camera = mat, ZERO, said, ""
        self.legs: list[Leg] = []
        self.phrases: list[Phrase] = []
        self.insets: list[Inset] = []

    def move(self, kind: Kind, mat: Fraction, rate: Fraction, cuts: Iterable[Span] = ()) -> None:
        """Move on by `mat` seconds of mat time at `rate`, leaving out what `cuts` leaves out of the way."""
        if mat <= 0:
            return
        kind = Kind.SLOW if kind is Kind.RUN and rate < 1 else kind
        clock = ShortClock((a, z) for a, z in cuts if z > self.mat)
        start = clock.short(self.mat)
        self.legs += clock.legs(Leg(kind, start, rate, mat / rate, camera=self.camera))
        self.mat = clock.long(start + mat)
        self.shown += mat / rate

    def go_round(self, start: Fraction, end: Fraction, rate: Fraction) -> None:
        """Show `start … end` in a loop, backwards where `end` is smaller."""
        seconds = abs(end - start) / rate
        self.legs.append(Leg(Kind.LOOP, start, rate if end > start else -rate, seconds, camera=self.camera))
        self.mat = end
        self.shown += seconds

    def hold(self, seconds: Fraction) -> None:
        """Stand still for `seconds` of watch time."""
        if seconds <= 0:
            return
        before = self.legs[-1] if self.legs else None
        still = Leg(Kind.HOLD, self.mat, ZERO, seconds, camera=self.camera)
        if before and before == replace(still, seconds=before.seconds):
            self.legs[-1] = replace(still, seconds=before.seconds + seconds)
        else:
            self.legs.append(still)
        self.shown += seconds

    def linger(self, seconds: Fraction) -> bool:
        """Let a cutaway, and what is beside it, go on for less than `BLINK` watch seconds; whether it does."""
        last = self.legs[-1] if self.legs else None
        if last is None or last.kind is not Kind.CUTAWAY or not ZERO < seconds < BLINK:
            return False
        self.legs[-1] = replace(last, seconds=last.seconds + seconds)
        beside = self.insets[-1] if self.insets else None
        if beside is not None and beside.beside and beside.at + beside.seconds == self.shown:
            self.insets[-1] = replace(beside, seconds=beside.seconds + seconds)
        self.shown += seconds
        return True

    def card(self, text: str | PhotoCard, seconds: Fraction) -> None:
        """A card with words, or a photo, instead of the picture."""
        if seconds > 0:
            words, photo = ("", text) if isinstance(text, PhotoCard) else (text, None)
            self.legs.append(Leg(Kind.CARD, self.mat, ZERO, seconds, words, photo=photo))
            self.shown += seconds

    def stood(self) -> Fraction:
        """Seconds the picture has been standing where it is."""
        last = self.legs[-1] if self.legs else None
        return last.seconds if last and last.kind is Kind.HOLD and last.mat_in == self.mat else ZERO

    def say(self, line: Saying) -> None:
        """Put down the phrases of a beat."""
        self.phrases += line.phrases()
        self.said = line.out
