"""The sound of a take as it is heard: cleaned where the creator wants that, else as it was recorded."""

from __future__ import annotations

import threading
from collections.abc import Callable
from pathlib import Path

from chapto.document.takes import Take
from chapto.media.sound import FootageSound, load_sound
from chapto.voice.cleaning import load_cleaned


def take_sound(path: Path, take: Take, *, cancelled: Callable[[], bool] = lambda: False) -> FootageSound:
    """Sound of the take at `path`; its seconds are those of the file. Raises `MediaError` when it can't be read or kept
    and `Cancelled` when stopped."""
    if take.cleaned:
        return load_cleaned(path, take.fingerprint, cancelled=cancelled)
    return load_sound(path, take.fingerprint, cancelled=cancelled)


class LaterSound:
    """The sound of a take, made ready when it is first asked for, by whichever thread asks."""

    def __init__(self, path: Path, take: Take) -> None:
        self._path, self._take = path, take
        self._sound: FootageSound | None = None
        self._lock = threading.Lock()

    def get(self, *, cancelled: Callable[[], bool] = lambda: False) -> FootageSound:
        """The sound; raises as `take_sound` does."""
        with self._lock:
            if self._sound is None:
                self._sound = take_sound(self._path, self._take, cancelled=cancelled)
            return self._sound
