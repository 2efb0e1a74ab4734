"""A tidied talk put into the document: sections and beats, ties, treatments, the recording as their takes."""

from __future__ import annotations

from fractions import Fraction

from msgspec.structs import replace

from chapto.document.bounds import FASTEST, SHORTEST_LOOP, SLOWEST
from chapto.document.bout import Exchange, Moment
from chapto.document.breakdown import Breakdown, by_id, fresh_ids
from chapto.document.edit_log import SAME_MOMENT
from chapto.document.edit_marks import without_marks
from chapto.document.script import Beat, Section, Tie, Turn
from chapto.document.takes import Take, TakeOf, WordEdge
from chapto.document.talks import OPEN, Talk
from chapto.document.treatments import GoTo, Loop, Treatment
from chapto.lexicon.lexicon import Lexicon, Technique
from chapto.lexicon.named import Names
from chapto.pacing.styles import HouseStyle
from chapto.pacing.talked.tidied import BREATH, ELSEWHERE, Shown, Tidied, tidied_talk
from chapto.pacing.talked.words import Word
from chapto.programme.angles import AngleTrack
from chapto.programme.sections import idle_spans
from chapto.publish.talks.pieces import TalkBeat, TalkSection, beats_of_talk, phrase_firsts, sections_of_talk
from chapto.publish.talks.pointing import with_pointing

LEAD, TAIL = Fraction(1, 5), Fraction(3, 5)
"""Mat seconds before the first picture of a section and after its last that belong to it."""
LATE = 0.05
"""Mat seconds by which a picture may turn round late."""
LEAD_IN = 0.08
"""Seconds that a beat is heard before its first word, as takes are cut."""
ROUND_WORDS = Fraction(1, 4)
"""Seconds of the take before the first word of a section and after its last in which its words are looked for."""


def lay_out(b: Breakdown, talk_id: str, lexicon: Lexicon, style: HouseStyle) -> Breakdown:
    """`b` with a talk laid out at the end of the script, or anew where it stood, tidied or as it was. What was changed
    in its sections since goes with them."""
    talk = by_id(b.talks, talk_id, "talk-through")
    tidied = tidied_talk(talk, style, idle_spans(b))
    place = next((i for i, s in enumerate(b.script) if s.id in talk.sections), len(b.script))
    bare = without_talk(b, talk)
    place = min(place, len(bare.script))
    return _LayOut(bare, talk, tidied, lexicon).put(place)


def without_talk(b: Breakdown, talk: Talk) -> Breakdown:
    """Without the sections of a talk, and without what was made for nothing else."""
    gone = [s for s in b.script if s.id in talk.sections]
    script = tuple(s for s in b.script if s.id not in talk.sections)
    beats = {x.id for s in gone for x in s.beats}
    used = {t.moment for s in script for x in s.beats for t in x.ties}
    used |= {m for s in script for x in s.beats for t in x.treatments() for m in t.moments()}
    used |= {m.moment for m in b.marks if m.moment} | {label.moment for label in b.labels}
    tied = {t.moment for s in gone for x in s.beats for t in x.ties}
    tied |= {m for s in gone for x in s.beats for t in x.treatments() for m in t.moments()}
    shown = {s.exchange for s in script}
    own = {s.exchange for s in gone} - shown
    bare = replace(
        b,
        script=script,
        moments=tuple(m for m in b.moments if m.id not in tied or m.id in used or m.note),
        exchanges=tuple(x for x in b.exchanges if x.id not in own or x.technique or x.by or x.outcome),
        takes=tuple(t for t in b.takes if t.subject not in talk.sections or t.fingerprint != talk.fingerprint),
    )
    return without_marks(bare, lambda m: m.beat in beats)


