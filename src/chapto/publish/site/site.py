"""What Chapto asks of a hosting site: uploads in parts that can be gone on with, and what becomes of a video."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from enum import StrEnum
from typing import Protocol

from chapto.errors import ChaptoError


class SiteError(ChaptoError):
    """Something a site refused, in a sentence."""


class Interrupted(SiteError):
    """The connection broke; what was sent so far is kept."""


class Refused(SiteError):
    """What was sent is not taken: a title, a length, a size, a quota."""


class State(StrEnum):
    """What has become of a video on a site."""

    PROCESSING = "processing"
    SCHEDULED = "scheduled"
    PUBLIC = "public"
    WITHDRAWN = "withdrawn"


@dataclass(frozen=True)
class Limits:
    """What a site takes (common practice of hosting sites): letters of titles and descriptions, bytes of thumbnails and
    of one part, and how much of a title a list shows."""

    title: int = 100
    description: int = 5000
    thumbnail: int = 2_000_000
    part: int = 1 << 20
    title_in_lists: int = 60
    lines_before_more: int = 2


@dataclass(frozen=True)
class Draft:
    """A video as it is offered: its `size` in bytes and SHA-256, what stands under it, its captions (WebVTT), its
    thumbnail (JPEG), and from when on it can be seen; None for at once."""

    title: str
    description: str
    size: int
    sha256: str
    captions: str = ""
    thumbnail: bytes = b""
    goes_public: datetime | None = None


@dataclass(frozen=True)
class Standing:
    """Where a video stands on a site: its state, how far it is processed, and its address once it has one."""

    video: str
    state: State
    processed: float
    address: str
    title: str


class Site(Protocol):
    """A hosting site. Everything raises `SiteError`; `Interrupted` may be tried again."""

    name: str
    limits: Limits

    def room(self) -> int:
        """Bytes that may still be sent."""

    def begin(self, draft: Draft) -> str:
        """Offer a video; gives the upload, the same one for a video whose upload was begun before."""

    def received(self, upload: str) -> int:
        """How many bytes of an upload are there."""

    def send(self, upload: str, first: int, data: bytes) -> None:
        """Send a part that begins at byte `first`, which is where the upload stands."""

    def finish(self, upload: str) -> str:
        """End an upload that is whole; gives the video."""

    def standing(self, video: str) -> Standing:
        """Where a video stands now."""

    def change(
        self, video: str, *, title: str | None = None, description: str | None = None, thumbnail: bytes | None = None
    ) -> None:
        """Give a video another title, description or thumbnail."""

    def schedule(self, video: str, when: datetime | None) -> None:
        """Let it be seen from a time on; at once for None."""

    def withdraw(self, video: str) -> None:
        """Take it back: nobody sees it any more."""
