"""What the parts of a package are made from."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from functools import cached_property
from pathlib import Path

from PyQt6.QtGui import QImage

from chapto.document.breakdown import Breakdown
from chapto.errors import Cancelled
from chapto.paint.photos import Photos
from chapto.programme.programme import Programme
from chapto.publish.key_frames import KeyFrame, key_frames
from chapto.publish.roles import ENDINGS, FOLDERS, Role
from chapto.render.frames import ProgrammeFrames
from chapto.render.media_places import media_places, photo_places
from chapto.render.production import Production
from chapto.render.worker import Encoders
from chapto.voice.guide import GuideVoice


@dataclass
class Making:
    """One package while it is made in `folder`; `name` begins every file's name. `suffix` is that of the video.
    `progress` hears the share done of the part that is being made, `ready` which frames of the video are encoded. `say`
    hears what had to be left out, in a sentence."""

    production: Production
    project: Path | None
    folder: Path
    name: str
    suffix: str
    guide: GuideVoice
    workers: Encoders | None = None
    progress: Callable[[float], None] = lambda share: None
    ready: Callable[[tuple[tuple[int, int], ...]], None] = lambda spans: None
    say: Callable[[str], object] = lambda sentence: None
    cancelled: Callable[[], bool] = lambda: False
    _pictures: dict[int, QImage] = field(default_factory=dict)

    @property
    def b(self) -> Breakdown:
        """The document."""
        return self.production.breakdown

    @property
    def programme(self) -> Programme:
        """What it became."""
        return self.production.programme

    @cached_property
    def places(self) -> dict[str, Path]:
        """The files of footage, by id."""
        return media_places(self.b, self.project)[0]

    @cached_property
    def photos(self) -> Mapping[str, Path]:
        """The files of photos, by id."""
        return photo_places(self.b, self.project)[0]

    @cached_property
    def key_frames(self) -> tuple[KeyFrame, ...]:
        """The frames that tell most."""
        return key_frames(self.programme)

    @property
    def video(self) -> Path:
        """Where the video is."""
        return self.folder / f"{self.name}{self.suffix}"

    def place(self, role: Role, own: str = "") -> Path:
        """Where a file goes; those of a role with a folder have a name of their `own`."""
        if role in FOLDERS:
            folder = self.folder / FOLDERS[role]
            folder.mkdir(exist_ok=True)
            return folder / own
        return self.folder / f"{self.name}{ENDINGS[role]}"

    def pictures(self, frames: tuple[int, ...]) -> dict[int, QImage]:
        """Frames of the programme as they are seen, each made once. Raises `Cancelled` when stopped."""
        missing = sorted(set(frames) - set(self._pictures))
        if missing:
            maker = ProgrammeFrames(self.b, self.programme, self.places, Photos(self.photos))
            try:
                for number in missing:
                    if self.cancelled():
                        raise Cancelled
                    self._pictures[number] = image_of(maker, number)
            finally:
                maker.close()
        return {number: self._pictures[number] for number in frames}


def image_of(maker: ProgrammeFrames, number: int) -> QImage:
    """A frame as a picture."""
    rgb = maker.frame(number).to_ndarray(format="rgb24")
    high, wide = rgb.shape[:2]
    return QImage(rgb.tobytes(), wide, high, 3 * wide, QImage.Format.Format_RGB888).copy()
