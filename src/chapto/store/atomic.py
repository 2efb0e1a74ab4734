"""Writing a file so that it is either the old one or the new one, whole."""

from __future__ import annotations

import contextlib
import os
import tempfile
from pathlib import Path

from chapto.store.schema import StoreError


def write_atomically(path: Path, data: bytes) -> None:
    """Put `data` at `path` by temporary file, fsync and rename; `StoreError` leaves the old file in place."""
    temporary = ""
    try:
        handle, temporary = tempfile.mkstemp(prefix=f".{path.name}.", dir=path.parent)
        with os.fdopen(handle, "wb") as out:
            out.write(data)
            out.flush()
            os.fsync(out.fileno())
        os.replace(temporary, path)
        folder = os.open(path.parent, os.O_RDONLY)
        try:
            os.fsync(folder)
        finally:
            os.close(folder)
    except OSError as error:
        if temporary:
            with contextlib.suppress(OSError):
                os.unlink(temporary)
        raise StoreError(f"“{path}” could not be saved: {error.strerror or error}. Nothing was changed.") from None
