"""From a document and its files to everything a render needs."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field, replace
from pathlib import Path
from typing import TYPE_CHECKING

from msgspec.structs import replace as msgspec_replace

from chapto.document.breakdown import Breakdown
from chapto.document.picture_format import Codec
from chapto.media.sound import FootageSound, load_sound
from chapto.programme.compile import compile_programme, read_anew
from chapto.programme.knowledge import Knowledge, shipped_knowledge
from chapto.programme.needed import needed_of
from chapto.programme.other_shape import OtherShapes
from chapto.programme.programme import Programme
from chapto.publish.description import description
from chapto.publish.package import places_of, write_beside
from chapto.render.followed import follow_marks, follow_shown
from chapto.render.media_places import media_places, music_places, photo_places
from chapto.shelf.book import Settled
from chapto.shelf.promises import kept_lines, settled_of
from chapto.store.errors import StoreError
from chapto.store.outputs import OutputGate
from chapto.voice.guide import GuideVoice, Speech, SpeechSounds
from chapto.voice.take_sound import LaterSound
from chapto.voice.taken_line import TakenLine
from chapto.voice.takes import speak_takes

if TYPE_CHECKING:
    from chapto.render.worker import Encoders


PREVIEW = 480
"""Lines of a preview."""


@dataclass(frozen=True)
class Production:
    """A compiled breakdown with its voices. `taken` says how a take speaks each beat that has one, by beat id;
    `troubles`, a sentence each, where the guide voice stands in for a take that should be heard. `pending` are takes
    (by id) whose words are not found yet, `untracked` points (by id) that were not followed yet. `sounds` is what is
    still to be made ready. `settled` are its promises that were kept or let go on the shelf, by key."""

    breakdown: Breakdown
    programme: Programme
    speeches: Mapping[str, Speech]
    taken: Mapping[str, TakenLine] = field(default_factory=dict)
    troubles: tuple[str, ...] = ()
    pending: tuple[str, ...] = ()
    sounds: tuple[LaterSound, ...] = ()
    untracked: tuple[str, ...] = ()
    settled: Mapping[str, Settled] = field(default_factory=dict)

    @property
    def kept(self) -> tuple[str, ...]:
        """A line for each promise that was kept, with where."""
        return kept_lines(self.settled)


def produce(
    b: Breakdown,
    guide: GuideVoice,
    known: Knowledge | None = None,
    *,
    project: Path | None = None,
    only_known: bool = False,
    following: bool = False,
    progress: Callable[[float], None] = lambda share: None,
    cancelled: Callable[[], bool] = lambda: False,
) -> Production:
    """Speak every beat, by its take where a chosen one holds it and by the guide voice elsewhere, and compile.

    Takes and footage are looked for beside `project`; `known` is by default what ships. With `only_known` no words are
    looked for and no points are followed: what was not before is pending, or untracked. A picture that is `following`
    keeps to the two where it is narrower than the footage. Unchanged beats come from the
    cache. Raises `Cancelled` when stopped, between two beats at the latest.
    """
    takes = speak_takes(
        b,
        project,
        (known or shipped_knowledge()).styles.get(b.style),
        only_known=only_known,
        progress=progress,
        cancelled=cancelled,
    )
    guided = guide.of_breakdown(b, without=takes.speeches, cancelled=cancelled)
    speeches = {**guided, **takes.speeches}
    voices = {k: s.line for k, s in speeches.items()}
    programme = compile_programme(b, voices, known)
    # Which stretches have to be followed only the programme knows.
    drawn = follow_marks(
        b,
        project,
        needed_of(b, programme),
        OtherShapes(b, programme).stretches,
        only_known=only_known,
        progress=progress,
        cancelled=cancelled,
    )
    readings = drawn.readings
    if following:
        readings = replace(readings, two=follow_shown(b, project, programme, readings.tracks, cancelled=cancelled))
    programme = read_anew(b, programme, readings)
    troubles = (*takes.troubles, *drawn.troubles)
    return Production(
        b, programme, speeches, takes.lines, troubles, takes.pending, takes.sounds, drawn.untracked, settled_of(project)
    )


def footage_sounds(
    b: Breakdown, places: dict[str, Path], *, cancelled: Callable[[], bool] = lambda: False
) -> dict[str, FootageSound]:
    """The sound of every file of footage and music that is there, by id."""
    files = [(c.id, c.fingerprint) for c in b.footage] + [(m.id, m.fingerprint) for m in b.music]
    return {i: load_sound(places[i], mark, cancelled=cancelled) for i, mark in files if i in places}


def previewed(b: Breakdown) -> Breakdown:
    """A document whose video is `PREVIEW` lines high, or as small as it is anyway."""
    f = b.format
    by = min(PREVIEW / min(f.width, f.height), 1.0)
    width, height = (max(round(side * by / 2) * 2, 64) for side in (f.width, f.height))
    return msgspec_replace(b, format=msgspec_replace(f, width=width, height=height, codec=Codec.H264, quality=2))


def render_production(
    production: Production,
    project: Path | None,
    target: Path,
    *,
    replacing: bool = False,
    alone: bool = False,
    cover: bytes = b"",
    preview: bool = False,
    workers: Encoders | None = None,
    progress: Callable[[float], None] = lambda share: None,
    ready: Callable[[tuple[tuple[int, int], ...]], None] = lambda spans: None,
    cancelled: Callable[[], bool] = lambda: False,
) -> tuple[Path, ...]:
    """Render the video, then write captions and chapter list beside it, unless it is to stand `alone`; returns all
    files made. A `cover` (JPEG) goes into containers that hold one; `ready` hears which frames are encoded.
    A `preview` is small and made from quick pictures of the footage.

    Raises `StoreError` for missing footage and for a place that must not be written to. Raises `AlreadyThere` where a
    file would be replaced, unless `replacing`. Else `RenderError`, `MediaError` or `Cancelled`.
    """
    from chapto.render.file import render

    if production.untracked:
        raise StoreError("The marks are not followed to their end yet; render again in a moment.")
    b, programme = production.breakdown, production.programme
    if preview:
        b = previewed(b)
    gate = OutputGate(b, project, replacing=replacing)
    gate.check(*((target,) if alone else places_of(target)))
    # A template that can't be used is told before the video is made, not after.
    description(b, programme, production.kept)
    places, missing = media_places(b, project)
    used = programme.files_shown
    lost = [c for c in b.footage if c.id in used and c.id not in places]
    if lost:
        raise StoreError(missing[0])
    photos, without = photo_places(b, project)
    shown = {i for _, beat in b.beats() for t in beat.treatments() for i in t.photos()}
    if shown - set(photos):
        raise StoreError(without[0])
    pieces, silent = music_places(b, project)
    if {m.music for m in programme.music} - set(pieces):
        raise StoreError(silent[0])
    for later in production.sounds:
        later.get(cancelled=cancelled)
    heard = {k: v for k, v in (places | pieces).items() if k in used or k in pieces}
    sounds = footage_sounds(b, heard, cancelled=cancelled)
    samples = SpeechSounds(production.speeches)
    video = render(
        b,
        programme,
        places,
        samples,
        sounds,
        target,
        gate,
        photos=photos,
        cover=cover,
        quick=preview,
        workers=workers,
        progress=progress,
        ready=ready,
        cancelled=cancelled,
    )
    return (video,) if alone else (video, *write_beside(b, video, programme, gate, production.kept))
