"""What of the programme's sound is in the headphones."""

from __future__ import annotations

from enum import StrEnum


class Heard(StrEnum):
    """All of it, the footage without a voice, or nothing."""

    ALL = "all"
    GYM = "the gym"
    NOTHING = "nothing"
