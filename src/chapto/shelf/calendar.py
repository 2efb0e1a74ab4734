"""The plan as iCalendar (RFC 5545), and back."""

from __future__ import annotations

import hashlib
from datetime import UTC, date, datetime, time
from pathlib import Path

from chapto.shelf.book import Planned
from chapto.shelf.errors import ShelfError

PRODUCT = "-//Chapto//Plan//EN"
DOMAIN = "plan.chapto.invalid"
"""The right side of an event's id: a name that belongs to nobody (RFC 2606)."""
MINUTES, FOOTAGE, DONE, ID = "X-CHAPTO-MINUTES", "X-CHAPTO-FOOTAGE", "X-CHAPTO-DONE", "X-CHAPTO-ID"


def to_calendar(plan: tuple[Planned, ...], *, made: datetime | None = None) -> bytes:
    """Each planned video as an event of its whole day, with what is left to do in its description."""
    from icalendar import Calendar, Event

    calendar = Calendar()
    calendar.add("prodid", PRODUCT)
    calendar.add("version", "2.0")
    stamp = made or datetime.now(UTC)
    for p in plan:
        event = Event()
        event.add("uid", f"{hashlib.sha256(f'{p.id}/{p.subject}'.encode()).hexdigest()[:20]}@{DOMAIN}")
        event.add("dtstamp", stamp)
        event.add("dtstart", date.fromisoformat(p.day))
        event.add("summary", p.subject)
        event.add("transp", "TRANSPARENT")
        if p.minutes:
            event.add("description", f"About {p.minutes} minutes of work.")
        event.add("status", "CONFIRMED" if p.done else "TENTATIVE")
        event.add(ID, p.id)
        event.add(MINUTES, str(p.minutes))
        event.add(DONE, "yes" if p.done else "no")
        for file in p.footage:
            event.add(FOOTAGE, file)
        calendar.add_component(event)
    return bytes(calendar.to_ical())


def from_calendar(path: Path) -> tuple[Planned, ...]:
    """The videos of a calendar that Chapto or another program wrote: every event with a title counts. `ShelfError`
    where it can't be read."""
    from icalendar import Calendar

    try:
        calendar = Calendar.from_ical(path.read_bytes())
    except (OSError, ValueError, IndexError, KeyError) as error:
        raise ShelfError(f"“{path.name}” can't be read as a calendar: {error}.") from None
    found = []
    for number, event in enumerate(calendar.walk("VEVENT"), 1):
        start, subject = event.get("dtstart"), str(event.get("summary", "")).strip()
        if start is None or not subject:
            continue
        minutes, files = str(event.get(MINUTES, "0")), event.get(FOOTAGE, [])
        found.append(
            Planned(
                id=str(event.get(ID, f"v{number}")),
                subject=subject,
                day=_day(start.dt).isoformat(),
                minutes=int(minutes) if minutes.isdigit() else 0,
                footage=tuple(map(str, files if isinstance(files, list) else [files])),
                done=str(event.get(DONE, "no")) == "yes",
            )
        )
    return tuple(sorted(found, key=lambda p: (p.day, p.id)))


def _day(at: date | datetime | time) -> date:
    if isinstance(at, datetime):
        return at.date()
    if isinstance(at, date):
        return at
    raise ShelfError("An event of that calendar has no day.")
