"""Ways out of a picture that stands too long: each gives the words that are said meanwhile something to look at."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from fractions import Fraction
from functools import partial
from itertools import pairwise

from chapto.document import edit_script, edit_turns
from chapto.document.edit_closer import come_closer
from chapto.document.footage import cameras_of
from chapto.document.treatments import Again, Cutaway, Loop, Slow, Treatment
from chapto.pacing.fitted import Phrase
from chapto.pacing.offers import section_offers
from chapto.pacing.spoken import phrase_starts
from chapto.programme.angles import AngleTrack
from chapto.programme.sections import span_of
from chapto.programme.ways.way import Trouble, Try

LOOKED_AT = Fraction(3, 2)
"""Watch seconds a picture is let stand before something else is shown."""
LEAST, MOST = Fraction(3), Fraction(24)
"""Seconds of words worth something else to look at, and those after which it has to change once more."""
LOOPED = Fraction(3)
MIDDLE, LONGEST_PUSH = (0.5, 0.5), Fraction(10)
HALF = Fraction(1, 2)


@dataclass(frozen=True, slots=True)
class WordsOver:
    """Words `first ≤ i < end` of a beat, said for `seconds` from watch second `at` of the section on."""

    beat: str
    first: int
    end: int
    at: Fraction
    seconds: Fraction


def still(t: Trouble) -> Iterator[Try]:
    """Tie what points, run it again, loop it, show it first, from the other camera, or slow what leads to it."""
    for tie in t.beat.ties:
        if tie.hold_seconds is not None and t.lack.word <= tie.word <= t.lack.word + 1:
            free = partial(edit_script.hold_at, beat_id=t.beat.id, word=tie.word, seconds=None)
            yield Try("hold", "Let the fit decide how long it is held", free)
    span = next(iter(after_the_word(t)), None)
    if span is None:
        return
    yield from _tied(t)
    yield from shown_again(t, span, 1.0)
    yield from _closer(t)
    rate = partial(edit_script.treat, beat_id=t.beat.id, treatment=Slow(HALF))
    if t.beat.treatment is None:
        yield Try("slow", "Slow what leads to it", rate, 6.0)


def shown_again(t: Trouble, words: WordsOver, price: float) -> Iterator[Try]:
    """What goes before these words once more under them: again at half speed, looped, from the start, or from another
    camera."""
    mat, span = _stands_at(t, words), span_of(t.b, t.section)
    if mat is None or span is None:
        return
    start = span[0]
    half = words.seconds * HALF
    some = _as_long_as(t, words, (mat - start) / HALF)
    if some is not None:
        back = Fraction(round(some.seconds * HALF * 100), 100)
        text = f"Go back {float(back):.1f} s and run it again at 0.5×"
        yield _turn(t, some, Again(back, HALF), "again", text, price)
    for to_and_fro in (False, True):
        family = "to and fro" if to_and_fro else "over and over"
        text = f"Loop the last {float(LOOPED):g} s {family} until the words are out"
        yield _turn(t, words, Loop(LOOPED, HALF, to_and_fro), family, text, price + 1)
    if not any(x.word < words.first or x.beat != words.beat for x in t.fitted.ties if x.said < words.at):
        yield _turn(t, words, Cutaway(start), "first", "Show it first, at full speed", price + 1.2)
    seen = AngleTrack(t.b).at(mat)
    for camera in cameras_of(t.b.footage):
        back = Fraction(round(min(half, mat - start) * 100), 100)
        own = AngleTrack(t.b).at(mat, camera)
        if back <= 0 or own is None or seen is None or own.camera_name != camera or camera == seen.camera_name:
            continue
        text = f"Show it again from {camera}"
        if half <= mat - start:
            yield _turn(t, words, Again(back, HALF, camera=camera), "camera", text, price + 1.5)
        else:
            yield _turn(t, words, Loop(LOOPED, HALF, camera=camera), "camera", text, price + 1.5)


def after_the_word(t: Trouble) -> Iterator[WordsOver]:
    """Stretches of whole phrases without a tie, in order, that are said from the shortfall's word on."""
    begins = _said_at(t)
    if begins is None:
        return
    ids = [beat.id for beat in t.section.beats]
    for beat in t.section.beats[ids.index(t.beat.id) :]:
        line, tied = t.lines[beat.id], {tie.word for tie in beat.ties}
        starts = [*phrase_starts(beat.text), len(line.words)]
        places = [_place(t, beat.id, word) for word in range(len(line.words))]
        first: int | None = None
        for word, following in pairwise(starts):
            at = places[word]
            free = at is not None and at >= begins + LOOKED_AT and not tied & set(range(word, following))
            if first is None and free:
                first = word
            at_first = places[first] if first is not None else None
            over = following == len(line.words) or tied & set(range(following, _after(starts, following)))
            if first is None or at_first is None or not free:
                first = None
                continue
            out = places[following] if following < len(line.words) else _out(t, beat.id)
            seconds = (out or at_first) - at_first
            if over or seconds >= MOST:
                if seconds >= LEAST:
                    yield WordsOver(beat.id, first, following, at_first, seconds)
                first = None


