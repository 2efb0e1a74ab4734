"""Whatever a document says: it is reviewed, and what a press offers leaves it whole."""

from __future__ import annotations

import json
import os
from fractions import Fraction

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from chapto.app.review.rows import rows_of
from chapto.document.bout import MomentKind, Outcome
from chapto.document.breakdown import Breakdown, DocumentError
from chapto.document.checks import checked
from chapto.document.people import Athlete, Side
from chapto.document.reviewing import Waiver, WatchNote
from chapto.document.script import BeatKind
from chapto.errors import ChaptoError
from chapto.programme.compile import compile_programme
from chapto.review.as_data import as_data
from chapto.review.limits import ReviewError
from chapto.review.own_limits import drop_limit, limits_file, set_limit, users_limits
from chapto.review.report_html import report_html
from chapto.review.report_text import report_text
from chapto.review.review import Reviewer, review
from tests.document.samples import breakdowns, small

SOAKING = int(os.environ.get("CHAPTO_EXAMPLES", "0"))
SAID = (
    "Moss shoots the knee slide here", "with thirty seconds left", "two nil now", "second round", "the third try",
    "this is safe", "three steps", "use the code", "link below", "her left knee", "from mount", "Wrenn", "", "… – …",
    "a minute and a half to go", "knee slide fails", "“", "0–0", "right there right there",
)  # fmt: skip


@st.composite
def said_anything(draw: st.DrawFn) -> Breakdown:
    """Random documents in which all kinds of claims are made."""
    b = draw(breakdowns())
    texts = st.lists(st.sampled_from(SAID), max_size=5).map(" ".join)
    kinds = st.sampled_from(list(BeatKind))
    script = tuple(
        replace(s, beats=tuple(
            replace(beat, text=f"{beat.text} {draw(texts)}", kind=draw(kinds)) for beat in s.beats
        ))
        for s in b.script
    )  # fmt: skip
    exchanges = tuple(
        replace(
            x, technique=draw(st.sampled_from(["knee slide", "heel hook", "", "something new"])),
            by=draw(st.sampled_from([None, *Side])), outcome=draw(st.sampled_from([None, *Outcome])),
        )
        for x in b.exchanges
    )  # fmt: skip
    moments = tuple(replace(m, kind=draw(st.sampled_from(list(MomentKind)))) for m in b.moments)
    notes = (WatchNote(id="w1", beat="b1", word=99), WatchNote(id="w2", beat="gone", after=Fraction(10**6)))
    waivers = (Waiver(check="nothing", reason="x"), Waiver(check="ties met", reason="x", beat="b1", value=Fraction(0)))
    b = replace(b, script=script, exchanges=exchanges, moments=moments, notes=notes, waivers=waivers)
    return checked(replace(
        b, first=Athlete(name="Wren"), for_beginners=draw(st.booleans()), cautions=draw(st.booleans()),
        target=Fraction(draw(st.sampled_from([0, 1, 60]))), target_is_limit=draw(st.booleans()),
    ))  # fmt: skip


@settings(max_examples=SOAKING or 25)
@given(said_anything())
def test_any_document_is_reviewed_and_a_second_look_finds_the_same(b: Breakdown) -> None:
    programme = compile_programme(b, {})
    reviewer = Reviewer()
    first, again = reviewer.review(b, programme), reviewer.review(b, programme)
    assert [f.finding.sentence for f in first.found] == [f.finding.sentence for f in again.found]
    assert [f.finding.sentence for f in review(b, programme).found] == [f.finding.sentence for f in first.found]
    keys = [r.key for r in rows_of(first) if r.found is not None]
    assert len(keys) == len(set(keys)), "every finding can be told from every other"
    assert json.dumps(as_data(first)) and report_text(first) and report_html(first, "<b>").count("<b>") == 0
    for f in first.found:
        at = f.finding.at
        assert f.finding.sentence and (at is None or 0 <= at <= max(programme.seconds, 10**6))


@settings(max_examples=SOAKING or 25)
@given(said_anything())
def test_what_a_press_offers_leaves_a_whole_document(b: Breakdown) -> None:
    for f in review(b, compile_programme(b, {})).found:
        mend, ask = f.finding.mend, f.finding.ask
        if mend is not None:
            try:
                assert checked(mend.make(b).breakdown) != b
            except (ReviewError, DocumentError):
                assert mend.slow, f.finding.sentence
        if ask is not None:
            assert checked(ask.answer(b, "https://example.org")) != b


def test_limits_of_ones_own_that_make_no_sense_are_said_and_left_out() -> None:
    place = limits_file()
    place.parent.mkdir(parents=True, exist_ok=True)
    try:
        place.write_text(
            'still-longest = 3\n[pace-most]\nvalue = "-5"\n[nothing]\nvalue = "1"\n[repeats]\nvalue = "20"\n'
        )
        limits, troubles = users_limits()
        assert len(troubles) == 3 and limits["repeats"].value == 20 and limits["pace-most"].value == 260
        place.write_text("[[[")
        limits, troubles = users_limits()
        assert len(troubles) == 1 and limits["repeats"].value == 8
        with pytest.raises(ChaptoError):
            set_limit("repeats", "5")
        assert place.read_text() == "[[[", "what can't be read is never replaced"
        place.unlink()
        for typed in ("", "soon", "0", "-3", "1/0", "9" * 60):
            with pytest.raises(ChaptoError):
                set_limit("repeats", typed)
        assert set_limit("true-peak", "−2").value == -2 and set_limit("repeats", "5,5").value == Fraction(11, 2)
        drop_limit("true-peak")
        assert set(users_limits()[0]) and "true-peak" not in place.read_text()
    finally:
        place.unlink(missing_ok=True)


def test_a_waiver_needs_a_reason_and_a_note_a_place() -> None:
    for bad in (
        replace(small(), waivers=(Waiver(check="pace", reason=" "),)),
        replace(small(), notes=(WatchNote(id="w1", word=-1),)),
        replace(small(), notes=(WatchNote(id="x1"),)),
        replace(small(), waivers=(Waiver(check="pace", reason="x" * 30_000),)),
        replace(small(), about="x" * 30_000),
    ):
        with pytest.raises(DocumentError):
            checked(bad)
