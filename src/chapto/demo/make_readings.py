"""Read the demo's footage and follow its marks anew: `python -m chapto.demo.make_readings`, after the marks or a method
have changed."""

from __future__ import annotations

import os
import sys
import zipfile
from pathlib import Path
from tempfile import TemporaryDirectory

from chapto.demo.readings import READINGS
from chapto.demo.working_copy import demo_project
from chapto.media.cache import cache_file
from chapto.media.readings import readings
from chapto.render.production import produce
from chapto.store.session import Session
from chapto.voice.guide import GuideVoice

KINDS = ("readings", "tracks")


def make_readings() -> None:
    """Read every file of the demo and follow every mark in an empty cache, and pack what was found."""
    with zipfile.ZipFile(READINGS, "w"):
        pass
    with TemporaryDirectory() as folder:
        project = demo_project(fresh=True, folder=Path(folder))
        b = Session.look(project).breakdown
        for file in b.footage:
            readings(project.parent / file.path, file.fingerprint)
        produce(b, GuideVoice(), project=project)
        made = [place for kind in KINDS for place in cache_file(kind, "x", ".npz").parent.glob("*.npz")]
        with zipfile.ZipFile(READINGS, "w", zipfile.ZIP_DEFLATED, compresslevel=9) as packed:
            for place in sorted(made):
                # The same stretches always make the same file.
                name = zipfile.ZipInfo(f"{place.parent.name}/{place.name}")
                packed.writestr(name, place.read_bytes(), zipfile.ZIP_DEFLATED, 9)


if __name__ == "__main__":
    with TemporaryDirectory() as cache:
        os.environ["XDG_CACHE_HOME"] = cache
        make_readings()
    sys.exit(0)
