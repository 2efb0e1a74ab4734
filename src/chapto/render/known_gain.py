"""How much louder a programme is made, worked out once and kept: it takes mixing the whole."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

import numpy as np

from chapto.document.breakdown import Breakdown
from chapto.media.cache import cache_file
from chapto.media.kept_arrays import keep_arrays, kept_arrays
from chapto.programme.programme import Programme
from chapto.render.loudness import MOST, gain_for
from chapto.render.sounds import Sounds, mixed, sound_digest

VERSION = 1


def known_gain(
    b: Breakdown, programme: Programme, sounds: Sounds, *, cancelled: Callable[[], bool] = lambda: False
) -> float:
    """Decibels at which the programme is as loud as `b.format.loudness` wants it. Raises `Cancelled` when stopped."""
    # Loudness is measured in blocks that begin anew with every section.
    starts = tuple(x.start for x in programme.sections)
    place = cache_file("soundtracks", f"{sound_digest(b, programme, sounds, VERSION, starts)}-gain", ".npz")
    kept = kept_arrays(place, "gain")
    if kept is not None and kept["gain"].shape == () and np.abs(kept["gain"]) <= MOST:
        return float(kept["gain"])
    gain = gain_for(partial(mixed, b, programme, sounds), float(b.format.loudness), cancelled=cancelled)
    keep_arrays(place, {"gain": np.array(gain)})
    return gain
