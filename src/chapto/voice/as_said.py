"""The words of a beat as they were really said."""

from __future__ import annotations

from chapto.document.script import MARKS
from chapto.voice.finding.comparing import Said
from chapto.voice.taken_line import TakenLine


def text_as_said(words: tuple[str, ...], line: TakenLine, only: int | None = None) -> str:
    """`words` of a beat with what `line` says otherwise, leaves out or adds taken over, marks kept; of word number
    `only` alone, if it is given. Fillers, and words that nobody understood, change nothing."""
    out: list[str] = []
    for i, (word, found) in enumerate(zip(words, line.found, strict=True)):
        if only in (None, i):
            out += [x.heard for x in line.added if x.before == i and not x.is_filler and _is_heard(line, x.span)]
        if only not in (None, i) or found.said_as_written or (found.state is Said.OTHERWISE and not found.heard):
            out.append(word)
        elif found.state is Said.OTHERWISE:
            out.append(_dressed(word, found.heard))
        elif out and word[-1] in ".!?…,;:":
            # The mark of a word that was left out belongs to the one before it.
            out[-1] = out[-1].rstrip(",;:") + word[-1]
    if only is None:
        out += [x.heard for x in line.added if x.before >= len(words) and not x.is_filler and _is_heard(line, x.span)]
    if out and words and words[0][:1].isupper():
        out[0] = out[0][:1].upper() + out[0][1:]
    return " ".join(out)


def _is_heard(line: TakenLine, span: tuple[float, float]) -> bool:
    return any(a <= (span[0] + span[1]) / 2 < z for a, z in line.kept)


def _dressed(old: str, new: str) -> str:
    """`new` with the marks round `old`."""
    lead = old[: len(old) - len(old.lstrip(MARKS))]
    tail = old[len(old.rstrip(MARKS)) :]
    return lead + new + tail
