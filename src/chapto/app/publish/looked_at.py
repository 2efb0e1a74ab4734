"""What has to be looked at before it can be shown: the thumbnail, proposals for it, how large the video will be."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import QObject, QTimer, pyqtSignal
from PyQt6.QtGui import QImage

from chapto.app.jobs import Job, Progress, Stopped
from chapto.app.studio import Studio
from chapto.document.publishing import Thumbnail
from chapto.publish.thumbnail_choice import Candidate
from chapto.render.encodings import encoding_of
from chapto.render.estimate import Estimate, estimate
from chapto.render.order import Order
from chapto.render.package.making import Making
from chapto.render.package.thumbnails import pictures_of, proposed, thumbnail
from chapto.render.production import Production

QUIET = 600
"""Milliseconds without an edit before it is looked again."""
Seen = tuple[Production, Thumbnail, tuple[tuple[Candidate, QImage], ...], QImage]


class LookedAt(QObject):
    """`found` comes when any of it is there. What was found of an earlier programme stays until the new is."""

    found = pyqtSignal()

    def __init__(self, studio: Studio) -> None:
        super().__init__()
        self._studio = studio
        self.thumbnail = QImage()
        self.proposals: tuple[tuple[Candidate, QImage], ...] = ()
        self.estimated: Estimate | None = None
        self._seen: tuple[Production, Thumbnail] | None = None
        self._tried: tuple[object, ...] = ()
        self._looking: Job[Seen] | None = None
        self._trying: Job[Estimate] | None = None
        self._soon = QTimer(self)
        self._soon.setSingleShot(True)
        self._soon.setInterval(QUIET)
        self._soon.timeout.connect(self._look)

    @property
    def is_old(self) -> bool:
        """Whether the programme or the choice is another than what was looked at."""
        known = self._seen
        now = self._studio.compiling.production
        return known is None or known[0] is not now or known[1] != self._studio.breakdown.publishing.thumbnail

    def look(self) -> None:
        """Look for frames that could stand for the video, once it is quiet."""
        if self.is_old:
            self._soon.start()

    def estimate(self, workers: int) -> None:
        """Try how large and how slow the video will be."""
        made, project = self._studio.compiling.production, self._studio.session.path
        f = self._studio.breakdown.format
        asked = (f, made.programme.frames, made.programme.fps)
        if not made.programme.frames or asked == self._tried:
            return
        self._tried, self.estimated = asked, None
        if self._trying is not None:
            self._trying.stop()

        def work(progress: Progress, stopped: Stopped) -> Estimate:
            from chapto.render.media_places import media_places, photo_places

            b = made.breakdown
            places, photos = media_places(b, project)[0], photo_places(b, project)[0]
            encoding = encoding_of(".mp4", f)
            assert encoding is not None
            return estimate(Order(b, made.programme, places, photos), encoding, workers, stopped)

        job = Job("Trying the video", work)
        self._trying = self._studio.workers.run_short(job.then(self._estimated))

    def close(self) -> None:
        """Look no more."""
        self._soon.stop()
        for job in (self._looking, self._trying):
            if job is not None:
                job.stop()

    def _look(self) -> None:
        made, studio = self._studio.compiling.production, self._studio
        if not made.programme.frames or not self.is_old:
            return
        if self._looking is not None:
            self._looking.stop()
        known = self.proposals if self._seen is not None and self._seen[0] is made else None
        guide, project, out = studio.compiling.guide, studio.session.path, studio.breakdown.publishing
        chosen = out.thumbnail

        def work(progress: Progress, stopped: Stopped) -> Seen:
            making = Making(made, project, Path(), "", ".mp4", guide, cancelled=stopped)
            best = known if known is not None else pictures_of(making, proposed(making))
            wanted = chosen
            if not wanted.footage and best:
                wanted = Thumbnail(footage=best[0][0].footage, at=best[0][0].at, title=chosen.title)
            return made, chosen, best, thumbnail(making, wanted)

        job = Job("Thumbnails", work)
        self._looking = studio.workers.run_short(job.then(self._arrived))

    def _arrived(self, seen: Seen) -> None:
        made, chosen, self.proposals, self.thumbnail = seen
        self._seen = made, chosen
        self.found.emit()

    def _estimated(self, found: Estimate) -> None:
        self.estimated = found
        self.found.emit()
