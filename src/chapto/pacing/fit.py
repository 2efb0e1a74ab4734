"""Fit voice and picture of one exchange: treatments chosen by hand are carried out as they are, and what is left open
between them goes the cheapest way from stop to stop (`optimum`)."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from fractions import Fraction

from chapto.clock.passage import Kind
from chapto.document.treatments import Cutaway, left_to_the_fit
from chapto.pacing import lacks
from chapto.pacing.course import Target, course
from chapto.pacing.fitted import FitBeat, FitExchange, Fitted, Inset, PlannedTie, Shortfall
from chapto.pacing.lacks import FINE
from chapto.pacing.motions import free_manner, motion_of
from chapto.pacing.optimum import Choice, Interval, Wish, best_plan
from chapto.pacing.route import ZERO, Parts, Route, with_pause
from chapto.pacing.skipping import Span
from chapto.pacing.spoken import SpokenLine
from chapto.pacing.styles import HouseStyle
from chapto.pacing.way import STUMBLE, Manner, Way

Planned = tuple[Interval, Choice]
SHORTEST_TAIL = Fraction(1, 2)
"""Seconds a moment at the very end of its exchange still stays in view."""


def fit(
    exchange: FitExchange,
    voice: Mapping[str, SpokenLine],
    style: HouseStyle,
    *,
    idle: Sequence[Span] = (),
    skips: Sequence[Span] = (),
    wish: Wish | None = None,
) -> Fitted:
    """Place picture and voice of `exchange` so that every tied word meets its moment.

    `voice` has a line for every beat. Of the mat spans `idle`, in order and apart, the fit may skip, all of `skips` it
    must; `wish` is a watch length for the whole. The same input always gives the same answer. What the limits of
    `style` do not allow is reported as a shortfall; the voice then runs on and the tie is late.
    """
    work = _Work(exchange, voice, style, idle, skips)
    groups = _groups(exchange.beats)
    for number, beats in enumerate(groups):
        share = _share(wish, work.route.shown, groups[number:], voice) if wish else None
        work.group(beats, last=number == len(groups) - 1, wish=share)
    if not groups:
        work.silent(wish)
    r = work.route
    return Fitted(
        tuple(r.legs), tuple(r.phrases), tuple(work.ties), tuple(work.shortfalls), r.shown, tuple(r.insets), work.cost
    )  # fmt: skip


def _groups(beats: tuple[FitBeat, ...]) -> list[tuple[FitBeat, ...]]:
    """Beats left to the fit stay together; each with a treatment stands alone."""
    groups: list[list[FitBeat]] = []
    for beat in beats:
        if left_to_the_fit(beat.treatment) and groups and left_to_the_fit(groups[-1][-1].treatment):
            groups[-1].append(beat)
        else:
            groups.append([beat])
    return [tuple(g) for g in groups]


def _share(wish: Wish, shown: Fraction, left: list[tuple[FitBeat, ...]], voice: Mapping[str, SpokenLine]) -> Wish:
    """What of a wished length falls to the first of the groups left, by their words."""
    words = [sum((voice[b.id].seconds for b in g), ZERO) for g in left]
    part = float(words[0] / sum(words)) if sum(words) else 1.0
    return Wish(max(wish.seconds - float(shown), 0.0) * part, wish.limit)


class _Work:
    """An exchange being fitted."""

    def __init__(
        self,
        exchange: FitExchange,
        voice: Mapping[str, SpokenLine],
        style: HouseStyle,
        idle: Sequence[Span],
        skips: Sequence[Span],
    ) -> None:
        self.exchange, self.voice, self.style = exchange, voice, style
        self.route = Route(exchange.start, style.lead_in)
        self.way = Way(self.route, style, idle, skips)
        self.ties: list[PlannedTie] = []
        self.shortfalls: list[Shortfall] = []
        self.cost = 0.0
        self.late = ZERO

    # ── groups ───────────────────────────────────────────────────────────────────────────────────────────
    def group(self, beats: tuple[FitBeat, ...], *, last: bool, wish: Wish | None) -> None:
        """Fit beats that share one way of moving the picture."""
        route, back_to = self.route, self.route.mat
        motion = motion_of(self, beats[0])
        goes_on = motion.is_free and last
        tied = not motion.stands and self._moving(beats, motion.manner, goes_on, wish)
        if goes_on:
            return
        motion.finish(tied)
        route.mat = back_to if motion.comes_back else route.mat
        if last:
            route.move(Kind.RUN, self._end() - route.mat, self.style.base_rate)
        route.said += self.style.breath

    def silent(self, wish: Wish | None) -> None:
        """No beats at all: the exchange runs, without what is idle in it."""
        self._moving((), free_manner(self.style), True, wish)

    def go_to(self, target: Fraction | None) -> None:
        """Bring the picture to a moment to hold: on the way if it lies ahead, by a cut if not."""
        route, style = self.route, self.style
        if target is None or target == route.mat:
            return
        if target < route.mat:
            self.way.let_words_out()
            route.mat = target
            return
        manner = free_manner(style)
        places = (0, -1) if self.ties else (-1, 0)
        interval = self.way.interval(target, route.said - route.shown, manner, places, style.longest_pause)
        plan = best_plan([interval], [float(style.longest_hold)], style.weights)
        self.cost += plan.cost
        self.way.travel(interval, target, plan.choices[0], manner)
        route.hold(route.said - route.shown)
        route.said = max(route.said, route.shown)

    def stand(self, beat: FitBeat, kind: Kind, text: str) -> None:
        """Say a beat while the picture stands, or a card does."""
        route, line = self.route, self.voice[beat.id]
        start = route.said
        for stop in beat.stops:
            said = start + line.words[stop.word][0]
            here = kind is Kind.HOLD and stop.mat == route.mat
            self.ties.append(PlannedTie(beat.id, stop.word, stop.mat, said, said if here else None))
            if not here:
                gap = abs(stop.mat - route.mat)
                self.shortfalls.append(lacks.elsewhere(beat, stop.word, gap, card=kind is Kind.CARD))
        route.say(beat, line, [(0, start)])
        if kind is Kind.CARD:
            route.card(text, route.said - route.shown)

    # ── from stop to stop ────────────────────────────────────────────────────────────────────────────────
    def _moving(self, beats: tuple[FitBeat, ...], manner: Manner, to_end: bool, wish: Wish | None) -> bool:
        """Fit the ties of `beats`, and the way to the end of the exchange if that is asked; whether there was a tie."""
        targets, out = self._targets(beats)
        tail = (self._end_after(targets), out) if to_end else None
        path = course(self.way, targets, manner, tail)
        if wish is not None:
            wish = Wish(max(wish.seconds - float(path.fixed), 0.0), wish.limit)
        plan = best_plan(path.intervals, path.rooms, self.style.weights, wish if to_end else None)
        self.cost += plan.cost
        planned = list(zip(path.intervals, plan.choices, strict=True))
        self._lay(beats, targets, planned, manner)
        if tail is not None:
            fixed = targets[-1].hold if targets else None
            self._tail(tail[0], *planned[-1], manner, fixed)
        if plan.too_long:
            self.shortfalls.append(lacks.too_long(beats[0].id if beats else "", plan.too_long))
        return bool(targets)

    def _targets(self, beats: tuple[FitBeat, ...]) -> tuple[list[Target], Fraction]:
        """The stops that can be met in order, and when the last word would be out if the voice never waited."""
        found: list[Target] = []
        at, said = self.route.mat, self.route.said
        for beat in beats:
            if beat is not beats[0]:
                said += self.style.breath
            line, since = self.voice[beat.id], -1
            for stop in beat.stops:
                if stop.mat >= at:
                    pause_at = max((p for p in beat.phrases if since < p <= stop.word), default=stop.word)
                    due = said + line.words[stop.word][0]
                    found.append(Target(beat, stop.word, stop.mat, due, pause_at, stop.hold))
                    at, since = stop.mat, stop.word
            said += line.seconds
        return found, said

    def _lay(
        self,
        beats: tuple[FitBeat, ...],
        targets: list[Target],
        planned: Sequence[Planned],
        manner: Manner,
    ) -> None:
        """Carry the plan out, beat by beat."""
        route, number = self.route, 0
        for beat in beats:
            if beat is not beats[0]:
                route.said += self.style.breath
            line, begun = self.voice[beat.id], route.said
            parts: Parts = [(0, begun)]
            for stop in beat.stops:
                first, at = parts[-1]
                due = at + line.words[stop.word][0] - line.cut_before(first)
                target = targets[number] if number < len(targets) else None
                if target is None or (target.beat, target.word) != (beat, stop.word):
                    self.ties.append(PlannedTie(beat.id, stop.word, stop.mat, due, None))
                    self.shortfalls.append(lacks.past(beat, stop.word, route.mat - stop.mat))
                    continue
                fixed = targets[number - 1].hold if number else None
                parts, due = self._meet(target, planned[number], manner, parts, due, fixed)
                self.ties.append(PlannedTie(beat.id, stop.word, stop.mat, due, route.shown))
                number += 1
            route.say(beat, line, parts)
            if isinstance(beat.treatment, Cutaway) and beat.treatment.inset:
                self._inset(beat.treatment, begun)

    def _meet(
        self,
        t: Target,
        planned: Planned,
        manner: Manner,
        parts: Parts,
        due: Fraction,
        fixed: Fraction | None,
    ) -> tuple[Parts, Fraction]:
        """Bring picture and word of one stop together; the phrases and when the word is said."""
        route, line, choice = self.route, self.voice[t.beat.id], planned[1]
        self.way.travel(planned[0], t.mat, choice, manner, due=due, fixed=fixed)
        wait = route.shown - due
        grown, self.late = max(-wait - self.late, ZERO), max(-wait, ZERO)
        if wait > 0:
            parts = with_pause(parts, line, t.pause_at, wait)
            if choice.silent:
                before = "before this moment"
                self.shortfalls.append(lacks.too_silent(t.beat, t.word, wait, choice.silent, before, self.style.title))
            return parts, due + wait
        if wait < 0:
            self.shortfalls.append(lacks.too_many_words(t.beat, line, t.word, -wait, grown))
        return parts, due

    # ── ends ─────────────────────────────────────────────────────────────────────────────────────────────
    def leave_words_out(self, beat: FitBeat, manner: Manner, *, tied: bool) -> None:
        """Picture for words that are left when other beats follow, or when a treatment fixes how it moves."""
        route = self.route
        left = route.said - route.shown
        if left <= 0:
            return
        if tied and left_to_the_fit(beat.treatment):
            by_hand = beat.stops[-1].hold if beat.stops else None
            most = max(self.style.longest_hold - route.stood(), ZERO)
            route.hold(min(left, most) if by_hand is None else by_hand)
            left = route.said - route.shown
        route.move(manner.kind, left * manner.base, manner.base)
        route.said = max(route.said, route.shown)

    def _end(self) -> Fraction:
        return max([self.exchange.end, *(t.mat + SHORTEST_TAIL for t in self.ties if t.mat == self.exchange.end)])

    def _end_after(self, targets: list[Target]) -> Fraction:
        stays = [self.exchange.end + SHORTEST_TAIL] if any(t.mat == self.exchange.end for t in targets) else []
        last = targets[-1].mat if targets else self.route.mat
        return max([self.exchange.end, last, *stays])

    def _tail(
        self, end: Fraction, interval: Interval, choice: Choice, manner: Manner, fixed: Fraction | None
    ) -> None:  # fmt: skip
        """From the last stop to the end of the exchange; words that are left then get a hold, or more picture."""
        route = self.route
        beyond = Fraction(round(choice.beyond * FINE), FINE) / manner.base
        self.way.travel(interval, end, choice, manner, due=route.said - beyond, fixed=fixed)
        left = route.said - route.shown
        beyond = max(left, beyond if beyond > STUMBLE else ZERO)
        if beyond > 0:
            route.move(Kind.RUN, beyond * manner.base, manner.base)
        if left < 0 and choice.silent and self.exchange.beats:
            beat = self.exchange.beats[-1]
            last = len(self.voice[beat.id].words) - 1
            after = "after the last word"
            self.shortfalls.append(lacks.too_silent(beat, last, -left, choice.silent, after, self.style.title))

    def _inset(self, cutaway: Cutaway, begun: Fraction) -> None:
        """The small second picture of a beat, while it is said or for as long as was chosen."""
        lasts = self.route.said - begun
        seconds = min(cutaway.seconds, lasts) if cutaway.seconds else lasts
        self.route.insets.append(Inset(begun, seconds, cutaway.at, cutaway.rate, beside=False))
