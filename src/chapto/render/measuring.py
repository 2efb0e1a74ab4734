"""What was heard and watched of a finished programme, measured once and kept under the cache."""

from __future__ import annotations

import contextlib
import hashlib
from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import TypeVar

import msgspec
from msgspec.structs import replace

from chapto.document.mattime import decode_hook, encode_hook
from chapto.errors import ChaptoError
from chapto.media.cache import cache_file, used_now
from chapto.paint.photos import Photos
from chapto.render.listening import listen
from chapto.render.media_places import media_places, music_places, photo_places
from chapto.render.production import Production, footage_sounds
from chapto.render.watching import watch
from chapto.review.measured import Heard, Watched
from chapto.store.atomic import write_atomically
from chapto.store.errors import StoreError

T = TypeVar("T", Heard, Watched)
METHOD = 2
"""Counted up when something is measured in another way."""
Progress = Callable[[float], None]
Stopped = Callable[[], bool]


class Measured(msgspec.Struct, frozen=True):
    """What was heard and watched; a sentence where that could not be done."""

    heard: Heard | str
    watched: Watched | str


def measure(
    made: Production,
    project: Path | None,
    *,
    progress: Progress = lambda share: None,
    cancelled: Stopped = lambda: False,
) -> Measured:
    """Listen to a production and look at it, or take what is known of the same one. Raises `Cancelled` when stopped."""
    known = known_measures(made)
    if known is not None:
        return known
    progress(0.01)
    found = Measured(
        _tried(partial(_heard, made, project, lambda x: progress(0.3 * x), cancelled)),
        _tried(partial(_watched, made, project, lambda x: progress(0.3 + 0.7 * x), cancelled)),
    )
    if isinstance(found.heard, Heard) and isinstance(found.watched, Watched):
        # What can't be kept is measured again.
        with contextlib.suppress(ChaptoError, OSError):
            _place(made).parent.mkdir(parents=True, exist_ok=True)
            write_atomically(_place(made), msgspec.json.encode(found, enc_hook=encode_hook))
    return found


def known_measures(made: Production) -> Measured | None:
    """What was measured of the same production before; None where nothing was."""
    place = _place(made)
    try:
        data = place.read_bytes()
    except OSError:
        return None
    try:
        found = msgspec.json.decode(data, type=_Kept, dec_hook=decode_hook)
    except (msgspec.DecodeError, ValueError):
        return None
    used_now(place)
    return Measured(found.heard, found.watched)


class _Kept(msgspec.Struct, frozen=True):
    heard: Heard
    watched: Watched


def _tried(look: Callable[[], T]) -> T | str:
    try:
        return look()
    except ChaptoError as error:
        return str(error)


def _heard(made: Production, project: Path | None, progress: Progress, cancelled: Stopped) -> Heard:
    places, missing = media_places(made.breakdown, project)
    pieces, _ = music_places(made.breakdown, project)
    _all_there(made, places, missing)
    used = {p.footage for p in made.programme.passages} | set(pieces)
    here = {k: v for k, v in (places | pieces).items() if k in used}
    sounds = footage_sounds(made.breakdown, here, cancelled=cancelled)
    return listen(made, project, sounds, progress=progress, cancelled=cancelled)


def _watched(made: Production, project: Path | None, progress: Progress, cancelled: Stopped) -> Watched:
    places, missing = media_places(made.breakdown, project)
    photos, _ = photo_places(made.breakdown, project)
    _all_there(made, places, missing)
    return watch(made.breakdown, made.programme, places, Photos(photos), progress=progress, cancelled=cancelled)


def _all_there(made: Production, places: dict[str, Path], missing: tuple[str, ...]) -> None:
    if made.programme.files_shown - set(places):
        raise StoreError(missing[0])


def _place(made: Production) -> Path:
    """A file of the cache, known by everything that is seen and heard."""
    b, p = made.breakdown, made.programme
    seen = replace(b, waivers=(), notes=(), people=())
    known = hashlib.sha256(f"{METHOD}".encode())
    known.update(msgspec.json.encode(seen, enc_hook=encode_hook, order="deterministic"))
    placed = (p.passages, p.voice, p.marks, p.labels, p.names, p.cautions, p.insets, p.music)
    known.update(repr(placed).encode())
    known.update(repr(sorted((k, s.line) for k, s in made.speeches.items())).encode())
    return cache_file("readings", f"reviewed-{known.hexdigest()[:40]}", ".json")
