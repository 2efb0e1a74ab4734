"""When the pictures of files begin, remembered: finding out reads a file through to its end, and every reader of it
needs to know."""

from __future__ import annotations

from functools import partial
from pathlib import Path

import av

from chapto.media.frame_stamps import FrameStamps, frame_stamps
from chapto.media.known_by_file import KnownByFile

_known: KnownByFile[FrameStamps] = KnownByFile(64)
"""An hour's stamps take about a megabyte."""


def known_stamps(container: av.container.InputContainer, stream: av.VideoStream, path: Path) -> FrameStamps:
    """The stamps of an opened file; `MediaError` where no picture can be read."""
    return _known.of(path, partial(frame_stamps, container, stream, path))
