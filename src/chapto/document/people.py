"""Who is on the mat and who talks."""

from __future__ import annotations

from enum import StrEnum

import msgspec


class Side(StrEnum):
    """Which athlete: the first is drawn as a disc, the second as a square."""

    FIRST = "first"
    SECOND = "second"


class SpokenOf(StrEnum):
    """How the two are spoken of: by their names, by the colours of their kit, or by one of them who talks."""

    NAMES = "names"
    KITS = "kits"
    FIRST_IS_ME = "first is me"
    SECOND_IS_ME = "second is me"


class Athlete(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """One athlete; `kit_colour` is `#rrggbb`."""

    name: str
    kit: str = ""
    kit_colour: str = "#E3A33A"


class Narrator(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """One voice: its guide voice and its own pace in words a minute (typically 160–260, common practice). `written` are
    the marks that stand before its words in scripts from elsewhere (“HOST”)."""

    id: str
    name: str
    guide_voice: str = "en"
    pace: int = 190
    written: tuple[str, ...] = ()
