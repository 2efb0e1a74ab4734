"""A review as one HTML page that needs nothing else."""

from __future__ import annotations

from collections.abc import Iterator
from html import escape
from pathlib import Path

from chapto.clock.timecode import clock_text
from chapto.review.finding import Group
from chapto.review.review import Found, Review

STYLE = Path(__file__).with_name("report.css")


def report_html(reviewed: Review, title: str) -> str:
    """The page: the verdict, what was found by group, what is left with a reason, and what could not be checked."""
    return "\n".join(_page(reviewed, title)) + "\n"


def _page(reviewed: Review, title: str) -> Iterator[str]:
    yield f'<!doctype html>\n<html lang="en">\n<head><meta charset="utf-8"><title>{escape(title)}: review</title>'
    yield f"<style>\n{STYLE.read_text('utf-8')}</style></head>\n<body>"
    yield f'<h1>{escape(title)}</h1>\n<p class="verdict">{escape(reviewed.verdict)}</p>'
    for group in Group:
        rows = [f for f in reviewed.found if f.check.group is group]
        if rows:
            yield f"<h2>{escape(group.value)}</h2>\n<table>"
            yield from map(_row, rows)
            yield "</table>"
    if reviewed.waived:
        yield "<h2>Left with a reason</h2>\n<table>"
        yield from map(_row, reviewed.waived)
        yield "</table>"
    if reviewed.unchecked:
        yield "<h2>Could not be checked</h2>\n<table>"
        for u in reviewed.unchecked:
            yield f'<tr><td>{escape(u.check.name)}</td><td class="soft">{escape(u.why)}</td></tr>'
        yield "</table>"
    yield "</body>\n</html>"


def _row(f: Found) -> str:
    x = f.finding
    at = "" if x.at is None else clock_text(x.at, tenths=True)
    dot = f'<i class="{x.weight.said}" title="{x.weight.means}"></i>'
    said = f"{dot}{escape(x.sentence)}"
    if f.waiver is not None:
        said += f'<br><span class="soft">Left as it is: {escape(f.waiver.reason)}</span>'
    measured = ""
    if x.limit is not None:
        limit = x.limit.said(x.limit.value)
        measured = f'{escape(x.value)}<br><span class="soft">limit {escape(limit)}<br>{escape(x.limit.source)}</span>'
    return f'<tr><td class="at">{at}</td><td>{said}</td><td class="value">{measured}</td></tr>'
