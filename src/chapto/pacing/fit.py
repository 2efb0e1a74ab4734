"""Fit voice and picture of one exchange.

Treatments chosen by hand are carried out as they are. What is left open between them goes the cheapest way from stop
to stop (`solver`).
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace
from fractions import Fraction

from chapto.clock.passage import Kind, PhotoCard
from chapto.document.treatments import Cutaway, ShowPhoto, left_to_the_fit
from chapto.pacing import shortfalls
from chapto.pacing.ahead import ahead_of
from chapto.pacing.beat_groups import groups_of, share_of
from chapto.pacing.exchange_timeline import ZERO, ExchangeTimeline
from chapto.pacing.fitted import FitBeat, FitExchange, Fitted, Inset, PlannedTie, Shortfall
from chapto.pacing.going_round import say_going_round
from chapto.pacing.looping import Ring
from chapto.pacing.motions import free_motion, motion_of
from chapto.pacing.outlasting import outlasting
from chapto.pacing.playback_plan import STUMBLE, Motion, PlaybackPlan
from chapto.pacing.saying import ONE, Saying, tempo_of
from chapto.pacing.shortfalls import MICROSECONDS
from chapto.pacing.skipping import Span
from chapto.pacing.solver import best_plan
from chapto.pacing.solver_input import Tail, Target, TempoRoom, solver_input
from chapto.pacing.solver_terms import Choice, Interval, Wish
from chapto.pacing.spoken import SpokenLine
from chapto.pacing.styles import HouseStyle, at_pace

Planned = tuple[Interval, Choice]
FREE: TempoRoom = (Fraction(1, 10), Fraction(10))
"""What no line limits yet."""
UNNOTICED = Fraction(1, 25)
"""Seconds by which nobody hears that words come after their picture (EBU R 37 allows 60 ms, 40 the other way)."""
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
    work = ExchangeFitter(exchange, voice, style, idle, skips)
    groups = groups_of(exchange.beats)
    for number, beats in enumerate(groups):
        share = share_of(wish, work.timeline.shown, groups[number:], voice) if wish else None
        work.group(beats, groups[number + 1 :], wish=share)
    if not groups:
        work.silent(wish)
    r = work.timeline
    lacks = (*work.shortfalls, *outlasting(exchange, r.legs, r.phrases))
    return Fitted(tuple(r.legs), tuple(r.phrases), tuple(work.ties), lacks, r.shown, tuple(r.insets), work.cost)


def _both(one: TempoRoom, other: TempoRoom) -> TempoRoom:
    """The tempos that both leave room for."""
    return max(one[0], other[0]), min(one[1], other[1])


class ExchangeFitter:
    """An exchange being fitted."""

    def __init__(
        self,
        exchange: FitExchange,
        voice: Mapping[str, SpokenLine],
        style: HouseStyle,
        idle: Sequence[Span],
        skips: Sequence[Span],
    ) -> None:
        self.exchange, self.voice, self.style, self._own_style = exchange, voice, style, style
        self.timeline = ExchangeTimeline(exchange.start, style.lead_in)
        self.playback = PlaybackPlan(self.timeline, style, idle, skips)
        self.ties: list[PlannedTie] = []
        self.shortfalls: list[Shortfall] = []
        self.cost = 0.0
        self.late = ZERO
        self._free = float("inf") if exchange.room is None else float(exchange.room)

    # ── groups ───────────────────────────────────────────────────────────────────────────────────────────
    def group(self, beats: tuple[FitBeat, ...], later: Sequence[tuple[FitBeat, ...]], *, wish: Wish | None) -> None:
        """Fit beats that share one way of moving the picture; those of `later` groups come after."""
        timeline, back_to, last = self.timeline, self.timeline.mat, not later
        pace = beats[0].pace
        self.style = self.playback.style = self._own_style if pace is None else at_pace(self._own_style, pace)
        treated = motion_of(self, beats[0])
        goes_on = treated.is_free and last
        tail = self._tail_of(beats, later) if treated.is_free else None
        tied = not treated.stands and self._moving(beats, treated.motion, tail, wish if goes_on else None)
        if goes_on:
            return
        treated.finish(tied)
        timeline.camera = ""
        timeline.mat = back_to if treated.comes_back else timeline.mat
        if last and treated.ends:
            self._rest(treated.motion)
        elif last:
            timeline.move(Kind.RUN, self._end() - timeline.mat, self.style.base_rate)
        timeline.said += self._after(beats[-1], later[0][0]) if later else self.style.breath

    def _after(self, before: FitBeat, beat: FitBeat) -> Fraction:
        """Seconds from the last word of the beat before to the first one of `beat`: below 0 where that falls in, which
        it does behind the last tied word."""
        if beat.overlap:
            line = self.voice[before.id]
            tied = max((line.words[s.word][1] for s in before.stops), default=ZERO)
            return -min(beat.overlap, line.seconds - tied)
        return ZERO if beat.runs_on else self.style.breath

    def silent(self, wish: Wish | None) -> None:
        """No beats at all: the exchange runs, without what is idle in it."""
        self._moving((), free_motion(self.style), self._tail_of((), ()), wish)

    def first_word(self, beat: FitBeat) -> Fraction:
        """The watch second at which the first word of a beat is said, if nothing makes it wait."""
        return self.timeline.said + self.voice[beat.id].words[0][0]

    def go_to(self, target: Fraction | None) -> None:
        """Bring the picture to a moment to hold: on the way if it lies ahead, by a cut if not."""
        timeline, style = self.timeline, self.style
        if target is None or target == timeline.mat:
            return
        if target < timeline.mat:
            self.playback.let_words_out()
            timeline.mat = target
            return
        motion = free_motion(style)
        places = (0, -1) if self.ties else (-1, 0)
        interval = self.playback.interval(target, timeline.said - timeline.shown, motion, places, style.longest_pause)
        plan = best_plan([interval], [float(style.longest_hold)], style.weights)
        self.cost += plan.cost
        self.playback.travel(interval, target, plan.choices[0], motion)
        timeline.hold(timeline.said - timeline.shown)
        timeline.said = max(timeline.said, timeline.shown)

    def stand(self, beat: FitBeat, kind: Kind, text: str | PhotoCard) -> None:
        """Say a beat while the picture stands, or a card does."""
        timeline, line = self.timeline, self.voice[beat.id]
        start = timeline.said
        for stop in beat.stops:
            said = start + line.words[stop.word][0]
            here = kind is Kind.HOLD and stop.mat == timeline.mat
            self.ties.append(PlannedTie(beat.id, stop.word, stop.mat, said, said if here else None))
            if not here:
                gap = abs(stop.mat - timeline.mat)
                self.shortfalls.append(shortfalls.elsewhere(beat, stop.word, gap, card=kind is Kind.CARD))
        timeline.say(Saying(beat, line, start))
        if kind is Kind.CARD:
            timeline.card(text, timeline.said - timeline.shown)

    def go_round(self, beat: FitBeat, ring: Ring) -> None:
        """Say a beat while the picture goes round."""
        ties, lacks = say_going_round(self.timeline, self.style, beat, self.voice[beat.id], ring)
        self.ties += ties
        self.shortfalls += lacks

    # ── from stop to stop ────────────────────────────────────────────────────────────────────────────────
    def _moving(self, beats: tuple[FitBeat, ...], motion: Motion, tail: Tail | None, wish: Wish | None) -> bool:
        """Fit the ties of `beats`, and the way behind them if there is one; whether there was a tie."""
        targets, _ = self._targets(beats)
        path = solver_input(self.playback, targets, motion, tail)
        if wish is not None:
            wish = Wish(max(wish.seconds - float(path.fixed), 0.0), wish.limit)
        plan = best_plan(path.intervals, path.rooms, self.style.weights, wish, path.stood)
        self.cost += plan.cost
        planned = list(zip(path.intervals, plan.choices, strict=True))
        ways: list[Target | Tail] = [*targets, *([tail] if tail else [])]
        tempos = [
            tempo_of(t.speech, choice.hurried, choice.lingered) for t, choice in zip(ways, plan.choices, strict=True)
        ]
        self._lay(beats, targets, planned, motion, [*tempos, ONE])
        if tail is not None:
            fixed = targets[-1].hold_seconds if targets else None
            self._tail(tail.end, *planned[-1], motion, fixed)
        if plan.too_long:
            self.shortfalls.append(shortfalls.too_long(beats[0].id if beats else "", plan.too_long))
        return bool(targets)

    def _tail_of(self, beats: tuple[FitBeat, ...], later: Sequence[tuple[FitBeat, ...]]) -> Tail | None:
        """The way behind the last stop of `beats`: to the end of the exchange. Where other beats follow it is the share
        of these words in the way to what those are tied to."""
        targets, tail = self._targets(beats)
        if not later:
            return tail
        start = targets[-1].mat if targets else self.timeline.mat
        ahead = ahead_of(later, self.voice, start, self.exchange.end)
        words = tail.out - (targets[-1].due if targets else self.timeline.shown)
        if ahead is None or words <= 0:
            return None
        way = (ahead.mat - start) * words / (words + ahead.words)
        return replace(tail, end=start + way, free=0.0) if way < words * self.style.base_rate else None

    def _targets(self, beats: tuple[FitBeat, ...]) -> tuple[list[Target], Tail]:
        """The stops that can be met in order, and what comes after them, if the voice never waited."""
        found: list[Target] = []
        at, said = self.timeline.mat, self.timeline.said
        speech, room = ZERO, FREE
        for number, beat in enumerate(beats):
            if number:
                said += self._after(beats[number - 1], beat)
            line, since, spoken = self.voice[beat.id], -1, ZERO
            room = _both(room, self.style.tempo_room(line.tempo))
            for stop in beat.stops:
                if stop.mat >= at:
                    pause_at = max((p for p in beat.phrases if since < p <= stop.word), default=stop.word)
                    begins = line.words[stop.word][0]
                    speech += begins - spoken
                    found.append(
                        Target(beat, stop.word, stop.mat, said + begins, pause_at, speech, room, stop.hold_seconds)
                    )
                    at, since, spoken = stop.mat, stop.word, begins
                    speech, room = ZERO, self.style.tempo_room(line.tempo)
            said += line.seconds
            speech += line.seconds - spoken
        return found, Tail(self._end_after(found), said, speech, room, self._free)

    def _lay(
        self,
        beats: tuple[FitBeat, ...],
        targets: list[Target],
        planned: Sequence[Planned],
        motion: Motion,
        tempos: Sequence[Fraction],
    ) -> None:
        """Carry the plan out, beat by beat; `tempos` has that of the voice on each way, and after the last."""
        timeline, number = self.timeline, 0
        for place, beat in enumerate(beats):
            if place:
                timeline.said += self._after(beats[place - 1], beat)
            line, begun = self.voice[beat.id], timeline.said
            saying = Saying(beat, line, begun, tempos[number])
            for stop in beat.stops:
                due = saying.due(stop.word)
                target = targets[number] if number < len(targets) else None
                if target is None or (target.beat, target.word) != (beat, stop.word):
                    self.ties.append(PlannedTie(beat.id, stop.word, stop.mat, due, None))
                    self.shortfalls.append(shortfalls.past(beat, stop.word, timeline.mat - stop.mat))
                    continue
                fixed = targets[number - 1].hold_seconds if number else None
                self._meet(target, planned[number], motion, saying, fixed)
                self.ties.append(PlannedTie(beat.id, stop.word, stop.mat, saying.due(stop.word), timeline.shown))
                number += 1
                saying.go_on_at(stop.word, tempos[number])
            timeline.say(saying)
            if isinstance(beat.treatment, Cutaway | ShowPhoto) and beat.treatment.inset:
                self._inset(beat.treatment, begun)

    def _meet(
        self,
        t: Target,
        planned: Planned,
        motion: Motion,
        saying: Saying,
        fixed: Fraction | None,
    ) -> None:
        """Bring picture and word of one stop together."""
        timeline, line, choice = self.timeline, self.voice[t.beat.id], planned[1]
        due = saying.due(t.word)
        self.playback.travel(planned[0], t.mat, choice, motion, due=due, fixed=fixed)
        wait = ZERO if saying.meet(t.word, timeline.shown) else timeline.shown - due
        grown, self.late = max(-wait - self.late, ZERO), max(-wait, ZERO)
        if wait > 0:
            saying.wait(t.pause_at, wait)
            self._silent_for(t.beat, t.word, wait, choice.silence_over, "before this moment")
        if -wait > UNNOTICED:
            self.shortfalls.append(shortfalls.too_many_words(t.beat, line, t.word, -wait, grown))

    def _silent_for(self, beat: FitBeat, word: int, wait: Fraction, over: float, where: str) -> None:
        """Report a silence of which `over` seconds are more than the style allows."""
        if over > 0:
            self.shortfalls.append(shortfalls.too_silent(beat, word, wait, over, where, self.style.title))

    # ── ends ─────────────────────────────────────────────────────────────────────────────────────────────
    def leave_words_out(self, beat: FitBeat, motion: Motion, *, tied: bool) -> None:
        """Picture for words that are left when other beats follow, or when a treatment fixes how it moves."""
        timeline = self.timeline
        left = timeline.said - timeline.shown
        if left <= 0:
            return
        if tied and left_to_the_fit(beat.treatment):
            by_hand = beat.stops[-1].hold_seconds if beat.stops else None
            most = max(self.style.longest_hold - timeline.stood(), ZERO)
            timeline.hold(min(left, most) if by_hand is None else by_hand)
            left = timeline.said - timeline.shown
        timeline.move(motion.kind, left * motion.base, motion.base)
        timeline.said = max(timeline.said, timeline.shown)

    def _rest(self, motion: Motion) -> None:
        """A little picture after the last word, as it went under it."""
        if motion.kind is Kind.HOLD:
            self.timeline.hold(SHORTEST_TAIL)
        else:
            self.timeline.move(motion.kind, SHORTEST_TAIL * motion.base, motion.base)

    def _end(self) -> Fraction:
        return max([self.exchange.end, *(t.mat + SHORTEST_TAIL for t in self.ties if t.mat == self.exchange.end)])

    def _end_after(self, targets: list[Target]) -> Fraction:
        stays = [self.exchange.end + SHORTEST_TAIL] if any(t.mat == self.exchange.end for t in targets) else []
        last = targets[-1].mat if targets else self.timeline.mat
        return max([self.exchange.end, last, *stays])

    def _tail(
        self, end: Fraction, interval: Interval, choice: Choice, motion: Motion, fixed: Fraction | None
    ) -> None:  # fmt: skip
        """From the last stop to the end of the exchange; words that are left then get a hold, or more picture."""
        timeline = self.timeline
        beyond = Fraction(round(choice.beyond * MICROSECONDS), MICROSECONDS) / motion.base
        self.playback.travel(interval, end, choice, motion, due=timeline.said - beyond, fixed=fixed)
        left = timeline.said - timeline.shown
        beyond = max(left, beyond if beyond > STUMBLE else ZERO)
        if beyond > 0:
            timeline.move(Kind.RUN, beyond * motion.base, motion.base)
        if left < 0 and self.exchange.beats:
            beat = self.exchange.beats[-1]
            last = len(self.voice[beat.id].words) - 1
            self._silent_for(beat, last, -left, choice.silence_over, "after the last word")

    def _inset(self, cutaway: Cutaway | ShowPhoto, begun: Fraction) -> None:
        """The small second picture of a beat, while it is said or for as long as was chosen."""
        lasts = self.timeline.said - begun
        seconds = min(cutaway.seconds, lasts) if cutaway.seconds else lasts
        if isinstance(cutaway, ShowPhoto):
            self.timeline.insets.append(Inset(begun, seconds, ZERO, ONE, beside=False, photo=cutaway.photo))
            return
        self.timeline.insets.append(
            Inset(begun, seconds, cutaway.at, cutaway.rate, beside=False, camera=cutaway.camera)
        )
