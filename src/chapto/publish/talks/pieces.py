"""From shown words to beats and sections: where new ones begin, before anything of the document is made."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction
from itertools import pairwise

from chapto.document.breakdown import Breakdown
from chapto.document.script import plain_word
from chapto.document.talks import Act, Done
from chapto.pacing.openers import OPENS, weights
from chapto.pacing.talked.tidied import PHRASE, Shown, Tidied
from chapto.pacing.talked.words import ENDS

LONG, LONGEST = 14, 40
"""Words of a beat from which a sentence ends it, and from which any silence does."""
PAUSE = 1.5
"""Seconds of silence in the take that end a beat."""
REST = 5.0
"""Seconds of silence that end a section, where something new begins after them."""
MOST_BEATS, MOST_SECONDS = 12, 90.0
"""Beats and seconds of the take in one section: so much is fitted at once in a moment."""
FAR = 20.0
"""Mat seconds by which the picture goes somewhere else altogether."""
CHAPTER = 12.0
"""Seconds of the take that a chapter lasts at least (hosting sites want 10, from memory)."""


@dataclass(frozen=True)
class TalkBeat:
    """Words of one beat."""

    shown: tuple[Shown, ...]

    @property
    def start(self) -> float:
        """The second of the take at which it begins."""
        return self.shown[0].word.start

    @property
    def end(self) -> float:
        """The second at which it is out."""
        return self.shown[-1].word.end

    @property
    def voice(self) -> int:
        """Which of two people says it, 1 or 2; 0 where only one talks."""
        return self.shown[0].word.voice

    @property
    def words(self) -> tuple[str, ...]:
        """What is said in it."""
        return tuple(s.word.text for s in self.shown)


@dataclass(frozen=True)
class TalkSection:
    """Beats of one section; it `opens` a chapter where the creator said so or something else comes up."""

    beats: tuple[TalkBeat, ...]
    opens: bool

    @property
    def mats(self) -> tuple[float, float]:
        """The lowest and highest mat second under its words."""
        found = [s.mat for beat in self.beats for s in beat.shown]
        return min(found), max(found)


def beats_of_talk(tidied: Tidied, done: Done) -> tuple[TalkBeat, ...]:
    """Beats end with a sentence, a long silence, where somebody else talks, or where the picture goes elsewhere between
    two phrases."""
    found: list[list[Shown]] = []
    keys = [float(a.at) for a in done.acts if a.act is Act.CHAPTER]
    for s in tidied.shown:
        if not found or _parts(found[-1], s, keys):
            found.append([])
        found[-1].append(s)
    return tuple(TalkBeat(tuple(x)) for x in found)


def _parts(beat: Sequence[Shown], after: Shown, keys: Sequence[float]) -> bool:
    last = beat[-1]
    gap = after.word.start - last.word.end
    moved = after.spell is not last.spell and abs(after.spell.mat - last.spell.mat_end) > PHRASE
    return (
        gap > PAUSE
        or after.word.voice != last.word.voice
        or any(last.word.start < key <= after.word.start for key in keys)
        or (len(beat) >= LONG and last.word.text.endswith(ENDS))
        or (len(beat) >= LONGEST and gap > PHRASE)
        or (moved and (gap > PHRASE or last.word.text.endswith(ENDS)))
    )


def sections_of_talk(b: Breakdown, beats: Sequence[TalkBeat], done: Done) -> tuple[TalkSection, ...]:
    """Sections begin by the chapter key, with another round or logged exchange, and when the picture goes far away.
    They also begin after a rest, and before they grow too long."""
    keys = [float(a.at) for a in done.acts if a.act is Act.CHAPTER]
    found: list[list[TalkBeat]] = []
    opens: list[bool] = []
    since = 0.0
    for beat in beats:
        if not found:
            found.append([beat])
            opens.append(True)
            since = beat.start
            continue
        last = found[-1][-1]
        asked = any(last.start < key <= beat.start for key in keys)
        other = _home(b, last) != _home(b, beat) or _is_far(last, beat) or _begins_anew(last, beat)
        chapter = asked or (other and not keys and beat.start - since >= CHAPTER)
        full = len(found[-1]) >= MOST_BEATS or beat.end - found[-1][0].start > MOST_SECONDS
        if chapter or full or _is_far(last, beat) or _home(b, last) != _home(b, beat):
            found.append([beat])
            opens.append(chapter)
            since = beat.start if chapter else since
        else:
            found[-1].append(beat)
    return tuple(TalkSection(tuple(x), o) for x, o in zip(found, opens, strict=True))


def _home(b: Breakdown, beat: TalkBeat) -> tuple[str, str]:
    """Round and logged exchange (by id) that a beat begins in."""
    at = Fraction(beat.shown[0].mat).limit_denominator(1000)
    here = next((r.id for r in b.rounds if r.start <= at < r.end), "")
    return here, next((x.id for x in b.exchanges if x.start <= at < x.end), "")


def _is_far(last: TalkBeat, beat: TalkBeat) -> bool:
    return abs(beat.shown[0].mat - last.shown[-1].mat) > FAR


def _begins_anew(last: TalkBeat, beat: TalkBeat) -> bool:
    plain = [plain_word(w) for w in beat.words[:6]]
    return beat.start - last.end > REST and bool(plain) and weights(plain)[0] >= OPENS


def phrase_firsts(beat: TalkBeat) -> tuple[int, ...]:
    """Numbers of the words of a beat with which a phrase begins."""
    later = (i for i, (a, z) in enumerate(pairwise(beat.shown), 1) if z.word.start - a.word.end >= PHRASE)
    return (0, *later)
