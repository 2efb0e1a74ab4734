"""Proxies: small all-intra copies in which any picture is found at once."""

from __future__ import annotations

import os
from collections.abc import Callable
from fractions import Fraction
from pathlib import Path

import av
import av.error

from chapto.media.cache import Cancelled, cache_file
from chapto.media.probe import MediaError, probe
from chapto.media.reader import FrameReader
from chapto.media.shaper import fitted_size

LONG_SIDE = 960


def proxy_path(key: str) -> Path:
    """Where the proxy of the file with fingerprint `key` is or will be."""
    return cache_file("proxies", key, ".mp4")


def make_proxy(
    path: Path,
    key: str,
    *,
    progress: Callable[[float], None] = lambda share: None,
    cancelled: Callable[[], bool] = lambda: False,
) -> Path:
    """Write the proxy of `path`: picture i of the proxy is picture i of the file. Returns its place.

    `progress` hears the share done, 0…1. Raises `Cancelled` when stopped, `MediaError` when it can't be made.
    """
    target = proxy_path(key)
    if target.exists():
        return target
    info = probe(path)
    reader = FrameReader(path)
    scale = min(1.0, LONG_SIDE / max(info.width, info.height))
    width, height = fitted_size(info.width, info.height, round(info.width * scale), round(info.height * scale))
    part = target.with_name(f"{target.stem}.{os.getpid()}.part.mp4")
    try:
        target.parent.mkdir(parents=True, exist_ok=True)
        with av.open(str(part), "w") as out:
            stream = out.add_stream("libx264", rate=30)
            stream.width, stream.height, stream.pix_fmt = width, height, "yuv420p"
            stream.options = {"preset": "ultrafast", "crf": "21", "g": "1", "tune": "fastdecode"}
            stream.codec_context.time_base = stream.time_base = Fraction(1, 1000)
            for i in range(reader.frames):
                if cancelled():
                    raise Cancelled
                picture = reader.picture(i, width, height, "yuv420p")
                picture.pts, picture.time_base, picture.pict_type = i, Fraction(1, 1000), 0
                out.mux(stream.encode(picture))
                if i % 15 == 0:
                    progress(i / reader.frames)
            out.mux(stream.encode(None))
        os.replace(part, target)
    except (av.error.FFmpegError, OSError) as error:
        raise MediaError(f"No proxy of “{path.name}” could be made: {error.strerror or error}.") from None
    finally:
        part.unlink(missing_ok=True)
        reader.close()
    progress(1.0)
    return target
