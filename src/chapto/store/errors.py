"""What goes wrong with files, each a sentence."""

from __future__ import annotations

import errno
from pathlib import Path

from chapto.errors import ChaptoError


class StoreError(ChaptoError):
    """A file that can't be read or written as it should."""


class DamagedFile(StoreError):
    """A project file whose content can't be trusted; an earlier state may be whole."""


class AlreadyThere(StoreError):
    """Something stands where a file should go, and replacing it has to be asked for. `places` are all of those."""

    def __init__(self, sentence: str, places: tuple[Path, ...]) -> None:
        super().__init__(sentence)
        self.places = places


def plain_reason(error: OSError) -> str:
    """Why the system refused, in words."""
    known = {
        errno.EEXIST: "something else stands there",
        errno.ENAMETOOLONG: "the name is too long",
        errno.ENOSPC: "the disk is full",
        errno.EACCES: "you may not do that there; change the permissions or choose another place",
        errno.EROFS: "it can only be read there",
    }
    return known.get(error.errno or 0) or error.strerror or str(error)
