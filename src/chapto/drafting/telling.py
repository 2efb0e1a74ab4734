"""An exchange told within its own time: the sentences whose pointing words come when their moments do."""

from __future__ import annotations

import random
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, replace

from chapto.document.bout import Outcome
from chapto.document.script import words_of
from chapto.drafting.called import Called
from chapto.drafting.facts import Facts, Told
from chapto.drafting.grammar import Pattern, grammar
from chapto.drafting.sentences import Filling, Memory, Seconds, Sentence, sentence, shuffled, stands

LEAD_IN = 0.5
"""Seconds of picture before the first word."""
BREATH = 0.35
"""Seconds between two sentences, which may stand in two beats."""
WIDTH = 28
"""Ways of telling it that are followed at once."""
ATTACKS, BESIDES, MOST_BESIDES = 18, 7, 2
"""Ways of saying who began what, and other facts, that are tried, and facts told between two moments."""
SLOWER, HOLDS = 1.8, 0.6
"""How much longer slow motion makes a stretch, and seconds that a run-through holds: what words may take of both."""
SLOWING, LATE, REPEATED = 1.2, 40.0, 30.0
"""What a second of slow motion or holding costs, a second too late beyond it, and a repetition."""
EMPTY, FREE, DULL = 0.25, 2.0, 1.0
"""What a second of silence costs; beyond so many seconds it costs more."""
UNTOLD, DELAYED = 20.0, 9.0
"""What leaving out attack or outcome costs, and telling the attack after a moment of it."""
OUTCOMES = {Outcome.LANDED: "landed", Outcome.STOPPED: "stopped", Outcome.HALF: "half"}


@dataclass(frozen=True)
class _Way:
    """Some sentences so far: what they cost, seconds said since the last tie, and the facts that are told."""

    cost: float
    said: tuple[Sentence, ...]
    since: float
    told: frozenset[str]
    memory: Memory

    @property
    def expected(self) -> float:
        """What it will have cost: who began it is still to be said where it is not."""
        return self.cost + (0.0 if "attack" in self.told else DELAYED)

    def then(self, s: Sentence, since: float, more: float = 0.0) -> _Way:
        """With one more sentence, after which so many seconds are said since the last tie."""
        cost = self.cost + s.cost + more + REPEATED * self.memory.repeats(s)
        return _Way(cost, (*self.said, s), since, self.told | s.tells, self.memory.after(s))


def tell(facts: Facts, seconds: Seconds, memory: Memory, rng: random.Random) -> tuple[Sentence, ...]:
    """Sentences for an exchange, in order. The attack comes before the first moment where there is time for it. Each
    moment comes when it is on the screen, then what came of it; other facts are told while time is left. `memory` is of
    the sentences before."""
    filling = Filling(facts.words, _people(facts))
    attacks = _attacks(facts, filling, rng)[:ATTACKS]
    besides = _filled(shuffled(grammar().besides, rng), facts, filling)[:BESIDES]
    outcomes = _outcomes(facts, filling, rng)
    x = facts.exchange
    ways = [_Way(0.0, (), LEAD_IN, frozenset(), memory)]
    last = x.start
    for i, moment in enumerate(facts.moments):
        room = float(moment.moment.at - last)
        pointing = _moments(moment, facts, filling, rng, first=i == 0)
        if i == len(facts.moments) - 1:
            pointing += _closings(moment, outcomes, filling)
        before = _within(_before(ways, attacks, besides, seconds), room)
        ways = _best(_pointed(before, pointing, room, seconds))
        last = moment.moment.at
    room = float(x.end - last)
    ends = _ends(facts, filling, outcomes, rng)
    before = _within(_before(ways, attacks, besides, seconds), room)
    told = (_ended(way, end, room, seconds, bool(attacks), bool(outcomes)) for way in before for end in ends)
    return min(told, key=lambda w: w.cost).said


def _people(facts: Facts) -> dict[str, Called]:
    return {k: v for k, v in (("A", facts.attacker), ("B", facts.answerer)) if v is not None}


def _attacks(facts: Facts, filling: Filling, rng: random.Random) -> list[Sentence]:
    """Every way to say who began what."""
    found: list[Sentence] = []
    for core in shuffled(grammar().attack, rng):
        text = filling.fill(core.text) if stands(core, facts.knows, facts.family) else None
        if text is None:
            continue
        for lead in grammar().lead:
            before = filling.fill(lead.text) if lead.text else ""
            if before is None or not stands(lead, facts.knows) or (core.leads and not lead.bare):
                continue
            whole = f"{before}{'' if lead.bare or not before else ','} {text}".strip()
            tells = lead.needs | core.needs | {"attack"}
            found.append(sentence(whole, core.main_verb, cost=core.cost, tells=tells))
    rng.shuffle(found)
    return found


def _moments(told: Told, facts: Facts, filling: Filling, rng: random.Random, *, first: bool) -> list[Sentence]:
    """Every way to point at a moment; at the `first` of an exchange also those with the attack in one."""
    rows = (*grammar().moment, *grammar().opening) if first else grammar().moment
    known = Filling({**filling.words, "note": told.note}, filling.people)
    found = []
    for row in shuffled(rows, rng):
        fits = stands(row, facts.knows, facts.family) and (not row.kinds or told.kind in row.kinds)
        text = known.fill(row.text) if told.note and fits else None
        if text is not None:
            tells = row.needs | ({"attack"} if row in grammar().opening else set())
            found.append(sentence(text, row.main_verb, moment=told.moment.id, cost=row.cost, tells=tells))
    return found or [sentence(text, moment=told.moment.id) for text in ("right here@", "there@", "here@", "now@")]


