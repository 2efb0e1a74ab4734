"""Edits of the script: sections, beats, words, ties, treatments."""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Callable, Iterable
from fractions import Fraction
from typing import Any

from msgspec.structs import replace

from chapto.document import edit_log
from chapto.document.bout import Moment
from chapto.document.breakdown import Breakdown, DocumentError, by_id, fresh_ids, new_id
from chapto.document.edit_marks import carry_marks, without_marks
from chapto.document.hung import carried, left_of, places_of, shifted
from chapto.document.script import MARKS, Beat, BeatKind, Section, Tie, Turn, word_spans, words_of
from chapto.document.takes import Take
from chapto.document.treatments import Treatment


def add_section(b: Breakdown, *, title: str = "", exchange: str = "", at: int | None = None) -> Breakdown:
    """With an empty section, at place `at` (the end by default)."""
    made = Section(id=new_id(b, "s"), title=title, exchange=exchange)
    place = len(b.script) if at is None else at
    return replace(b, script=(*b.script[:place], made, *b.script[place:]))


def change_section(b: Breakdown, section_id: str, **changes: Any) -> Breakdown:
    """With fields of a section changed."""
    return replace(b, script=tuple(replace(s, **changes) if s.id == section_id else s for s in b.script))


def remove_section(b: Breakdown, section_id: str) -> Breakdown:
    """Without a section, its beats and their marks."""
    gone = {beat.id for s in b.script if s.id == section_id for beat in s.beats}
    return without_marks(replace(b, script=tuple(s for s in b.script if s.id != section_id)), lambda m: m.beat in gone)


def remove_with_words(b: Breakdown, exchange_id: str) -> Breakdown:
    """Without an exchange and all that is said of it."""
    for section in said_of(b, exchange_id):
        b = remove_section(b, section.id)
    return edit_log.remove_logged(b, exchange_id)


def said_of(b: Breakdown, exchange_id: str) -> tuple[Section, ...]:
    """The sections with words about an exchange."""
    return tuple(s for s in b.script if s.exchange == exchange_id and any(beat.text.strip() for beat in s.beats))


def move_section(b: Breakdown, section_id: str, by: int) -> Breakdown:
    """With a section moved by so many places, as far as there is room."""
    order = [s.id for s in b.script]
    i = order.index(section_id)
    j = min(max(i + by, 0), len(order) - 1)
    sections = list(b.script)
    sections.insert(j, sections.pop(i))
    return replace(b, script=tuple(sections))


def add_beat(
    b: Breakdown, section_id: str, text: str = "", *, kind: BeatKind = BeatKind.HAPPENED, after: str = ""
) -> Breakdown:
    """With a new beat in a section, after beat `after` (the end by default)."""
    made = Beat(id=new_id(b, "b"), text=text, kind=kind)

    def put(section: Section) -> Section:
        ids = [x.id for x in section.beats]
        place = ids.index(after) + 1 if after in ids else len(ids)
        return replace(section, beats=(*section.beats[:place], made, *section.beats[place:]))

    return replace(b, script=tuple(put(s) if s.id == section_id else s for s in b.script))


def remove_beat(b: Breakdown, beat_id: str) -> Breakdown:
    """Without a beat and its marks."""
    b.find_beat(beat_id)
    kept = (replace(s, beats=tuple(x for x in s.beats if x.id != beat_id)) for s in b.script)
    return without_marks(replace(b, script=tuple(kept)), lambda m: m.beat == beat_id)


