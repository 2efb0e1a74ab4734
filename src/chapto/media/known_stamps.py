"""When the pictures of files begin, remembered while Chapto runs: finding out reads a file through to its end, and
every reader of it needs to know."""

from __future__ import annotations

import os
import threading
from collections import OrderedDict
from pathlib import Path

import av

from chapto.media.frame_stamps import FrameStamps, frame_stamps

REMEMBERED = 64
"""Files; an hour's stamps take about a megabyte."""
Identity = tuple[int, int, int, int]
"""Device, node, size and time of the last change: another file at the same place is another one."""
_known: OrderedDict[Identity, FrameStamps] = OrderedDict()
_reading: dict[Identity, threading.Lock] = {}
_guard = threading.Lock()


def known_stamps(container: av.container.InputContainer, stream: av.VideoStream, path: Path) -> FrameStamps:
    """The stamps of an opened file; `MediaError` where no picture can be read. Who asks while another thread is reading
    them waits for it."""
    try:
        found = os.stat(path)
    except OSError:
        # Moved since it was opened: it can be read, but not known again.
        return frame_stamps(container, stream, path)
    file = found.st_dev, found.st_ino, found.st_size, found.st_mtime_ns
    with _guard:
        lock = _reading.setdefault(file, threading.Lock())
    with lock:
        with _guard:
            if file in _known:
                _known.move_to_end(file)
                return _known[file]
        stamps = frame_stamps(container, stream, path)
        with _guard:
            _known[file] = stamps
            while len(_known) > REMEMBERED:
                _reading.pop(_known.popitem(last=False)[0], None)
        return stamps
