"""A breakdown laid out and told from its log."""

from __future__ import annotations

import random
import zlib
from collections.abc import Callable, Iterator
from fractions import Fraction

from msgspec.structs import replace

from chapto.document.bout import Exchange
from chapto.document.breakdown import Breakdown, by_id, fresh_ids
from chapto.document.forms import chapter_of, forms, lay_out
from chapto.document.people import Side, SpokenOf
from chapto.document.script import Beat, BeatKind, Part, Section, Tie, words_of
from chapto.drafting.called import ME, called
from chapto.drafting.facts import facts_of, winner
from chapto.drafting.grammar import grammar
from chapto.drafting.sentences import Filling, Memory, Sentence, sentence, stands
from chapto.drafting.telling import tell
from chapto.lexicon.lexicon import Lexicon
from chapto.matlog.ledger import Ledger

SaidIn = Callable[[str, int], Fraction]
"""Gives the seconds that a text takes at a pace in words a minute."""
LONGEST = 30
"""Words after which the next sentence begins a new beat."""
FORMS = {True: "own roll", False: "match study"}
"""The form laid out: for somebody who was there, and for somebody who looks on."""


def draft(
    b: Breakdown,
    lexicon: Lexicon,
    ledger: Ledger,
    said_in: SaidIn,
    *,
    progress: Callable[[float], None] = lambda share: None,
) -> Breakdown:
    """With a section for every exchange that has none yet. What happened is told in it from the log; empty beats ask
    what the log can't know. Sections in which words are written stay as they are. The same log gives the same
    words."""
    written = {s.id for s in b.script if any(x.text.strip() for x in s.beats)}
    form = FORMS[b.naming.spoken_of in ME]
    made = _with_every_exchange(b, form) if b.script else lay_out(b, form)
    memory = Memory()
    script: list[Section] = []
    for done, section in enumerate(made.script):
        progress(done / len(made.script))
        if section.id not in written:
            section, memory = _drafted(
                replace(made, script=(*script, section)), section, lexicon, ledger, said_in, memory
            )
        script.append(section)
    return _numbered(replace(made, script=tuple(script)))


def _with_every_exchange(b: Breakdown, form: str) -> Breakdown:
    """With empty sections for exchanges that have none, before the recap; what is laid out already stays."""
    ids = fresh_ids(b)
    shown = {s.exchange for s in b.script}
    closing = next((i for i, s in enumerate(b.script) if s.part in (Part.RECAP, Part.CREDITS)), len(b.script))
    more = tuple(
        Section(
            id=next(ids["s"]),
            title=chapter_of(x),
            exchange=x.id,
            beats=tuple(Beat(id=next(ids["b"]), text="", kind=kind) for kind in forms()[form].beats),
        )
        for x in sorted(b.exchanges, key=lambda x: x.start)
        if x.id not in shown
    )
    return replace(b, script=(*b.script[:closing], *more, *b.script[closing:]))


def draft_anew(b: Breakdown, section_id: str, lexicon: Lexicon, ledger: Ledger, said_in: SaidIn) -> Breakdown:
    """With a section told once more in other words. Beats that somebody has touched stay, and what they are tied to is
    not told again."""
    section = by_id(b.script, section_id, "section")
    kept = tuple(x for x in section.beats if not is_untouched(x))
    told = {t.moment for x in kept for t in x.ties}
    begun = bool(section.beats) and section.beats[0] in kept and bool(section.beats[0].drafted)
    salt = " ".join(x.text for x in section.beats)
    exchange = b.exchange(section.exchange)
    memory = _memory_before(b, section_id)
    beats, _ = _told(b, exchange, lexicon, ledger, said_in, memory, salt)
    fresh = [x for i, x in enumerate(beats) if not (i == 0 and begun) and not {t.moment for t in x.ties} & told]
    placed = [*(x for x in _placed(b, beats) if x[2] in fresh), *_placed(b, kept)]
    order = tuple(beat for _, _, beat in sorted(placed, key=lambda x: x[:2]))
    return _numbered(replace(b, script=tuple(replace(s, beats=order) if s.id == section_id else s for s in b.script)))


def is_untouched(beat: Beat) -> bool:
    """Whether a beat's words are the draft's own, as they were."""
    return bool(beat.drafted) and beat.text == beat.drafted


def untouched(beat: Beat) -> tuple[tuple[int, int], ...]:
    """Half-open ranges of words of the sentences in a beat that are the draft's own."""
    words, drafted = words_of(beat.text), _sentences(words_of(beat.drafted))
    own = {tuple(words_of(beat.drafted)[a:z]) for a, z in drafted}
    return tuple((a, z) for a, z in _sentences(words) if tuple(words[a:z]) in own)


def _sentences(words: tuple[str, ...]) -> list[tuple[int, int]]:
    ends = [i + 1 for i, w in enumerate(words) if w[-1] in ".!?" or i == len(words) - 1]
    return list(zip([0, *ends[:-1]], ends, strict=True)) if ends else []


