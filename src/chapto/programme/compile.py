"""`compile_programme`: deterministic, without side effects, and fast enough to run after every keystroke."""

from __future__ import annotations

from collections.abc import Mapping
from fractions import Fraction

from chapto.clock.passage import Kind, Piece, lay
from chapto.clock.rates import frames_from_seconds
from chapto.clock.timemap import TimeMap
from chapto.document.breakdown import Breakdown
from chapto.document.condition import ConditionKind
from chapto.document.script import Beat, Hold, Section, words_of
from chapto.pacing.around import shown_around
from chapto.pacing.fitted import FitBeat, FitExchange, Fitted, Phrase, PlannedTie, Stop
from chapto.pacing.skipping import fit_without
from chapto.pacing.spoken import SpokenLine, estimate, phrase_starts
from chapto.pacing.styles import HouseStyle, house_style
from chapto.programme.angles import AngleTrack, pieces_of
from chapto.programme.captions import captions_of
from chapto.programme.labels import place_labels
from chapto.programme.programme import (
    Chapter,
    PlacedPhrase,
    PlacedSection,
    PlacedTie,
    PlacedWord,
    Programme,
)
from chapto.programme.ties import nearest_showing, tie_state

Voices = Mapping[str, SpokenLine]


def line_for(b: Breakdown, beat: Beat, voices: Voices) -> SpokenLine:
    """The beat's voice: the one given, if it has as many words as the text, else an estimate from the pace."""
    given = voices.get(beat.id)
    if given is not None and len(given.words) == len(words_of(beat.text)):
        return given
    return estimate(beat.text, b.narrator(beat).pace)


def compile_programme(b: Breakdown, voices: Voices) -> Programme:
    """Everything the viewer gets from `b`. `voices` maps beat ids to spoken lines; missing ones are estimated."""
    style, fps = house_style(b.style), b.format.fps
    lines = {beat.id: line_for(b, beat, voices) for _, beat in b.beats()}
    fitted = [(section, _fit_section(b, section, lines, style)) for section in b.script]

    track = AngleTrack(b)
    pieces: list[Piece] = []
    starts: list[Fraction] = []
    at = Fraction(0)
    for section, part in fitted:
        starts.append(at)
        pieces += _pieces(b, section, part, track)
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
        labels=place_labels(b, time_map, sections) if passages else (),
        chapters=tuple(Chapter(s.title, s.start) for s in sections if s.title and s.end > s.start),
        captions=captions_of(words),
        shortfalls=tuple(x for _, part in fitted for x in part.shortfalls),
    )


def _fit_section(b: Breakdown, section: Section, lines: Voices, style: HouseStyle) -> Fitted:
    beats = tuple(_fit_beat(b, beat) for beat in section.beats)
    if not section.exchange:
        return _card(section, lines, style)
    exchange = b.exchange(section.exchange)
    wanted = FitExchange(exchange.start, exchange.end, beats)
    fitted = fit_without(wanted, lines, style, idle_spans(b))
    return shown_around(fitted, wanted, first=section.show_first, once_more=section.once_more)


def idle_spans(b: Breakdown) -> tuple[tuple[Fraction, Fraction], ...]:
    """Mat seconds in which nothing happens, as far as the creator agreed that nothing does."""
    files = {c.id: c for c in b.footage}
    return tuple(
        (files[x.footage].mat_at(x.start), files[x.footage].mat_at(x.end))
        for x in b.conditions
        if x.kind is ConditionKind.IDLE and x.accepted
    )


def _fit_beat(b: Breakdown, beat: Beat) -> FitBeat:
    stops = tuple(Stop(t.word, b.moment(t.moment).at) for t in beat.ties)
    held = beat.treatment.moment if isinstance(beat.treatment, Hold) else ""
    hold_at = b.moment(held).at if held else None
    return FitBeat(beat.id, stops, phrase_starts(beat.text), beat.treatment, hold_at)


def _card(section: Section, lines: Voices, style: HouseStyle) -> Fitted:
    """A section without an exchange: its words over a title card. Its ties have no picture to meet."""
    phrases, ties, at = [], [], style.lead_in
    for beat in section.beats:
        line = lines[beat.id]
        if line.words:
            phrases.append(Phrase(beat.id, 0, len(line.words), Fraction(0), line.seconds, at))
        ties += [PlannedTie(beat.id, t.word, Fraction(0), at + line.words[t.word][0], None) for t in beat.ties]
        at += line.seconds + style.breath
    return Fitted((), tuple(phrases), tuple(ties), (), max(at, style.title_card))


def _pieces(b: Breakdown, section: Section, part: Fitted, track: AngleTrack) -> list[Piece]:
    if not section.exchange:
        return [Piece(Kind.CARD, "", Fraction(0), Fraction(0), part.seconds)]
    return [piece for leg in part.legs for piece in pieces_of(leg, track, b.footage)]


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
