"""How the picture moves under each treatment: one function a treatment, and what happens when its words go on."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from fractions import Fraction
from typing import Protocol, assert_never

from chapto.clock.passage import Kind, PhotoCard
from chapto.document.treatments import (
    Again,
    Cutaway,
    GoTo,
    Hold,
    Loop,
    Pace,
    Run,
    ShowPhoto,
    SideBySide,
    Skip,
    Slow,
    TextCard,
)
from chapto.pacing.exchange_timeline import ZERO, ExchangeTimeline
from chapto.pacing.fitted import FitBeat, FitExchange, Inset
from chapto.pacing.looping import Ring
from chapto.pacing.playback_plan import Motion, PlaybackPlan
from chapto.pacing.styles import HouseStyle

ONE = Fraction(1)
NEAR = Fraction(3, 4)
"""Watch seconds that a picture lacks to a place it is led to, and runs for rather than jumping."""


class Fitter(Protocol):
    """The exchange being fitted, as the motions need it."""

    exchange: FitExchange
    style: HouseStyle
    timeline: ExchangeTimeline
    playback: PlaybackPlan

    def first_word(self, beat: FitBeat) -> Fraction:
        """The watch second at which the first word of a beat is said."""

    def go_to(self, target: Fraction | None) -> None:
        """Bring the picture to a moment to hold."""

    def stand(self, beat: FitBeat, kind: Kind, text: str | PhotoCard) -> None:
        """Say a beat while the picture stands."""

    def go_round(self, beat: FitBeat, ring: Ring) -> None:
        """Say a beat while the picture goes round."""

    def leave_words_out(self, beat: FitBeat, motion: Motion, *, tied: bool) -> None:
        """Picture for the words that are left."""


@dataclass(frozen=True)
class TreatmentPlan:
    """How a treatment moves the picture.

    `motion` is how ties are met on the way. `finish` is what is done for words that are left; it is told whether a tie
    was met. `is_free` leaves the way to the fit. `stands` says that the words have been said already, `comes_back` that
    the exchange goes on where it was. One that `ends` is over with its last word, whatever is left of the exchange.
    """

    motion: Motion
    finish: Callable[[bool], None]
    is_free: bool = False
    stands: bool = False
    comes_back: bool = False
    ends: bool = False


def motion_of(work: Fitter, beat: FitBeat) -> TreatmentPlan:
    """Begin the treatment of `beat`: the picture is brought to where it starts."""
    match beat.treatment:
        case None | Pace():
            return _free(work, beat)
        case Run():
            return _plain(work, beat, Motion(Kind.RUN, ONE, may_hold=False))
        case Slow(rate):
            return _plain(work, beat, Motion(Kind.SLOW, rate))
        case Hold():
            return _hold(work, beat)
        case TextCard(text):
            return _card(work, beat, text)
        case ShowPhoto(photo, beside, push, inset):
            return _free(work, beat) if inset else _photo(work, beat, beat.treatment, PhotoCard(photo, beside, push))
        case Again():
            return _again(work, beat, beat.treatment)
        case Loop():
            return _loop(work, beat, beat.treatment)
        case Skip():
            return _skip(work, beat)
        case GoTo():
            return _go_to(work, beat, beat.treatment)
        case Cutaway():
            return _free(work, beat) if beat.treatment.inset else _cutaway(work, beat, beat.treatment)
        case SideBySide():
            return _side_by_side(work, beat, beat.treatment)
        case _:
            assert_never(beat.treatment)


def free_motion(style: HouseStyle) -> Motion:
    """As the house style moves the picture where nothing else is asked for."""
    return Motion(Kind.RUN, style.base_rate, style.rates)


def _plain(work: Fitter, beat: FitBeat, motion: Motion) -> TreatmentPlan:
    return TreatmentPlan(motion, lambda tied: work.leave_words_out(beat, motion, tied=tied))


def _free(work: Fitter, beat: FitBeat) -> TreatmentPlan:
    motion = free_motion(work.style)
    return TreatmentPlan(motion, lambda tied: work.leave_words_out(beat, motion, tied=tied), is_free=True)


def _hold(work: Fitter, beat: FitBeat) -> TreatmentPlan:
    work.go_to(beat.hold_at)
    work.stand(beat, Kind.HOLD, "")
    motion = Motion(Kind.HOLD, work.style.base_rate)
    return TreatmentPlan(motion, lambda tied: work.timeline.hold(work.timeline.said - work.timeline.shown), stands=True)


def _card(work: Fitter, beat: FitBeat, text: str) -> TreatmentPlan:
    work.playback.let_words_out()
    work.stand(beat, Kind.CARD, text)
    return TreatmentPlan(Motion(Kind.CARD, work.style.base_rate), lambda tied: None, stands=True)


def _photo(work: Fitter, beat: FitBeat, shown: ShowPhoto, card: PhotoCard) -> TreatmentPlan:
    """A photo while the beat is said; where it lasts less, the picture stands for the rest."""
    timeline = work.timeline
    work.playback.let_words_out()
    begun = timeline.shown
    work.stand(beat, Kind.CARD, card)
    over = timeline.shown - begun - shown.seconds
    if shown.seconds and over > 0:
        last = timeline.legs[-1]
        timeline.legs[-1] = replace(last, seconds=last.seconds - over)
        timeline.shown -= over
        timeline.hold(over)
    return TreatmentPlan(Motion(Kind.CARD, work.style.base_rate), lambda tied: None, stands=True)


def _again(work: Fitter, beat: FitBeat, again: Again) -> TreatmentPlan:
    timeline, until = work.timeline, work.timeline.mat
    work.playback.let_words_out()
    timeline.mat = max(timeline.mat - again.back, work.exchange.start)
    timeline.camera = again.camera
    motion = Motion(Kind.AGAIN, again.rate)

    def several_times(tied: bool) -> None:
        """The same stretch over and over, the last time for as long as words are left."""
        start = timeline.mat
        for _ in range(again.times):
            timeline.mat = start
            timeline.move(Kind.AGAIN, until - start, again.rate)
        timeline.hold(timeline.said - timeline.shown)
        timeline.said = max(timeline.said, timeline.shown)

    if again.times > 1:
        return TreatmentPlan(motion, several_times)
    return _plain(work, beat, motion)


def _loop(work: Fitter, beat: FitBeat, loop: Loop) -> TreatmentPlan:
    timeline, exchange = work.timeline, work.exchange
    work.playback.let_words_out()
    low = max(timeline.mat - loop.seconds, exchange.start)
    high = max(timeline.mat, min(low + loop.seconds, exchange.end))
    ring = Ring(low, high, loop.rate, loop.to_and_fro)
    timeline.mat, timeline.camera = high, loop.camera
    work.go_round(beat, ring)
    return TreatmentPlan(Motion(Kind.LOOP, loop.rate), lambda tied: None, stands=True)


def _skip(work: Fitter, beat: FitBeat) -> TreatmentPlan:
    timeline = work.timeline
    work.playback.let_words_out()
    timeline.mat = max(timeline.mat, min(beat.hold_at or timeline.mat, work.exchange.end))
    motion = free_motion(work.style)
    return TreatmentPlan(motion, lambda tied: work.leave_words_out(beat, motion, tied=tied), is_free=True)


def _go_to(work: Fitter, beat: FitBeat, leads: GoTo) -> TreatmentPlan:
    timeline, back = work.timeline, work.timeline.mat > leads.at
    behind = (leads.at - timeline.mat) / leads.rate if leads.rate else leads.at - timeline.mat
    if leads.rate and 0 <= behind <= NEAR and timeline.legs:
        # It goes on: the words wait until the picture is there, rather than that it jumps by a few frames.
        room = timeline.said - timeline.shown
        timeline.hold(room - behind)
        timeline.move(Kind.RUN, leads.at - timeline.mat, leads.rate)
        timeline.said = max(timeline.said, timeline.shown)
    elif behind or not timeline.legs:
        if timeline.legs:
            work.playback.let_words_out()
        timeline.mat = leads.at
    timeline.camera = leads.camera
    if not leads.rate:
        work.stand(beat, Kind.HOLD, "")
        motion = Motion(Kind.HOLD, ONE)
        return TreatmentPlan(motion, lambda tied: timeline.hold(timeline.said - timeline.shown), stands=True, ends=True)
    motion = Motion(Kind.AGAIN if back and behind else Kind.RUN, leads.rate)
    if beat.stops and not beat.stops[0].word:
        # Its first word is tied: the picture stands for a blink before it sets out, rather than on the way.
        way = (beat.stops[0].mat - timeline.mat) / leads.rate
        timeline.hold(work.first_word(beat) - timeline.shown - way)
    return TreatmentPlan(motion, lambda tied: work.leave_words_out(beat, motion, tied=tied), ends=True)


def _cutaway(work: Fitter, beat: FitBeat, cutaway: Cutaway) -> TreatmentPlan:
    timeline, back_to = work.timeline, work.timeline.mat
    work.playback.let_words_out()
    timeline.mat, timeline.camera = cutaway.at, cutaway.camera
    motion = Motion(Kind.CUTAWAY, cutaway.rate)

    def then_back(tied: bool) -> None:
        if ZERO < cutaway.seconds < timeline.said - timeline.shown:
            timeline.move(Kind.CUTAWAY, cutaway.seconds * cutaway.rate, cutaway.rate)
            timeline.mat, timeline.camera = back_to, ""
            timeline.hold(min(timeline.said - timeline.shown, work.style.longest_hold))
        else:
            work.leave_words_out(beat, motion, tied=tied)

    return TreatmentPlan(motion, then_back, comes_back=True)


def _side_by_side(work: Fitter, beat: FitBeat, pair: SideBySide) -> TreatmentPlan:
    timeline = work.timeline
    work.playback.let_words_out()
    timeline.mat, timeline.camera = pair.one, pair.camera
    motion, begun = Motion(Kind.CUTAWAY, pair.rate, may_hold=False), timeline.shown

    def beside(tied: bool) -> None:
        work.leave_words_out(beat, motion, tied=tied)
        timeline.insets.append(
            Inset(begun, timeline.shown - begun, pair.other, pair.rate, beside=True, camera=pair.other_camera)
        )

    return TreatmentPlan(motion, beside, comes_back=True)
