"""The study sheet: what somebody who trains wants to keep of a breakdown, on paper.

For each exchange its key frames with their marks, and what is said of it by kind: what happened, why, the slip, the
other option, the rule of thumb.
"""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction
from functools import lru_cache
from pathlib import Path

import jinja2

from chapto.clock.timecode import clock_text
from chapto.document.breakdown import Breakdown
from chapto.document.placeholders import shown_name
from chapto.document.script import BeatKind, Part, Section
from chapto.programme.cautions import risks_shown
from chapto.programme.programme import Programme
from chapto.publish.key_frames import key_frames

SHIPPED = Path(__file__).with_name("study.html.j2")
HEADS = {
    BeatKind.HAPPENED: "What happened",
    BeatKind.WHY: "Why it worked, or didn't",
    BeatKind.SLIP: "The slip",
    BeatKind.OPTION: "The other option",
    BeatKind.RULE: "Rule of thumb",
    BeatKind.WANTS: "What each wants",
    BeatKind.THOUGHT: "The thought behind it",
    BeatKind.STEP: "Step by step",
    BeatKind.DEMONSTRATION: "Shown",
    BeatKind.QUESTION: "Asked",
}
"""What is printed, and in which order."""


@dataclass(frozen=True)
class Picture:
    """A key frame: its number, its time in the video, and what stands on its slips."""

    frame: int
    at: Fraction
    words: str


@dataclass(frozen=True)
class Entry:
    """One section: `about` says who did what and how it ended, `said` what is said by its heads; it is shown in the
    video from `at` to `until`, in seconds."""

    title: str
    about: str
    at: Fraction
    until: Fraction
    pictures: tuple[Picture, ...]
    said: tuple[tuple[str, tuple[str, ...]], ...]


@dataclass(frozen=True)
class Study:
    """The whole sheet, with what has to be said about risks."""

    title: str
    under: str
    entries: tuple[Entry, ...]
    cautions: tuple[str, ...]


def study(b: Breakdown, programme: Programme) -> Study:
    """The sheet of a breakdown."""
    lexicon = programme.known.lexicon
    risks = dict.fromkeys(risk for _, risk in risks_shown(b, lexicon))
    names = [n for n in (shown_name(b.first.name), shown_name(b.second.name)) if n]
    cautions = (*(lexicon.caution(r) for r in risks), lexicon.always)
    placed = {s.section: s for s in programme.sections}
    entries = tuple(_entry(b, programme, s) for s in b.script if s.id in placed and s.part in (Part.TALK, Part.RECAP))
    return Study(b.title, " and ".join(names), tuple(e for e in entries if e.said), cautions)


def _entry(b: Breakdown, programme: Programme, section: Section) -> Entry:
    here = next(s for s in programme.sections if s.section == section.id)
    fps = programme.fps
    pictures = tuple(
        Picture(k.frame, k.frame / fps, _slips(programme, k.frame))
        for k in key_frames(programme)
        if k.section == section.id
    )
    said: dict[BeatKind, list[str]] = {}
    for beat in section.beats:
        if beat.text.strip() and not section.as_filmed:
            said.setdefault(beat.kind, []).append(" ".join(beat.text.split()))
    rows = tuple((head, tuple(said[kind])) for kind, head in HEADS.items() if kind in said)
    title = section.title or here.title or "Untitled"
    return Entry(title, _about(b, section), here.start / fps, here.end / fps, pictures, rows)


def _about(b: Breakdown, section: Section) -> str:
    x = next((x for x in b.exchanges if x.id == section.exchange), None)
    if x is None or not x.technique:
        return ""
    who = shown_name(b.athlete(x.by, x.start).name) if x.by is not None else ""
    began = f"{who}: {x.technique}" if who else x.technique[:1].upper() + x.technique[1:]
    return f"{began}, {x.outcome.value}" if x.outcome is not None else began


def _slips(programme: Programme, frame: int) -> str:
    words = [f"{m.words} {m.fact}".strip() for m in programme.marks_at(frame) if m.words or m.fact]
    return " · ".join(dict.fromkeys(words))


def study_html(sheet: Study, pictures: dict[int, str], *, for_print: bool = False, shape: float = 16 / 9) -> str:
    """The sheet as one HTML page. `pictures` gives what each key frame (by number) is shown from: a data address, or a
    name. `for_print` keeps to what Qt can lay out, an exchange a page, pictures with their width by height of `shape`.
    """
    return _compiled().render(sheet=sheet, pictures=pictures, clock=clock_text, for_print=for_print, shape=shape)


@lru_cache(maxsize=1)
def _compiled() -> jinja2.Template:
    environment = jinja2.Environment(
        autoescape=True, trim_blocks=True, lstrip_blocks=True, undefined=jinja2.StrictUndefined
    )
    return environment.from_string(SHIPPED.read_text("utf-8"))
