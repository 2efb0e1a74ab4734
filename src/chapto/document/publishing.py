"""What the creator decided about what goes out, and what went out."""

from __future__ import annotations

from collections.abc import Iterator
from enum import StrEnum
from fractions import Fraction

import msgspec

from chapto.document.bounds import LONGEST_NAME, is_time, text_problem
from chapto.document.mattime import exact


class Shape(StrEnum):
    """Width to height of a short."""

    TALL = "9:16"
    SQUARE = "1:1"
    WIDE = "16:9"


class Thumbnail(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """The picture that stands for the video: `footage` (by id) at mat time `at`, under a `title`. Without footage
    Chapto proposes the frame; without a title it is the video's."""

    footage: str = ""
    at: Fraction = exact("0")
    title: str = ""


class Short(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """A section of the script (by id) that goes out as a video of its own too, in another shape."""

    section: str
    shape: Shape = Shape.TALL


class Published(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """That it went out: `at` (UTC, as ISO 8601), to which `site`, under which `address` and title, the SHA-256 of the
    video. `goes_public` is when a scheduled one can be seen from; one that was `withdrawn` tells when."""

    at: str
    site: str
    address: str
    title: str
    video: str
    goes_public: str = ""
    withdrawn: str = ""


class Publishing(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """All of it; without `shorts` Chapto proposes one. What belongs to a section or footage that is no longer there
    counts for nothing, and is there again when that is."""

    thumbnail: Thumbnail = msgspec.field(default_factory=Thumbnail)
    shorts: tuple[Short, ...] | None = None
    published: tuple[Published, ...] = ()


def publishing_problems(p: Publishing) -> Iterator[str]:
    """What makes no sense in it, a sentence each."""
    if p.thumbnail.footage and not is_time(p.thumbnail.at):
        yield "The thumbnail is taken from nowhere."
    shorts = p.shorts or ()
    if len({(s.section, s.shape) for s in shorts}) < len(shorts):
        yield "One short would be made twice."
    texts = [p.thumbnail.title, *(t for x in p.published for t in (x.at, x.site, x.address, x.title, x.video))]
    for text in (*texts, *(t for x in p.published for t in (x.goes_public, x.withdrawn))):
        if problem := text_problem(text, LONGEST_NAME):
            yield f"A text about what goes out {problem}."
