"""What was followed in the demo's footage ships with it, so that nobody waits: `python -m chapto.demo.tracks` anew."""

from __future__ import annotations

import os
import sys
import zipfile
from pathlib import Path
from tempfile import TemporaryDirectory

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


def make_tracks() -> None:
    """Follow every mark of the demo in an empty cache, and pack what was found."""
    from chapto.demo.working_copy import demo_project
    from chapto.render.production import produce
    from chapto.store.session import Session
    from chapto.voice.guide import GuideVoice

    with zipfile.ZipFile(TRACKS, "w"):
        pass
    with TemporaryDirectory() as folder:
        project = demo_project(fresh=True, folder=Path(folder))
        produce(Session.look(project).breakdown, GuideVoice(), project=project)
        made = sorted(cache_file("tracks", "x", ".npz").parent.glob("*.npz"))
        with zipfile.ZipFile(TRACKS, "w", zipfile.ZIP_DEFLATED, compresslevel=9) as packed:
            for place in made:
                # The same stretches always make the same file.
                packed.writestr(zipfile.ZipInfo(place.name), place.read_bytes(), zipfile.ZIP_DEFLATED, 9)


if __name__ == "__main__":
    with TemporaryDirectory() as cache:
        os.environ["XDG_CACHE_HOME"] = cache
        make_tracks()
    sys.exit(0)
