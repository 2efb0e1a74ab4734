"""The folder under the XDG state folder that belongs to one project: journal, lock and earlier states."""

from __future__ import annotations

import contextlib
import hashlib
import os
from pathlib import Path

from platformdirs import user_state_path

PLACE = "place"


def state_folder() -> Path:
    """What Chapto keeps between sessions and the creator never looks at."""
    return user_state_path("chapto")


def projects_folder() -> Path:
    """The folders of all projects."""
    return state_folder() / "projects"


def home_of(project: Path) -> Path:
    """The folder of the project file at `project`, links followed; it need not be there yet."""
    key = hashlib.sha256(os.fsencode(os.path.realpath(project))).hexdigest()[:24]
    return projects_folder() / key


def remember_place(home: Path, project: Path) -> None:
    """Note which file a folder belongs to, so that it is found again when that file has moved."""
    home.mkdir(parents=True, exist_ok=True)
    wanted = os.fsencode(os.path.realpath(project))
    noted = home / PLACE
    if not noted.exists() or noted.read_bytes() != wanted:
        noted.write_bytes(wanted)


def orphans() -> tuple[Path, ...]:
    """Folders whose project file is no longer where it was: it was moved, renamed or deleted."""
    found = []
    with contextlib.suppress(OSError):
        for home in sorted(projects_folder().iterdir()):
            with contextlib.suppress(OSError):
                if not os.path.exists((home / PLACE).read_bytes()):
                    found.append(home)
    return tuple(found)
