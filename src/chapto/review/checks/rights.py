"""What is not settled before footage, photos and music may be shown."""

from __future__ import annotations

from collections.abc import Iterator

from chapto.document.clearance_checks import open_points
from chapto.document.covering import to_cover
from chapto.document.music_checks import music_open
from chapto.document.photo_checks import photos_open
from chapto.review.finding import Finding, Weight, Where
from chapto.review.reviewed import Reviewed


def find(r: Reviewed) -> Iterator[Finding]:
    """A finding for each file that is shown, with the weightiest of what is open, and one for each photo and music."""
    shown = r.programme.files_shown
    for c in r.b.footage:
        refusing = {person.name for person, file in to_cover(r.b) if file is c}
        # Who said no and can be seen is told by a check of its own.
        points = [x for x in open_points(r.b, c) if not any(x.startswith(f"{name} ") for name in refusing)]
        if c.id in shown and points:
            more = f" {len(points) - 1} more to settle." if len(points) > 1 else ""
            yield Finding(Weight.MUST, f"“{c.name}”: {points[0]}{more}", Where(item=c.id), points[0])
    for sentence in photos_open(r.b):
        yield Finding(Weight.MUST, sentence, quote=sentence)
    if r.programme.music:
        for sentence in music_open(r.b):
            yield Finding(Weight.MUST, sentence, quote=sentence)


def uncovered(r: Reviewed) -> Iterator[Finding]:
    """People who did not agree, can be seen, and are not covered."""
    shown = r.programme.files_shown
    for person, c in to_cover(r.b):
        if c.id in shown:
            sentence = f"{person.name} did not agree, and can be seen in “{c.name}”: cover them, X in Mark."
            yield Finding(Weight.MUST, sentence, Where(item=c.id), person.name)
