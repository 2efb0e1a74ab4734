"""The programme as one video file: MP4 (H.264, AAC) or WebM (VP9, Opus), chapters inside."""

from __future__ import annotations

import errno
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from fractions import Fraction
from functools import partial
from pathlib import Path
from types import MappingProxyType
from typing import TYPE_CHECKING, cast

import av
import av.error
import numpy as np
from numpy.typing import NDArray

from chapto.document.breakdown import Breakdown
from chapto.errors import Cancelled, ChaptoError
from chapto.media.opening import file_url
from chapto.media.sound import RATE, FootageSound
from chapto.paint.photos import Photos
from chapto.programme.programme import Programme
from chapto.render.ahead import Ahead
from chapto.render.frames import ProgrammeFrames
from chapto.render.loudness import gain_for
from chapto.render.mix import Mix
from chapto.store.outputs import OutputGate

if TYPE_CHECKING:
    from av.container.core import Chapter


FRAME_SAMPLES = 1024
"""Samples handed to the encoder at once."""


class RenderError(ChaptoError):
    """A render that could not be finished; nothing stands under the final name."""


@dataclass(frozen=True)
class Encoding:
    """How a container is written."""

    picture: str
    picture_options: dict[str, str]
    sound: str
    sound_bits: int
    sample_format: str
    container_options: dict[str, str]


_COLOUR = {"colorspace": "bt709", "color_primaries": "bt709", "color_trc": "bt709", "color_range": "tv"}
ENCODINGS = {
    ".mp4": Encoding(
        "libx264", {"preset": "veryfast", "crf": "20", **_COLOUR}, "aac", 160_000, "fltp", {"movflags": "+faststart"}
    ),
    ".webm": Encoding(
        "libvpx-vp9",
        {"deadline": "realtime", "cpu-used": "6", "row-mt": "1", "crf": "31", "b": "0", **_COLOUR},
        "libopus", 128_000, "flt", {},
    ),
}  # fmt: skip


def render(
    b: Breakdown,
    programme: Programme,
    places: dict[str, Path],
    speeches: Mapping[str, NDArray[np.float32]],
    sounds: Mapping[str, FootageSound],
    target: Path,
    gate: OutputGate,
    *,
    photos: Mapping[str, Path] = MappingProxyType({}),
    progress: Callable[[float], None] = lambda share: None,
    cancelled: Callable[[], bool] = lambda: False,
) -> Path:
    """Write the programme through `gate` to `target`, whose ending chooses the container. `progress` hears the share
    done.

    It is written under another name and renamed at the end. Raises `Cancelled` when stopped, `RenderError` when the
    disk is full or the place can't be written. Then nothing is left behind, and what was there is as it was.
    """
    encoding = ENCODINGS.get(target.suffix.lower())
    if encoding is None:
        raise RenderError(f"“{target.name}” should end in .mp4 or .webm.")
    if not programme.passages:
        raise RenderError("There is nothing to render yet: the script has no section.")
    gate.check(target)
    frames = ProgrammeFrames(b, programme, places, Photos(photos))
    try:
        make = partial(_mix, b, programme, speeches, sounds)
        mix = make(gain_for(make, float(b.format.loudness), cancelled=cancelled))
        with gate.making(target) as part:
            _write(part, encoding, b, programme, frames, mix, progress, cancelled)
    except (av.error.FFmpegError, OSError) as error:
        raise RenderError(_reason(error, target)) from None
    finally:
        frames.close()
    progress(1.0)
    return target


def _mix(
    b: Breakdown,
    programme: Programme,
    speeches: Mapping[str, NDArray[np.float32]],
    sounds: Mapping[str, FootageSound],
    gain: float,
) -> Mix:
    return Mix(b, programme, speeches, sounds, gain=gain)


def _write(
    part: Path,
    encoding: Encoding,
    b: Breakdown,
    programme: Programme,
    frames: ProgrammeFrames,
    mix: Mix,
    progress: Callable[[float], None],
    cancelled: Callable[[], bool],
) -> None:
    with av.open(file_url(part), "w", options=encoding.container_options) as out:
        fps = programme.fps
        video = cast(av.VideoStream, out.add_stream(encoding.picture, rate=fps))
        video.width, video.height, video.pix_fmt = b.format.width, b.format.height, "yuv420p"
        video.options = dict(encoding.picture_options)
        video.thread_type = "FRAME"
        video.codec_context.gop_size = round(2 * fps)
        video.codec_context.time_base = 1 / fps
        audio = cast(av.AudioStream, out.add_stream(encoding.sound, rate=RATE, layout="stereo"))
        audio.bit_rate = encoding.sound_bits
        out.metadata["title"] = b.title
        out.set_chapters(_chapters(programme))
        # Both encoders are opened here, before two threads could each try to.
        out.start_encoding()
        sound = _sound_packets(audio, mix, encoding.sample_format)
        with Ahead(frames, depth=8, name="frames") as made, Ahead(sound, depth=200, name="sound") as packets:
            waiting = next(packets, None)
            for number, frame in enumerate(made):
                if cancelled():
                    raise Cancelled
                frame.pts, frame.time_base, frame.pict_type = number, 1 / fps, 0
                out.mux(video.encode(frame))
                while waiting is not None and _seconds(waiting) <= (number + 1) / fps:
                    out.mux(waiting)
                    waiting = next(packets, None)
                if number % 10 == 0:
                    progress(number / programme.frames)
            out.mux(video.encode(None))
            while waiting is not None:
                out.mux(waiting)
                waiting = next(packets, None)


def _seconds(packet: av.Packet[av.AudioStream]) -> Fraction:
    return Fraction(packet.dts or 0) * packet.time_base


def _sound_packets(stream: av.AudioStream, mix: Mix, sample_format: str) -> Iterator[av.Packet[av.AudioStream]]:
    """The whole sound, encoded; mixed a second at a time."""
    for first in range(0, mix.length, RATE):
        block = mix.read(first, min(RATE, mix.length - first))
        for at in range(0, len(block), FRAME_SAMPLES):
            part = block[at : at + FRAME_SAMPLES]
            yield from stream.encode(_audio_frame(part, first + at, sample_format))
    yield from stream.encode(None)


def _audio_frame(samples: NDArray[np.float32], at: int, sample_format: str) -> av.AudioFrame:
    planes = samples.T if sample_format == "fltp" else samples.reshape(1, -1)
    frame = av.AudioFrame.from_ndarray(np.ascontiguousarray(planes), format=sample_format, layout="stereo")
    frame.sample_rate, frame.pts, frame.time_base = RATE, at, Fraction(1, RATE)
    return frame


def _chapters(programme: Programme) -> list[Chapter]:
    """Chapter marks in milliseconds; the last ends with the programme."""
    return [
        {
            "id": i,
            "start": round(chapter.start / programme.fps * 1000),
            "end": round(end / programme.fps * 1000),
            "time_base": Fraction(1, 1000),
            "metadata": {"title": chapter.title},
        }
        for i, (chapter, end) in enumerate(programme.chapter_spans())
    ]


def _reason(error: OSError | av.error.FFmpegError, target: Path) -> str:
    number = getattr(error, "errno", None)
    if number == errno.ENOSPC:
        return f"The disk is full; “{target.name}” was not made. Make room or choose another place."
    if number in (errno.EACCES, errno.EPERM, errno.EROFS):
        return f"The folder “{target.parent}” can't be written to; choose another place."
    return f"“{target.name}” could not be made: {getattr(error, 'strerror', None) or error}."