def _as_long_as(t: Trouble, words: WordsOver, most: Fraction) -> WordsOver | None:
    """The first whole phrases of these words, said for `most` seconds at most; None where that is too short."""
    if words.seconds <= most:
        return words
    ends = [w for w in phrase_starts(t.b.find_beat(words.beat)[1].text) if words.first < w < words.end]
    for end in reversed(ends):
        out = _place(t, words.beat, end)
        if out is not None and LEAST <= out - words.at <= most:
            return WordsOver(words.beat, words.first, end, words.at, out - words.at)
    return None


def _after(starts: list[int], word: int) -> int:
    """Where the phrase that begins at `word` ends."""
    return next((s for s in starts if s > word), word)


def _phrase_with(t: Trouble, beat: str, word: int) -> Phrase | None:
    return next((p for p in t.fitted.phrases if p.beat == beat and p.first <= word < p.end), None)


def _place(t: Trouble, beat: str, word: int) -> Fraction | None:
    """The watch second of the section at which a word is said."""
    phrase = _phrase_with(t, beat, word)
    if phrase is None:
        return None
    return phrase.heard_at(t.lines[beat].words[word][0])


def _out(t: Trouble, beat: str) -> Fraction | None:
    """The watch second at which a beat is out."""
    last = [p for p in t.fitted.phrases if p.beat == beat]
    return last[-1].until if last else None


def _said_at(t: Trouble) -> Fraction | None:
    return _place(t, t.beat.id, t.lack.word)


def _stands_at(t: Trouble, words: WordsOver) -> Fraction | None:
    """The mat second the picture shows when these words begin."""
    at = Fraction(0)
    for leg in t.fitted.legs:
        if at + leg.seconds > words.at:
            return leg.mat_in + leg.rate * (words.at - at)
        at += leg.seconds
    return None


def _turn(t: Trouble, words: WordsOver, treatment: Treatment, family: str, text: str, price: float) -> Try:
    change = partial(edit_turns.turn_between, beat_id=words.beat, first=words.first, end=words.end, treatment=treatment)
    return Try(family, text, change, price)


def _closer(t: Trouble) -> Iterator[Try]:
    """The picture that stands comes slowly nearer while the beat is said."""
    begins = _said_at(t)
    mat = None if begins is None else _stands_at(t, WordsOver(t.beat.id, t.lack.word, 0, begins, t.lack.seconds))
    seen = None if mat is None else AngleTrack(t.b).at(mat)
    if mat is None or seen is None:
        return
    change = partial(
        come_closer, beat_id=t.beat.id, word=t.lack.word, footage_id=seen.id, mat=mat, place=MIDDLE,
        ease=min(t.lack.seconds, LONGEST_PUSH),
    )  # fmt: skip
    yield Try("closer", "Come slowly closer to the middle", change, 4.0)


def _tied(t: Trouble) -> Iterator[Try]:
    """The pointing words that lie in the still tied to what they point at."""
    begins = _said_at(t) or Fraction(0)
    until = begins + t.lack.seconds
    for offer in section_offers(t.b, t.section, t.peak):
        at = _place(t, offer.beat, offer.word)
        if at is not None and begins < at < until:
            change = partial(edit_script.tie_at, beat_id=offer.beat, word=offer.word, mat=offer.at)
            yield Try("tie", f"Tie “{offer.text}” to what it points at", change, 0.5)
