"""Cameras that the script and labels name, when a camera gets another name or is no more."""

from __future__ import annotations

from collections.abc import Callable

from msgspec.structs import replace

from chapto.document.breakdown import Breakdown
from chapto.document.footage import cameras_of
from chapto.document.script import Beat, Section
from chapto.document.treatments import Again, Cutaway, GoTo, Loop, SideBySide, Treatment

Called = Callable[[str], str]
"""Gives the new name of a camera; empty where it is left to the angle track."""


def cameras_along(b: Breakdown, old: str, new: str) -> Breakdown:
    """With the camera `old` called `new` wherever it is named, if it is no more; one that is gone is named no more."""
    left = cameras_of(b.footage)

    def called(camera: str) -> str:
        name = new if camera == old and camera not in left else camera
        return name if name in left else ""

    labels = tuple(replace(x, camera=called(x.camera)) if x.camera else x for x in b.labels)
    return replace(b, script=tuple(_section(s, called) for s in b.script), labels=labels)


def _section(s: Section, called: Called) -> Section:
    made = replace(
        s,
        first_camera=called(s.first_camera),
        more_camera=called(s.more_camera),
        beats=tuple(_beat(x, called) for x in s.beats),
    )
    # Whatever is remembered of a section hangs on the very same object.
    return s if made == s else made


def _beat(beat: Beat, called: Called) -> Beat:
    return beat.with_treatments(lambda treatment: _treatment(treatment, called)) if beat.treatments() else beat


def _treatment(treatment: Treatment, called: Called) -> Treatment:
    match treatment:
        case Again() | Loop() | GoTo() | Cutaway() as one:
            return replace(one, camera=called(one.camera))
        case SideBySide() as pair:
            return replace(pair, camera=called(pair.camera), other_camera=called(pair.other_camera))
        case _:
            return treatment
