"""Marks come with their words, stay as long as they should, and say only what may be said."""

from __future__ import annotations

from fractions import Fraction

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from chapto.bodies.track import KeyPlace, Track, straight_line
from chapto.clock.passage import Kind
from chapto.document.breakdown import Breakdown
from chapto.document.checks import checked
from chapto.document.edit_marks import add_figure, add_mark, change_mark, put_anchor
from chapto.document.footage import Angle
from chapto.document.joints import Joint
from chapto.document.mark_kinds import MarkKind
from chapto.document.marks import Until
from chapto.document.people import Side
from chapto.document.treatments import Hold
from chapto.programme.compile import compile_programme, read_anew
from chapto.programme.mark_facts import torsos
from chapto.programme.needed import BEYOND, FARTHEST, needed_of
from chapto.programme.placed_marks import covered
from chapto.programme.programme import Programme
from chapto.programme.readings import Readings
from tests.document.samples import footage, small

F = Fraction
AT = F(14)


def tracked(b: Breakdown) -> Readings:
    """Straight lines that count as measured."""
    files = {c.id: c for c in b.footage}
    tracks = {}
    for a in b.anchors:
        keys = tuple(KeyPlace(float(files[a.footage].media_time(k.mat)), k.x, k.y, k.seen) for k in a.keys)
        line = straight_line(keys, reach=3, stays=False)
        tracks[a.id] = Track(line.at, line.x, line.y, line.doubt * 0, line.hidden, line.ends)
    return Readings(tracks)


def marked(kind: MarkKind = MarkKind.GRIP, count: int = 1, **fields: object) -> Breakdown:
    """A mark on word 5, "here,", which is tied to a hold at 14 s."""
    b = small()
    beat = replace(b.script[0].beats[0], treatment=Hold("m1"))
    b = replace(b, script=(replace(b.script[0], beats=(beat,)),))
    for i in range(count):
        b = put_anchor(b, "f1", AT, (0.3 + 0.1 * i, 0.5))
    bound = {"beat": "b1", "word": 5} if "moment" not in fields else {}
    return checked(add_mark(b, kind, anchors=tuple(a.id for a in b.anchors), **{**bound, **fields}))


def compiled(b: Breakdown) -> Programme:
    return compile_programme(b, {}, None, tracked(b))


def test_a_mark_comes_with_its_word_and_goes_with_its_hold() -> None:
    p = compiled(marked())
    (mark,) = p.marks
    word = next(w for w in p.words if w.word == 5)
    assert mark.start == int(word.start * p.fps)
    hold = next(x for x in p.passages if x.kind is Kind.HOLD and x.watch_out > mark.start)
    assert mark.end == hold.watch_out and p.marks_at(mark.end) == () and p.marks_at(mark.start) == (mark,)


def test_it_stays_until_its_line_or_its_seconds_end() -> None:
    p = compiled(marked(until=Until.BEAT))
    assert p.marks[0].end == pytest.approx(max(w.end for w in p.words) * p.fps, abs=1)
    short = compiled(marked(until=Until.SECONDS, seconds=F(1, 2)))
    assert short.marks[0].end - short.marks[0].start == 15


def test_another_camera_ends_it_and_a_mark_that_is_not_shown_says_why() -> None:
    b = replace(marked(until=Until.BEAT), footage=(footage(), footage("f2")))
    away = compiled(replace(b, angles=(Angle(start=F(10), end=F(16), camera="f2"),)))
    assert away.marks == () and "“f1” is not on the screen at its word" in away.unplaced[0].sentence
    beat = replace(b.script[0].beats[0], treatment=None)
    running = replace(
        b, script=(replace(b.script[0], beats=(beat,)),), angles=(Angle(start=F("14.5"), end=F(30), camera="f2"),)
    )
    p = compiled(checked(running))
    for mark in p.marks:
        assert all(p.time_map.passage_at(f).footage == "f1" for f in range(mark.start, mark.end))


def test_a_mark_of_a_moment_comes_whenever_the_moment_is_shown() -> None:
    b = marked(moment="m1", until=Until.SECONDS, seconds=F(1))
    once = compiled(b)
    again = compiled(replace(b, script=(replace(b.script[0], once_more=True),)))
    assert len(once.marks) == 1 and len(again.marks) == 2


