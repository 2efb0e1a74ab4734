"""What was followed in the demo's footage ships with it, so that nobody waits."""

from __future__ import annotations

import os
import zipfile
from pathlib import Path

from chapto.media.cache import cache_file

TRACKS = Path(__file__).parent / "tracks.zip"


def know_tracks() -> None:
    """Put the stretches where they are looked for. What was followed by an earlier method is left out by its name."""
    with zipfile.ZipFile(TRACKS) as shipped:
        for name in shipped.namelist():
            place = cache_file("tracks", Path(name).stem, ".npz")
            if not place.exists():
                place.parent.mkdir(parents=True, exist_ok=True)
                part = place.with_suffix(f".{os.getpid()}.part")
                part.write_bytes(shipped.read(name))
                part.replace(place)
