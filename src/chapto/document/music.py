"""Music under openings, cards and silences."""

from __future__ import annotations

from fractions import Fraction

import msgspec

from chapto.document.mattime import exact


class Music(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """A sound file of the creator's, `seconds` long, at `path` (relative to the project's folder) with its
    `fingerprint`. `licence` is what allows its use, `credit` how it is named. It plays `gain` decibels louder under
    `openings`, `cards` and `silences`, and lower under speech."""

    id: str
    name: str
    path: str
    fingerprint: str
    seconds: Fraction
    licence: str = ""
    credit: str = ""
    gain: Fraction = exact("-10")
    openings: bool = True
    cards: bool = True
    silences: bool = False
