"""Captions that a viewer switches on keep clear of what is painted at the foot."""

from __future__ import annotations

from fractions import Fraction as F

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from chapto.document import edit_log, edit_script
from chapto.document.breakdown import Breakdown
from chapto.programme.caption_places import caption_zone, raised_captions
from chapto.programme.compile import compile_programme
from chapto.programme.placed import Caption
from chapto.programme.programme import Programme
from tests.document.samples import small

WIDE = 16 / 9


def test_a_caption_is_centred_at_the_foot_in_letters_of_a_twentieth_of_the_height() -> None:
    """W3C WebVTT: 5 % of the picture's height; two lines of 37 letters (BBC) take about half of a wide picture."""
    left, top, right, foot = caption_zone(Caption(F(0), F(1), "x" * 37 + "\nshort"), WIDE)
    assert left == pytest.approx(1 - right) and foot == 1
    assert 0.45 < right - left < 0.62 and foot - top == pytest.approx(2 * 1.2 * 0.05 + 0.05)


def test_a_raised_one_begins_where_its_line_says() -> None:
    _, top, _, foot = caption_zone(Caption(F(0), F(1), "one\ntwo"), WIDE, 14)
    assert (top, foot) == pytest.approx((0.14, 0.26))


def labelled(words: str) -> tuple[Breakdown, Programme]:
    b = small("Watch how she goes about it this time. The knee slides here, and she is past his legs for good.")
    b = edit_script.untie_word(b, "b1", 5)
    b = edit_script.tie_word(b, "b1", 11, "m1")
    b = edit_log.set_label(b, "m1", words)
    return b, compile_programme(b, {})


def shown_with_a_label(p: Programme) -> set[int]:
    return {
        i for i, c in enumerate(p.captions)
        for x in p.labels if x.start < c.end * p.fps and x.end > c.start * p.fps
    }  # fmt: skip


def test_a_long_label_raises_what_is_said_meanwhile_and_a_short_one_stands_beside_it() -> None:
    _, p = labelled("Outside heel hook (kakato garami), defended")
    assert p.labels and set(raised_captions(p, WIDE)) == shown_with_a_label(p) != set()
    _, p = labelled("Tap")
    assert p.labels and not raised_captions(p, WIDE)


@given(st.text("abcdefgh ", min_size=1, max_size=40), st.sampled_from([16 / 9, 1.0, 9 / 16]))
def test_what_is_not_raised_meets_no_label_as_wide_as_its_letters_may_be(words: str, aspect: float) -> None:
    """A letter of a label is half as wide as it is high on the whole, and as high as its slip allows (0.56 of it)."""
    _, p = labelled(words)
    raised = raised_captions(p, aspect)
    for i in shown_with_a_label(p) - set(raised):
        left = caption_zone(p.captions[i], aspect)[0]
        assert left >= 0.05 + 0.066 * (0.82 + 0.38 + 0.5 * 0.56 * max(len(x.text) for x in p.labels)) / aspect


def test_a_caution_raises_all_of_them() -> None:
    b, _ = labelled("Tap")
    care = replace(b, cautions=True, exchanges=tuple(replace(x, technique="rear naked choke") for x in b.exchanges))
    p = compile_programme(care, {})
    meanwhile = {
        i for i, c in enumerate(p.captions)
        for x in p.cautions if x.start < c.end * p.fps and x.end > c.start * p.fps
    }  # fmt: skip
    assert p.cautions and meanwhile <= set(raised_captions(p, WIDE))
