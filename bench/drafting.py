"""A first draft of the demo's log: how long it takes (as so many times compiling it once), how often an opener comes
twice within five sentences, and, with the guide voice's own word times, how many ties meet in each house style and the
longest hold of a run-through (aims: all; a second)."""

from __future__ import annotations

import re
import time
from pathlib import Path

from msgspec.structs import replace

from chapto.clock.passage import Kind
from chapto.demo.story import demo_breakdown
from chapto.document.people import SpokenOf
from chapto.drafting.sentences import APART
from chapto.pacing.styles import house_styles
from chapto.programme.compile import compile_programme
from chapto.programme.first_draft import first_draft
from chapto.programme.knowledge import shipped_knowledge
from chapto.programme.placed import TieState
from chapto.voice.guide import GuideVoice


def main() -> None:
    """Measure and print, and print one draft to be read aloud."""
    b = replace(demo_breakdown(Path("/")), script=(), labels=())
    voice = GuideVoice()
    for spoken_of in SpokenOf:
        begun = time.perf_counter()
        made = first_draft(replace(b, naming=replace(b.naming, spoken_of=spoken_of)), shipped_knowledge())
        took = time.perf_counter() - begun
        texts = [x.text for _, x in made.beats() if x.drafted]
        openers = [s.split()[0].casefold().strip(",:") for t in texts for s in re.findall(r"[^.!?]+[.!?]", t)]
        again = sum(w in openers[max(i - APART + 1, 0) : i] for i, w in enumerate(openers))
        lines = {k: s.line for k, s in voice.of_breakdown(made).items()}
        found = []
        for style in house_styles():
            begun = time.perf_counter()
            p = compile_programme(replace(made, style=style), lines)
            compiled = time.perf_counter() - begun
            met = sum(t.state is TieState.MET for t in p.ties)
            hold = max(
                (float((x.watch_out - x.watch_in) / p.fps) for x in p.passages if x.kind is Kind.HOLD), default=0
            )
            found.append(f"{style}: {met} of {len(p.ties)} ties meet, longest hold {hold:.1f} s")
        print(
            f"{spoken_of}: {took:.1f} s ({took / compiled:.0f} times compiling), {len(openers)} sentences, "
            f"{again} openers again within five; {'; '.join(found)}"
        )
        if spoken_of in (SpokenOf.NAMES, SpokenOf.FIRST_IS_ME):
            print("\n".join(f"    {t}" for t in texts))


if __name__ == "__main__":
    main()
