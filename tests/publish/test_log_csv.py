"""The log out and in: CSV and WebVTT metadata."""

import csv
import io
import json
from fractions import Fraction as F
from pathlib import Path

import pytest
import webvtt
from hypothesis import given
from msgspec.structs import replace

from chapto.demo.story import demo_breakdown
from chapto.document.bout import Exchange
from chapto.document.breakdown import Breakdown
from chapto.document.checks import checked
from chapto.document.people import Athlete
from chapto.lexicon.lexicon import shipped_lexicon
from chapto.publish.log_csv import LogFileError, from_csv, to_csv, to_webvtt_metadata
from tests.document.samples import breakdowns, footage, small

LEXICON = shipped_lexicon()
BARE = Breakdown(title="Bare", footage=(footage(),))


@given(breakdowns())
def test_the_way_out_and_back_keeps_everything(b: Breakdown) -> None:
    found = from_csv(b, to_csv(b), LEXICON)
    back = found.breakdown
    assert found.unclear == ()
    for name in ("rounds", "exchanges", "moments"):
        assert sorted(getattr(back, name), key=lambda x: x.id) == sorted(getattr(b, name), key=lambda x: x.id)
    assert replace(back, exchanges=b.exchanges, moments=b.moments) == b


def test_rows_that_were_put_in_or_taken_out_move_nothing_else() -> None:
    b = demo_breakdown(Path.cwd())
    rows = to_csv(b).splitlines()
    kept = [r for r in rows if not r.endswith(",m5") and not r.endswith(",x2")]
    kept.insert(1, "exchange,20,25,arm drag,second,half,,,")
    came = from_csv(b, "\r\n".join(kept), LEXICON).breakdown
    assert {x.id for x in came.exchanges} == {x.id for x in b.exchanges} - {"x2"} | {"x8"}
    assert came.exchange("x3") == b.exchange("x3")
    assert came.script[3].exchange == "" and came.script[4].exchange == "x3"
    assert all(t.moment != "m5" for _, beat in came.beats() for t in beat.ties)


def test_the_demo_log_comes_back_exactly_also_into_an_empty_breakdown() -> None:
    b = demo_breakdown(Path.cwd())
    text = to_csv(b)
    assert from_csv(b, text, LEXICON).breakdown == b
    empty = replace(b, rounds=(), positions=(), exchanges=(), moments=(), script=(), labels=())
    empty = replace(empty, ruling=replace(b.ruling, points=()))
    came = from_csv(empty, text, LEXICON).breakdown
    assert (came.rounds, came.positions, came.exchanges, came.moments, came.ruling) == (
        b.rounds, b.positions, b.exchanges, b.moments, b.ruling,
    )  # fmt: skip


def test_a_spreadsheet_reads_it_with_one_row_an_event() -> None:
    rows = list(csv.DictReader(io.StringIO(to_csv(demo_breakdown(Path.cwd())))))
    assert {r["event"] for r in rows} == {"round", "position", "exchange", "moment", "referee"}
    starts = [float(r["start"]) for r in rows]
    assert starts == sorted(starts)


def test_a_list_of_times_and_words_comes_in_with_names_matched_by_ear() -> None:
    text = "time;what\n0:31,singel leg\n1:02.5,nice grip here\n1:43,nee slide\n2:20,anaconda chok\n"
    found = from_csv(BARE, text, LEXICON)
    assert [(float(x.start), float(x.end), x.technique) for x in found.breakdown.exchanges] == [
        (31, 41, "single leg takedown"), (103, 113, "knee slide"), (140, 150, "anaconda choke"),
    ]  # fmt: skip
    assert [(float(m.at), m.note) for m in found.breakdown.moments] == [(62.5, "nice grip here")]


@pytest.mark.parametrize(
    ("row", "said"),
    [
        ("dance,4,,,,,,", "“dance” is no kind of event"),
        ("moment,soon,,grip,,,,", "“soon” is no time"),
        ("moment,4,,wobble,,,,", "“wobble” is no kind of moment"),
        ("exchange,4,9,knee slide,first,won,,", "“won” is no outcome"),
        ("referee,4,,,nobody,,2,", "need a side and a number"),
    ],
)
def test_a_row_that_is_not_clear_is_said_and_the_others_come_in(row: str, said: str) -> None:
    text = f"event,start,end,what,side,outcome,points,note\r\n{row}\r\nround,1,50,Bout,,,,\r\n"
    found = from_csv(BARE, text, LEXICON)
    assert said in found.unclear[0] and [r.name for r in found.breakdown.rounds] == ["Bout"]


