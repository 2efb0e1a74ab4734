"""A simulated hosting site: no network, a folder behind it. It takes its time, breaks off where it is told to, and
refuses what sites refuse."""

from __future__ import annotations

import hashlib
import os
from collections.abc import Callable, Iterator
from datetime import UTC, datetime
from pathlib import Path

import msgspec
from platformdirs import user_data_path

from chapto.publish.manifest import sha256_of
from chapto.publish.site.site import Draft, Interrupted, Limits, Refused, SiteError, Standing, State

QUOTA = 8 << 30
PROCESSING = 4
"""Times one has to ask before a video is processed."""


def site_folder() -> Path:
    """Where the simulated site that comes with Chapto keeps its files."""
    return user_data_path("chapto") / "simulated-site"


class _Kept(msgspec.Struct, kw_only=True):
    """What the site knows of one video."""

    title: str
    description: str
    size: int
    sha256: str
    captions: str = ""
    goes_public: datetime | None = None
    finished: bool = False
    asked: int = 0
    withdrawn: bool = False


class StandInSite:
    """A `Site` with its files in `folder`. `breaks` says, for each part sent from now on, whether the connection breaks
    before it arrives; `quota` is how many bytes it takes in all."""

    name = "The simulated site"

    def __init__(
        self,
        folder: Path,
        *,
        quota: int = QUOTA,
        breaks: Iterator[bool] | None = None,
        limits: Limits = Limits(),  # noqa: B008
        now: Callable[[], datetime] = lambda: datetime.now(UTC),
    ) -> None:
        self.folder, self.limits = folder, limits
        self._quota, self._breaks, self._now = quota, breaks, now

    def room(self) -> int:
        """Bytes that may still be sent."""
        return self._quota - sum(self._known(v).size for v in self._videos() if not self._known(v).withdrawn)

    def begin(self, draft: Draft) -> str:
        """Offer a video: `Refused` says why one is not taken."""
        self._check(draft.title, draft.description, draft.thumbnail)
        upload = hashlib.sha256(f"{draft.sha256}/{draft.title}".encode()).hexdigest()[:12]
        if self._there(upload) and not self._known(upload).withdrawn:
            return upload
        if draft.size > self.room():
            raise Refused(f"{self.name} has room for {self.room():,} bytes more; this video has {draft.size:,}.")
        (self.folder / upload).mkdir(parents=True, exist_ok=True)
        self._video(upload).write_bytes(b"")
        kept = _Kept(
            title=draft.title,
            description=draft.description,
            size=draft.size,
            sha256=draft.sha256,
            captions=draft.captions,
            goes_public=draft.goes_public,
        )
        self._thumbnail(upload).write_bytes(draft.thumbnail)
        self._keep(upload, kept)
        return upload

    def received(self, upload: str) -> int:
        """How many bytes are there."""
        self._known(upload)
        return self._video(upload).stat().st_size

    def send(self, upload: str, first: int, data: bytes) -> None:
        """Take a part."""
        if self._breaks is not None and next(self._breaks, False):
            raise Interrupted(f"The connection to {self.name[:1].lower()}{self.name[1:]} broke off.")
        there = self.received(upload)
        if first != there:
            raise SiteError(f"The part begins at byte {first:,}; the upload stands at {there:,}.")
        if len(data) > self.limits.part or there + len(data) > self._known(upload).size:
            raise SiteError("The part is longer than was agreed.")
        with open(self._video(upload), "ab") as out:
            out.write(data)

    def finish(self, upload: str) -> str:
        """Look whether all of it arrived as it was."""
        kept = self._known(upload)
        if sha256_of(self._video(upload)) != kept.sha256:
            self._video(upload).write_bytes(b"")
            raise SiteError("The video did not arrive as it was; it has to be sent again.")
        kept.finished = True
        self._keep(upload, kept)
        return upload

    def standing(self, video: str) -> Standing:
        """Where it stands; each time it is asked, processing is a step further."""
        kept = self._known(video)
        if not kept.finished:
            raise SiteError("That video is not uploaded yet.")
        if kept.asked < PROCESSING:
            kept.asked += 1
            self._keep(video, kept)
        done = kept.asked / PROCESSING
        if kept.withdrawn:
            state = State.WITHDRAWN
        elif done < 1:
            state = State.PROCESSING
        else:
            waits = kept.goes_public is not None and kept.goes_public > self._now()
            state = State.SCHEDULED if waits else State.PUBLIC
        return Standing(video, state, done, self._address(video) if done >= 1 else "", kept.title)

    def change(
        self, video: str, *, title: str | None = None, description: str | None = None, thumbnail: bytes | None = None
    ) -> None:
        """Another title, description or thumbnail."""
        kept = self._known(video)
        kept.title = kept.title if title is None else title
        kept.description = kept.description if description is None else description
        self._check(kept.title, kept.description, thumbnail or b"")
        if thumbnail is not None:
            self._thumbnail(video).write_bytes(thumbnail)
        self._keep(video, kept)

    def schedule(self, video: str, when: datetime | None) -> None:
        """Another date."""
        kept = self._known(video)
        kept.goes_public = when
        self._keep(video, kept)

    def withdraw(self, video: str) -> None:
        """Nobody sees it any more."""
        kept = self._known(video)
        kept.withdrawn = True
        self._keep(video, kept)

    # ── its folder ───────────────────────────────────────────────────────────────────────────────────────────
    def _check(self, title: str, description: str, thumbnail: bytes) -> None:
        if not title.strip():
            raise Refused(f"{self.name} wants a title.")
        if len(title) > self.limits.title:
            raise Refused(f"{self.name} takes titles of {self.limits.title} letters; this one has {len(title)}.")
        if "<" in title or ">" in title:
            raise Refused(f"{self.name} takes no title with “<” or “>” in it.")
        if len(description) > self.limits.description:
            most = self.limits.description
            raise Refused(f"{self.name} takes descriptions of {most:,} letters; this one has {len(description):,}.")
        if len(thumbnail) > self.limits.thumbnail:
            raise Refused(f"{self.name} takes thumbnails of {self.limits.thumbnail:,} bytes.")

    def _videos(self) -> tuple[str, ...]:
        return tuple(p.parent.name for p in sorted(self.folder.glob("*/video.json")))

    def _there(self, video: str) -> bool:
        return (self.folder / video / "video.json").exists()

    def _known(self, video: str) -> _Kept:
        try:
            return msgspec.json.decode((self.folder / video / "video.json").read_bytes(), type=_Kept)
        except (OSError, msgspec.DecodeError):
            raise SiteError(f"{self.name} knows nothing of that video.") from None

    def _keep(self, video: str, kept: _Kept) -> None:
        place = self.folder / video / "video.json"
        part = place.with_suffix(".part")
        part.write_bytes(msgspec.json.encode(kept))
        os.replace(part, place)

    def _video(self, video: str) -> Path:
        return self.folder / video / "video"

    def _thumbnail(self, video: str) -> Path:
        return self.folder / video / "thumbnail.jpg"

    def _address(self, video: str) -> str:
        return f"site://watch/{video}"
