"""Pictures of a file taken from its quick pictures, by the file's own time stamps."""

from __future__ import annotations

from fractions import Fraction
from pathlib import Path

import av

from chapto.media.cache import is_whole
from chapto.media.proxy import proxy_path
from chapto.media.reader import FrameReader


class QuickReader:
    """What a `FrameReader` gives, smaller and sooner. `of` gives None where there are no quick pictures that fit."""

    def __init__(self, file: FrameReader, quick: FrameReader) -> None:
        self._file, self._quick = file, quick

    @classmethod
    def of(cls, path: Path, fingerprint: str) -> QuickReader | None:
        """The reader of a file; `MediaError` where it can't be read."""
        if not is_whole(proxy_path(fingerprint)):
            return None
        file, quick = FrameReader(path), FrameReader(proxy_path(fingerprint), threads=False)
        if quick.frames != file.frames:
            file.close()
            quick.close()
            return None
        return cls(file, quick)

    @property
    def size(self) -> tuple[int, int]:
        """Width and height of its pictures in pixels, as they are stored."""
        return self._quick.size

    @property
    def frames(self) -> int:
        """How many pictures there are."""
        return self._file.frames

    def seconds_at(self, index: int) -> Fraction:
        """Seconds into the file of picture `index`."""
        return self._file.seconds_at(index)

    def index_at(self, seconds: Fraction) -> int:
        """Number of the picture on show `seconds` into the file."""
        return self._file.index_at(seconds)

    def picture(
        self, index: int, width: int, height: int, pix_fmt: str = "rgb24", *, mirrored: bool = False
    ) -> av.VideoFrame:
        """Picture `index` upright, scaled into `width` × `height`."""
        return self._quick.picture(index, width, height, pix_fmt, mirrored=mirrored)

    def close(self) -> None:
        """Give both files back."""
        self._file.close()
        self._quick.close()