def split_beat(b: Breakdown, beat_id: str, position: int) -> Breakdown:
    """With a beat cut in two at character `position`; each part keeps the ties and marks of its words."""
    section, beat = b.find_beat(beat_id)
    head = sum(1 for _, end in word_spans(beat.text) if end <= position)
    spans = word_spans(beat.text)
    if not 0 < head < len(spans):
        raise DocumentError("A beat can only be split between two of its words.")
    first = replace(
        beat,
        text=beat.text[: spans[head - 1][1]],
        ties=tuple(t for t in beat.ties if t.word < head),
        stamps=tuple(t for t in beat.stamps if t.word < head),
        turns=tuple(t for t in beat.turns if t.word < head),
    )
    second = Beat(
        id=new_id(b, "b"),
        text=beat.text[spans[head][0] :],
        kind=beat.kind,
        narrator=beat.narrator,
        ties=shifted((t for t in beat.ties if t.word >= head), -head),
        stamps=shifted((t for t in beat.stamps if t.word >= head), -head),
        treatment=beat.treated_at(head) if any(t.word <= head for t in beat.turns) else None,
        turns=shifted((t for t in beat.turns if t.word > head), -head),
        drafted=beat.drafted,
    )
    i = section.beats.index(beat)
    cut = change_section(b, section.id, beats=(*section.beats[:i], first, second, *section.beats[i + 1 :]))
    return carry_marks(cut, beat_id, lambda word: (beat_id, word) if word < head else (second.id, word - head))


def join_beat(b: Breakdown, beat_id: str) -> Breakdown:
    """With a beat joined to the one before it in its section; nothing happens to the first beat."""
    section, beat = b.find_beat(beat_id)
    i = section.beats.index(beat)
    if i == 0:
        return b
    before = section.beats[i - 1]
    shift = len(words_of(before.text))
    ties, stamps = before.ties + shifted(beat.ties, shift), before.stamps + shifted(beat.stamps, shift)
    drafted = f"{before.drafted} {beat.drafted}".strip()
    text = f"{before.text} {beat.text}".strip()
    here = (
        (Turn(word=shift, treatment=beat.treatment),)
        if shift and words_of(beat.text) and (beat.treatment or before.turns)
        else ()
    )
    turns = (*before.turns, *here, *shifted(beat.turns, shift))
    treatment = before.treatment if shift else beat.treatment
    joined = replace(before, text=text, ties=ties, stamps=stamps, treatment=treatment, turns=turns, drafted=drafted)
    made = change_section(b, section.id, beats=(*section.beats[: i - 1], joined, *section.beats[i + 1 :]))
    return carry_marks(made, beat_id, lambda word: (before.id, word + shift))


def move_beat(b: Breakdown, beat_id: str, by: int) -> Breakdown:
    """With a beat one place up (`by` −1) or down (1); at the edge of its section it goes into the next one."""
    section, beat = b.find_beat(beat_id)
    i, at = section.beats.index(beat), b.script.index(section)
    if 0 <= i + by < len(section.beats):
        order = list(section.beats)
        order.insert(i + by, order.pop(i))
        return change_section(b, section.id, beats=tuple(order))
    if not 0 <= at + by < len(b.script):
        return b
    there = b.script[at + by]
    left = change_section(b, section.id, beats=tuple(x for x in section.beats if x is not beat))
    return change_section(left, there.id, beats=(*there.beats, beat) if by < 0 else (beat, *there.beats))


def put_beat(b: Breakdown, beat_id: str, section_id: str, before: str = "") -> Breakdown:
    """With a beat put into a section before another beat of it, or at its end."""
    home, beat = b.find_beat(beat_id)
    if before == beat_id:
        return b
    left = change_section(b, home.id, beats=tuple(x for x in home.beats if x is not beat))
    there = by_id(left.script, section_id, "section")
    ids = [x.id for x in there.beats]
    place = ids.index(before) if before in ids else len(ids)
    return change_section(left, section_id, beats=(*there.beats[:place], beat, *there.beats[place:]))


def cut_words(b: Breakdown, beat_id: str, first: int, end: int) -> Breakdown:
    """Without the words `first … end` (half-open) of a beat; what begins or ends with them is put right: a sentence
    keeps its stop and its capital."""
    _, beat = b.find_beat(beat_id)
    words = list(words_of(beat.text))
    gone, kept = words[first:end], [*words[:first], *words[end:]]
    if not gone or not kept:
        raise DocumentError("A beat keeps at least one word.")
    if first and gone[-1][-1] in ".!?…" and kept[first - 1][-1] not in ".!?…":
        kept[first - 1] = kept[first - 1].rstrip(",;:–—-") + gone[-1][-1]
    if first < len(kept) and gone[0][:1].isupper():
        kept[first] = kept[first][:1].upper() + kept[first][1:]
    ties, stamps = left_of(beat.ties, first, end), left_of(beat.stamps, first, end)
    turns = tuple(t for t in left_of(beat.turns, first, end) if t.word)
    cut = replace(beat, text=" ".join(kept), ties=ties, stamps=stamps, turns=turns)
    return _change_beat(carry_words(b, beat_id, cut.text), beat_id, lambda beat: cut)


