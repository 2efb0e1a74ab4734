"""Marks hang on words and on points of the picture, and go with them."""

from __future__ import annotations

from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from chapto.document import edit_footage, edit_log, edit_script
from chapto.document.breakdown import Breakdown, DocumentError
from chapto.document.checks import checked, problems
from chapto.document.edit_marks import (
    add_figure,
    add_joint,
    add_mark,
    change_mark,
    copy_figure,
    hide_between,
    put_anchor,
    remove_figure,
    remove_key,
    remove_mark,
    set_key,
)
from chapto.document.joints import Joint
from chapto.document.mark_kinds import RULES, MarkKind, MarkState
from chapto.document.marks import Key, Mark, is_hidden
from chapto.document.people import Side
from chapto.store.schema import decode, encode
from tests.document.samples import small

HERE, THERE = (0.4, 0.5), (0.6, 0.55)
AT = Fraction(14)


def marked(kind: MarkKind = MarkKind.GRIP, word: int = 5, **fields: object) -> Breakdown:
    """A grip on word 5, "here,"."""
    b = put_anchor(small(), "f1", AT, HERE)
    return checked(add_mark(b, kind, anchors=(b.anchors[-1].id,), beat="b1", word=word, **fields))


def test_a_mark_stays_on_its_word_while_the_words_around_it_change() -> None:
    b = marked()
    longer = edit_script.rewrite(b, "b1", "Now watch this closely. The knee slides here, and she is past.")
    assert edit_script.words_of(longer.find_beat("b1")[1].text)[longer.marks[0].word] == "here,"
    cut = edit_script.cut_words(longer, "b1", 0, 1)
    assert edit_script.words_of(cut.find_beat("b1")[1].text)[cut.marks[0].word] == "here,"
    split = edit_script.split_beat(b, "b1", len("Watch this."))
    assert (split.marks[0].beat, split.marks[0].word) == (split.script[0].beats[1].id, 3)
    joined = edit_script.join_beat(split, split.marks[0].beat)
    assert (joined.marks, joined.anchors) == (b.marks, b.anchors)
    checked(joined)


def test_a_mark_goes_with_its_word_its_beat_its_section_its_moment_and_its_footage() -> None:
    b = marked()
    gone = (
        edit_script.cut_words(b, "b1", 5, 6),
        edit_script.remove_beat(b, "b1"),
        edit_script.remove_section(b, "s1"),
        edit_footage.remove_footage(b, "f1"),
        remove_mark(b, b.marks[0].id),
    )
    assert all((x.marks, x.anchors) == ((), ()) for x in gone)
    on_moment = change_mark(b, b.marks[0].id, beat="", word=0, moment="m1")
    assert edit_log.remove_logged(checked(on_moment), "m1").marks == ()


def test_what_is_drawn_stays_on_its_picture_when_the_file_moves_on_the_clock() -> None:
    b = marked(MarkKind.GRIP)
    cover = checked(add_mark(b, MarkKind.COVER, anchors=b.marks[0].anchors, span=(Fraction(10), Fraction(20))))
    moved = edit_footage.place_footage(cover, {"f1": (Fraction(7), Fraction(1, 1000))})
    was, now = cover.footage[0], moved.footage[0]
    assert now.media_time(moved.anchors[0].keys[0].mat) == was.media_time(AT)
    assert tuple(now.media_time(t) for t in moved.marks[1].span or ()) == (10, 20)
    again = edit_footage.change_footage(moved, "f1", offset=Fraction(0), drift=Fraction(0))
    assert (again.anchors, again.marks) == (cover.anchors, cover.marks)


def test_keys_are_put_moved_and_taken_away_and_the_last_one_stays() -> None:
    b = marked()
    a = b.anchors[0].id
    two = set_key(set_key(b, a, Fraction(16), THERE), a, Fraction(12), HERE)
    assert [k.mat for k in two.anchors[0].keys] == [12, 14, 16]
    assert set_key(two, a, Fraction(16), HERE).anchors[0].keys[-1] == Key(mat=Fraction(16), x=0.4, y=0.5)
    with pytest.raises(DocumentError, match="at least one place"):
        remove_key(remove_key(remove_key(two, a, Fraction(12)), a, AT), a, Fraction(16))
    hidden = hide_between(two, a, (Fraction(13), HERE), (Fraction(15), THERE)).anchors[0]
    assert [(k.mat, k.seen) for k in hidden.keys] == [(12, True), (13, False), (15, True), (16, True)]
    assert [is_hidden(hidden, Fraction(t)) for t in (11, 13, 14, 15)] == [False, True, True, False]


