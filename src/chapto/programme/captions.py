"""Captions from the placed words."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from fractions import Fraction
from functools import lru_cache
from itertools import groupby, pairwise
from types import MappingProxyType

from chapto.pacing.spoken import pause_after
from chapto.programme.placed import Caption, PlacedWord

LINE, LINES = 37, 2
"""Characters a line and lines a caption: BBC Subtitle Guidelines, at most two lines."""
LONGEST_GAP = Fraction(7, 10)
SECONDS_A_WORD = Fraction(3, 10)
LINGER = Fraction(12, 10)


@dataclass(frozen=True)
class _Cue:
    """What is read together: `count` words from `start` on, said until `said`."""

    text: str
    start: Fraction
    said: Fraction
    count: int


def captions_of(
    words: Sequence[PlacedWord], names: Mapping[str, str] = MappingProxyType({}), before: str = ""
) -> tuple[Caption, ...]:
    """Captions that never overlap: cut at phrases, pauses and beats; each stays as long as it needs to be read
    (0.3 s a word) if the next one leaves the room.

    `names` has who says a beat, where several people talk, and `before` who talked last. Whoever begins is named (BBC
    Subtitle Guidelines: a name where it is not plain who speaks); two who talk at once have a line each.
    """
    cues = list(_cues(words, names, before))
    made = []
    for i, cue in enumerate(cues):
        wanted = max(cue.said + Fraction(1, 5), min(cue.start + SECONDS_A_WORD * cue.count, cue.said + LINGER))
        limit = cues[i + 1].start if i + 1 < len(cues) else wanted
        made.append(Caption(cue.start, max(min(wanted, limit), min(cue.said, limit)), cue.text))
    return tuple(made)


def _cues(words: Sequence[PlacedWord], names: Mapping[str, str], named: str) -> Iterator[_Cue]:
    """The words of each caption. No caption goes over two beats, so each beat is cut by itself, but where two are said
    at once."""
    groups = [list(group) for _, group in groupby(words, key=lambda w: w.beat)]
    for i, said in enumerate(groups):
        following = groups[i + 1] if i + 1 < len(groups) else None
        if not said:
            continue
        name = names.get(said[0].beat, "")
        prefix, named = (f"{name}: " if name and name != named else ""), name
        if following is None or following[0].start >= said[-1].end:
            yield from _one_voice(said, prefix)
            continue
        falls_in, out = following[0].start, said[-1].end
        yield from _one_voice([w for w in said if w.end <= falls_in], prefix)
        named = names.get(following[0].beat, "")
        both = [[w for w in said if w.end > falls_in], [w for w in following if w.start < out]]
        lines = [f"{names.get(w[0].beat, '')}: {' '.join(x.text for x in w)}".removeprefix(": ") for w in both if w]
        last = max(w.end for group in both for w in group)
        yield _Cue("\n".join(lines), falls_in, last, sum(map(len, both)))
        groups[i + 1] = [w for w in following if w.start >= out]


def _one_voice(said: list[PlacedWord], prefix: str) -> Iterator[_Cue]:
    """The captions of one who talks alone, the first with `prefix` before it."""
    if not said:
        return
    gaps = tuple(i for i in range(1, len(said)) if said[i].start - said[i - 1].end > LONGEST_GAP)
    texts = (prefix + said[0].text, *(w.text for w in said[1:]))
    cuts = _cuts(texts, gaps)
    for i, j in pairwise((*cuts, len(said))):
        yield _Cue(_lines(list(texts[i:j])), said[i].start, said[j - 1].end, j - i)


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
    # A caption of a dash alone says nothing: it goes along with what is said before or after it.
    said = [i for i, j in pairwise((*cuts, len(texts))) if any(c.isalnum() for t in texts[i:j] for c in t)]
    return (0, *(i for i in said if i != said[0])) if said else (0,)


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
