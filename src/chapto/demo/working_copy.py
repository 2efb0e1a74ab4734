"""The creator's own copy of the demo breakdown, in the XDG data folder."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from msgspec.structs import replace
from platformdirs import user_data_path

from chapto.demo.readings import know_readings
from chapto.demo.story import demo_breakdown
from chapto.demo.takes import know_words, with_takes
from chapto.document.breakdown import Breakdown
from chapto.document.checks import checked
from chapto.store.outputs import free_name
from chapto.store.schema import encode
from chapto.store.session import Session

MARK = "made-by-chapto-demo"


def claim_results(folder: Path) -> bool:
    """Make `folder` the one that the demo's results go into; whether those of an earlier run may be replaced. They may
    not in a folder that held something else first."""
    mark = folder / MARK
    if mark.exists():
        return True
    if folder.exists() and any(folder.iterdir()):
        return False
    folder.mkdir(parents=True, exist_ok=True)
    mark.touch()
    return True


def demo_project(
    *, fresh: bool = False, folder: Path | None = None, takes: bool = True, marks: bool = True, lines: int = 720
) -> Path:
    """The path of the demo project; written when it is not there yet, or when `fresh`: then one that was edited is
    kept beside it under another name. Without `takes` the guide voice says everything, and without `marks`
    nothing is drawn. The video is `lines` high, 16 by 9."""

    def make(beside: Path) -> Breakdown:
        demo = demo_breakdown(beside, marks=marks)
        demo = with_takes(demo, beside) if takes else demo
        size = replace(demo.format, width=round(lines * 16 / 18) * 2, height=lines)
        return checked(replace(demo, format=size))

    know_words()
    return put_copy("two-knee-slides.chapto", make, fresh=fresh, folder=folder)


def put_copy(name: str, make: Callable[[Path], Breakdown], *, fresh: bool, folder: Path | None) -> Path:
    """The path of a project called `name` in `folder`, or where the demo lies; made with `make`, which is told that
    folder. One that was edited is never written over."""
    place = (folder if folder is not None else user_data_path("chapto") / "demo") / name
    know_readings()
    if fresh or not place.exists():
        place.parent.mkdir(parents=True, exist_ok=True)
        demo = make(place.parent)
        if place.exists():
            if place.read_bytes() == encode(demo):
                place.unlink()
            else:
                place.rename(free_name(place.with_name(f"{place.stem} (earlier).chapto")))
        Session.create(demo, place).let_go()
    return place
