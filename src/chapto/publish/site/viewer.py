"""What a viewer sees of a video: in a list, and on its page."""

from __future__ import annotations

from dataclasses import dataclass

from chapto.clock.timecode import clock_text
from chapto.programme.programme import Programme
from chapto.publish.chapter_list import chapter_problems
from chapto.publish.site.site import Limits


@dataclass(frozen=True)
class ViewerPage:
    """`listed` is the title as a list cuts it; `first_lines` of the description stand there before one asks for more;
    `chapters` are their times and titles, none where a site would show none. The counts say how much of the room for
    the title and the description is taken."""

    title: str
    listed: str
    length: str
    first_lines: tuple[str, ...]
    more: int
    chapters: tuple[tuple[str, str], ...]
    title_count: tuple[int, int]
    description_count: tuple[int, int]


def viewer_page(title: str, description: str, programme: Programme, limits: Limits) -> ViewerPage:
    """The page of a video."""
    lines = [line for line in description.splitlines() if line.strip()]
    shown = not chapter_problems(programme)
    return ViewerPage(
        title=title,
        listed=cut_title(title, limits.title_in_lists),
        length=clock_text(programme.seconds),
        first_lines=tuple(lines[: limits.lines_before_more]),
        more=max(len(lines) - limits.lines_before_more, 0),
        chapters=tuple((clock_text(c.start / programme.fps), c.title) for c in programme.chapters) if shown else (),
        title_count=(len(title), limits.title),
        description_count=(len(description), limits.description),
    )


def cut_title(title: str, most: int) -> str:
    """A title cut after a whole word, as lists cut it."""
    if len(title) <= most:
        return title
    kept = title[: most - 1]
    at = kept.rfind(" ")
    return f"{(kept[:at] if at > most // 2 else kept).rstrip()}…"
