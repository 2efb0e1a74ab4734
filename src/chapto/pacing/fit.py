"""Fit voice and picture of one exchange: slow when a little time is missing, hold when more is, wait when
there is too much.

Between two stops lie `d` seconds of mat time and `v` seconds of voice. At rate r the picture takes d/r. With a
hold h at the stop and a pause w in the voice, `d/r + h = v + w`. Slowing only the last part p of the interval
from rate q to rate r gains `p/r − p/q`, so a gain g needs `p = g / (1/r − 1/q)`.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from fractions import Fraction

from chapto.clock.passage import Kind
from chapto.document.script import Again, Cutaway, Hold, Run, Slow
from chapto.pacing.fitted import FitBeat, FitExchange, Fitted, Leg, Phrase, PlannedTie, Shortfall
from chapto.pacing.spoken import SpokenLine
from chapto.pacing.styles import HouseStyle

ZERO, ONE = Fraction(0), Fraction(1)
SHORTEST_TAIL = Fraction(1, 2)
"""Seconds a moment at the very end of its exchange still stays in view."""
SHORTEST_SLOW = Fraction(1, 2)
"""Mat seconds; slowing less than this looks like a stumble, so a short hold does it instead."""


def fit(exchange: FitExchange, voice: Mapping[str, SpokenLine], style: HouseStyle) -> Fitted:
    """Place picture and voice of `exchange` so that every tied word meets its moment.

    `voice` has a line for every beat. The same input always gives the same answer. What the limits of `style`
    do not allow is reported as a shortfall; the voice then runs on and the tie is late.
    """
    work = _Work(exchange, voice, style)
    groups = _groups(exchange.beats)
    for beats in groups:
        work.group(beats, last=beats is groups[-1])
    if not groups:
        work.move(Kind.RUN, exchange.end - exchange.start, style.base_rate)
    return Fitted(tuple(work.legs), tuple(work.phrases), tuple(work.ties), tuple(work.shortfalls), work.shown)


def _groups(beats: tuple[FitBeat, ...]) -> list[tuple[FitBeat, ...]]:
    """Beats left to the fit stay together; each with a treatment stands alone."""
    groups: list[list[FitBeat]] = []
    for beat in beats:
        if beat.treatment is None and groups and groups[-1][-1].treatment is None:
            groups[-1].append(beat)
        else:
            groups.append([beat])
    return [tuple(g) for g in groups]


@dataclass(frozen=True, slots=True)
class _Manner:
    """How the picture may move under a group: its kind and rate, whether it may be slowed, whether held."""

    kind: Kind
    base: Fraction
    may_slow: bool
    may_hold: bool


class _Work:
    """An exchange being fitted. `shown` and `said` are watch times, `mat` is where the picture stands."""

    def __init__(self, exchange: FitExchange, voice: Mapping[str, SpokenLine], style: HouseStyle) -> None:
        self.exchange, self.voice, self.style = exchange, voice, style
        self.mat, self.shown = exchange.start, ZERO
        self.said = style.lead_in
        self.legs: list[Leg] = []
        self.phrases: list[Phrase] = []
        self.ties: list[PlannedTie] = []
        self.shortfalls: list[Shortfall] = []

    # ── the picture ──────────────────────────────────────────────────────────────────────────────────────
    def move(self, kind: Kind, mat: Fraction, rate: Fraction) -> None:
        """Move on by `mat` seconds of mat time at `rate`."""
        if mat > 0:
            kind = Kind.SLOW if kind is Kind.RUN and rate < 1 else kind
            self.legs.append(Leg(kind, self.mat, rate, mat / rate))
            self.mat += mat
            self.shown += mat / rate

    def hold(self, seconds: Fraction) -> None:
        """Stand still for `seconds` of watch time."""
        if seconds > 0:
            before = self.legs[-1] if self.legs else None
            if before and before.kind is Kind.HOLD and before.mat_in == self.mat:
                self.legs[-1] = Leg(Kind.HOLD, self.mat, ZERO, before.seconds + seconds)
            else:
                self.legs.append(Leg(Kind.HOLD, self.mat, ZERO, seconds))
            self.shown += seconds

    def room(self) -> Fraction:
        """How much longer the picture may stand where it is."""
        last = self.legs[-1] if self.legs else None
        stood = last.seconds if last and last.kind is Kind.HOLD and last.mat_in == self.mat else ZERO
        return max(self.style.longest_hold - stood, ZERO)

    def reach(self, mat: Fraction, want: Fraction, manner: _Manner, *, hold_first: bool) -> Fraction:
        """Bring the picture to `mat` by watch time `want`; return how long the voice must wait for it.

        A hold comes before the way (`hold_first`: the moment before is a stop), else on arrival, which keeps
        the moment on the screen until its word is said.
        """
        d = mat - self.mat
        missing = want - self.shown - d / manner.base
        if missing <= 0:
            self.move(manner.kind, d, manner.base)
            return -missing
        room = self.room() if hold_first or d == 0 else self.style.longest_hold
        part, rate = self._slowing(d, missing, room, manner)
        left = missing - (part / rate - part / manner.base)
        held = min(left, room) if manner.may_hold else ZERO
        if hold_first:
            self.hold(held)
        self.move(manner.kind, d - part, manner.base)
        self.move(manner.kind, part, rate)
        if not hold_first:
            self.hold(held)
        return ZERO

    def _slowing(self, d: Fraction, missing: Fraction, room: Fraction, manner: _Manner) -> tuple[Fraction, Fraction]:
        """How much of the way `d` to slow, and to which rate, so as to gain what holding should not.

        The fastest rate that gains enough is taken; where none does, the slowest, for the whole way.
        """
        rates = [r for r in self.style.rates if r < manner.base] if manner.may_slow else []
        too_long = max(missing - room, ZERO)
        for gain in (missing, too_long) if missing <= self.style.little else (too_long,):
            for rate in rates:
                part = gain / (1 / rate - 1 / manner.base)
                if part <= d and (part >= SHORTEST_SLOW or gain == too_long):
                    return part, rate
        return (d, rates[-1]) if rates and too_long else (ZERO, manner.base)

    # ── a group of beats ─────────────────────────────────────────────────────────────────────────────────
    def group(self, beats: tuple[FitBeat, ...], *, last: bool) -> None:
        """Fit beats that share one way of moving the picture."""
        manner, back_to = _Manner(Kind.RUN, self.style.base_rate, True, True), self.mat
        match beats[0].treatment:
            case Run():
                manner = _Manner(Kind.RUN, ONE, False, False)
            case Slow(rate):
                manner = _Manner(Kind.SLOW, rate, False, True)
            case Hold():
                self._held(beats[0], manner)
                manner = _Manner(Kind.HOLD, self.style.base_rate, False, True)
            case Again(back, rate):
                self._stand_until_said()
                self.mat = max(self.mat - back, self.exchange.start)
                manner = _Manner(Kind.AGAIN, rate, False, True)
            case Cutaway(at, rate):
                self._stand_until_said()
                self.mat, manner = at, _Manner(Kind.CUTAWAY, rate, False, True)
        tied = manner.kind is not Kind.HOLD and self._moving(beats, manner)
        if manner.kind is Kind.RUN and manner.may_hold and last:
            self._to_the_end(manner, tied=tied)
            return
        self._until_said(manner, tied=tied)
        self.mat = back_to if manner.kind is Kind.CUTAWAY else self.mat
        if last:
            self.move(Kind.RUN, self._end() - self.mat, self.style.base_rate)
        self.said += self.style.breath

    def _stand_until_said(self) -> None:
        """The picture stands until the words before are out; then it may jump."""
        self.hold(self.said - self.shown)
        self.said = max(self.said, self.shown)

    def _held(self, beat: FitBeat, manner: _Manner) -> None:
        """Go to the held moment, on the way if it lies ahead and by a cut if not, and stand for the beat."""
        target = beat.hold_at if beat.hold_at is not None else self.mat
        if target > self.mat:
            self.reach(target, self.said, manner, hold_first=bool(self.ties))
            self.said = max(self.said, self.shown)
        elif target < self.mat:
            self._stand_until_said()
            self.mat = target
        line, start = self.voice[beat.id], self.said
        for stop in beat.stops:
            said = start + line.words[stop.word][0]
            here = stop.mat == self.mat
            self.ties.append(PlannedTie(beat.id, stop.word, stop.mat, said, said if here else None))
            if not here:
                sentence = "The picture holds on another moment under this word; hold on this one, or untie it."
                self.shortfalls.append(Shortfall(beat.id, stop.word, abs(stop.mat - self.mat), sentence))
        self._say(beat, [(0, start)])

    def _moving(self, beats: tuple[FitBeat, ...], manner: _Manner) -> bool:
        """Fit the ties of `beats` one after another; whether there was one."""
        tied = False
        for beat in beats:
            if beat is not beats[0]:
                self.said += self.style.breath
            line, parts, since = self.voice[beat.id], [(0, self.said)], -1
            for stop in beat.stops:
                first, at = parts[-1]
                want = at + line.words[stop.word][0] - line.cut_before(first)
                if stop.mat < self.mat:
                    self._out_of_order(beat, stop.word, stop.mat, want)
                    continue
                wait = self.reach(stop.mat, want, manner, hold_first=tied)
                if wait > 0:
                    before = max((p for p in beat.phrases if since < p <= stop.word), default=stop.word)
                    parts = _with_pause(parts, line, before, wait)
                    want += wait
                self.ties.append(PlannedTie(beat.id, stop.word, stop.mat, want, self.shown))
                if self.shown < want:
                    self._too_many_words(beat, stop.word, want - self.shown)
                since, tied = stop.word, True
            self._say(beat, parts)
        return tied

    def _until_said(self, manner: _Manner, *, tied: bool) -> None:
        """Picture for words that are left when other beats follow, or when a treatment fixes how it moves."""
        left = self.said - self.shown
        if manner.kind is Kind.HOLD:
            self.hold(left)
        elif left > 0:
            if tied and manner.kind is Kind.RUN and manner.may_hold:
                held = min(left, self.room())
                self.hold(held)
                left -= held
            self.move(manner.kind, left * manner.base, manner.base)

    def _end(self) -> Fraction:
        return max([self.exchange.end, *(t.mat + SHORTEST_TAIL for t in self.ties if t.mat == self.exchange.end)])

    def _to_the_end(self, manner: _Manner, *, tied: bool) -> None:
        """From the last stop to the end of the exchange; words that are left then get a hold, or more picture."""
        if self.mat < self._end():
            self.reach(self._end(), self.said, manner, hold_first=tied)
        left = self.said - self.shown
        if left <= self.room():
            self.hold(left)
        else:
            self.move(Kind.RUN, left * manner.base, manner.base)

    # ── the voice ────────────────────────────────────────────────────────────────────────────────────────
    def _say(self, beat: FitBeat, parts: list[tuple[int, Fraction]]) -> None:
        """Put down the phrases of a beat; `parts` lists (first word, watch time at which its sound starts)."""
        line = self.voice[beat.id]
        for (first, at), (end, _) in zip(parts, [*parts[1:], (len(line.words), ZERO)], strict=True):
            voice_in, voice_out = line.cut_before(first), line.cut_before(end)
            if voice_out > voice_in:
                self.phrases.append(Phrase(beat.id, first, end, voice_in, voice_out, at))
            self.said = at + voice_out - voice_in

    # ── what did not fit ─────────────────────────────────────────────────────────────────────────────────
    def _out_of_order(self, beat: FitBeat, word: int, mat: Fraction, said: Fraction) -> None:
        self.ties.append(PlannedTie(beat.id, word, mat, said, None))
        gap = self.mat - mat
        sentence = f"The picture is already {float(gap):.1f} s past this moment; let it go again, or tie it earlier."
        self.shortfalls.append(Shortfall(beat.id, word, gap, sentence))

    def _too_many_words(self, beat: FitBeat, word: int, gap: Fraction) -> None:
        line = self.voice[beat.id]
        words = max(round(gap * len(line.words) / line.seconds), 1)
        sentence = (
            f"The words come {float(gap):.1f} s after the picture; cut about {words} "
            f"word{'s' if words != 1 else ''} before it, or allow a hold {float(gap):.1f} s longer."
        )
        self.shortfalls.append(Shortfall(beat.id, word, gap, sentence))


def _with_pause(
    parts: list[tuple[int, Fraction]], line: SpokenLine, word: int, wait: Fraction
) -> list[tuple[int, Fraction]]:
    """`parts` with the voice waiting `wait` seconds before `word`."""
    first, at = parts[-1]
    if word <= first:
        return [*parts[:-1], (first, at + wait)]
    return [*parts, (word, at + line.cut_before(word) - line.cut_before(first) + wait)]
