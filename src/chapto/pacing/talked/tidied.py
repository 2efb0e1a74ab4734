"""The talk as a viewer should get it: kept words, each with the picture that was meant, and what was cut.

Times of the take and of the mat are seconds in floating point here; the document has them exactly.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from itertools import pairwise

from chapto.document.talks import Done, SaidWord, Span, Talk
from chapto.pacing.styles import HouseStyle
from chapto.pacing.talked.track import Spell, Track
from chapto.pacing.talked.words import Reason, Word, going, words_of_talk

LONG_WORD = 0.6
"""Seconds from which what is heard is more than a single word."""
PHRASE = 0.2
"""Seconds of silence that part two phrases."""
ELSEWHERE = 0.35
"""Mat seconds from which a picture is another one, and not only put right by a hand."""
ACROSS = 1.2
"""Seconds before a move in which words are said about the place it leads to already."""
BREATH = 0.25
"""Seconds of a silence that stay where the rest of it goes."""
LIVELY = 1.5
"""Seconds that a picture in which something happens goes on between two words, at most."""

IsLively = Callable[[float, float], bool]
"""Whether something happens between two mat seconds."""


@dataclass(frozen=True, slots=True)
class Shown:
    """A word that stays, and the picture meant under it: mat second `mat`, going on at `rate`, of a `spell`."""

    word: Word
    mat: float
    rate: float
    spell: Spell


@dataclass(frozen=True, slots=True)
class TalkCut:
    """Half-open seconds of the take that are left out, why, and the words that went."""

    start: float
    end: float
    reason: Reason
    words: tuple[Word, ...] = ()


@dataclass(frozen=True)
class Tidied:
    """`shown` are the words that stay, in order; `cuts` what is left out, in order and apart."""

    shown: tuple[Shown, ...]
    cuts: tuple[TalkCut, ...]

    @property
    def seconds(self) -> float:
        """How long it lasts from its first word to its last."""
        if not self.shown:
            return 0.0
        first, last = self.shown[0].word.start, self.shown[-1].word.end
        gone = sum(max(min(c.end, last) - max(c.start, first), 0.0) for c in self.cuts)
        return last - first - gone


def tidy(
    done: Done,
    said: Sequence[SaidWord],
    seconds: float,
    style: HouseStyle,
    *,
    is_lively: IsLively = lambda start, end: True,
    reaction: float = 0.0,
    back: Sequence[Span] = (),
) -> Tidied:
    """Tidy a take of `seconds`. A word is about what stood on the screen `reaction` seconds before it. Cuts that begin
    within one of `back` are not made. Every word stays or stands in a cut; the same input gives the same answer."""
    words = words_of_talk(said)
    gone = {n: r for n, r in going(words, done.acts).items() if not _is_back(words[n].start, back)}
    kept = [w for w in words if w.number not in gone]
    spans = ((p[0].start, p[-1].end, len(p)) for p in phrases_of(kept))
    track = Track(done.picture, seconds, [(a, z) for a, z, count in spans if count > 1 or z - a > LONG_WORD])
    shown = _shown(kept, track, reaction)
    cuts = _word_cuts(words, gone) + _silences(shown, gone, words, track, style, is_lively, back)
    return Tidied(tuple(shown), _apart(cuts))


def as_it_was(done: Done, said: Sequence[SaidWord], seconds: float) -> Tidied:
    """Nothing is cut, and every word has the picture that stood there."""
    track = Track(done.picture, seconds)
    rows = ((w, track.at(w.start)) for w in words_of_talk(said))
    return Tidied(tuple(Shown(w, s.mat_at(w.start), s.rate, s) for w, s in rows), ())


def tidied_talk(talk: Talk, style: HouseStyle, idle: Sequence[Span] = ()) -> Tidied:
    """A talk as it is laid out: tidied, or as it was. Nothing happens in the mat seconds of `idle`."""
    seconds = float(talk.seconds)
    if not talk.tidied:
        return as_it_was(talk.done, talk.said, seconds)

    def is_lively(start: float, end: float) -> bool:
        still = sum(max(min(float(z), end) - max(float(a), start), 0.0) for a, z in idle)
        return still < (end - start) / 2

    return tidy(
        talk.done, talk.said, seconds, style, is_lively=is_lively, reaction=float(talk.reaction), back=talk.back
    )  # fmt: skip


# ── pictures ─────────────────────────────────────────────────────────────────────────────────────────────────
def _shown(kept: Sequence[Word], track: Track, reaction: float) -> list[Shown]:
    found = []
    for phrase in phrases_of(kept):
        for word in phrase:
            spell = _meant(word, phrase, track)
            early = word.start < spell.start
            mat = spell.mat if early else spell.mat_at(word.start - reaction)
            found.append(Shown(word, mat, 0.0 if early else spell.rate, spell))
    return found


def _meant(word: Word, phrase: Sequence[Word], track: Track) -> Spell:
    """The spell a word is about: the one on the screen, or what the phrase goes over to while it is said."""
    spell = track.at(word.start)
    following = track.after(spell)
    if following is None or abs(following.mat - spell.mat_end) < ELSEWHERE:
        return spell
    across = following.came - word.start < ACROSS and following.came < phrase[-1].start
    return following if across else spell


def phrases_of(words: Sequence[Word]) -> list[list[Word]]:
    """Words said without a silence between them."""
    found: list[list[Word]] = []
    for word in words:
        if found and word.start - found[-1][-1].end < PHRASE:
            found[-1].append(word)
        else:
            found.append([word])
    return found


# ── cuts ─────────────────────────────────────────────────────────────────────────────────────────────────────
def _is_back(start: float, back: Sequence[Span]) -> bool:
    return any(float(a) - 1e-3 <= start < float(z) for a, z in back)


def _word_cuts(words: Sequence[Word], gone: dict[int, Reason]) -> list[TalkCut]:
    """What goes with its words: from the end of the word before to the beginning of the one after."""
    found: list[TalkCut] = []
    for word in words:
        reason = gone.get(word.number)
        if reason is None:
            continue
        last = found[-1] if found else None
        if last is not None and last.reason is reason and last.words[-1].number == word.number - 1:
            found[-1] = TalkCut(last.start, word.end, reason, (*last.words, word))
        else:
            found.append(TalkCut(word.start, word.end, reason, (word,)))
    return found


def _silences(
    shown: Sequence[Shown],
    gone: dict[int, Reason],
    words: Sequence[Word],
    track: Track,
    style: HouseStyle,
    is_lively: IsLively,
    back: Sequence[Span],
) -> list[TalkCut]:
    """What is cut between words that stay, and before the first and after the last."""
    found = []
    for one, other in pairwise(shown):
        start, end = one.word.end, other.word.start
        removed = [words[n] for n in range(one.word.number + 1, other.word.number)]
        start = max([start, *(w.end for w in removed)]) if removed else start
        if removed:
            # What went leaves its own silences behind too.
            lead = _between(one.word.end, removed)
            found += [TalkCut(a, z, gone[removed[0].number]) for a, z in lead]
        room = _room(one, start, end, style, is_lively)
        if end - start > room + 0.05 and not _is_back(start, back):
            hunted = other.spell.came < other.spell.start and other.spell.came < end and other.spell.start > start
            found.append(TalkCut(start + room / 2, end - room / 2, Reason.HUNTING if hunted else Reason.SILENT))
    return found


def _between(start: float, removed: Sequence[Word]) -> list[tuple[float, float]]:
    """The silences before each of some words that went."""
    edges, at = [], start
    for word in removed:
        if word.start > at:
            edges.append((at, word.start))
        at = max(at, word.end)
    return edges


def _room(one: Shown, start: float, end: float, style: HouseStyle, is_lively: IsLively) -> float:
    """Seconds of silence that stay between two words."""
    most, runs = float(style.longest_silence), min(one.spell.end, end) - start
    if one.rate and runs > BREATH and is_lively(one.spell.mat_at(start), one.spell.mat_at(end)):
        return min(LIVELY, most, runs)
    return min(BREATH, most)


def _apart(cuts: list[TalkCut]) -> tuple[TalkCut, ...]:
    """In order, without overlaps or nothing; neighbours for one reason are one."""
    found: list[TalkCut] = []
    for cut in sorted(cuts, key=lambda c: (c.start, c.end)):
        last = found[-1] if found else None
        start = max(cut.start, last.end) if last is not None else cut.start
        if last is not None and last.reason is cut.reason and start - last.end < 1e-6:
            found[-1] = TalkCut(last.start, max(cut.end, last.end), cut.reason, (*last.words, *cut.words))
        elif cut.end - start > 1e-3 or cut.words:
            found.append(TalkCut(start, max(cut.end, start), cut.reason, cut.words))
    return tuple(found)
