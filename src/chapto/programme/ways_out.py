"""When word and picture can't meet: the cheapest edits after which they do, each tried before it is offered."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, field
from fractions import Fraction
from functools import partial
from itertools import pairwise

from chapto.document import edit_breakdown, edit_pacing, edit_script
from chapto.document.breakdown import Breakdown, DocumentError
from chapto.document.script import Beat, Section, words_of
from chapto.document.treatments import Again, Hold
from chapto.pacing.fitted import Fitted, Lack, Shortfall
from chapto.pacing.spoken import SpokenLine, phrase_starts, without
from chapto.pacing.styles import HouseStyle, Weights, allowing, house_styles
from chapto.programme.angles import AngleTrack
from chapto.programme.compile import DEFAULT, Voices, line_for
from chapto.programme.sections import fit_script, loads_of, slowest_camera, span_of

RATES = (Fraction(3, 4), Fraction(1, 2), Fraction(3, 8), Fraction(1, 4))
UNTIE = 40.0
"""Points an untied word costs: it was a promise, so nearly anything else comes first."""
STEPS = 1.0
"""Points for each new picture a second that a slower rate lacks to the style's smoothest."""
MOVED = 6.0
"""Points for the creator's own order or treatment changed."""
NEXT_BEST = 1.5
"""A clause cut out of the middle costs so many times one that ends its sentence."""
WEIGHT = {
    Lack.LATE: 1000.0, Lack.PAST: 1000.0, Lack.ELSEWHERE: 1000.0, Lack.BEYOND: 30.0, Lack.LENGTH: 3.0, Lack.SILENT: 1.0,
    Lack.STILL: 1.0,
}  # fmt: skip

Edit = Callable[[Breakdown], Breakdown]

TO_SPARE = 0.1
"""Seconds that cut words must save beyond what is lacking: what is left is not said in quite the same time."""


@dataclass(frozen=True, slots=True)
class WayOut:
    """An edit in the creator's words, and what it costs in points of the house style. Of one `family` are ways that do
    the same by more or less."""

    text: str
    change: Edit
    cost: float
    family: str = ""


@dataclass(frozen=True, slots=True)
class _Try:
    """An edit to be tried: its own price, the lines it shortens, and where the late word stands after it."""

    family: str
    text: str
    change: Edit
    price: float = 0.0
    lines: dict[str, SpokenLine] = field(default_factory=dict)
    word: int | None = None


@dataclass(frozen=True, slots=True)
class _Trouble:
    """One shortfall with what it is about; `over`: seconds by which all exchanges pass their part of the length."""

    b: Breakdown
    lack: Shortfall
    others: tuple[Shortfall, ...]
    section: Section
    beat: Beat
    lines: dict[str, SpokenLine]
    style: HouseStyle
    over: float

    @property
    def weights(self) -> Weights:
        return self.style.weights

    @property
    def script(self) -> tuple[Section, ...]:
        return self.b.script


def ways_out(
    b: Breakdown,
    shortfall: Shortfall,
    voices: Voices,
    *,
    styles: Mapping[str, HouseStyle] | None = None,
    most: int = 3,
) -> tuple[WayOut, ...]:
    """At most `most` edits of `b` that remove `shortfall` and make nothing else worse, cheapest first.

    `shortfall` is of the programme compiled from `b` and `voices`. Each edit is of another kind if there are enough.
    """
    if not any(beat.id == shortfall.beat for _, beat in b.beats()):
        return ()
    styles = styles or house_styles()
    style = styles.get(b.style) or styles[DEFAULT]
    lines = {beat.id: line_for(b, beat, voices) for _, beat in b.beats()}
    section, beat = b.find_beat(shortfall.beat)
    before = fit_script(b, lines, style, AngleTrack(b))
    others = before[b.script.index(section)].shortfalls
    over = sum(float(s.seconds) for f in before for s in f.shortfalls if s.lack is Lack.LENGTH)
    t = _Trouble(b, shortfall, others, section, beat, lines, style, over)
    found = [way for tried in _tries(t) if (way := _tried(t, tried, _weighed(before))) is not None]
    return _chosen(sorted(found, key=lambda w: w.cost), most)


def _chosen(ways: list[WayOut], most: int) -> tuple[WayOut, ...]:
    """The cheapest of each family, and others only where there are too few families."""
    first = {w.family: w for w in reversed(ways)}
    ahead = [w for w in ways if first[w.family] is w]
    return tuple(sorted([*ahead, *(w for w in ways if w not in ahead)][:most], key=lambda w: w.cost))


def _tried(t: _Trouble, tried: _Try, before: float) -> WayOut | None:
    """The way, if it leads out."""
    try:
        b = tried.change(t.b)
    except DocumentError:
        return None
    fitted = fit_script(b, {**t.lines, **tried.lines}, t.style, AngleTrack(b))
    word = t.lack.word if tried.word is None else tried.word
    stays = [
        s for f in fitted for s in f.shortfalls if (s.beat, s.word, s.lack) == (t.lack.beat, word, t.lack.lack)
    ]  # fmt: skip
    if stays or _weighed(fitted) >= before:
        return None
    return WayOut(tried.text, tried.change, sum(f.cost for f in fitted) + tried.price, tried.family)