class _LayOut:
    def __init__(self, b: Breakdown, talk: Talk, tidied: Tidied, lexicon: Lexicon) -> None:
        self._b, self._talk, self._tidied = b, talk, tidied
        self._names, self._ids, self._track = Names(lexicon), fresh_ids(b), AngleTrack(b)
        self._exchanges, self._moments = list(b.exchanges), list(b.moments)
        self._takes: list[Take] = []
        self._titles: set[str] = set()
        self._before: Shown | None = None
        # Where one of two narrators was taken out since, one says all of it, and both channels are heard.
        there = {n.id for n in b.narrators}
        self._voices = talk.voices if there >= set(talk.voices) else ()

    def put(self, place: int) -> Breakdown:
        talk, done = self._talk, self._talk.done
        beats = beats_of_talk(self._tidied, done)
        parts = sections_of_talk(self._b, beats, done)
        made = [self._section(s) for s in parts]
        b = self._b
        named = replace(talk, sections=tuple(s.id for s in made))
        laid = replace(
            b,
            script=(*b.script[:place], *made, *b.script[place:]),
            exchanges=tuple(sorted(self._exchanges, key=lambda x: x.start)),
            moments=tuple(sorted(self._moments, key=lambda m: m.at)),
            takes=(*b.takes, *self._takes),
            talks=tuple(named if t.id == talk.id else t for t in b.talks),
        )
        places = {
            s.word.number: (beat.id, i)
            for section, part in zip(made, parts, strict=True)
            for beat, talked in zip(section.beats, part.beats, strict=True)
            for i, s in enumerate(talked.shown)
        }
        return with_pointing(laid, done, self._tidied.shown, places)

    def _section(self, section: TalkSection) -> Section:
        exchange = self._exchange(section)
        section_id = next(self._ids["s"])
        beats = tuple(self._beat(beat) for beat in section.beats)
        voices = sorted({x.voice for x in section.beats}) if self._voices else [0]
        self._takes += (self._take(section, section_id, beats, v) for v in voices)
        title = self._title(section, exchange) if section.opens else ""
        return Section(id=section_id, title=title, exchange=exchange.id, style="talk-through", beats=beats)

    def _exchange(self, section: TalkSection) -> Exchange:
        """The logged exchange that a section is about, or one of its own."""
        low, high = (_exact(m) for m in section.mats)
        found = next((x for x in self._exchanges if x.start <= low and high + LEAD <= x.end), None)
        if found is None:
            found = Exchange(id=next(self._ids["x"]), start=max(low - LEAD, Fraction(0)), end=high + TAIL)
            self._exchanges.append(found)
        return found

    def _take(self, section: TalkSection, section_id: str, beats: tuple[Beat, ...], voice: int) -> Take:
        """The part of the recording in which one of those who talk says a section, with what is cut out of it."""
        talk = self._talk
        start = max(_exact(section.beats[0].start) - ROUND_WORDS, Fraction(0))
        end = min(_exact(section.beats[-1].end) + ROUND_WORDS, talk.seconds)
        cuts = [(max(_exact(c.start), start), min(_exact(c.end), end)) for c in self._tidied.cuts]
        edges = (
            _edge(beat.id, i, s.word)
            for beat, shown in zip(beats, section.beats, strict=True)
            for i, s in enumerate(shown.shown)
            if voice in (0, shown.voice)
        )
        return Take(
            id=next(self._ids["t"]), path=talk.path, fingerprint=talk.fingerprint, seconds=talk.seconds,
            of=TakeOf.SECTION, subject=section_id, start=start, end=end,
            cuts=tuple((a, z) for a, z in cuts if a < z), edges=tuple(edges), narrator=self._narrator(voice),
            channel=voice,
        )  # fmt: skip

    def _title(self, section: TalkSection, exchange: Exchange) -> str:
        """The technique that is named in it, or logged there, else a position, its round, its first words: the first of
        them that no other chapter has."""
        words = [w for beat in section.beats for w in beat.words]
        named = [n.item for n in self._names.within(words)]
        named.sort(key=lambda n: not isinstance(n, Technique))
        at = (exchange.start + exchange.end) / 2
        here = [r.name for r in self._b.rounds if r.start <= at < r.end]
        first = " ".join([w for w in words if w != OPEN][:5]).rstrip(".,;:!?…")
        offered = (exchange.technique, *(n.en for n in named), *here, first, "Talk")
        title = next((t for t in offered if t and t.casefold() not in self._titles), "Talk")
        self._titles.add(title.casefold())
        return title[:1].upper() + title[1:]

    def _beat(self, talked: TalkBeat) -> Beat:
        """One beat with its ties, and with what the picture does from which word on."""
        firsts, cuts = set(phrase_firsts(talked)), [(c.start, c.end) for c in self._tidied.cuts]
        led: list[tuple[int, Treatment]] = []
        ties: list[Tie] = []
        for i, s in enumerate(talked.shown):
            last = talked.shown[i - 1] if i else None
            goes_on = last is not None and (s.spell, s.rate) == (last.spell, last.rate)
            if goes_on and s.rate and s.spell.fro is not None:
                if (loop := _loop(talked, led[-1], i, cuts)) is not None:
                    led.append((i, loop))
            elif last is None or not goes_on or _jumps(last, s, cuts):
                led.append((i, self._lead(s, _gap(last, s, cuts) / 2 if last is not None else self._run_up(s, cuts))))
            is_led = led[-1][0] == i and not isinstance(led[-1][1], Loop)
            if is_led or (i in firsts and s.spell.fro is None):
                ties.append(Tie(word=i, moment=self._moment(s.mat).id))
        self._before = talked.shown[-1]
        return Beat(
            id=next(self._ids["b"]), text=" ".join(talked.words), ties=tuple(ties), treatment=led[0][1],
            turns=tuple(Turn(word=i, treatment=t) for i, t in led[1:]), narrator=self._narrator(talked.voice),
        )  # fmt: skip

    def _narrator(self, voice: int) -> str:
        """By id; empty where only one talks."""
        return self._voices[voice - 1] if voice and self._voices else ""

    def _run_up(self, s: Shown, cuts: list[tuple[float, float]]) -> float:
        """Seconds of picture before the first word of a beat: what stayed of a silence in which something happened."""
        gap = _gap(self._before, s, cuts) if self._before is not None else 0.0
        return gap if gap > BREATH + LEAD_IN else LEAD_IN

    def _lead(self, s: Shown, early: float) -> GoTo:
        """To the picture of a word, and on as it went; the picture begins so many seconds before the word."""
        usual = self._track.at(_exact(s.mat))
        camera = s.spell.camera if usual is None or s.spell.camera != usual.camera_name else ""
        tied = self._moment(s.mat).at
        begins = tied if not s.rate else min(_exact(max(s.mat - s.rate * early, s.spell.mat, 0.0)), tied)
        return GoTo(at=begins, rate=_rate(s.rate), camera=camera)

    def _moment(self, mat: float) -> Moment:
        """The moment at a mat second, a new one where there is none."""
        at = max(_exact(mat), Fraction(0))
        near = min(self._moments, key=lambda m: abs(m.at - at), default=None)
        if near is not None and abs(near.at - at) < SAME_MOMENT / 4:
            return near
        made = Moment(id=next(self._ids["m"]), at=at)
        self._moments.append(made)
        return made


