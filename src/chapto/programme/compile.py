"""`compile_programme`: deterministic, without side effects, and fast enough to run after every keystroke."""

from __future__ import annotations

from collections.abc import Mapping
from fractions import Fraction

from chapto.clock.passage import Piece, lay
from chapto.clock.rates import frames_from_seconds
from chapto.clock.timemap import TimeMap
from chapto.document.breakdown import Breakdown
from chapto.document.script import Beat, words_of
from chapto.lexicon.lexicon import Lexicon, shipped_lexicon
from chapto.pacing.fitted import Fitted, Phrase, PlannedTie, Shortfall
from chapto.pacing.spoken import SpokenLine, estimate
from chapto.pacing.styles import HouseStyle, all_styles, house_style
from chapto.programme.angles import AngleTrack, pieces_of
from chapto.programme.captions import captions_of
from chapto.programme.cautions import place_cautions
from chapto.programme.labels import place_labels
from chapto.programme.names import place_names
from chapto.programme.programme import (
    Chapter,
    PlacedInset,
    PlacedPhrase,
    PlacedSection,
    PlacedTie,
    PlacedWord,
    Programme,
    TieState,
)
from chapto.programme.second_pictures import place_insets
from chapto.programme.sections import fit_script
from chapto.programme.ties import nearest_showing, tie_state

DEFAULT = "stop-and-talk"
Voices = Mapping[str, SpokenLine]


def line_for(b: Breakdown, beat: Beat, voices: Voices) -> SpokenLine:
    """The beat's voice: the one given, if it has as many words as the text, else an estimate from the pace."""
    given = voices.get(beat.id)
    if given is not None and len(given.words) == len(words_of(beat.text)):
        return given
    return estimate(beat.text, b.narrator(beat).pace)


def compile_programme(b: Breakdown, voices: Voices, lexicon: Lexicon | None = None) -> Programme:
    """Everything the viewer gets from `b`. `voices` maps beat ids to spoken lines; missing ones are estimated. Names
    and cautions come from `lexicon`, the shipped one by default."""
    style, fps = all_styles().get(b.style), b.format.fps
    lexicon = lexicon or shipped_lexicon()
    lines = {beat.id: line_for(b, beat, voices) for _, beat in b.beats()}
    track = AngleTrack(b)
    fitted = list(zip(b.script, fit_script(b, lines, style or house_style(DEFAULT), track), strict=True))
    pieces: list[Piece] = []
    starts: list[Fraction] = []
    at = Fraction(0)
    insets: list[PlacedInset] = []
    for _, part in fitted:
        starts.append(at)
        pieces += _pieces(b, part, track)
        insets += place_insets(part.insets, at, fps, track, b.footage)
        at += part.seconds
    passages = lay(pieces, fps)
    time_map = TimeMap(passages)
    edges = [frames_from_seconds(s, fps) for s in (*starts, at)]
    sections = tuple(
        PlacedSection(s.id, s.title, start, end)
        for (s, _), start, end in zip(fitted, edges[:-1], edges[1:], strict=True)
    )

    texts = {beat.id: words_of(beat.text) for _, beat in b.beats()}
    voice = tuple(
        _placed(phrase, start) for start, (_, part) in zip(starts, fitted, strict=True) for phrase in part.phrases
    )
    words = tuple(word for phrase in voice for word in _words(phrase, lines[phrase.beat], texts[phrase.beat]))
    by_place = {(w.beat, w.word): w for w in words}
    ties = []
    for start, (section, part), placed in zip(starts, fitted, sections, strict=True):
        moments = {(x.id, t.word): t.moment for x in section.beats for t in x.ties}
        for tie in part.ties:
            word = by_place[(tie.beat, tie.word)]
            ties.append(_tie(tie, word, moments[(tie.beat, tie.word)], start, placed, time_map))
    return Programme(
        fps=fps,
        passages=passages,
        sections=sections,
        voice=voice,
        words=words,
        ties=tuple(ties),
        labels=place_labels(b, lexicon, time_map, sections, _first_shown(ties, fps)) if passages else (),
        chapters=tuple(Chapter(s.title, s.start) for s in sections if s.title and s.end > s.start),
        captions=captions_of(words),
        shortfalls=(*_unknown(b, style), *(x for _, part in fitted for x in part.shortfalls)),
        insets=tuple(insets),
        names=place_names(b, sections, words, fps, time_map.mat_at) if passages else (),
        cautions=place_cautions(b, lexicon, sections, time_map.frames),
    )


def _pieces(b: Breakdown, part: Fitted, track: AngleTrack) -> list[Piece]:
    return [piece for leg in part.legs for piece in pieces_of(leg, track, b.footage)]


def _first_shown(ties: list[PlacedTie], fps: Fraction) -> dict[str, int]:
    """The frame at which each tied moment is talked about first."""
    found: dict[str, int] = {}
    for tie in ties:
        if tie.shown is not None and tie.state is not TieState.BROKEN:
            found.setdefault(tie.moment, int(tie.shown * fps))
    return found


def _unknown(b: Breakdown, style: HouseStyle | None) -> tuple[Shortfall, ...]:
    if style is not None:
        return ()
    sentence = f"The house style “{b.style}” is not on this machine; “{DEFAULT}” is used."
    return (Shortfall("", 0, Fraction(0), sentence),)


def _placed(phrase: Phrase, start: Fraction) -> PlacedPhrase:
    return PlacedPhrase(
        phrase.beat, phrase.first, phrase.end, phrase.voice_in, phrase.voice_out, start + phrase.at
    )  # fmt: skip


def _words(phrase: PlacedPhrase, line: SpokenLine, texts: tuple[str, ...]) -> list[PlacedWord]:
    shift = phrase.at - phrase.voice_in
    return [
        PlacedWord(phrase.beat, i, texts[i], line.words[i][0] + shift, line.words[i][1] + shift)
        for i in range(phrase.first, phrase.end)
    ]


def _tie(
    tie: PlannedTie, word: PlacedWord, moment: str, start: Fraction, section: PlacedSection, time_map: TimeMap
) -> PlacedTie:
    shown = nearest_showing(time_map, tie.mat, word.start, (section.start, section.end))
    planned = None if tie.shown is None else start + tie.shown
    state = tie_state(word.start, word.end, shown)
    return PlacedTie(tie.beat, tie.word, word.text, moment, tie.mat, word.start, planned, shown, state)