def _weighed(fitted: tuple[Fitted, ...]) -> float:
    return sum(WEIGHT[s.lack] * max(float(s.seconds), 0.01) for f in fitted for s in f.shortfalls)


def _tries(t: _Trouble) -> Iterator[_Try]:
    match t.lack.lack:
        case Lack.LATE:
            yield from _slower(t)
            yield _longer_hold(t)
            yield from _fewer_words(t, float(t.lack.seconds), until=t.lack.word)
            yield from _let_go(t)
        case Lack.PAST | Lack.ELSEWHERE:
            yield from _back_to_it(t)
            yield from _let_go(t)
        case Lack.SILENT:
            yield _longer_silence(t)
            yield from _less_picture(t)
        case Lack.LENGTH:
            yield from _longer_video(t)
            yield from _fewer_words(t, t.over, until=None)
            yield from _without_round_it(t)


# ── too late ─────────────────────────────────────────────────────────────────────────────────────────────
def _slower(t: _Trouble) -> Iterator[_Try]:
    """A rate the style does not use, or that the footage is not smooth enough for."""
    span = span_of(t.b, t.section)
    fps = slowest_camera(AngleTrack(t.b), *span) if span else None
    used = allowing(t.style, t.section.allow, fps).rates
    for rate in RATES:
        if rate < t.style.base_rate and rate not in used:
            new = None if fps is None else rate * fps
            steps = new is not None and new < t.style.smoothest
            note = f", though it steps at {float(new):.3g} new pictures a second" if steps and new is not None else ""
            price = STEPS * float(t.style.smoothest - new) if steps and new is not None else 0.0
            yield _Try(
                "slower",
                f"Let it run at {float(rate):g}× here{note}",
                partial(edit_pacing.allow_more, section_id=t.section.id, rate=rate),
                price,
            )


def _longer_hold(t: _Trouble) -> _Try:
    """All that has come about up to the late word."""
    places = [(x.id, s.word) for x in t.section.beats for s in t.others if s.beat == x.id]
    until = places.index((t.lack.beat, t.lack.word)) if (t.lack.beat, t.lack.word) in places else len(places)
    so_far = [s.granted for s in t.others if s.lack is Lack.LATE and (s.beat, s.word) in places[: until + 1]]
    seconds = _up(max(sum(so_far, Fraction(0)), t.lack.granted))
    change = partial(edit_pacing.allow_more, section_id=t.section.id, hold=seconds)
    return _Try("hold", f"Hold up to {float(seconds):g} s longer here", change)


def _fewer_words(t: _Trouble, seconds: float, *, until: int | None) -> Iterator[_Try]:
    """The cheapest run of whole phrases without a tie that is long enough. It lies in the beat of the shortfall, before
    its word, or in the beats before; anywhere in the section when `until` is None."""
    found: list[tuple[float, _Try]] = []
    for beat in t.section.beats:
        here = beat.id == t.beat.id
        runs = _phrase_runs(beat, until if here else None)
        for first, end in runs:
            line = t.lines[beat.id]
            shorter = without(line, first, end)
            if float(line.seconds - shorter.seconds) < seconds + TO_SPARE:
                continue
            words = words_of(beat.text)[first:end]
            price = t.weights.word * len(words) * (1.0 if words[-1][-1] in ".!?…" else NEXT_BEST)
            change = partial(edit_script.cut_words, beat_id=beat.id, first=first, end=end)
            moved = t.lack.word - len(words) if here and end <= t.lack.word else None
            counted = f"{len(words)} word{'s' if len(words) != 1 else ''}"
            found.append(
                (price, _Try("cut", f"Cut “{_short(words)}” ({counted})", change, price, {beat.id: shorter}, moved))
            )  # fmt: skip
        if here and until is not None:
            break
    yield from (tried for _, tried in sorted(found, key=lambda row: row[0])[:2])


def _phrase_runs(beat: Beat, until: int | None) -> list[tuple[int, int]]:
    """Runs of whole phrases of a beat that carry no tie, ending at word `until` at the latest."""
    count = len(words_of(beat.text))
    edges = [*phrase_starts(beat.text), count]
    last = count if until is None else until
    tied = {tie.word for tie in beat.ties}
    phrases = [(a, z) for a, z in pairwise(edges) if z <= last]
    runs = [(phrases[i][0], phrases[j][1]) for i in range(len(phrases)) for j in range(i, len(phrases))]
    return [(a, z) for a, z in runs if not tied & set(range(a, z))]


