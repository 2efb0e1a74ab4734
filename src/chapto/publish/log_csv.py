"""The log as CSV (RFC 4180), one row an event, and back; and as WebVTT metadata."""

from __future__ import annotations

import csv
import io
import json
from dataclasses import dataclass
from fractions import Fraction

from msgspec.structs import replace

from chapto.document.bounds import clock_seconds, points
from chapto.document.bout import Exchange, Moment, MomentKind, Outcome, Round
from chapto.document.bout_rules import CallKind, PositionSpan, RefereeCall
from chapto.document.breakdown import Breakdown, everything_named, new_id
from chapto.document.checks import checked
from chapto.document.edit_log import remove_logged
from chapto.document.mattime import fraction_to_text
from chapto.document.people import Side
from chapto.errors import ChaptoError
from chapto.lexicon.find import Finder
from chapto.lexicon.lexicon import Lexicon

COLUMNS = ("event", "start", "end", "what", "side", "outcome", "points", "note", "id")


_FORMULA = ("=", "+", "-", "@", "\t", "\r")
"""What begins a formula in a spreadsheet (OWASP, CSV injection; from memory)."""


class LogFileError(ChaptoError):
    """A log file that can't be read."""


@dataclass(frozen=True)
class ReadLog:
    """The document with what was read, and a sentence for each name or row that was not clear."""

    breakdown: Breakdown
    unclear: tuple[str, ...]


def to_csv(b: Breakdown) -> str:
    """Rounds, positions, exchanges, moments and the referee's points, in order of time, seconds exactly."""
    rows: list[tuple[Fraction, tuple[str, ...]]] = []

    def put(event: str, start: Fraction, end: Fraction | None, **cells: str) -> None:
        known = {"event": event, "start": fraction_to_text(start), **cells}
        known["end"] = fraction_to_text(end) if end is not None else ""
        rows.append((start, tuple(as_text(known.get(c, "")) for c in COLUMNS)))

    for r in b.rounds:
        put("round", r.start, r.end, what=r.name, id=r.id)
    for p in b.positions:
        put("position", p.start, p.end, what=p.position, side=p.top or "")
    for x in b.exchanges:
        put("exchange", x.start, x.end, what=x.technique, side=x.by or "", outcome=x.outcome or "", id=x.id)
    for m in b.moments:
        put("moment", m.at, None, what=m.kind, note=m.note, id=m.id)
    for g in b.ruling.points:
        what = "" if g.kind is CallKind.POINTS else g.kind.value
        given = str(g.points) if g.kind is CallKind.POINTS else ""
        put("referee", g.at, None, what=what, side=g.side, points=given, note=g.note, id=g.id)
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(COLUMNS)
    writer.writerows(row for _, row in sorted(rows, key=lambda r: r[0]))
    return out.getvalue()


def from_csv(b: Breakdown, text: str, lexicon: Lexicon) -> ReadLog:
    """`b` with the log of a CSV in place of its own, as far as the file has that kind of row. Rows keep their `id`, so
    that the script stays bound to them; a row without one is new.

    A list with only a time and a text (as a spreadsheet exports it) becomes exchanges and moments: a text that clearly
    means a technique of the lexicon begins an exchange of ten seconds at most, up to the next row; any other is noted
    as a moment. Raises `LogFileError` where there is nothing to read.
    """
    try:
        rows = [row for row in csv.reader(io.StringIO(text.lstrip("\ufeff"))) if any(cell.strip() for cell in row)]
    except csv.Error as error:
        raise LogFileError(f"That is no list that can be read: {error}.") from None
    if not rows:
        raise LogFileError("The log file is empty.")
    head = [c.strip().casefold() for c in rows[0]]
    if "event" in head and "start" in head:
        return _from_events(b, rows[1:], head)
    return _from_list(b, rows, lexicon)


def as_text(cell: str) -> str:
    """A cell that a spreadsheet would take for a formula, marked as text; numbers stay numbers."""
    return f"'{cell}" if cell[:1] in _FORMULA and clock_seconds(cell) is None else cell


def _from_text(cell: str) -> str:
    cell = cell.strip()
    return cell[1:] if cell[:1] == "'" and cell[1:2] in _FORMULA else cell


