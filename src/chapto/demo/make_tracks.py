"""Follow the demo's marks anew: `python -m chapto.demo.make_tracks`, after the marks or the method have changed."""

from __future__ import annotations

import os
import sys
import zipfile
from pathlib import Path
from tempfile import TemporaryDirectory

from chapto.demo.tracks import TRACKS
from chapto.demo.working_copy import demo_project
from chapto.media.cache import cache_file
from chapto.render.production import produce
from chapto.store.session import Session
from chapto.voice.guide import GuideVoice


def make_tracks() -> None:
    """Follow every mark of the demo in an empty cache, and pack what was found."""
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
