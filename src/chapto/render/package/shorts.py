"""Shorts: sections of the script as videos of their own, cropped so that the two stay in the picture."""

from __future__ import annotations

from pathlib import Path

from chapto.document.publishing import Short
from chapto.errors import ChaptoError
from chapto.programme.short import LONGEST, shorts_of, shorts_wanted
from chapto.publish.roles import Role
from chapto.render.package.making import Making
from chapto.render.production import Production, produce, render_production


class ShortError(ChaptoError):
    """A short that can't be made."""


def short_production(making: Making, short: Short) -> Production:
    """A short, compiled, as much of its section as fits. `ShortError` where not even its first words do."""
    for less in shorts_of(making.b, short):
        made = produce(
            less, making.guide, making.programme.known, project=making.project, following=True,
            cancelled=making.cancelled,
        )  # fmt: skip
        if 0 < made.programme.seconds <= LONGEST:
            return made
    section = next(s for s in making.b.script if s.id == short.section)
    raise ShortError(
        f"No short of “{section.title or section.id}”: not even its first words fit into {int(LONGEST)} s."
    )


def write_shorts(making: Making) -> list[tuple[Path, Role]]:
    """All of them, numbered as they were chosen. One that can't be made is said; the others are made."""
    made: list[tuple[Path, Role]] = []
    wanted = shorts_wanted(making.b)
    for number, short in enumerate(wanted):
        try:
            production = short_production(making, short)
        except ShortError as error:
            making.say(str(error))
            continue
        shape = str(short.shape).replace(":", "x")
        place = making.place(Role.SHORT, f"{making.name}-{number + 1}-{shape}.mp4")

        def told(share: float, number: int = number) -> None:
            making.progress((number + share) / len(wanted))

        render_production(
            production, making.project, place, alone=True, workers=making.workers, progress=told,
            cancelled=making.cancelled,
        )  # fmt: skip
        made.append((place, Role.SHORT))
    return made
