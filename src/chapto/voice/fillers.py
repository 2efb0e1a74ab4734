"""What a narrator said besides and would leave out: where it can be cut so that nobody hears the cut."""

from __future__ import annotations

from itertools import groupby

import numpy as np

from chapto.media.sound import RATE, FootageSound
from chapto.voice.finding.comparing import AddedWord, Said
from chapto.voice.finding.pronouncing import spoken_form
from chapto.voice.taken_line import Span, TakenLine

ROOM = 0.08
"""Seconds round what is cut in which the quietest place is looked for."""
STEP = RATE // 200
LEFT = 0.10
"""Seconds of a pause that stay at each side of what was cut, where there is so much."""


def cuts_for(line: TakenLine, words: tuple[str, ...], sound: FootageSound) -> tuple[Span, ...]:
    """Stretches of a take that hold fillers and repeated starts, half-open seconds from silence to silence. `words` are
    those of the beat, `sound` the take's."""
    found = []
    for before, group in groupby(line.added, key=lambda x: x.before):
        added = list(group)
        if _can_go(added, words, before) and not _is_missed(line, before):
            found.append(_from_silence_to_silence(line, before, added, sound))
    return tuple(cut for cut in found if cut[1] > cut[0])


def cut_of(line: TakenLine, added: AddedWord, sound: FootageSound) -> Span:
    """The stretch that one added word takes."""
    return _from_silence_to_silence(line, added.before, [added], sound)


def _can_go(added: list[AddedWord], words: tuple[str, ...], before: int) -> bool:
    """Whether all of it fills a pause, or begins what then comes."""
    following = [spoken_form(w) for w in words[before : before + len(added)]]
    heard = [x.heard for x in added if not x.is_filler]
    while heard:
        begun = next((k for k in range(len(heard), 0, -1) if heard[:k] == following[:k]), 0)
        if not begun:
            return False
        heard = heard[begun:]
    return True


def _is_missed(line: TakenLine, before: int) -> bool:
    """Whether a word beside it was not found: then this may be that word."""
    beside = line.found[max(before - 1, 0) : before + 1]
    return any(w.state is Said.LEFT_OUT for w in beside)


def _from_silence_to_silence(line: TakenLine, before: int, added: list[AddedWord], sound: FootageSound) -> Span:
    low = line.spans[before - 1][1] if before else line.start
    high = line.spans[before][0] if before < len(line.spans) else line.end
    first, last = added[0].span[0], added[-1].span[1]
    start = _quietest(sound, max(low, first - ROOM), max(low, first))
    end = _quietest(sound, min(last, high), min(high, last + ROOM))
    return start, end


def _quietest(sound: FootageSound, start: float, end: float) -> float:
    """The middle of the quietest 5 ms between two seconds."""
    count = int((end - start) * RATE) // STEP
    if count < 2:
        return (start + end) / 2
    block = sound.read(round(start * RATE), count * STEP).mean(1).reshape(count, STEP)
    return start + (int(np.argmin((block**2).mean(1))) + 0.5) * STEP / RATE
