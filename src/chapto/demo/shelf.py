"""The demo's shelf: the two demo breakdowns, some that tell parts of the same bout, and the Tuesdays of some months."""

from __future__ import annotations

from collections.abc import Callable
from datetime import date
from pathlib import Path

from msgspec.structs import replace

from chapto.demo.shelf_rounds import round_breakdown
from chapto.demo.story import demo_breakdown
from chapto.demo.talk_project import talk_project
from chapto.demo.working_copy import demo_project, put_copy
from chapto.document.breakdown import Breakdown
from chapto.document.checks import checked
from chapto.document.publishing import Published, Publishing
from chapto.document.script import Beat, Section, Tie
from chapto.shelf import edit_book
from chapto.shelf.book import Book, change_book
from chapto.shelf.home import OWN
from chapto.shelf.times import TimeNote, note_time, read_times

FOLDER = "earlier"
"""Beside the demo."""
PARTS: dict[str, tuple[str, date, tuple[tuple[str, str, str], ...]]] = {
    "frames.chapto": ("Frames, part one", date(2026, 3, 2), (
        ("x2", "A frame that is late still holds",
         "Wren's knee is over the thigh, and the far arm frames all the same. The knee slide is stopped there. "
         "Part two shows the frame that comes too late."),
    )),
    "underhook.chapto": ("The underhook decides", date(2026, 3, 23), (
        ("x3", "Arm before knee",
         "The underhook first, then the knee slide. Nothing is left to frame with, and it lands."),
        ("x4", "The same arm from below",
         "Moss has the underhook now, and the sweep is his. In another video I will show how to deny it."),
    )),
    "single-leg.chapto": ("One leg is enough", date(2026, 4, 13), (
        ("x1", "Down to the leg",
         "The hips drop first, both hands close behind the knee, and the base is gone."),
    )),
    "back.chapto": ("From an arm to the back", date(2026, 5, 18), (
        ("x6", "The drag",
         "His arm crosses her body, and she is past it. One arm over, one under, then the hooks."),
        ("x7", "Hands first",
         "The forearm goes under the chin when his hands are busy. He taps, and she lets go at once."),
    )),
    "heel-hook.chapto": ("Getting the knee out", date(2026, 6, 15), (
        ("x5", "Free the knee line",
         "His knee line is past her hips, and he clears it before the heel turns. "
         "Practise this slowly, with a coach. The link is below."),
    )),
}  # fmt: skip
"""Parts of the bout that were told before, by file: title, the day it went out, and for each exchange a chapter with
its words."""
WHERE = "Saltmarsh Winter Open, mat 2"
TUESDAYS = (
    ("Half guard on a Tuesday", date(2026, 2, 3)), ("Passing slowly", date(2026, 3, 10)),
    ("Bottom first", date(2026, 4, 7)), ("Frames, part three", date(2026, 5, 12)),
    ("What the top hand does", date(2026, 6, 9)), ("Elbow to knee", date(2026, 8, 11)),
    ("Under pressure", date(2026, 9, 15)),
)  # fmt: skip


def shelved(project: Path) -> Path:
    """The same demo project, with its shelf beside it."""
    demo_shelf(folder=project.parent)
    return project


def demo_shelf(*, fresh: bool = False, folder: Path | None = None) -> Path:
    """The folder of the demo's shelf, beside the demo; its breakdowns are written where they are not there yet."""
    project = demo_project(folder=folder)
    talk_project(folder=project.parent)
    base, shelf = project.parent, project.parent / OWN
    for name, (title, day, told) in PARTS.items():
        put_copy(f"{FOLDER}/{name}", _part(title, day, told), fresh=fresh, folder=base)
    for number, (title, day) in enumerate(TUESDAYS, 1):
        made = round_breakdown(title, f"Tidewrack Grappling, {day.isoformat()}", 700 + number, day=day, out=number < 6)
        put_copy(f"{FOLDER}/tuesday-{number}.chapto", lambda beside, made=made: made, fresh=fresh, folder=base)  # type: ignore[misc]
    if not shelf.exists():
        shelf.mkdir(parents=True)
        change_book(shelf, lambda book: _book(book, base))
    if not read_times(shelf):
        for note in _times(base):
            note_time(shelf, note)
    return shelf


def _part(title: str, day: date, told: tuple[tuple[str, str, str], ...]) -> Callable[[Path], Breakdown]:
    def make(beside: Path) -> Breakdown:
        whole = demo_breakdown(beside, marks=False)
        sections = []
        for number, (exchange, chapter, words) in enumerate(told, 1):
            x = whole.exchange(exchange)
            moment = next((m for m in whole.moments if x.start <= m.at < x.end), None)
            ties = (Tie(word=0, moment=moment.id),) if moment is not None else ()
            beat = Beat(id=f"b{number}", text=words, ties=ties)
            sections.append(Section(id=f"s{number}", title=chapter, exchange=exchange, beats=(beat,)))
        published = Published(
            at=f"{day.isoformat()}T18:00:00+00:00", site="Stand-in", video="0" * 64, title=title,
            address=f"https://site.example/v/{day.toordinal()}",
        )  # fmt: skip
        return checked(
            replace(
                whole,
                title=title,
                part=WHERE,
                about=f"{title}: from the bout of Wren Adeyo and Moss Tarrant.",
                script=tuple(sections),
                labels=(),
                waivers=(),
                photos=(),
                takes=(),
                publishing=Publishing(published=(published,)),
            )
        )

    return make


def _book(book: Book, base: Path) -> Book:
    book = edit_book.add_folder(book, base)
    book = edit_book.ask_for(
        book, "Can you show the same from the other side, when I am below?", day=date(2026, 6, 20),
        path=str(base / FOLDER / "underhook.chapto"),
    )  # fmt: skip
    book = edit_book.plan(
        book, "Frames, part two", date(2026, 12, 8), minutes=260, footage=(str(base / "two-knee-slides.chapto"),)
    )
    book = edit_book.plan(book, "Below half guard: deny the underhook", date(2026, 12, 17), minutes=320)
    return edit_book.note_times(book, wanted=True)


def _times(base: Path) -> list[TimeNote]:
    """What Chapto would have noted: the first took long, the later ones less (invented)."""
    share = {"Footage": 0.08, "Log": 0.2, "Write": 0.34, "Mark": 0.12, "Voice": 0.14, "Review": 0.07, "Publish": 0.05}
    rows = [(f"{FOLDER}/{name}", day, 150.0 + 40 * i) for i, (name, (_, day, _)) in enumerate(PARTS.items())]
    rows += [(f"{FOLDER}/tuesday-{n}.chapto", day, 240.0) for n, (_, day) in enumerate(TUESDAYS, 1)]
    found = []
    for number, (name, day, length) in enumerate(sorted(rows, key=lambda row: row[1]), 1):
        minutes = 68 * number**-0.32 * length / 60
        for i, (stage, part) in enumerate(share.items()):
            uneven = 1 + 0.25 * ((number * 7 + i * 5) % 9 - 4) / 4
            seconds = round(minutes * 60 * part * uneven)
            found.append(
                TimeNote(day=day.isoformat(), path=str(base / name), stage=stage, seconds=seconds, length=length)
            )
    return found
