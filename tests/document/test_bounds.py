"""What comes from outside is bounded in one place: never a traceback, never something that runs for hours."""

from __future__ import annotations

from fractions import Fraction as F

import pytest
from hypothesis import example, given
from hypothesis import strategies as st
from msgspec.structs import replace

from chapto.document.bounds import LATEST, LONGEST_NUMBER, clock_seconds, number, points
from chapto.document.breakdown import Breakdown, DocumentError
from chapto.document.checks import checked
from chapto.document.mattime import fraction_to_text
from chapto.document.script import Allowance, Tie
from chapto.document.treatments import Slow
from chapto.store.errors import StoreError
from chapto.store.schema import decode, encode
from tests.document.samples import small


@pytest.mark.parametrize(
    "text",
    ["1e5000", "1e999999999", "9" * 5000, "0." + "1" * 40, "1/0", "10000001", "inf", "nan", "", "1_0", "٣", "--1"],
)
def test_what_is_no_number_or_too_much_is_a_value_error(text: str) -> None:
    with pytest.raises(ValueError, match=r"“.*”|…”"):
        number(text)


@given(st.text(max_size=60))
@example("1e5000")
@example("1:" * 5000)
@example("0:0:0:1")
def test_any_text_is_a_time_within_bounds_or_none(text: str) -> None:
    found = clock_seconds(text)
    assert found is None or abs(found) <= LATEST
    given = points(text)
    assert given is None or abs(given) <= 999


@given(st.fractions(-LATEST, LATEST))
@example(F(1, 10**30) + 12)
@example(F(2**80, 3**51))
def test_every_number_is_written_so_that_it_can_be_read(value: F) -> None:
    text = fraction_to_text(value)
    assert len(text) <= LONGEST_NUMBER
    assert abs(number(text) - value) <= F(1, 10**12)


def with_beat(**changes: object) -> Breakdown:
    b = small()
    (section,) = b.script
    return replace(b, script=(replace(section, beats=(replace(section.beats[0], **changes),)),))


def with_section(**changes: object) -> Breakdown:
    b = small()
    return replace(b, script=(replace(b.script[0], **changes),))


@pytest.mark.parametrize(
    ("b", "sentence"),
    [
        (with_beat(text="word " * 5000), "longer than 20,000 characters"),
        (with_beat(text="half an emoji \ud83d", ties=()), "holds half a letter"),
        (with_beat(treatment=Slow(F(1, 10**6))), "can't run at"),
        (with_beat(ties=(Tie(word=5, moment="m1", hold_seconds=F(10**6)),)), "or over an hour"),
        (with_section(allow=Allowance(rates=tuple(F(i, 2000) for i in range(1, 1999)))), "makes no sense"),
        (with_section(allow=Allowance(hold_seconds=F(10**6))), "makes no sense"),
        (with_section(title="T" * 5000), "longer than 1,000 characters"),
        (
            replace(small(), moments=(*small().moments, replace(small().moments[0], id="m9", at=F(10**9)))),
            "too far off",
        ),
        (replace(small(), target=F(10**9)), "be months"),
    ],
)
def test_what_no_bout_needs_is_refused_in_a_sentence(b: Breakdown, sentence: str) -> None:
    with pytest.raises(DocumentError, match=sentence):
        checked(b)


@pytest.mark.parametrize("text", ["1e5000", "1e999999999", "9" * 5000, "1/0"])
def test_such_numbers_in_a_file_are_a_sentence(text: str) -> None:
    lines = encode(small()).decode().replace('"14"', f'"{text}"').splitlines()
    data = "\n".join(line for line in lines if '"checksum"' not in line)
    with pytest.raises(StoreError, match="is damaged: “"):
        decode(data.encode(), "x.chapto")


def test_half_a_letter_is_never_half_written() -> None:
    with pytest.raises(StoreError, match="half a letter"):
        encode(with_beat(text="\ud83d", ties=()))


def test_nothing_is_held_or_silent_for_less_than_no_time() -> None:
    with pytest.raises(DocumentError):
        checked(with_beat(ties=(Tie(word=5, moment="m1", hold_seconds=F(-1, 10)),)))
    with pytest.raises(DocumentError):
        checked(with_section(allow=Allowance(silence_seconds=F(-1, 10))))
    assert checked(with_beat(ties=(Tie(word=5, moment="m1", hold_seconds=F(0)),)))