def _outcomes(facts: Facts, filling: Filling, rng: random.Random) -> list[tuple[Pattern, Sentence]]:
    """Every way to say what came of it."""
    outcome = OUTCOMES.get(facts.exchange.outcome) if facts.exchange.outcome else None
    rows = [] if outcome is None else shuffled(getattr(grammar(), outcome), rng)
    return [(row, s) for row in rows for s in _filled([row], facts, filling)]


def _closings(told: Told, outcomes: Sequence[tuple[Pattern, Sentence]], filling: Filling) -> list[Sentence]:
    """Every way to point at the last moment and say what came of it in one."""
    found = []
    for row, end in outcomes:
        bare = end.text[:-1]
        first = words_of(bare)[0].removesuffix("'s")
        keeps = any(who.subject == first and first[:1].isupper() for who in filling.people.values())
        known = Filling({"note": told.note, "end": bare if keeps else bare[:1].lower() + bare[1:]})
        for closing in grammar().closing if told.note and not row.alone else ():
            text = known.fill(closing.text)
            if text is not None:
                tells = end.tells | {"end"}
                found.append(sentence(text, end.verb, moment=told.moment.id, cost=closing.cost, tells=tells))
    return found


def _ends(
    facts: Facts, filling: Filling, outcomes: Sequence[tuple[Pattern, Sentence]], rng: random.Random
) -> list[tuple[Sentence, ...]]:
    """Every way to end: with nothing more, the outcome, points, or both."""
    results = [replace(s, tells=s.tells | {"end"}) for _, s in outcomes]
    points = _filled(shuffled(grammar().points, rng), facts, filling)
    return [(), *((p,) for p in points), *((r,) for r in results), *((r, p) for r in results for p in points)]


def _filled(rows: Sequence[Pattern], facts: Facts, filling: Filling) -> list[Sentence]:
    return [
        replace(sentence(text, row.main_verb, cost=row.cost, tells=row.needs | _hangs(row)), early=row.early)
        for row in rows
        if stands(row, facts.knows, facts.family) and (text := filling.fill(row.text)) is not None
    ]


def _hangs(row: Pattern) -> frozenset[str]:
    return frozenset({"attack"}) if row.after else frozenset()


def _before(
    ways: Sequence[_Way], attacks: Sequence[Sentence], besides: Sequence[Sentence], seconds: Seconds
) -> Iterator[_Way]:
    """Each way as it is, with the attack told now, with another fact, and with both."""
    for way in ways:
        started = [way]
        if "attack" not in way.told:
            delay = DELAYED if way.said else 0.0
            started += [_said(way, s, seconds, delay) for s in attacks if not s.tells & way.told]
        for begun in started:
            yield begun
            yield from _besides(begun, besides, seconds)


def _besides(way: _Way, besides: Sequence[Sentence], seconds: Seconds, most: int = MOST_BESIDES) -> Iterator[_Way]:
    """A way with other facts told, up to so many one after another."""
    for s in besides:
        # What hangs on the attack comes after it; all else is told once.
        told = "attack" in way.told or "attack" not in s.tells
        late = s.early and sum(bool(x.moment) for x in way.said) > 1
        if told and not late and not (s.tells - {"attack"}) & way.told and s not in way.said:
            further = _said(way, s, seconds)
            yield further
            if most > 1:
                yield from _besides(further, besides, seconds, most - 1)


def _within(ways: Iterable[_Way], room: float) -> list[_Way]:
    """Those that leave the least time empty without being late."""
    return sorted(ways, key=lambda w: w.expected + _fits(w.since, room))[: 2 * WIDTH]


def _said(way: _Way, s: Sentence, seconds: Seconds, more: float = 0.0) -> _Way:
    return way.then(s, way.since + seconds(s.text) + BREATH, more)


def _pointed(ways: Sequence[_Way], pointing: Sequence[Sentence], room: float, seconds: Seconds) -> Iterator[_Way]:
    for s in pointing:
        words = words_of(s.text)
        before, after = seconds(" ".join(words[: s.word])), seconds(" ".join(words[s.word :])) + BREATH
        for way in ways:
            if not s.tells & way.told:
                yield way.then(s, after, _fits(way.since + before, room))


def _fits(said: float, room: float) -> float:
    """What it costs that words take so long in a stretch of so many mat seconds: silence, slow motion, being late."""
    if said <= room:
        empty = room - said
        return EMPTY * empty + DULL * max(empty - FREE, 0.0)
    most = room * SLOWER + HOLDS
    return SLOWING * (min(said, most) - room) + LATE * max(said - most, 0.0)


def _ended(way: _Way, end: tuple[Sentence, ...], room: float, seconds: Seconds, attacks: bool, outcomes: bool) -> _Way:
    for s in end:
        if s.tells & way.told:
            return replace(way, cost=way.cost + 1e6)
        way = _said(way, s, seconds)
    untold = UNTOLD * (attacks and "attack" not in way.told) + UNTOLD * (outcomes and "end" not in way.told)
    return replace(way, cost=way.cost + untold + _fits(way.since - BREATH, room))


def _best(ways: Iterable[_Way]) -> list[_Way]:
    """The cheapest, each of its last sentence and memory once."""
    found: dict[tuple[object, ...], _Way] = {}
    for way in ways:
        key = (way.said[-1:], way.told, way.memory)
        if key not in found or way.cost < found[key].cost:
            found[key] = way
    return sorted(found.values(), key=lambda w: w.expected)[:WIDTH]
