"""Captions from the placed words."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from fractions import Fraction
from functools import lru_cache
from itertools import groupby, pairwise

from chapto.pacing.spoken import pause_after
from chapto.programme.placed import Caption, PlacedWord

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
    """The words of each caption. No caption goes over two beats, so each beat is cut by itself."""
    for _, group in groupby(words, key=lambda w: w.beat):
        said = list(group)
        gaps = tuple(i for i in range(1, len(said)) if said[i].start - said[i - 1].end > LONGEST_GAP)
        cuts = _cuts(tuple(w.text for w in said), gaps)
        yield from (said[i:j] for i, j in pairwise((*cuts, len(said))))


@lru_cache(maxsize=4096)
def _cuts(texts: tuple[str, ...], gaps: tuple[int, ...]) -> tuple[int, ...]:
    """Numbers of the words of one beat with which captions begin; `gaps` are those that come after a pause."""
    cuts = [0]
    for i in range(1, len(texts)):
        cue = texts[cuts[-1] : i]
        full = not _fits([*cue, texts[i]])
        early = pause_after(cue[-1]) > 0 and not _fits([*cue, *_until_pause(texts, i)])
        if i in gaps or full or early:
            cuts.append(i)
    return tuple(cuts)


def _until_pause(texts: Sequence[str], i: int) -> list[str]:
    """The words of the phrase that starts at `i`."""
    phrase = []
    for text in texts[i:]:
        phrase.append(text)
        if pause_after(text) > 0:
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