def to_webvtt_metadata(b: Breakdown) -> str:
    """WebVTT metadata (W3C): a cue an event, its text JSON."""
    lines = ["WEBVTT", "", "NOTE Chapto log: JSON metadata, times on the mat clock", ""]
    for row in csv.DictReader(io.StringIO(to_csv(b))):
        # A cue starts at 0 at the earliest, and ends after it starts (W3C WebVTT).
        start = max(Fraction(row["start"]), Fraction(0))
        end = max(Fraction(row["end"] or row["start"]), start + Fraction(1, 1000))
        payload = json.dumps({k: v for k, v in row.items() if v}, ensure_ascii=False).replace("-->", "→")
        lines += [f"{_stamp(start)} --> {_stamp(end)}", payload, ""]
    return "\n".join(lines)


def _from_events(b: Breakdown, rows: list[list[str]], head: list[str]) -> ReadLog:
    unclear: list[str] = []
    kinds: dict[str, list[dict[str, str]]] = {}
    for number, row in enumerate(rows, 2):
        cells = dict(zip(head, (_from_text(c) for c in row), strict=False))
        event = cells.get("event", "").casefold()
        if event not in ("round", "position", "exchange", "moment", "referee"):
            unclear.append(f"Row {number}: “{event}” is no kind of event.")
        elif clock_seconds(cells.get("start", "")) is None:
            unclear.append(f"Row {number}: “{cells.get('start', '')}” is no time.")
        else:
            kinds.setdefault(event, []).append(cells | {"row": str(number)})
    made = _without_gone(b, kinds)
    if "position" in kinds:
        spans = [
            PositionSpan(start=_at(c), end=_until(c), position=c.get("what", ""), top=_side(c))
            for c in kinds["position"]
        ]
        made = replace(made, positions=tuple(sorted(spans, key=lambda p: p.start)))
    ids = _Ids(b)
    if "round" in kinds:
        made = replace(made, rounds=tuple(_round(c, ids, b.rounds) for c in kinds["round"]))
    if "exchange" in kinds:
        made = replace(made, exchanges=tuple(_exchange(c, ids, unclear, b.exchanges) for c in kinds["exchange"]))
    if "moment" in kinds:
        made = replace(made, moments=tuple(_moment(c, ids, unclear) for c in kinds["moment"]))
    if "referee" in kinds:
        given = [g for c in kinds["referee"] if (g := _points(c, ids, unclear)) is not None]
        made = replace(made, ruling=replace(made.ruling, points=tuple(given)))
    try:
        return ReadLog(checked(made), tuple(unclear))
    except ChaptoError as error:
        raise LogFileError(f"The log in that file contradicts itself or this breakdown: {error}") from None


class _Ids:
    """The id of a row: the one it carries, unless another row or another kind of thing has it; else a new one."""

    def __init__(self, b: Breakdown) -> None:
        self._log = {"r": {r.id for r in b.rounds}, "x": {x.id for x in b.exchanges}}
        self._log |= {"m": {m.id for m in b.moments}, "g": {g.id for g in b.ruling.points}}
        logged = set().union(*self._log.values())
        self._taken = {item.id for item in everything_named(b)} - logged

    def of(self, c: dict[str, str], prefix: str) -> str:
        wanted = c.get("id", "")
        elsewhere = any(wanted in ids for kind, ids in self._log.items() if kind != prefix)
        if not wanted or wanted in self._taken or elsewhere:
            number = 1
            while (wanted := f"{prefix}{number}") in self._taken or any(wanted in ids for ids in self._log.values()):
                number += 1
        self._taken.add(wanted)
        return wanted


def _without_gone(b: Breakdown, kinds: dict[str, list[dict[str, str]]]) -> Breakdown:
    """Without the exchanges and moments that the file has no row for any more; ties and sections let go of them."""
    for event, items in (("exchange", b.exchanges), ("moment", b.moments)):
        if event in kinds:
            kept = {c.get("id", "") for c in kinds[event]}
            for item in items:
                b = b if item.id in kept else remove_logged(b, item.id)
    return b


def _round(c: dict[str, str], ids: _Ids, before: tuple[Round, ...]) -> Round:
    """A round by its row; who is on the mat in it has no column, and stays."""
    made = Round(id=ids.of(c, "r"), name=c.get("what", "") or "Round", start=_at(c), end=_until(c))
    known = next((r for r in before if r.id == made.id), made)
    return replace(made, first=known.first, second=known.second)


