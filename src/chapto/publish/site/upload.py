"""Sending a package to a site: in parts, from where an earlier try broke off, until it has an address."""

from __future__ import annotations

import time
from collections.abc import Callable
from datetime import UTC, datetime
from pathlib import Path

from chapto.document.publishing import Published
from chapto.errors import Cancelled
from chapto.publish.manifest import Manifest, read_manifest, sha256_of
from chapto.publish.roles import Role
from chapto.publish.site.site import Draft, Interrupted, Site, SiteError, Standing, State

TRIES = 5
"""Times that a broken connection is taken up again without anything arriving."""
PAUSE = 0.2
"""Seconds before the next try, doubled each time."""


def draft_of(package: Path, title: str, goes_public: datetime | None = None) -> Draft:
    """What is offered of a package. `SiteError` where it is not whole, or not as it was made."""
    manifest = read_manifest(package)
    if manifest is None:
        raise SiteError(f"“{package.name}” is no whole package; make it first.")
    video = package / _file(manifest, Role.VIDEO)
    known = next(f for f in manifest.files if f.role == Role.VIDEO)
    if not video.exists() or sha256_of(video) != known.sha256:
        raise SiteError(f"“{video.name}” is not as it was made; make the package again.")
    return Draft(
        title=title,
        description=(package / _file(manifest, Role.DESCRIPTION)).read_text("utf-8"),
        size=known.bytes,
        sha256=known.sha256,
        captions=(package / _file(manifest, Role.WEBVTT)).read_text("utf-8"),
        thumbnail=(package / _file(manifest, Role.THUMBNAIL)).read_bytes(),
        goes_public=goes_public,
    )


def video_of(package: Path) -> Path:
    """The video of a package. `SiteError` where there is none."""
    manifest = read_manifest(package)
    if manifest is None:
        raise SiteError(f"“{package.name}” is no whole package; make it first.")
    return package / _file(manifest, Role.VIDEO)


def thumbnail_of(package: Path) -> bytes:
    """The thumbnail of a package. `SiteError` where there is none."""
    manifest = read_manifest(package)
    if manifest is None:
        raise SiteError(f"“{package.name}” is no whole package; make it first.")
    return (package / _file(manifest, Role.THUMBNAIL)).read_bytes()


def send(
    site: Site,
    package: Path,
    draft: Draft,
    *,
    progress: Callable[[float], None] = lambda share: None,
    cancelled: Callable[[], bool] = lambda: False,
    wait: Callable[[float], None] = time.sleep,
) -> Published:
    """Upload and wait until it has an address. What arrived stays on the site: stopped, killed or broken off, the next
    time goes on from there. Raises `Cancelled` and `SiteError`."""
    upload = site.begin(draft)
    tries = 0
    with open(video_of(package), "rb") as source:
        while (at := site.received(upload)) < draft.size:
            if cancelled():
                raise Cancelled
            source.seek(at)
            try:
                site.send(upload, at, source.read(site.limits.part))
                tries = 0
            except Interrupted:
                tries += 1
                if tries > TRIES:
                    raise
                wait(PAUSE * 2 ** (tries - 1))
            progress(0.9 * at / max(draft.size, 1))
    video = site.finish(upload)
    standing = _processed(site, video, progress, cancelled, wait)
    public = draft.goes_public
    return Published(
        at=utc(datetime.now(UTC)),
        site=site.name,
        address=standing.address,
        title=draft.title,
        video=draft.sha256,
        goes_public=utc(public) if public is not None and standing.state is State.SCHEDULED else "",
    )


def utc(when: datetime) -> str:
    """A time as ISO 8601 in UTC, to the second."""
    return when.astimezone(UTC).isoformat(timespec="seconds").replace("+00:00", "Z")


def _processed(
    site: Site,
    video: str,
    progress: Callable[[float], None],
    cancelled: Callable[[], bool],
    wait: Callable[[float], None],
) -> Standing:
    while not (standing := site.standing(video)).address:
        if cancelled():
            raise Cancelled
        progress(0.9 + 0.1 * standing.processed)
        wait(PAUSE)
    progress(1.0)
    return standing


def _file(manifest: Manifest, role: Role) -> str:
    found = next((f.path for f in manifest.files if f.role == role), None)
    if found is None:
        raise SiteError(f"The package holds no {role}; make it again.")
    return found
