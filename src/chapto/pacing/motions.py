"""How the picture moves under each treatment: one function a treatment, and what happens when its words go on."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from fractions import Fraction
from typing import Protocol, assert_never

from chapto.clock.passage import Kind
from chapto.document.treatments import Again, Cutaway, Hold, Run, SideBySide, Skip, Slow, TextCard
from chapto.pacing.fitted import FitBeat, FitExchange, Inset
from chapto.pacing.route import ZERO, Route
from chapto.pacing.styles import HouseStyle
from chapto.pacing.way import Manner, Way

ONE = Fraction(1)


class Fitter(Protocol):
    """The exchange being fitted, as the motions need it."""

    exchange: FitExchange
    style: HouseStyle
    route: Route
    way: Way

    def go_to(self, target: Fraction | None) -> None:
        """Bring the picture to a moment to hold."""

    def stand(self, beat: FitBeat, kind: Kind, text: str) -> None:
        """Say a beat while the picture stands."""

    def leave_words_out(self, beat: FitBeat, manner: Manner, *, tied: bool) -> None:
        """Picture for the words that are left."""


@dataclass(frozen=True)
class Motion:
    """`manner` is how ties are met on the way, `finish` what is done for words that are left (told whether a tie was
    met); `is_free` leaves the way to the fit, `stands` says that the words have been said already, and `comes_back`
    that the exchange goes on where it was."""

    manner: Manner
    finish: Callable[[bool], None]
    is_free: bool = False
    stands: bool = False
    comes_back: bool = False


def motion_of(work: Fitter, beat: FitBeat) -> Motion:
    """Begin the treatment of `beat`: the picture is brought to where it starts."""
    match beat.treatment:
        case None:
            return _free(work, beat)
        case Run():
            return _plain(work, beat, Manner(Kind.RUN, ONE, may_hold=False))
        case Slow(rate):
            return _plain(work, beat, Manner(Kind.SLOW, rate))
        case Hold():
            return _hold(work, beat)
        case TextCard(text):
            return _card(work, beat, text)
        case Again():
            return _again(work, beat, beat.treatment)
        case Skip():
            return _skip(work, beat)
        case Cutaway():
            return _free(work, beat) if beat.treatment.inset else _cutaway(work, beat, beat.treatment)
        case SideBySide():
            return _side_by_side(work, beat, beat.treatment)
        case _:
            assert_never(beat.treatment)


def free_manner(style: HouseStyle) -> Manner:
    """As the house style moves the picture where nothing else is asked for."""
    return Manner(Kind.RUN, style.base_rate, style.rates)


def _plain(work: Fitter, beat: FitBeat, manner: Manner) -> Motion:
    return Motion(manner, lambda tied: work.leave_words_out(beat, manner, tied=tied))


def _free(work: Fitter, beat: FitBeat) -> Motion:
    manner = free_manner(work.style)
    return Motion(manner, lambda tied: work.leave_words_out(beat, manner, tied=tied), is_free=True)


def _hold(work: Fitter, beat: FitBeat) -> Motion:
    work.go_to(beat.hold_at)
    work.stand(beat, Kind.HOLD, "")
    manner = Manner(Kind.HOLD, work.style.base_rate)
    return Motion(manner, lambda tied: work.route.hold(work.route.said - work.route.shown), stands=True)


def _card(work: Fitter, beat: FitBeat, text: str) -> Motion:
    work.way.let_words_out()
    work.stand(beat, Kind.CARD, text)
    return Motion(Manner(Kind.CARD, work.style.base_rate), lambda tied: None, stands=True)


def _again(work: Fitter, beat: FitBeat, again: Again) -> Motion:
    route, until = work.route, work.route.mat
    work.way.let_words_out()
    route.mat = max(route.mat - again.back, work.exchange.start)
    manner = Manner(Kind.AGAIN, again.rate)

    def several_times(tied: bool) -> None:
        """The same stretch over and over, the last time for as long as words are left."""
        start = route.mat
        for _ in range(again.times):
            route.mat = start
            route.move(Kind.AGAIN, until - start, again.rate)
        route.hold(route.said - route.shown)
        route.said = max(route.said, route.shown)

    if again.times > 1:
        return Motion(manner, several_times)
    return _plain(work, beat, manner)


def _skip(work: Fitter, beat: FitBeat) -> Motion:
    route = work.route
    work.way.let_words_out()
    route.mat = max(route.mat, min(beat.hold_at or route.mat, work.exchange.end))
    manner = free_manner(work.style)
    return Motion(manner, lambda tied: work.leave_words_out(beat, manner, tied=tied), is_free=True)


def _cutaway(work: Fitter, beat: FitBeat, cutaway: Cutaway) -> Motion:
    route, back_to = work.route, work.route.mat
    work.way.let_words_out()
    route.mat = cutaway.at
    manner = Manner(Kind.CUTAWAY, cutaway.rate)

    def then_back(tied: bool) -> None:
        if ZERO < cutaway.seconds < route.said - route.shown:
            route.move(Kind.CUTAWAY, cutaway.seconds * cutaway.rate, cutaway.rate)
            route.mat = back_to
            route.hold(min(route.said - route.shown, work.style.longest_hold))
        else:
            work.leave_words_out(beat, manner, tied=tied)

    return Motion(manner, then_back, comes_back=True)


def _side_by_side(work: Fitter, beat: FitBeat, pair: SideBySide) -> Motion:
    route = work.route
    work.way.let_words_out()
    route.mat = pair.one
    manner, begun = Manner(Kind.CUTAWAY, pair.rate, may_hold=False), route.shown

    def beside(tied: bool) -> None:
        work.leave_words_out(beat, manner, tied=tied)
        route.insets.append(Inset(begun, route.shown - begun, pair.other, pair.rate, beside=True))

    return Motion(manner, beside, comes_back=True)
