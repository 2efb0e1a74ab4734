"""What was found in a recording, for people and for programs."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from chapto.voice.finding.comparing import Said
from chapto.voice.finding.words_found import WordsFound


def as_data(words: Sequence[str], found: WordsFound) -> dict[str, Any]:
    """`words` of the script with start, end (seconds, None where not said) and state, words added, and phrases."""
    return {
        "words": [
            {
                "word": word,
                "start": round(f.span[0], 3) if f.span else None,
                "end": round(f.span[1], 3) if f.span else None,
                "state": f.state.value,
                "heard": f.heard,
            }
            for word, f in zip(words, found.words, strict=True)
        ],
        "added": [
            {"before": a.before, "heard": a.heard, "start": round(a.span[0], 3), "end": round(a.span[1], 3),
             "filler": a.is_filler}
            for a in found.added
        ],
        "phrases": [{"start": round(p.start, 3), "end": round(p.end, 3)} for p in found.phrases],
    }  # fmt: skip


def as_text(words: Sequence[str], found: WordsFound) -> str:
    """A line for each word, then what is not as it is written."""
    lines = [
        f"{f.span[0]:9.3f} {f.span[1]:9.3f}  {word}" + _mark(f.state, f.heard)
        if f.span
        else f"{'':9} {'':9}  {word}{_mark(f.state, f.heard)}"
        for word, f in zip(words, found.words, strict=True)
    ]
    lines += [
        f"{a.span[0]:9.3f} {a.span[1]:9.3f}  + {a.heard}" + ("   (filler)" if a.is_filler else "") for a in found.added
    ]
    return "\n".join([*lines, summary(words, found)])


def summary(words: Sequence[str], found: WordsFound) -> str:
    """One sentence: how much of the script was said as it is written."""
    states = [f.state for f in found.words]
    parts = [f"{found.as_written} of {len(words)} words as written"]
    for state, what in ((Said.OTHERWISE, "said otherwise"), (Said.LEFT_OUT, "left out")):
        if n := states.count(state):
            parts.append(f"{n} {what}")
    if found.added:
        parts.append(f"{len(found.added)} added")
    return ", ".join(parts) + "."


def _mark(state: Said, heard: str) -> str:
    if state is Said.AS_WRITTEN:
        return ""
    return "   (left out)" if state is Said.LEFT_OUT else f"   (said otherwise{': ' + heard if heard else ''})"
