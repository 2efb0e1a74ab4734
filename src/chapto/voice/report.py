"""What was found in a recording, for people and for programs."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from chapto.voice.finding.comparing import Said
from chapto.voice.finding.words_found import WordsFound
from chapto.voice.listening.listen import HeardPhrase


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
                "sure": f.sure,
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


def phrases_as_data(found: Sequence[HeardPhrase]) -> list[dict[str, Any]]:
    """Phrases that were recognised, with their words and seconds."""
    return [
        {
            "start": round(p.words[0].start, 3),
            "end": round(p.words[-1].end, 3),
            "text": p.text,
            "as_heard": p.as_heard,
            "words": [{"word": w.text, "start": round(w.start, 3), "end": round(w.end, 3)} for w in p.words],
        }
        for p in found
    ]


def phrases_as_text(found: Sequence[HeardPhrase]) -> str:
    """A line for each phrase."""
    return "\n".join(f"{p.words[0].start:9.3f} {p.words[-1].end:9.3f}  {p.text}" for p in found)


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
