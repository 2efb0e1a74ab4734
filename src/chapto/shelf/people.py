"""Everybody who is on the shelf: what they agreed to and when, whom to thank, when to ask again."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date, timedelta

from chapto.document.clearance import Agreement
from chapto.shelf.database import Database
from chapto.shelf.dates_said import MONTHS, day_said

AGAIN_BEFORE = timedelta(days=30)
"""Before an agreement ends somebody is asked again (common practice)."""
NO_ANSWER = timedelta(days=14)
"""After which somebody who was asked and has not answered is asked again (common practice)."""


@dataclass(frozen=True)
class Agreed:
    """What somebody said for one breakdown: how far asking has come, how, when, and till when."""

    path: str
    title: str
    part: str
    agreement: Agreement
    how: str
    when: str
    until: str
    is_owner: bool
    minor: bool | None
    credit: str


@dataclass(frozen=True)
class Video:
    """A video that went out and was not withdrawn."""

    title: str
    address: str
    site: str
    at: str
    path: str


@dataclass(frozen=True)
class Known:
    """Somebody, with everything they said, and the published videos they are in or whose footage is theirs. `again` is
    why they should be asked again, empty where there is no reason."""

    name: str
    said: tuple[Agreed, ...]
    videos: tuple[Video, ...]
    again: str = ""

    @property
    def stands(self) -> Agreement:
        """The least of what they said: who took it back once is never shown as agreeing."""
        order = (Agreement.WITHDRAWN, Agreement.REFUSED, Agreement.NOT_ASKED, Agreement.ASKED, Agreement.AGREED)
        return min((a.agreement for a in self.said), key=order.index)

    @property
    def thanks(self) -> tuple[str, ...]:
        """The lines that thank them."""
        return tuple(dict.fromkeys(a.credit for a in self.said if a.credit))

    def taken_back(self) -> str:
        """What it means that they take their agreement back: every published video."""
        if not self.videos:
            return f"{self.name} is in no video that is out."
        many = "a video that is" if len(self.videos) == 1 else f"{len(self.videos)} videos that are"
        return f"{self.name} is in {many} out: cut them out or take it down, and write down what you did."


def people(database: Database, today: date) -> tuple[Known, ...]:
    """Everybody, those first who should be asked again, then those who are in most."""
    said: dict[str, list[Agreed]] = {}
    for r in database.rows(
        "SELECT seen.*, path, title FROM seen JOIN breakdown ON breakdown.id = seen.breakdown ORDER BY day DESC, path"
    ):
        minor = None if r["minor"] is None else bool(r["minor"])
        said.setdefault(r["name"], []).append(
            Agreed(
                r["path"], r["title"], r["part"], Agreement(r["agreement"]), r["how"], r["when"], r["until"],
                bool(r["is_owner"]), minor, r["credit"],
            )
        )  # fmt: skip
    videos: dict[str, list[Video]] = {}
    for r in database.rows(
        "SELECT out.*, path FROM out JOIN breakdown ON breakdown.id = out.breakdown WHERE withdrawn = '' "
        "ORDER BY at DESC"
    ):
        videos.setdefault(r["path"], []).append(Video(r["title"], r["address"], r["site"], r["at"], r["path"]))
    found = []
    for name, rows in said.items():
        theirs = tuple(v for path in dict.fromkeys(a.path for a in rows) for v in videos.get(path, ()))
        found.append(Known(name, tuple(rows), theirs, next(_reasons(rows, today), "")))
    return tuple(sorted(found, key=lambda k: (not k.again, -len(k.said), k.name)))


def _reasons(rows: list[Agreed], today: date) -> Iterator[str]:
    for a in rows:
        end = day_in(a.until, today)
        if a.agreement is Agreement.AGREED and end is not None and end - today <= AGAIN_BEFORE:
            yield f"agreed until {day_said(end)} only"
        since = day_in(f"{a.when} {a.how}", today)
        if a.agreement is Agreement.ASKED and (since is None or today - since > NO_ANSWER):
            yield f"asked for “{a.title}”, no answer" + (f" since {day_said(since)}" if since is not None else "")
    if any(a.agreement is Agreement.NOT_ASKED for a in rows):
        yield "was not asked yet"


def day_in(text: str, today: date) -> date | None:
    """The first day a text names: `2026-03-14`, “14 March 2026”, “14 March” (the last one there was); else None."""
    if found := re.search(r"(\d{4})-(\d{2})-(\d{2})", text):
        return _day(*map(int, found.groups()))
    months = "|".join(MONTHS)
    if found := re.search(rf"\b(\d{{1,2}})\.? ({months})(?: (\d{{4}}))?", text.casefold()):
        day, month = int(found[1]), MONTHS.index(found[2]) + 1
        if found[3]:
            return _day(int(found[3]), month, day)
        this = _day(today.year, month, day)
        return this if this is not None and this <= today else _day(today.year - 1, month, day)
    return None


def _day(year: int, month: int, day: int) -> date | None:
    try:
        return date(year, month, day)
    except ValueError:
        return None