def _loop(
    talked: TalkBeat, led: tuple[int, Treatment], i: int, cuts: list[tuple[float, float]]
) -> Loop | None:  # fmt: skip
    """What goes on from word `i` of a beat where a picture that goes to and fro turns round before the next one: it
    went on forwards from the word it was led to last."""
    first, treatment = led
    one, s = talked.shown[first], talked.shown[i]
    if not isinstance(treatment, GoTo) or s.spell.fro is None:
        return None
    low, high = s.spell.fro

    def gets_to(second: float) -> float:
        """Where it would be at a second of the take, had it not turned; what was cut takes no time."""
        gone = sum(max(min(z, second) - max(a, one.word.start), 0.0) for a, z in cuts)
        return one.mat + s.rate * (second - one.word.start - gone)

    after = talked.shown[i + 1].word.start if i + 1 < len(talked.shown) else s.word.end
    if gets_to(after) <= high + LATE:
        return None
    seconds = max(_exact(gets_to(s.word.start) - low), SHORTEST_LOOP)
    return Loop(seconds=seconds, rate=_rate(s.rate), to_and_fro=True, camera=treatment.camera)


def _jumps(last: Shown, s: Shown, cuts: list[tuple[float, float]]) -> bool:
    """Whether picture was cut between two words while it ran."""
    return (s.word.start - last.word.end - _gap(last, s, cuts)) * s.rate > ELSEWHERE


def _gap(last: Shown, s: Shown, cuts: list[tuple[float, float]]) -> float:
    """Seconds that stay between two words."""
    cut = sum(z - a for a, z in cuts if last.word.end - 1e-6 <= a and z <= s.word.start + 1e-6)
    return max(s.word.start - last.word.end - cut, 0.0)


_A_LITTLE = Fraction(1, 50)


def _edge(beat: str, number: int, word: Word) -> WordEdge:
    start = _exact(word.start)
    return WordEdge(beat=beat, word=number, start=start, end=max(_exact(word.end), start + _A_LITTLE))


def _rate(rate: float) -> Fraction:
    """A speed that the picture may go at."""
    return min(max(Fraction(rate).limit_denominator(16), SLOWEST), FASTEST) if rate else Fraction(0)


def _exact(seconds: float) -> Fraction:
    return Fraction(round(seconds * 1000), 1000)