@pytest.mark.parametrize("text", ["", "\n\n", "just words\nand more\n", "event,start,end,what\nround,9,2,Bout\n"])
def test_a_file_with_nothing_to_read_is_refused_in_a_sentence(text: str) -> None:
    with pytest.raises(LogFileError, match=r"\.$"):
        from_csv(BARE, text, LEXICON)


def test_webvtt_metadata_is_read_by_another_library() -> None:
    """Reference: `webvtt-py`; W3C WebVTT metadata cues hold JSON here."""
    b = demo_breakdown(Path.cwd())
    cues = list(webvtt.from_string(to_webvtt_metadata(b)))
    assert len(cues) == len(to_csv(b).splitlines()) - 1
    events = [json.loads(c.text) for c in cues]
    assert sum(e["event"] == "exchange" for e in events) == len(b.exchanges)
    (tap,) = [c for c, e in zip(cues, events, strict=True) if e.get("note") == "the tap"]
    assert tap.start == "00:03:49.900"


@pytest.mark.parametrize(
    "rows",
    [
        "event,start\nposition,1\nround,2\nexchange,3\nmoment,4\nreferee,5\n",
        "event,start,points,side\nreferee,3," + "9" * 5000 + ",first\n",
        "event,start,end\nround,1e999999999,2\nround,1e5000,1e5001\nround,99999999999,999999999999\n",
        "event,start,what\nround,1," + "x" * 5000 + "\n",
        "1e5000,knee slide\n1:2:3:4:5,arm bar\n0:05,note\n",
        'event,start\n"round,1\x00\n',
        "event,start," + "x" * 200_000 + "\nround,1,2\n",
    ],
)
def test_odd_lists_are_read_or_refused_in_a_sentence(rows: str) -> None:
    try:
        found = from_csv(small(), rows, LEXICON)
    except LogFileError:
        return
    checked(found.breakdown)


@pytest.mark.parametrize("text", ["=1+1", "+cmd", "-2+3", "@SUM(A1)", "\tx", "=HYPERLINK(0)"])
def test_a_cell_that_a_spreadsheet_would_run_is_handed_out_as_text_and_comes_back(text: str) -> None:
    """OWASP, CSV injection (from memory): cells that begin with = + - @ or a tab are formulas to a spreadsheet."""
    b = replace(small(), moments=tuple(replace(m, note=text) for m in small().moments))
    written = to_csv(b)
    cells = [cell for row in csv.reader(io.StringIO(written)) for cell in row]
    assert not [c for c in cells if c[:1] in "=+-@\t" and c]
    again = from_csv(b, written, LEXICON).breakdown
    assert [m.note for m in again.moments] == [text] * 2


def test_numbers_stay_numbers_in_what_is_handed_out() -> None:
    b = replace(small(), moments=(replace(small().moments[0], at=F(-3)), small().moments[1]))
    assert "\r\nmoment,-3," in to_csv(b)


def test_two_marks_at_one_time_both_come_in_and_last() -> None:
    found = from_csv(BARE, "time,what\n0:31,single leg\n0:31,knee slide\n0:31.4,armbar\n", LEXICON)
    spans = [(float(x.start), float(x.end)) for x in found.breakdown.exchanges]
    assert len(spans) == 3 and all(end >= start + 1 for start, end in spans) and found.unclear == ()


def test_a_log_that_begins_before_its_clock_is_handed_out_as_cues_that_others_read() -> None:
    """W3C WebVTT: no time is negative, and a cue ends after it starts."""
    b = replace(BARE, exchanges=(Exchange(id="x1", start=F(-9), end=F(-3)), Exchange(id="x2", start=F(-1), end=F(4))))
    cues = webvtt.from_buffer(io.StringIO(to_webvtt_metadata(b)))
    assert [(c.start_in_seconds, c.end_in_seconds) for c in cues][1] == (0, 4)
    assert all(c.end > c.start for c in cues)
    assert "-" not in "".join(c.start + c.end for c in cues)


def test_what_has_no_column_stays_when_a_log_is_taken_in_again() -> None:
    """Who is on the mat in a round, and what a technique could hurt."""
    b = demo_breakdown(Path.cwd())
    rounds = (replace(b.rounds[0], first=Athlete(name="Ilka"), second=Athlete(name="Bram")), *b.rounds[1:])
    own = (replace(b.exchanges[0], technique="reed twist", risk="joint"), *b.exchanges[1:])
    b = replace(b, rounds=rounds, exchanges=own)
    assert from_csv(b, to_csv(b), LEXICON).breakdown == b
    renamed = from_csv(b, to_csv(b).replace("reed twist", "arm bar"), LEXICON).breakdown
    assert renamed.exchanges[0].risk == "" and renamed.rounds == b.rounds
