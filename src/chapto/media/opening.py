"""Opening a media file: that very file, whatever it is called, and nothing it points to."""

from __future__ import annotations

import os
from pathlib import Path

import av
import av.error

from chapto.errors import ChaptoError
from chapto.store.errors import plain_reason

CONTAINERS = (
    "mov", "mp4", "matroska", "webm", "avi", "mpegts", "mpeg", "mpegvideo", "h264", "hevc", "flv", "asf", "ogg", "dv",
    "mxf", "nut", "wav", "mp3", "flac", "aac", "w64", "aiff", "caf",
)  # fmt: skip
"""What FFmpeg calls the containers that are opened. None of them names other files: no playlists, no `concat`, no
session descriptions, no numbered stills."""
STILLS = ("gif", "png_pipe", "jpeg_pipe", "webp_pipe", "bmp_pipe", "tiff_pipe", "svg_pipe", "ico")
"""Opened only to be told from videos."""
_OPTIONS = {
    "probesize": "20000000",
    "protocol_whitelist": "file",
    "format_whitelist": ",".join((*CONTAINERS, *STILLS)),
    # Parts of a QuickTime movie may lie in other files; those are not followed.
    "enable_drefs": "0",
    "use_absolute_path": "0",
}


class MediaError(ChaptoError):
    """A media file that can't be read, or not any further."""


def file_url(path: Path) -> str:
    """The file at `path` for FFmpeg, which takes `a:b` for a protocol otherwise."""
    return "file:" + os.path.abspath(path)


def open_media(path: Path) -> av.container.InputContainer:
    """Open `path` for reading; `MediaError` says in a sentence why not."""
    try:
        if path.is_dir():
            raise MediaError(f"“{path}” is a folder, not a video.")
        if not path.is_file():
            raise MediaError(f"“{path}” is not there." if not path.exists() else f"“{path}” is no file.")
        if path.stat().st_size == 0:
            raise MediaError(f"“{path.name}” is empty.")
        os.fsencode(path).decode("utf-8")
    except UnicodeError:
        raise MediaError(
            f"“{shown(path.name)}” has a name that is no UTF-8 text; rename it, then bring it in."
        ) from None
    except OSError as error:
        raise MediaError(f"“{path}” can't be read: {plain_reason(error)}.") from None
    try:
        return av.open(file_url(path), options=dict(_OPTIONS))
    except PermissionError:
        raise MediaError(f"“{path.name}” may not be read by you; change its permissions.") from None
    except (av.error.FFmpegError, OSError, ValueError):
        hint = (
            "it is cut off before its index"
            if _looks_cut_off(path)
            else "it is neither video nor sound, or it is damaged"
        )
        raise MediaError(f"“{path.name}” can't be opened: {hint}.") from None


def shown(name: str) -> str:
    """A file name for reading; bytes that are no text become a question mark in a box."""
    return os.fsencode(name).decode("utf-8", "replace")


def _looks_cut_off(path: Path) -> bool:
    """An MP4 or MOV that starts as one but has no `moov` box."""
    with open(path, "rb") as source:
        head = source.read(12)
        if head[4:8] != b"ftyp":
            return False
        source.seek(0)
        while block := source.read(1 << 22):
            if b"moov" in block:
                return False
    return True
