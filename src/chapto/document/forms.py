"""Forms of a breakdown, read from data, and a new document laid out in one of them."""

from __future__ import annotations

import tomllib
from functools import lru_cache
from itertools import groupby
from pathlib import Path

import msgspec
from msgspec.structs import replace

from chapto.document import edit_breakdown, edit_script
from chapto.document.bout import Exchange
from chapto.document.breakdown import Breakdown, DocumentError, new_id
from chapto.document.script import Beat, BeatKind, Part, Section

SHIPPED = Path(__file__).parent / "forms.toml"
OPENS = {Part.OPENING: BeatKind.OPENING, Part.INTRODUCTION: BeatKind.OPENING}
STARTS = {Part.OPENING: "Opening", Part.INTRODUCTION: "Who is who"}
"""The chapter that begins with such a part."""
CLOSES = {Part.RECAP: (BeatKind.RULE, BeatKind.ASK), Part.CREDITS: (BeatKind.THANKS,)}


class Form(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """What a document of this form begins with; see `forms.toml`."""

    title: str
    about: str
    style: str
    beats: tuple[BeatKind, ...]
    before: tuple[Part, ...] = ()
    after: tuple[Part, ...] = ()
    by: str = "exchange"
    voices: int = 1
    show_first: bool = False
    once_more: bool = False
    result_cards: bool = False


@lru_cache(maxsize=1)
def forms() -> dict[str, Form]:
    """The shipped forms by name, in the order they are offered."""
    data = tomllib.loads(SHIPPED.read_text("utf-8"))
    return {name: msgspec.convert(row, Form) for name, row in data.items()}


def lay_out(b: Breakdown, name: str) -> Breakdown:
    """With house style, voices, parts, and a section for every exchange that has none yet, in the form called `name`;
    sections in which words are written stay as they are. `DocumentError` for a name that is none."""
    if name not in forms():
        raise DocumentError(f"There is no form “{name}”; there are {', '.join(forms())}.")
    form = forms()[name]
    kept = tuple(s for s in b.script if any(x.text.strip() for x in s.beats))
    b = replace(b, script=kept, style=form.style)
    while len(b.narrators) < form.voices:
        b = edit_breakdown.add_narrator(b, "Host" if len(b.narrators) == 1 else "Guest")
    told, parts = {s.exchange for s in kept}, {s.part for s in kept}
    untold = sorted((x for x in b.exchanges if x.id not in told), key=lambda x: x.start)
    for part in form.before:
        if part not in parts:
            b = _with_section(b, Section(id="", part=part), (OPENS[part],), at=form.before.index(part))
    for title, group in _grouped(b, form, untold):
        for i, x in enumerate(group):
            section = Section(
                id="", title="" if i else title, exchange=x.id, show_first=form.show_first, once_more=form.once_more
            )
            b = _with_section(b, section, form.beats)
        if form.result_cards and group:
            b = _with_section(b, Section(id="", title=f"{title}: result"), (BeatKind.HAPPENED,))
    for part in form.after:
        if part not in parts:
            b = _with_section(b, Section(id="", part=part), CLOSES[part])
    return _voiced(_from_the_start(b), form)


def _from_the_start(b: Breakdown) -> Breakdown:
    """With a chapter at 0:00, which lists of chapters have to begin with (common practice)."""
    if not b.script or b.script[0].title:
        return b
    first = b.script[0]
    return replace(b, script=(replace(first, title=STARTS.get(first.part, b.title)), *b.script[1:]))


def _grouped(b: Breakdown, form: Form, untold: list[Exchange]) -> list[tuple[str, list[Exchange]]]:
    """Chapters with their exchanges: one each, or one for each technique or round."""
    if form.by == "exchange":
        return [(chapter_of(x), [x]) for x in untold]
    if form.by == "technique":
        order = sorted(untold, key=lambda x: x.technique)
        return [(_capital(name), list(group)) for name, group in groupby(order, key=lambda x: x.technique)]

    def round_of(x: Exchange) -> str:
        return next((r.name for r in b.rounds if r.start <= x.start < r.end), "")

    return [(name, list(group)) for name, group in groupby(untold, key=round_of)]


def _with_section(b: Breakdown, section: Section, kinds: tuple[BeatKind, ...], *, at: int | None = None) -> Breakdown:
    """With a section of empty beats of these kinds; its id is made here."""
    section = replace(section, id=new_id(b, "s"))
    place = len(b.script) if at is None else at
    b = replace(b, script=(*b.script[:place], section, *b.script[place:]))
    for kind in kinds:
        b = edit_script.add_beat(b, section.id, kind=kind)
    return b


def _voiced(b: Breakdown, form: Form) -> Breakdown:
    """With two voices the second, who asks, has the beats of kind option, opening, question and ask."""
    if form.voices < 2:
        return b
    second = b.narrators[1].id
    asks = (BeatKind.OPTION, BeatKind.OPENING, BeatKind.QUESTION, BeatKind.ASK)

    def given(beat: Beat) -> Beat:
        return replace(beat, narrator=second) if not beat.text and beat.kind in asks else beat

    return replace(b, script=tuple(replace(s, beats=tuple(given(x) for x in s.beats)) for s in b.script))


def chapter_of(x: Exchange) -> str:
    """The title of a chapter about an exchange: its technique with a capital."""
    return _capital(x.technique)


def _capital(text: str) -> str:
    return text[:1].upper() + text[1:]
