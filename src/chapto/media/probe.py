"""What a file is, or in one sentence why it can't be used."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import UTC, datetime
from fractions import Fraction
from pathlib import Path

import av
import av.error
import numpy as np

from chapto.media.frame_stamps import earliest
from chapto.media.known_stamps import known_stamps
from chapto.media.opening import MediaError, open_media

MAX_SIDE = 8192
STILL_FORMATS = ("image2", "_pipe", "gif", "ico", "svg")


@dataclass(frozen=True)
class MediaInfo:
    """Facts of a file. `width` × `height` as it is meant to be seen (rotated, square pixels); `rotation` is
    counter-clockwise degrees; `fps` the mean rate; `start` and `duration` exact seconds, start being the
    earliest time stamp of picture and sound; `made` is when the recorder says that the file begins."""

    codec: str
    width: int
    height: int
    rotation: int
    fps: Fraction
    variable_rate: bool
    bit_depth: int
    interlaced: bool
    start: Fraction
    duration: Fraction
    frames: int
    sound_rate: int
    sound_channels: int
    made: datetime | None

    @property
    def has_sound(self) -> bool:
        """Whether there is an audio track."""
        return self.sound_rate > 0


def picture_track(container: av.container.InputContainer, path: Path) -> av.VideoStream:
    """The first video track; `MediaError` when there is none, or none that can be decoded."""
    if not container.streams.video:
        what = "has sound but no picture" if container.streams.audio else "has no picture"
        raise MediaError(f"“{path.name}” {what}.")
    if container.streams.video[0].codec_context is None:
        raise MediaError(f"“{path.name}” holds a picture of a kind that can't be decoded.")
    return container.streams.video[0]


def sound_track(container: av.container.InputContainer) -> av.AudioStream | None:
    """The first audio track that can be decoded."""
    return next((a for a in container.streams.audio if a.codec_context is not None and a.sample_rate), None)


def probe(path: Path) -> MediaInfo:
    """Facts of the file at `path`; `MediaError` where it can't be used as footage."""
    with open_media(path) as container:
        stream = picture_track(container, path)
        if any(name in container.format.name for name in STILL_FORMATS):
            raise MediaError(f"“{path.name}” is a still picture, not a video.")
        width, height = stream.codec_context.width, stream.codec_context.height
        if width < 16 or height < 16 or max(width, height) > MAX_SIDE:
            raise MediaError(f"“{path.name}” claims a picture of {width}×{height}; that can't be used.")
        first = _first_frame(container, stream, path)
        stamps = known_stamps(container, stream, path)
        if len(stamps.pts) < 2:
            raise MediaError(f"“{path.name}” is a still picture, not a video.")
        audio = sound_track(container)
        base = stamps.base
        steps = np.diff(stamps.pts)
        last = int(steps[-1]) if steps[-1] > 0 else max(int(np.median(steps)), 1)
        span = Fraction(int(stamps.pts[-1] - stamps.pts[0]))
        start = earliest(container, stream, stamps)
        mean = Fraction(len(steps)) / (span * base) if span else Fraction(25)
        aspect = stream.sample_aspect_ratio or Fraction(1)
        shown = round(width * aspect), height
        rotation = round(first.rotation / 90) * 90 % 360
        spread = float(np.percentile(steps, 98) - np.percentile(steps, 2)) * float(base)
        return MediaInfo(
            codec=stream.codec_context.name,
            width=shown[1] if rotation % 180 else shown[0],
            height=shown[0] if rotation % 180 else shown[1],
            rotation=rotation,
            fps=mean.limit_denominator(1001),
            variable_rate=spread > max(0.1 / float(mean), 0.0021),
            bit_depth=max((c.bits for c in first.format.components), default=8),
            interlaced=bool(first.interlaced_frame),
            start=start,
            duration=(int(stamps.pts[-1]) + last) * base - start,
            frames=len(stamps.pts),
            sound_rate=audio.codec_context.sample_rate if audio else 0,
            sound_channels=audio.codec_context.channels if audio else 0,
            made=made_at(container),
        )


def made_at(container: av.container.InputContainer) -> datetime | None:
    try:
        return datetime.fromisoformat(container.metadata["creation_time"]).astimezone(UTC)
    except (KeyError, ValueError, OverflowError):
        return None


def _first_frame(container: av.container.InputContainer, stream: av.VideoStream, path: Path) -> av.VideoFrame:
    try:
        for frame in container.decode(stream):
            return frame
    except (av.error.FFmpegError, OSError, ValueError):
        pass
    raise MediaError(f"“{path.name}” is damaged, or of a kind ({stream.codec_context.name}) that can't be decoded.")
