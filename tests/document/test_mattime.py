"""Exact numbers survive a file."""

from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from chapto.document.mattime import decode_hook, fraction_to_text


@given(st.fractions(-10_000_000, 10_000_000, max_denominator=10**12))
def test_every_fraction_comes_back_exactly(value: Fraction) -> None:
    assert decode_hook(Fraction, fraction_to_text(value)) == value


@pytest.mark.parametrize(
    ("value", "text"),
    [
        (Fraction(25, 2), "12.5"),
        (Fraction(1001, 30000), "1001/30000"),
        (Fraction(-1, 4), "-0.25"),
        (Fraction(30), "30"),
    ],
)
def test_decimals_are_written_where_they_are_exact(value: Fraction, text: str) -> None:
    assert fraction_to_text(value) == text


@pytest.mark.parametrize("bad", ["", "a", "1/0", "1,5"])
def test_what_is_no_number_is_refused(bad: str) -> None:
    with pytest.raises(ValueError, match="no exact number"):
        decode_hook(Fraction, bad)


def test_floating_numbers_are_refused_because_they_are_not_exact() -> None:
    with pytest.raises(ValueError, match="written as text"):
        decode_hook(Fraction, 12.5)