def _drafted(
    b: Breakdown, section: Section, lexicon: Lexicon, ledger: Ledger, said_in: SaidIn, memory: Memory
) -> tuple[Section, Memory]:
    if section.exchange and section.part is Part.TALK:
        told, memory = _told(b, b.exchange(section.exchange), lexicon, ledger, said_in, memory, "")
        rest = [x for x in section.beats if x.kind is not BeatKind.HAPPENED or x.text.strip()]
        return replace(section, beats=(*told, *rest)), memory
    tellers = {Part.INTRODUCTION: _introduction, Part.RECAP: _result}
    ways = tellers[section.part](b) if section.part in tellers else []
    if not ways or not section.beats:
        return section, memory
    chosen = min(ways, key=memory.repeats)
    said, memory = chosen.text, memory.after(chosen)
    kind = BeatKind.HAPPENED if section.part is Part.RECAP else section.beats[0].kind
    first = Beat(id="", text=said, kind=kind, drafted=said)
    rest = [x for x in section.beats if x.kind is not kind]
    return replace(section, beats=(first, *rest)), memory


def _told(
    b: Breakdown,
    x: Exchange,
    lexicon: Lexicon,
    ledger: Ledger,
    said_in: SaidIn,
    memory: Memory,
    salt: str,
) -> tuple[tuple[Beat, ...], Memory]:
    """What happened in an exchange, as beats without ids of their own yet."""
    pace = b.narrators[0].pace
    facts = facts_of(b, x, lexicon, ledger)
    rng = random.Random(zlib.crc32(f"{x.id} {x.start} {x.technique} {b.naming.spoken_of} {salt}".encode()))
    known: dict[str, float] = {"": 0.0}

    def seconds(text: str) -> float:
        if text not in known:
            known[text] = float(said_in(text, pace))
        return known[text]

    said = tell(facts, seconds, memory, rng)
    for s in said:
        memory = memory.after(s)
    return _beats(said), memory


def _beats(said: tuple[Sentence, ...]) -> tuple[Beat, ...]:
    groups: list[list[Sentence]] = []
    count = 0
    for s in said:
        words = len(words_of(s.text))
        if not groups or count + words > LONGEST:
            groups.append([])
            count = 0
        groups[-1].append(s)
        count += words
    return tuple(_beat(group) for group in groups)


def _beat(group: list[Sentence]) -> Beat:
    text = " ".join(s.text for s in group)
    ties, at = [], 0
    for s in group:
        if s.word >= 0:
            ties.append(Tie(word=at + s.word, moment=s.moment))
        at += len(words_of(s.text))
    return Beat(id="", text=text, ties=tuple(ties), drafted=text)


def _introduction(b: Breakdown) -> list[Sentence]:
    words = {"event": b.part} if b.part else {}
    knows = frozenset(words)
    people = {"A": called(b, Side.FIRST), "B": called(b, Side.SECOND)}
    row = next(r for r in grammar().intro if stands(r, knows))
    return [sentence(Filling(words, people).fill(row.text) or "")]


def _result(b: Breakdown) -> list[Sentence]:
    """Every way to say who won; none where nobody is logged to have."""
    won = winner(b)
    if won is None:
        return []
    filling = Filling({"how": won[1]}, {"W": called(b, won[0])})
    return [sentence(filling.fill(row.text) or "", row.verb) for row in grammar().result]


def _memory_before(b: Breakdown, section_id: str) -> Memory:
    memory = Memory()
    for s in b.script:
        if s.id == section_id:
            break
        for beat in s.beats:
            words = words_of(beat.text) if is_untouched(beat) else ()
            for a, z in _sentences(words):
                memory = memory.after(Sentence(" ".join(words[a:z])))
    return memory


def _placed(b: Breakdown, beats: tuple[Beat, ...]) -> Iterator[tuple[bool, Fraction, Beat]]:
    """Each beat with whether it only asks, which comes last, and the mat second it is tied to; one without a tie stands
    with the one before it."""
    at = Fraction(-1)
    for beat in beats:
        at = min((b.moment(t.moment).at for t in beat.ties), default=at)
        yield not beat.text.strip(), at, beat


def _numbered(b: Breakdown) -> Breakdown:
    """With ids for beats that have none."""
    ids = fresh_ids(b)

    def named(beat: Beat) -> Beat:
        return beat if beat.id else replace(beat, id=next(ids["b"]))

    return replace(b, script=tuple(replace(s, beats=tuple(map(named, s.beats))) for s in b.script))


def choices(b: Breakdown) -> tuple[tuple[SpokenOf, str], ...]:
    """How the two can be spoken of, each with what it is called."""
    return (
        (SpokenOf.NAMES, "By their names"),
        (SpokenOf.KITS, "By their kit"),
        (SpokenOf.FIRST_IS_ME, f"I am {b.first.name}"),
        (SpokenOf.SECOND_IS_ME, f"I am {b.second.name}"),
    )