def test_reading_anew_changes_the_marks_alone() -> None:
    b = change_mark(marked(MarkKind.GAP, 2), "k1", fact=True)
    bare = compile_programme(b, {})
    anew = read_anew(b, bare, tracked(b))
    assert anew.blocks is bare.blocks and anew.marks == compiled(b).marks
    assert read_anew(small(), bare, Readings()).marks == bare.marks or bare.marks


def body(b: Breakdown, side: Side, x: float, *, rests: tuple[Joint, ...]) -> Breakdown:
    """Somebody who stands upright, 0.6 of the picture high, by the table of lengths."""
    high = {Joint.HEAD: 0.93, Joint.NECK: 0.818, Joint.LEFT_HIP: 0.53, Joint.RIGHT_HIP: 0.53}
    high |= {Joint.LEFT_KNEE: 0.285, Joint.RIGHT_KNEE: 0.285, Joint.LEFT_ANKLE: 0.039, Joint.RIGHT_ANKLE: 0.039}
    high |= {Joint.LEFT_SHOULDER: 0.818, Joint.RIGHT_SHOULDER: 0.818, Joint.LEFT_ELBOW: 0.632}
    high |= {Joint.RIGHT_ELBOW: 0.632, Joint.LEFT_WRIST: 0.486, Joint.RIGHT_WRIST: 0.486}
    step = {Joint.LEFT_ANKLE: -0.04, Joint.RIGHT_ANKLE: 0.04}
    places = {j: (x + step.get(j, 0.0), 0.9 - 0.6 * h) for j, h in high.items()}
    return add_figure(b, "f1", side, AT, places, rests=rests)


ANKLES = (Joint.LEFT_ANKLE, Joint.RIGHT_ANKLE)


def test_what_is_measured_is_said_only_where_it_may_be() -> None:
    b = body(marked(MarkKind.GAP, 2, fact=True), Side.FIRST, 0.3, rests=ANKLES)
    (gap,) = compiled(b).marks
    apart = 0.1 * 16 / 9 / (0.288 * 0.6)
    assert gap.fact in (f"at least {torsos(apart)} apart", f"at least {torsos(apart - 0.1)} apart")
    assert compiled(marked(MarkKind.GAP, 2, fact=True)).marks[0].fact == "", "without a figure nothing to measure by"
    base = add_mark(b, MarkKind.BASE, figure=b.figures[0].id, beat="b1", word=5, fact=True)
    said = next(m.fact for m in compiled(base).marks if m.mark.kind is MarkKind.BASE)
    assert said == "weight is over the supports, from this camera"
    lone = add_mark(body(marked(), Side.FIRST, 0.3, rests=()), MarkKind.BASE, figure="g1", beat="b1", word=5, fact=True)
    assert next(m.fact for m in compiled(lone).marks if m.mark.kind is MarkKind.BASE) == ""


@given(st.floats(0, 30))
def test_no_length_is_quoted_finer_than_a_tenth_of_a_torso(value: float) -> None:
    number = torsos(value).split()[0]
    assert number == "a" or float(number) == pytest.approx(round(value, 1))


def test_points_are_needed_where_they_are_shown_and_a_little_beyond_their_keys() -> None:
    b = marked(MarkKind.PATH, 1, before=F(2))
    start, end = needed_of(b, compile_programme(b, {}))["a1"]
    assert AT - 2 - F(1, 2) <= start <= AT - 2 and AT + BEYOND <= end <= AT + FARTHEST
    far = replace(b, marks=(replace(b.marks[0], before=F(10)),))
    assert needed_of(far, compile_programme(far, {}))["a1"][0] == AT - FARTHEST


def test_a_cover_has_a_place_in_every_picture_of_its_stretch_whatever_is_known() -> None:
    b = put_anchor(small(), "f1", AT, (0.4, 0.4))
    b = checked(add_mark(b, MarkKind.COVER, anchors=("a1",), size=0.1, span=(F(10), F(20))))
    c = b.footage[0]
    for tracks in ({}, tracked(b).tracks):
        for mat in np.arange(10, 20, 0.21):
            (spot,) = covered(b, tracks, c, F(float(mat)).limit_denominator(1000))
            assert spot.radius >= 0.1
        assert covered(b, tracks, c, F(20)) == () and covered(b, tracks, footage("f2"), AT) == ()
    assert covered(b, {}, c, AT)[0].radius > 0.1, "what is only guessed is covered larger"
