"""The creator's own copy of the demo breakdown, in the XDG data folder."""

from __future__ import annotations

from pathlib import Path

from platformdirs import user_data_path

from chapto.demo.story import demo_breakdown
from chapto.store.journal import Journal, journal_path
from chapto.store.session import Session


def demo_project(*, fresh: bool = False, folder: Path | None = None) -> Path:
    """The path of the demo project; written when it is not there yet, or when `fresh`."""
    place = (folder if folder is not None else user_data_path("chapto") / "demo") / "two-knee-slides.chapto"
    if fresh or not place.exists():
        place.parent.mkdir(parents=True, exist_ok=True)
        Journal(journal_path(place)).clear()
        Session(demo_breakdown(place.parent), place).save()
    return place
