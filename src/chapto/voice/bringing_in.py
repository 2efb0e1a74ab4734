"""A recording brought in: copied as FLAC into the folder of takes beside the project."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path

import av
import av.error
import numpy as np

from chapto.document.edit_footage import stored_path
from chapto.media.opening import MediaError, file_url
from chapto.media.sound import RATE, FootageSound, load_sound
from chapto.store.atomic import put_in_place, unfinished
from chapto.store.errors import StoreError, plain_reason
from chapto.store.fingerprint import fingerprint
from chapto.store.outputs import free_name

BLOCK = RATE


@dataclass(frozen=True)
class BroughtIn:
    """A file of takes: its path as a document stores it, its fingerprint and its length in seconds."""

    path: str
    fingerprint: str
    seconds: Fraction


def takes_folder(project: Path) -> Path:
    """The folder in which the takes of a project lie: `NAME.takes` beside it."""
    return project.with_suffix(".takes")


def bring_in(source: Path, project: Path, *, cancelled: Callable[[], bool] = lambda: False) -> BroughtIn:
    """Copy the sound of `source` (any file with sound) into the takes of `project`, as FLAC at 48 kHz.

    The source stays as it is and no take is ever replaced: the copy gets a free name. Raises `MediaError` where there
    is no sound to bring in, `StoreError` where the copy can't be written, `Cancelled` when stopped.
    """
    sound = load_sound(source, fingerprint(source), cancelled=cancelled)
    if not len(sound) or not _is_heard(sound):
        raise MediaError(f"“{source.name}” holds no sound.")
    folder = takes_folder(project)
    try:
        folder.mkdir(exist_ok=True)
        target = free_name(folder / f"{source.stem}.flac")
        with unfinished(target) as part:
            write_flac(part, sound)
            put_in_place(part, target, replacing=False)
    except OSError as error:
        raise StoreError(f"The take could not be put into “{folder}”: {plain_reason(error)}.") from None
    except av.error.FFmpegError as error:
        raise StoreError(f"The take could not be put into “{folder}”: {error}.") from None
    return BroughtIn(stored_path(target, project.parent), fingerprint(target), Fraction(len(sound), RATE))


def _is_heard(sound: FootageSound) -> bool:
    return any(sound.read(at, BLOCK).any() for at in range(0, len(sound), BLOCK))


def write_flac(path: Path, sound: FootageSound) -> None:
    """Write `sound` to `path` as FLAC at 48 kHz, 16 bits.

    In stereo, since what is mixed from one channel to two comes back softer; two that are alike take no more room.
    """
    with av.open(file_url(path), "w", format="flac") as out:
        stream = out.add_stream("flac", rate=RATE, layout="stereo")
        for at in range(0, len(sound), BLOCK):
            n = min(BLOCK, len(sound) - at)
            samples = np.round(sound.read(at, n) * 32768).clip(-32768, 32767).astype(np.int16)
            frame = av.AudioFrame.from_ndarray(samples.reshape(1, -1), format="s16", layout="stereo")
            frame.sample_rate, frame.pts, frame.time_base = RATE, at, Fraction(1, RATE)
            out.mux(stream.encode(frame))
        out.mux(stream.encode(None))