def rewrite(b: Breakdown, beat_id: str, text: str) -> Breakdown:
    """With the words of a beat changed. A tie stays on its word, or on the one that took its place."""

    def change(beat: Beat) -> Beat:
        old, new = words_of(beat.text), words_of(text)
        turns = tuple(t for t in carried(beat.turns, old, new) if t.word)
        ties, stamps = carried(beat.ties, old, new), carried(beat.stamps, old, new)
        return replace(beat, text=text, ties=ties, stamps=stamps, turns=turns)

    return _change_beat(carry_words(b, beat_id, text), beat_id, change)


def carry_words(b: Breakdown, beat_id: str, text: str) -> Breakdown:
    """With what hangs on the words of a beat on the words of `text`, which will take the place of its own: marks, and
    the edges that takes have. What hangs on words that go is gone."""
    takes = any(edge.beat == beat_id for take in b.takes for edge in take.edges)
    if not takes and all(m.beat != beat_id for m in b.marks):
        return b
    _, beat = b.find_beat(beat_id)
    place = places_of(words_of(beat.text), words_of(text))
    carried = carry_marks(b, beat_id, lambda word: (beat_id, place[word]) if word in place else None)
    return replace(carried, takes=tuple(_with_edges(take, beat_id, place) for take in b.takes)) if takes else carried


def _with_edges(take: Take, beat_id: str, place: dict[int, int]) -> Take:
    kept = (e for e in take.edges if e.beat != beat_id or e.word in place)
    return replace(take, edges=tuple(e if e.beat != beat_id else replace(e, word=place[e.word]) for e in kept))


def tie_word(b: Breakdown, beat_id: str, word: int, moment_id: str) -> Breakdown:
    """With word `word` of a beat bound to a moment; an earlier tie of that word is replaced."""
    b.moment(moment_id)

    def change(beat: Beat) -> Beat:
        if not 0 <= word < len(words_of(beat.text)):
            raise DocumentError("There is no such word to tie.")
        kept = [t for t in beat.ties if t.word != word]
        held = next((t.hold_seconds for t in beat.ties if t.word == word and t.moment == moment_id), None)
        made = Tie(word=word, moment=moment_id, hold_seconds=held)
        return replace(beat, ties=tuple(sorted((*kept, made), key=lambda t: t.word)))

    return _change_beat(b, beat_id, change)


def tie_at(b: Breakdown, beat_id: str, word: int, mat: Fraction) -> Breakdown:
    """With a word bound to a mat time: to the moment that is there, or to a new one."""
    near = edit_log.moment_at(b, mat)
    if near is not None:
        return tie_word(b, beat_id, word, near.id)
    made = edit_log.add_moment(b, mat)
    new = next(m.id for m in made.moments if m not in b.moments)
    return tie_word(made, beat_id, word, new)


def tie_all(b: Breakdown, wanted: Iterable[tuple[str, int, Fraction]]) -> Breakdown:
    """With many words bound at once: beat, word and mat second of each, as `tie_at` would one after another."""
    ids, by_beat = fresh_ids(b), dict[str, list[Tie]]()
    moments = list(b.moments)
    times = [m.at for m in moments]
    for beat, word, mat in wanted:
        i = bisect_left(times, mat)
        near = min(moments[max(i - 1, 0) : i + 1], key=lambda m: abs(m.at - mat), default=None)
        if near is None or abs(near.at - mat) > edit_log.SAME_MOMENT:
            near = Moment(id=next(ids["m"]), at=mat)
            moments.insert(i, near)
            times.insert(i, mat)
        by_beat.setdefault(beat, []).append(Tie(word=word, moment=near.id))

    def tied(beat: Beat) -> Beat:
        made = by_beat.get(beat.id)
        if made is None:
            return beat
        if any(not 0 <= t.word < len(words_of(beat.text)) for t in made):
            raise DocumentError("There is no such word to tie.")
        kept = {t.word: t for t in (*beat.ties, *made)}
        return replace(beat, ties=tuple(kept[word] for word in sorted(kept)))

    def change(s: Section) -> Section:
        return replace(s, beats=tuple(map(tied, s.beats))) if any(x.id in by_beat for x in s.beats) else s

    return replace(b, moments=tuple(moments), script=tuple(map(change, b.script)))


