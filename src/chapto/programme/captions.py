"""Captions from the placed words."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from fractions import Fraction

from chapto.pacing.spoken import pause_after
from chapto.programme.programme import Caption, PlacedWord

LINE, LINES = 38, 2
"""Characters a line and lines a caption: BBC Subtitle Guidelines, at most two lines."""
LONGEST_GAP = Fraction(7, 10)
SECONDS_A_WORD = Fraction(3, 10)
LINGER = Fraction(12, 10)


def captions_of(words: Sequence[PlacedWord]) -> tuple[Caption, ...]:
    """Captions that never overlap: cut at phrases, pauses and beats; each stays as long as it needs to be read
    (0.3 s a word) if the next one leaves the room."""
    cues = list(_cues(words))
    made = []
    for i, cue in enumerate(cues):
        start, said = cue[0].start, cue[-1].end
        wanted = max(said + Fraction(1, 5), min(start + SECONDS_A_WORD * len(cue), said + LINGER))
        limit = cues[i + 1][0].start if i + 1 < len(cues) else wanted
        made.append(Caption(start, max(min(wanted, limit), min(said, limit)), _lines([w.text for w in cue])))
    return tuple(made)


def _cues(words: Sequence[PlacedWord]) -> Iterator[list[PlacedWord]]:
    cue: list[PlacedWord] = []
    for i, word in enumerate(words):
        if cue:
            gap = word.start - cue[-1].end
            full = not _fits([*(w.text for w in cue), word.text])
            rest = _until_pause(words, i)
            early = pause_after(cue[-1].text) > 0 and not _fits([*(w.text for w in cue), *rest])
            if word.beat != cue[-1].beat or gap > LONGEST_GAP or full or early:
                yield cue
                cue = []
        cue.append(word)
    if cue:
        yield cue


def _until_pause(words: Sequence[PlacedWord], i: int) -> list[str]:
    """The words of the phrase that starts at `i`."""
    phrase = []
    for word in words[i:]:
        if word.beat != words[i].beat:
            break
        phrase.append(word.text)
        if pause_after(word.text) > 0:
            break
    return phrase


def _fits(texts: list[str]) -> bool:
    return len(_lines(texts).split("\n")) <= LINES


def _lines(texts: list[str]) -> str:
    """The words broken into lines of at most `LINE` characters, two lines balanced where there are two."""
    whole = " ".join(texts)
    if len(whole) <= LINE:
        return whole
    breaks = [i for i, c in enumerate(whole) if c == " "]
    halves = [i for i in breaks if i <= LINE and len(whole) - i - 1 <= LINE]
    if halves:
        middle = min(halves, key=lambda i: abs(2 * i - len(whole)))
        return whole[:middle] + "\n" + whole[middle + 1 :]
    lines, line = [], ""
    for text in texts:
        if line and len(line) + 1 + len(text) > LINE:
            lines.append(line)
            line = text
        else:
            line = f"{line} {text}".strip()
    return "\n".join([*lines, line])
