"""All that is said, as a text to read: chapters, times, and who talks where two do."""

from __future__ import annotations

import textwrap
from fractions import Fraction

from chapto.clock.timecode import clock_text
from chapto.document.breakdown import Breakdown
from chapto.document.placeholders import shown_name
from chapto.programme.programme import Programme

WIDE = 88
"""Letters of a line."""


def transcript(b: Breakdown, programme: Programme) -> str:
    """Plain text, one paragraph a beat, each with the time at which it begins."""
    starts: dict[str, Fraction] = {}
    for w in programme.words:
        starts.setdefault(w.beat, w.start)
    chapters = {c.start: c.title for c in programme.chapters}
    begun = {x.section: x.start for x in programme.sections}
    several = len({beat.narrator or b.narrators[0].id for _, beat in b.read_beats()}) > 1
    lines, before = [b.title, "=" * len(b.title)], ""
    for section in b.script:
        title = chapters.get(begun.get(section.id, -1))
        if title is not None:
            lines += ["", f"{title}", "-" * len(title)]
        for beat in section.beats:
            if beat.id not in starts or not beat.text.strip():
                continue
            who = b.narrator(beat).name if several and not section.as_filmed else ""
            name = f"{shown_name(who) or who}: " if who and who != before else ""
            before = who or before
            lines += ["", *_folded(f"[{clock_text(starts[beat.id])}] {name}{' '.join(beat.text.split())}")]
    return "\n".join(lines) + "\n"


def _folded(text: str) -> list[str]:
    return textwrap.wrap(text, WIDE, break_long_words=False, break_on_hyphens=False)
