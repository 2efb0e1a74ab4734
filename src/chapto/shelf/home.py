"""Where the shelf of somebody lies: the index, what they decided about it, and what they let Chapto note of time."""

from __future__ import annotations

from pathlib import Path

from platformdirs import user_data_path

OWN = ".chapto-shelf"
"""A folder of that name beside breakdowns is their own shelf: the demo has one, and so may a club's disk."""


def users_shelf() -> Path:
    """The shelf's folder in the XDG data folder; it need not be there yet."""
    return user_data_path("chapto") / "shelf"


def shelf_of(project: Path | None) -> Path:
    """The folder of the shelf a breakdown stands on: the nearest one above it, else the user's."""
    if project is not None:
        for folder in Path(project).absolute().parents:
            if (folder / OWN).is_dir():
                return folder / OWN
    return users_shelf()


def index_file(shelf: Path) -> Path:
    """The index, which can be thrown away."""
    return shelf / "index.sqlite"


def book_file(shelf: Path) -> Path:
    """What the creator decided."""
    return shelf / "shelf.json"


def times_file(shelf: Path) -> Path:
    """What was noted of time."""
    return shelf / "times.jsonl"


def is_text(path: str) -> bool:
    """Whether a name can be written down: one that holds bytes that are no text can't."""
    try:
        path.encode()
    except UnicodeEncodeError:
        return False
    return True
