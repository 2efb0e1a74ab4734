"""The programme as an OpenTimelineIO timeline: its passages on a picture track, its voice on a sound track, chapters,
labels and ties as markers. What only Chapto knows stands in the metadata under `chapto`."""

from __future__ import annotations

from collections.abc import Mapping
from fractions import Fraction
from pathlib import Path

import opentimelineio as otio
from opentimelineio.opentime import RationalTime, TimeRange
from opentimelineio.schema import MarkerColor, TrackKind

from chapto.clock.passage import Passage
from chapto.document.breakdown import Breakdown
from chapto.document.mattime import fraction_to_text
from chapto.programme.programme import Programme


def timeline(b: Breakdown, programme: Programme, places: Mapping[str, Path]) -> str:
    """The timeline as `.otio` JSON; `places` are the files of footage, by id."""
    fps = float(programme.fps)
    made = otio.schema.Timeline(name=b.title)
    made.global_start_time = RationalTime(0, fps)
    pictures = otio.schema.Track(name="Picture", kind=TrackKind.Video)
    for p in programme.passages:
        pictures.append(_clip(b, p, places, fps) if p.footage else _card(p, fps))
    made.tracks.append(pictures)
    made.tracks.append(_voice(b, programme, fps))
    markers = made.tracks.markers
    for chapter, end in programme.chapter_spans():
        markers.append(_marker(chapter.title, chapter.start, end, fps, "chapter", MarkerColor.GREEN))
    for label in programme.labels:
        markers.append(_marker(label.text, label.start, label.end, fps, "label", MarkerColor.ORANGE))
    for tie in programme.ties:
        if tie.shown is not None:
            at = int(tie.shown * programme.fps)
            marker = _marker(tie.text, at, at + 1, fps, "tie", MarkerColor.CYAN)
            marker.metadata["chapto"]["mat"] = fraction_to_text(tie.mat)
            markers.append(marker)
    return str(made.to_json_string(indent=1)) + "\n"


def _clip(b: Breakdown, p: Passage, places: Mapping[str, Path], fps: float) -> otio.schema.Clip:
    """What is shown of a file. A held picture is a freeze frame, another speed a time warp."""
    c = b.camera(p.footage)
    place = places.get(c.id, Path(c.path))
    whole = TimeRange(RationalTime(0, fps), RationalTime(float(c.duration) * fps, fps))
    file = otio.schema.ExternalReference(target_url=place.absolute().as_uri(), available_range=whole)
    file.name = c.name
    start = c.media_time(p.mat_in)
    # A time warp is said of the file's own stretch: as much of it as runs by.
    taken = TimeRange(RationalTime(float(start) * fps, fps), RationalTime(p.frames, fps))
    clip = otio.schema.Clip(name=f"{c.name}, {p.kind.value}", media_reference=file, source_range=taken)
    if p.rate == 0:
        clip.effects.append(otio.schema.FreezeFrame(name="hold"))
    elif p.rate != 1:
        clip.effects.append(otio.schema.LinearTimeWarp(name=p.kind.value, time_scalar=float(p.rate)))
    clip.metadata["chapto"] = {
        "kind": p.kind.value,
        "mat_in": fraction_to_text(p.mat_in),
        "rate": fraction_to_text(p.rate),
        "watch_in": p.watch_in,
        "frames": p.frames,
        "fingerprint": c.fingerprint,
    }
    return clip


def _card(p: Passage, fps: float) -> otio.schema.Clip:
    missing = otio.schema.MissingReference(name="card")
    whole = TimeRange(RationalTime(0, fps), RationalTime(p.frames, fps))
    card = otio.schema.Clip(name="card", media_reference=missing, source_range=whole)
    card.metadata["chapto"] = {"kind": p.kind.value, "text": p.text, "watch_in": p.watch_in, "frames": p.frames}
    return card


def _voice(b: Breakdown, programme: Programme, fps: float) -> otio.schema.Track:
    """What is said, a clip a phrase, silence between them as gaps; where two talk at once the later begins late."""
    track, at = otio.schema.Track(name="Voice", kind=TrackKind.Audio), 0
    beats = {beat.id: beat for _, beat in b.beats()}
    for phrase in sorted(programme.voice, key=lambda x: x.at):
        start, end = max(round(phrase.at * programme.fps), at), round(phrase.until * programme.fps)
        if end <= start or not phrase.heard:
            continue
        if start > at:
            track.append(otio.schema.Gap(duration=RationalTime(start - at, fps)))
        words = beats[phrase.beat].text.split()[phrase.first : phrase.end]
        said = otio.schema.Clip(
            name=" ".join(words),
            media_reference=otio.schema.MissingReference(name=b.narrator(beats[phrase.beat]).name),
            source_range=TimeRange(RationalTime(0, fps), RationalTime(end - start, fps)),
        )
        said.metadata["chapto"] = {"beat": phrase.beat, "at": fraction_to_text(Fraction(phrase.at))}
        track.append(said)
        at = end
    return track


def _marker(name: str, start: int, end: int, fps: float, kind: str, colour: str) -> otio.schema.Marker:
    marked = TimeRange(RationalTime(start, fps), RationalTime(max(end - start, 1), fps))
    return otio.schema.Marker(name=name, marked_range=marked, color=colour, metadata={"chapto": {"kind": kind}})
