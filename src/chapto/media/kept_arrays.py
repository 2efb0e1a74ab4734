"""Arrays kept in the cache under their names, written whole or not at all."""

from __future__ import annotations

import os
import zipfile
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray

from chapto.media.cache import part_of, used_now

Arrays = dict[str, NDArray[Any]]


def keep_arrays(place: Path, arrays: Arrays) -> None:
    """Keep if that works; a full or read-only cache only costs time."""
    part = part_of(place)
    try:
        place.parent.mkdir(parents=True, exist_ok=True)
        np.savez(part, **arrays)  # type: ignore[arg-type]
        os.replace(part, place)
    except OSError:
        part.unlink(missing_ok=True)


def kept_arrays(place: Path, *names: str) -> Arrays | None:
    """What was kept, by name; None where it is not there, is damaged or lacks one of the `names`."""
    try:
        with np.load(place) as data:
            found = {name: data[name] for name in names}
    except (OSError, ValueError, KeyError, EOFError, zipfile.BadZipFile):
        return None
    used_now(place)
    return found
