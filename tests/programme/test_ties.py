"""When a tie is met: its moment is on the screen from 0.4 s before the word to the word's end."""

from fractions import Fraction

import pytest

from chapto.clock.passage import Kind, Passage
from chapto.clock.timemap import TimeMap
from chapto.programme.programme import TieState
from chapto.programme.ties import nearest_showing, tie_state

F = Fraction


@pytest.mark.parametrize(
    ("shown", "state"),
    [
        ("9.5", TieState.LATE), ("9.6", TieState.MET), ("10", TieState.MET), ("10.3", TieState.MET),
        ("10.4", TieState.LATE), ("8.5", TieState.BROKEN), ("10.7", TieState.BROKEN),
    ],
)  # fmt: skip
def test_state_by_when_the_moment_is_shown(shown: str, state: TieState) -> None:
    assert tie_state(F(10), F("10.3"), F(shown)) is state


def test_a_voice_before_its_picture_is_judged_harder_than_one_after() -> None:
    early, late = tie_state(F(10), F("10.1"), F("10.8")), tie_state(F(10), F("10.1"), F("9.2"))
    assert (early, late) == (TieState.BROKEN, TieState.LATE)


def test_a_moment_that_is_never_shown_is_broken() -> None:
    assert tie_state(F(1), F(2), None) is TieState.BROKEN


def test_a_held_moment_is_on_the_screen_all_the_time_it_is_held() -> None:
    fps = F(30)
    time_map = TimeMap(
        (
            Passage(Kind.RUN, "f1", F(0), F(1), 0, 60, fps),
            Passage(Kind.HOLD, "f1", F(2), F(0), 60, 90, fps),
            Passage(Kind.AGAIN, "f1", F(1), F(1), 150, 60, fps),
        )
    )
    inside = F("3.7")
    assert nearest_showing(time_map, F(2), inside, (0, 210)) == inside
    assert nearest_showing(time_map, F(2), F("5.5"), (0, 210)) == 5
    assert nearest_showing(time_map, F("1.5"), F("5.4"), (0, 210)) == F("5.5")
    assert nearest_showing(time_map, F("1.5"), F("5.4"), (0, 150)) == F("1.5")
    assert nearest_showing(time_map, F(9), inside, (0, 210)) is None