def forget_stamps(b: Breakdown) -> Breakdown:
    """Without the times that came with the script; ties stay."""

    def without(s: Section) -> Section:
        return replace(s, beats=tuple(replace(x, stamps=()) for x in s.beats)) if any(x.stamps for x in s.beats) else s

    return replace(b, script=tuple(map(without, b.script)))


def untie_word(b: Breakdown, beat_id: str, word: int) -> Breakdown:
    """Without the tie of a word."""
    return _change_beat(b, beat_id, lambda beat: replace(beat, ties=tuple(t for t in beat.ties if t.word != word)))


def replace_words(b: Breakdown, beat_id: str, first: int, end: int, text: str) -> Breakdown:
    """With the words `first … end` (half-open) of a beat written as `text`; marks around them stay."""
    _, beat = b.find_beat(beat_id)
    spans = word_spans(beat.text)
    start, stop = spans[first][0], spans[end - 1][1]
    old = beat.text[start:stop]
    lead = old[: len(old) - len(old.lstrip(MARKS))]
    tail = old[len(old.rstrip(MARKS)) :]
    return rewrite(b, beat_id, beat.text[:start] + lead + text + tail + beat.text[stop:])


def replace_many(b: Breakdown, wanted: Iterable[tuple[str, int, int, str]]) -> Breakdown:
    """With many stretches of words written otherwise: beat, first word, end and text of each. No two may overlap."""
    for beat, first, end, text in sorted(wanted, key=lambda w: (w[0], -w[1])):
        b = replace_words(b, beat, first, end, text)
    return b


def move_tie(b: Breakdown, beat_id: str, word: int, to: int) -> Breakdown:
    """With the tie of one word on another word of the beat."""
    _, beat = b.find_beat(beat_id)
    moment = next((t.moment for t in beat.ties if t.word == word), None)
    if moment is None:
        raise DocumentError("That word is not tied.")
    return tie_word(untie_word(b, beat_id, word), beat_id, to, moment)


def hold_at(b: Breakdown, beat_id: str, word: int, seconds: Fraction | None) -> Breakdown:
    """With the picture standing so long at a tied word; None leaves that to the fit again."""

    def change(beat: Beat) -> Beat:
        if all(t.word != word for t in beat.ties):
            raise DocumentError("That word is not tied.")
        return replace(beat, ties=tuple(replace(t, hold_seconds=seconds) if t.word == word else t for t in beat.ties))

    return _change_beat(b, beat_id, change)


def treat(b: Breakdown, beat_id: str, treatment: Treatment | None) -> Breakdown:
    """With what the picture does under a beat fixed, or left to the fit (None)."""
    return _change_beat(b, beat_id, lambda beat: replace(beat, treatment=treatment))


def change_beat_kind(b: Breakdown, beat_id: str, kind: BeatKind) -> Breakdown:
    """With another kind of beat."""
    return _change_beat(b, beat_id, lambda beat: replace(beat, kind=kind))


def fall_in(b: Breakdown, beat_id: str, seconds: Fraction) -> Breakdown:
    """With a beat beginning so many seconds before the one above it is out."""
    return _change_beat(b, beat_id, lambda beat: replace(beat, overlap=seconds))


def set_narrator(b: Breakdown, beat_id: str, narrator: str) -> Breakdown:
    """With a beat said by another narrator."""
    return _change_beat(b, beat_id, lambda beat: replace(beat, narrator=narrator))


def _change_beat(b: Breakdown, beat_id: str, change: Callable[[Beat], Beat]) -> Breakdown:
    section, beat = b.find_beat(beat_id)
    return change_section(b, section.id, beats=tuple(change(x) if x is beat else x for x in section.beats))
