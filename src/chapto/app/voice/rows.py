"""The beats as the list of the Voice stage shows them, and the takes of one. Free of Qt."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from chapto.document.breakdown import Breakdown
from chapto.document.script import words_of
from chapto.document.takes import Take
from chapto.document.takes_by_beat import takes_of
from chapto.render.production import Production
from chapto.voice.finding.comparing import Said
from chapto.voice.taken_line import TakenLine


@dataclass(frozen=True)
class Row:
    """One line of the list, of the beat or take with that `id`: its text, and what stands `under` it and `after` it.

    `own` where the creator's own voice says it; `open` marks what wants a look; `section` stands over it.
    """

    id: str
    text: str
    under: str
    after: str
    own: bool
    open: bool = False
    section: str = ""


def beat_rows(b: Breakdown, production: Production, proposed: Mapping[str, str] | None = None) -> tuple[Row, ...]:
    """A row for each beat that has words, in the order of the script; `proposed` are the narrators (by id) whose voice
    beats seem to be."""
    names = {n.id: n.name for n in b.narrators}
    rows = []
    several = len(b.narrators) > 1
    marked = {t.id for t in b.takes if t.again}
    title = ""
    for section, beat in b.read_beats():
        if not words_of(beat.text):
            continue
        speech, line = production.speeches.get(beat.id), production.taken.get(beat.id)
        who = f"{b.narrator(beat).name}, " if several else ""
        seconds = f"{float(speech.line.seconds):.1f} s" if speech else ""
        under = f"{who}guide voice" if line is None else f"{who}{said_of(line)}"
        again = line is not None and line.take in marked
        under += ", to be read again" if again else ""
        seems = names.get((proposed or {}).get(beat.id, ""))
        under += f"; sounds like {seems} (N)" if seems else ""
        head = section.title if section.title != title else ""
        title = section.title
        rows.append(
            Row(
                beat.id,
                beat.text,
                under,
                seconds,
                line is not None,
                bool(line and line.differences) or again or bool(seems),
                section=head,
            )
        )
    return tuple(rows)


def said_of(line: TakenLine) -> str:
    """How much of a line was said as it is written."""
    n, unsure = line.differences, sum(not w.sure for w in line.found)
    said = "as written" if not n else "1 word otherwise" if n == 1 else f"{n} words otherwise"
    return f"{said}, times of {unsure} uncertain" if unsure else said


def words_otherwise(line: TakenLine | None) -> tuple[tuple[int, bool], ...]:
    """Numbers of the words that were not said as written, and whether they were left out."""
    found = enumerate(line.found) if line is not None else ()
    return tuple((i, w.state is Said.LEFT_OUT) for i, w in found if not w.said_as_written)


def take_rows(b: Breakdown, beat_id: str, lines: Mapping[str, TakenLine | None]) -> tuple[Row, ...]:
    """A row for each take of a beat: the one that counts first, then by how little differs. `lines` by take id."""
    takes = takes_of(b, beat_id) if beat_id else ()
    numbers = {t.id: i for i, t in enumerate(sorted(takes, key=b.takes.index), 1)}
    order = [*takes[:1], *sorted(takes[1:], key=lambda t: _worth(lines.get(t.id)))]
    counts = takes[0].id if takes and takes[0].chosen and not b.guide_only else ""
    return tuple(
        Row(
            t.id,
            f"Take {numbers[t.id]}{_of(t)}",
            _take_state(t.id in lines, lines.get(t.id)),
            "used" if t.id == counts else "",
            t.id == counts,
        )
        for t in order
    )


def _of(take: Take) -> str:
    return "" if take.of.value == "beat" else f", of the {take.of.value}"


def _take_state(known: bool, line: TakenLine | None) -> str:
    if not known:
        return "looking…"
    return "this line is not in it" if line is None else f"{line.end - line.start:.1f} s, {said_of(line)}"


def _worth(line: TakenLine | None) -> int:
    return 10_000 if line is None else line.differences
