"""Where faults of Chapto itself are written down: a log in the XDG state folder."""

from __future__ import annotations

import contextlib
import traceback
from datetime import datetime
from pathlib import Path

from chapto import __version__
from chapto.store.home import state_folder

LONGEST = 1_000_000
"""Bytes at which the log is put aside and a new one begun; one old one is kept."""


def fault_log_path() -> Path:
    """Where the log is."""
    return state_folder() / "faults.log"


def crash_log_folder() -> Path:
    """Where the interpreter writes what it was doing when it is ended by a signal, a file a process."""
    return state_folder() / "crashes"


def record_fault(error: BaseException, doing: str = "") -> str:
    """Write down `error` with its traceback; one sentence for the creator, with where the log is.

    Never raises: where the log can't be written, the sentence says so.
    """
    what = f"{doing or 'Something'} failed inside Chapto ({type(error).__name__})."
    place = fault_log_path()
    stamp = f"{datetime.now():%Y-%m-%d %H:%M:%S} Chapto {__version__}: {doing or 'in the window'}\n"
    text = stamp + "".join(traceback.format_exception(error)) + "\n"
    try:
        place.parent.mkdir(parents=True, exist_ok=True)
        with contextlib.suppress(OSError):
            if place.stat().st_size > LONGEST:
                place.replace(place.with_suffix(".1.log"))
        with open(place, "a", encoding="utf-8", errors="backslashreplace") as out:
            out.write(text)
    except OSError:
        return f"{what} The log {place} could not be written."
    return f"{what} Your edits are kept; what happened is in {place}."
