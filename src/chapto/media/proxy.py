"""Proxies: small all-intra copies in which any picture is found at once.

Made in segments, so that work that was stopped goes on where it was; the segments are joined without encoding again.
"""

from __future__ import annotations

import os
import shutil
from collections.abc import Callable
from fractions import Fraction
from pathlib import Path
from typing import Any

import av
import av.error

from chapto.errors import Cancelled
from chapto.media.cache import cache_file, cache_folders, is_whole, make_room, remove, seal, used_now
from chapto.media.frame_converter import fitted_size
from chapto.media.opening import MediaError, file_url, open_media
from chapto.media.probe import probe
from chapto.media.reader import FrameReader

LONG_SIDE = 960
SEGMENT = 300
"""Pictures in one segment."""
BASE = Fraction(1, 1000)
VERSION = 2
"""Counts up when quick pictures are made in another way; 2 tones high dynamic range."""


def proxy_path(key: str) -> Path:
    """Where the proxy of the file with fingerprint `key` is or will be."""
    return cache_file("proxies", f"{key}-{VERSION}", ".mp4")


def make_proxy(
    path: Path,
    key: str,
    *,
    limit: int | None = None,
    remade: Callable[[], object] = lambda: None,
    progress: Callable[[float], None] = lambda share: None,
    cancelled: Callable[[], bool] = lambda: False,
) -> Path:
    """Write the proxy of `path`: picture i of the proxy is picture i of the file. Returns its place.

    `progress` hears the share done, 0…1; `remade` that one was there and was damaged. `limit` is how many bytes all
    that is derived may take together; what was unused for longest goes. Raises `Cancelled` when stopped, and goes on
    from there the next time; `MediaError` when it can't be made.
    """
    target = proxy_path(key)
    if is_whole(target):
        used_now(target)
        return target
    if target.exists():
        remove(target)
        remade()
    info = probe(path)
    reader = FrameReader(path)
    scale = min(1.0, LONG_SIDE / max(info.width, info.height))
    size = fitted_size(info.width, info.height, round(info.width * scale), round(info.height * scale))
    parts = target.with_suffix(".parts")
    try:
        parts.mkdir(parents=True, exist_ok=True)
        segments = []
        for first in range(0, reader.frames, SEGMENT):
            segment = parts / f"{first:08d}.mp4"
            if not segment.exists():
                _write_segment(reader, first, size, segment, progress, cancelled)
            segments.append(segment)
            progress(min((first + SEGMENT) / reader.frames, 1.0))
        _join(segments, target)
        seal(target)
        shutil.rmtree(parts, ignore_errors=True)
    except (av.error.FFmpegError, OSError) as error:
        raise MediaError(f"No proxy of “{path.name}” could be made: {error.strerror or error}.") from None
    finally:
        reader.close()
    if limit is not None:
        make_room(*cache_folders(), limit=limit, keep=target)
    progress(1.0)
    return target


def _write_segment(
    reader: FrameReader,
    first: int,
    size: tuple[int, int],
    segment: Path,
    progress: Callable[[float], None],
    cancelled: Callable[[], bool],
) -> None:
    part = segment.with_suffix(f".{os.getpid()}.part.mp4")
    try:
        with av.open(file_url(part), "w") as out:
            stream: Any = out.add_stream("libx264", rate=30)
            stream.width, stream.height, stream.pix_fmt = *size, "yuv420p"
            stream.options = {"preset": "ultrafast", "crf": "21", "g": "1", "tune": "fastdecode"}
            stream.thread_type = "FRAME"
            stream.codec_context.time_base = stream.time_base = BASE
            for i in range(first, min(first + SEGMENT, reader.frames)):
                if cancelled():
                    raise Cancelled
                picture = reader.picture(i, *size, "yuv420p")
                picture.pts, picture.time_base, picture.pict_type = i, BASE, 0
                out.mux(stream.encode(picture))
                if i % 30 == 0:
                    progress(i / reader.frames)
            out.mux(stream.encode(None))
        os.replace(part, segment)
    finally:
        part.unlink(missing_ok=True)


def _join(segments: list[Path], target: Path) -> None:
    """Copy the packets of all segments into one file, numbered through."""
    part = target.with_name(f"{target.stem}.{os.getpid()}.part.mp4")
    try:
        with av.open(file_url(part), "w") as out:
            stream = None
            at = 0
            for segment in segments:
                with open_media(segment) as source:
                    video = source.streams.video[0]
                    if stream is None:
                        stream = out.add_stream_from_template(video)
                        stream.time_base = BASE
                    for packet in source.demux(video):
                        if packet.size:
                            packet.stream, packet.time_base = stream, BASE
                            packet.pts = packet.dts = at
                            packet.duration = 1
                            at += 1
                            out.mux(packet)
        os.replace(part, target)
    finally:
        part.unlink(missing_ok=True)
