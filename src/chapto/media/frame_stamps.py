"""When the pictures of a file begin, read from its packets."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path

import av
import av.error
import numpy as np

from chapto.media.opening import MediaError


@dataclass(frozen=True)
class FrameStamps:
    """Presentation stamps of all frames, rising, shaped (n,), in units of `base` seconds; `keys` are the stamps
    a decoder can start at."""

    pts: np.ndarray[tuple[int], np.dtype[np.int64]]
    keys: np.ndarray[tuple[int], np.dtype[np.int64]]
    base: Fraction


def frame_stamps(container: av.container.InputContainer, stream: av.VideoStream, path: Path) -> FrameStamps:
    """Read every frame's time stamp without decoding; frames are never placed by index over rate."""
    pts: list[int] = []
    keys: list[int] = []
    container.seek(0, backward=True, any_frame=False) if container.duration else None
    try:
        for packet in container.demux(stream):
            stamp = packet.pts if packet.pts is not None else packet.dts
            if packet.size and stamp is not None and not packet.is_discard:
                pts.append(stamp)
                if packet.is_keyframe:
                    keys.append(stamp)
    except (av.error.FFmpegError, OSError):
        if len(pts) < 2:
            raise MediaError(f"“{path.name}” is damaged: no pictures can be read from it.") from None
    if not pts or stream.time_base is None:
        raise MediaError(f"“{path.name}” is damaged: no pictures can be read from it.")
    found = np.unique(np.array(pts, dtype=np.int64))
    return FrameStamps(found, np.unique(np.array(keys or pts[:1], dtype=np.int64)), stream.time_base)


def earliest(container: av.container.InputContainer, stream: av.VideoStream, stamps: FrameStamps) -> Fraction:
    """The earliest time stamp of picture and sound in seconds: second 0 of the file on its own clock."""
    starts = [int(stamps.pts[0]) * stamps.base]
    starts += [a.start_time * a.time_base for a in container.streams.audio if a.start_time is not None and a.time_base]
    return min(starts)