def _let_go(t: _Trouble) -> Iterator[_Try]:
    """The beat's treatment left to the fit, or the word untied."""
    if t.beat.treatment is not None:
        yield _Try(
            "fit", "Let the fit decide here", partial(edit_script.treat, beat_id=t.beat.id, treatment=None), MOVED
        )
    if any(tie.word == t.lack.word for tie in t.beat.ties):
        word = words_of(t.beat.text)[t.lack.word].strip(".,;:!?")
        yield _Try(
            "untie", f"Untie “{word}”", partial(edit_script.untie_word, beat_id=t.beat.id, word=t.lack.word), UNTIE
        )


# ── past, or elsewhere ───────────────────────────────────────────────────────────────────────────────────
def _back_to_it(t: _Trouble) -> Iterator[_Try]:
    """The picture goes again from before the moment, holds on it, or the beat comes before the one above."""
    back = Fraction(math.ceil(t.lack.seconds) + 1)
    treat = partial(edit_script.treat, beat_id=t.beat.id)
    for rate in (Fraction(1, 2), Fraction(1)):
        again = Again(back, rate)
        text = f"Let it go again from {back} s back at {float(rate):g}×"
        yield _Try("again", text, partial(treat, treatment=again), MOVED)
    moment = next((tie.moment for tie in t.beat.ties if tie.word == t.lack.word), "")
    if moment:
        yield _Try("hold on", "Hold on that moment", partial(treat, treatment=Hold(moment)), MOVED)
    if t.section.beats[0] is not t.beat:
        yield _Try(
            "order", "Say it before the beat above", partial(edit_script.move_beat, beat_id=t.beat.id, by=-1), MOVED
        )


# ── too silent ───────────────────────────────────────────────────────────────────────────────────────────
def _longer_silence(t: _Trouble) -> _Try:
    seconds = _up(t.lack.granted)
    change = partial(edit_pacing.allow_more, section_id=t.section.id, silence=seconds)
    return _Try("silence", f"Allow {float(seconds):g} s more without words", change, t.weights.pause * float(seconds))


def _less_picture(t: _Trouble) -> Iterator[_Try]:
    """Picture skipped just before the moment, or what is left after the last word."""
    span = span_of(t.b, t.section)
    if span is None:
        return
    seconds = _up(t.lack.granted) * t.style.base_rate
    stops = [t.b.moment(tie.moment).at for beat in t.section.beats for tie in beat.ties]
    own = next((t.b.moment(tie.moment).at for tie in t.beat.ties if tie.word == t.lack.word), None)
    for end in [span[1]] if own is None or t.lack.word == len(words_of(t.beat.text)) - 1 else []:
        if end - seconds > max(stops, default=span[0]):
            yield _Try(
                "end",
                f"End the picture {float(seconds):g} s sooner",
                partial(edit_pacing.skip_span, section_id=t.section.id, start=end - seconds, end=end),
                t.weights.skip * float(seconds),
            )
    if own is not None:
        before = max([s for s in stops if s < own], default=span[0])
        run_up = min(Fraction(1), (own - before) / 4)
        if own - run_up - seconds >= before:
            start = own - run_up - seconds
            skip = partial(edit_pacing.skip_span, section_id=t.section.id, start=start, end=start + seconds)
            price = t.weights.skip * float(seconds) + t.weights.change
            yield _Try("skip", f"Skip {float(seconds):g} s of picture before it", skip, price)


# ── too long ─────────────────────────────────────────────────────────────────────────────────────────────
def _longer_video(t: _Trouble) -> Iterator[_Try]:
    """The limit moved, or taken as a wish."""
    natural = fit_script(edit_breakdown.set_target(t.b, 0), t.lines, t.style, AngleTrack(t.b))
    loads = loads_of(t.b, [part.seconds for part in natural])
    share = loads[t.script.index(t.section)] / sum(loads)
    more = math.ceil(t.lack.granted / share) + 1
    longer = partial(edit_breakdown.set_target, seconds=math.ceil(t.b.target) + more, limit=True)
    yield _Try("longer", f"Let the whole be {more} s longer", longer, t.weights.length * more)
    wish = partial(edit_breakdown.set_target, seconds=math.ceil(t.b.target), limit=False)
    yield _Try("wish", "Take the length as a wish, not as a limit", wish, MOVED)


def _without_round_it(t: _Trouble) -> Iterator[_Try]:
    """Without what is shown before or after the talk."""
    change = partial(edit_script.change_section, section_id=t.section.id)
    if t.section.once_more:
        yield _Try(
            "once more", "Leave out the exchange once more after the talk", partial(change, once_more=False), MOVED
        )
    if t.section.show_first:
        yield _Try("first", "Leave out the exchange before the talk", partial(change, show_first=False), MOVED)


def _up(seconds: Fraction) -> Fraction:
    """The next tenth of a second."""
    return Fraction(math.ceil(seconds * 10), 10)


def _short(words: tuple[str, ...]) -> str:
    """The words, or the first and the last of many."""
    said = " ".join(words).rstrip(".,;:")
    return said if len(words) <= 6 else f"{' '.join(words[:3])} … {' '.join(words[-2:])}".rstrip(".,;:")