def test_a_figure_lends_its_points_to_marks_and_keeps_them() -> None:
    places = {joint: (0.3 + 0.02 * i, 0.4 + 0.02 * i) for i, joint in enumerate(Joint)}
    b = add_figure(small(), "f1", Side.SECOND, AT, places, rests=(Joint.LEFT_ANKLE, Joint.RIGHT_ANKLE))
    figure = b.figures[0]
    b = add_mark(b, MarkKind.SPOTLIGHT, figure=figure.id, beat="b1", word=5)
    b = checked(add_mark(b, MarkKind.GRIP, anchors=(figure.anchors[6],), beat="b1", word=2))
    assert len(remove_mark(b, b.marks[1].id).anchors) == 14
    left = checked(remove_figure(b, figure.id))
    assert [m.kind for m in left.marks] == [MarkKind.GRIP] and len(left.anchors) == 1
    copy = checked(copy_figure(b, figure.id, Fraction(17), places))
    assert copy.figures[1].rests == figure.rests and len(copy.anchors) == 28
    one = add_figure(small(), "f1", Side.FIRST, AT, {Joint.HEAD: HERE})
    more = add_joint(add_joint(one, one.figures[0].id, Joint.NECK, AT, THERE), one.figures[0].id, Joint.HEAD, AT, THERE)
    assert len(checked(more).figures[0].anchors) == 2 and more.anchors[0].keys[0].x == 0.6


@pytest.mark.parametrize(
    ("wrong", "said"),
    [
        ({"anchors": ()}, "1 to 1 are possible"),
        ({"anchors": ("a9",)}, "a point that is not there"),
        ({"word": 40}, "a word that is not there"),
        ({"moment": "m1"}, "either with a word or with a moment"),
        ({"state": MarkState.OPEN}, "can't be open"),
        ({"size": float("nan")}, "can't be that large"),
        ({"zoom": Fraction(50)}, "can't magnify"),
        ({"slip": (2.0, 0.5)}, "outside of the picture"),
        ({"words": "x" * 2000}, "is longer than"),
        ({"span": (Fraction(1), Fraction(2))}, "covers no stretch"),
        ({"figure": "g1"}, "a figure that is not there"),
    ],
)
def test_marks_that_contradict_the_document_are_refused_in_a_sentence(wrong: dict[str, object], said: str) -> None:
    b = marked()
    broken = replace(b, marks=(replace(b.marks[0], **wrong),))
    assert any(said in sentence for sentence in problems(broken))


@pytest.mark.parametrize("place", [(float("inf"), 0.5), (0.5, -7.0), (float("nan"), 0.2)])
def test_points_off_every_picture_are_refused(place: tuple[float, float]) -> None:
    b = marked()
    anchor = replace(b.anchors[0], keys=(Key(mat=AT, x=place[0], y=place[1]),))
    assert any("where no picture is" in s for s in problems(replace(b, anchors=(anchor,))))


@given(st.lists(st.tuples(st.fractions(0, 100, max_denominator=30), st.floats(0, 1), st.floats(0, 1)), max_size=12))
def test_keys_in_any_order_make_a_document_that_is_read_back_the_same(
    keys: list[tuple[Fraction, float, float]],
) -> None:
    b = marked()
    for mat, x, y in keys:
        b = set_key(b, b.anchors[0].id, mat, (x, y))
    assert decode(encode(checked(b)), "marked.chapto") == b


def test_every_kind_says_what_to_put_down_and_fits_its_own_rule() -> None:
    for kind, rule in RULES.items():
        b = small()
        for i in range(rule.least):
            b = put_anchor(b, "f1", AT, (0.1 * i, 0.5), sticks=rule.sticks)
        bound = {} if kind is MarkKind.COVER else {"beat": "b1", "word": 5}
        made = checked(add_mark(b, kind, anchors=tuple(a.id for a in b.anchors), **bound))
        assert all(rule.role(i) for i in range(rule.most))
        assert made.marks[0].stands == (rule.states[0] if rule.states else None)
        assert isinstance(made.marks[0], Mark)
