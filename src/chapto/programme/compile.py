"""`compile_programme`: deterministic, without side effects, and fast enough to run after every keystroke."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from fractions import Fraction

from chapto.document.breakdown import Breakdown
from chapto.document.script import Beat, words_of
from chapto.pacing.fitted import Lack, Shortfall
from chapto.pacing.spoken import SpokenLine, estimate
from chapto.programme.angles import AngleTrack
from chapto.programme.beat_slips import beat_slips
from chapto.programme.cautions import place_cautions
from chapto.programme.knowledge import Knowledge, shipped_knowledge
from chapto.programme.labels import place_labels
from chapto.programme.names import place_names
from chapto.programme.placed import Chapter, PlacedTie, TieState
from chapto.programme.placed_marks import place_marks
from chapto.programme.placed_music import place_music
from chapto.programme.placing import place_blocks
from chapto.programme.programme import Programme
from chapto.programme.readings import NOTHING_READ, Readings
from chapto.programme.section_styles import unknown_styles
from chapto.programme.sections import fit_script
from chapto.programme.soft import soft_pictures
from chapto.programme.stills import stills

Voices = Mapping[str, SpokenLine]


def line_for(b: Breakdown, beat: Beat, voices: Voices) -> SpokenLine:
    """The beat's voice: the one given, if it has as many words as the text, else an estimate from the pace."""
    given = voices.get(beat.id)
    if given is not None and len(given.words) == len(words_of(beat.text)):
        return given
    return estimate(beat.text, b.narrator(beat).pace)


def compile_programme(
    b: Breakdown, voices: Voices, known: Knowledge | None = None, readings: Readings = NOTHING_READ
) -> Programme:
    """Everything the viewer gets from `b`. `voices` maps beat ids to spoken lines; missing ones are estimated. Names,
    cautions, house styles and rules come from `known`, by default what ships; marks are drawn by `readings`. Reads no
    disk and has no other input."""
    known = known or shipped_knowledge()
    fps, lexicon = b.format.fps, known.lexicon
    lines = {beat.id: line_for(b, beat, voices) for _, beat in b.beats()}
    track = AngleTrack(b)
    fitted = fit_script(b, lines, known.styles, track)
    lacks = (*_unknown(b, known), *(x for part in fitted for x in part.shortfalls))
    blocks = place_blocks(b, fitted, lines, track)
    bare = Programme(fps, blocks, (), (), known=known)
    sections, time_map = bare.sections, bare.time_map
    if not bare.frames:
        return replace(bare, shortfalls=lacks)
    words = tuple(word for block in blocks for word in block.words)
    marks, unplaced = place_marks(b, time_map, sections, words, bare.insets, readings.tracks)
    names = place_names(b, sections, words, fps, time_map.mat_at)
    made = replace(
        bare,
        labels=place_labels(b, lexicon, time_map, sections, _first_shown(bare.ties, fps), beat_slips(b, words, fps)),
        chapters=tuple(Chapter(s.title, s.start) for s in sections if s.title and s.end > s.start),
        names=names,
        cautions=place_cautions(b, lexicon, sections, bare.frames, words, names),
        marks=marks,
        unplaced=unplaced,
        readings=readings,
        music=place_music(b, sections, bare.passages, bare.voice, fps),
    )
    # What was worked out for the bare one is the same for the whole.
    made.__dict__.update({k: v for k, v in bare.__dict__.items() if k not in made.__dict__})
    return _as_drawn(b, made, lacks)


def _as_drawn(b: Breakdown, p: Programme, lacks: tuple[Shortfall, ...]) -> Programme:
    """With what does not fit, and what its marks leave too long or too soft."""
    found = replace(p, shortfalls=(*lacks, *stills(p), *soft_pictures(b, p)))
    found.__dict__.update({k: v for k, v in p.__dict__.items() if k not in found.__dict__})
    return found


def read_anew(b: Breakdown, programme: Programme, readings: Readings) -> Programme:
    """The programme of `b` with its marks by other readings; everything else stays as it was compiled."""
    if not programme.frames:
        return programme
    words = tuple(programme.words)
    marks, unplaced = place_marks(b, programme.time_map, programme.sections, words, programme.insets, readings.tracks)
    made = replace(programme, marks=marks, unplaced=unplaced, readings=readings)
    made.__dict__.update({k: v for k, v in programme.__dict__.items() if k not in made.__dict__})
    return _as_drawn(b, made, tuple(s for s in programme.shortfalls if s.lack not in (Lack.STILL, Lack.SOFT)))


def _first_shown(ties: tuple[PlacedTie, ...], fps: Fraction) -> dict[str, int]:
    """The frame at which each tied moment is talked about first."""
    found: dict[str, int] = {}
    for tie in ties:
        if tie.shown is not None and tie.state is not TieState.BROKEN:
            found.setdefault(tie.moment, int(tie.shown * fps))
    return found


def _unknown(b: Breakdown, known: Knowledge) -> tuple[Shortfall, ...]:
    said = "The house style “{}” is not on this machine; another one is used."
    return tuple(Shortfall("", 0, Fraction(0), said.format(name)) for name in unknown_styles(b, known.styles))