def _exchange(c: dict[str, str], ids: _Ids, unclear: list[str], before: tuple[Exchange, ...]) -> Exchange:
    """An exchange by its row; what its technique could hurt has no column, and stays with the technique."""
    outcome = c.get("outcome", "")
    if outcome and outcome not in set(Outcome):
        unclear.append(f"Row {c['row']}: “{outcome}” is no outcome; use landed, stopped or half.")
        outcome = ""
    technique, made = c.get("what", ""), ids.of(c, "x")
    known = next((x for x in before if x.id == made and x.technique == technique), None)
    return Exchange(
        id=made, start=_at(c), end=_until(c), technique=technique, by=_side(c),
        outcome=Outcome(outcome) if outcome else None, risk=known.risk if known else "",
    )  # fmt: skip


def _moment(c: dict[str, str], ids: _Ids, unclear: list[str]) -> Moment:
    kind = c.get("what", "")
    if kind not in set(MomentKind):
        unclear.append(f"Row {c['row']}: “{kind}” is no kind of moment; it came in as a point.")
        kind = MomentKind.POINT
    return Moment(id=ids.of(c, "m"), at=_at(c), kind=MomentKind(kind), note=c.get("note", ""))


def _points(c: dict[str, str], ids: _Ids, unclear: list[str]) -> RefereeCall | None:
    what, side, given = c.get("what", ""), _side(c), points(c.get("points", ""))
    if what and what not in set(CallKind):
        unclear.append(f"Row {c['row']}: “{what}” is no call of a referee.")
        return None
    kind = CallKind(what) if what else CallKind.POINTS
    if side is None or (given is None and kind is CallKind.POINTS):
        unclear.append(f"Row {c['row']}: the referee's points need a side and a number.")
        return None
    worth = given if given is not None and kind is CallKind.POINTS else 0
    return RefereeCall(id=ids.of(c, "g"), at=_at(c), side=side, points=worth, note=c.get("note", ""), kind=kind)


def _from_list(b: Breakdown, rows: list[list[str]], lexicon: Lexicon) -> ReadLog:
    finder = Finder(lexicon.techniques.values())
    marks: list[tuple[Fraction, str]] = []
    unclear: list[str] = []
    for number, row in enumerate(rows, 1):
        cells = [_from_text(c) for c in row if c.strip()]
        at = clock_seconds(cells[0])
        if at is None or len(cells) < 2:
            if number > 1:
                unclear.append(f"Row {number}: a time and a text are needed.")
            continue
        marks.append((at, " ".join(cells[1:])))
    if not marks:
        raise LogFileError("There is no row with a time and a text in that file.")
    marks.sort()
    for i, (at, text) in enumerate(marks):
        known = finder.sure(text)
        if known is not None:
            following = marks[i + 1][0] if i + 1 < len(marks) else at + 10
            end = min(max(following, at + 1), at + 10)
            item = Exchange(id=new_id(b, "x"), start=at, end=end, technique=known.en)
            b = replace(b, exchanges=tuple(sorted((*b.exchanges, item), key=lambda x: x.start)))
        else:
            maybe = finder.find(text, most=1)
            if maybe and maybe[0].likeness > 0.6:
                unclear.append(f"“{text}”: is that {maybe[0].item.en}? It came in as a note.")
            noted = Moment(id=new_id(b, "m"), at=at, note=text)
            b = replace(b, moments=tuple(sorted((*b.moments, noted), key=lambda m: m.at)))
    try:
        return ReadLog(checked(b), tuple(unclear))
    except ChaptoError as error:
        raise LogFileError(f"The list in that file can't be taken in: {error}") from None


def _at(c: dict[str, str]) -> Fraction:
    return clock_seconds(c["start"]) or Fraction(0)


def _until(c: dict[str, str]) -> Fraction:
    end = clock_seconds(c.get("end", ""))
    return end if end is not None else _at(c) + 1


def _side(c: dict[str, str]) -> Side | None:
    side = c.get("side", "").casefold()
    return Side(side) if side in set(Side) else None


def _stamp(seconds: Fraction) -> str:
    ms = round(seconds * 1000)
    return f"{ms // 3_600_000:02d}:{ms // 60_000 % 60:02d}:{ms // 1000 % 60:02d}.{ms % 1000:03d}"
