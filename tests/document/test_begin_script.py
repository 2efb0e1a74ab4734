"""The first words, words without a picture, and finding and replacing."""

from __future__ import annotations

from fractions import Fraction as F

from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from chapto.document.begin_script import begin_to_write, spread_over_exchanges, without_picture
from chapto.document.bout import Exchange
from chapto.document.breakdown import Breakdown
from chapto.document.checks import checked
from chapto.document.find_words import find_words, replace_found
from chapto.document.script import Beat, Section, words_of
from tests.document.samples import footage, small


def logged(*lengths: int) -> Breakdown:
    at, exchanges = 0, []
    for i, length in enumerate(lengths):
        exchanges.append(Exchange(id=f"x{i}", start=F(at), end=F(at + length), technique=f"pass {i}"))
        at += length + 1
    return Breakdown(title="x", footage=(footage("f1", 0, 600),), exchanges=tuple(exchanges))


def test_the_first_words_are_about_the_exchange_that_is_looked_at() -> None:
    b = begin_to_write(logged(10, 10, 10), "Here", F(15))
    assert (b.script[0].exchange, b.script[0].title, b.script[0].beats[0].text) == ("x1", "Pass 1", "Here")
    second = begin_to_write(b, "And", F(15))
    assert second.script[1].exchange == "x2"
    bare = begin_to_write(Breakdown(title="x"), "Here", F(0))
    assert (bare.script[0].exchange, bare.script[0].beats[0].text) == ("", "Here")


@given(st.lists(st.integers(2, 60), min_size=1, max_size=8), st.lists(st.integers(1, 30), min_size=1, max_size=30))
def test_words_are_spread_in_order_and_none_is_lost(lengths: list[int], words: list[int]) -> None:
    beats = tuple(Beat(id=f"b{i}", text=" ".join([f"w{i}"] * n)) for i, n in enumerate(words))
    b = replace(logged(*lengths), script=(Section(id="s1", beats=beats),))
    made = checked(spread_over_exchanges(b))
    assert [beat for _, beat in made.beats()] == list(beats) and without_picture(made) == ()
    order = [int(s.exchange[1:]) for s in made.script]
    assert order == sorted(order)
    if len(beats) >= 4 * len(lengths) and max(words) <= 3 * min(words):
        for s in made.script:
            x = made.exchange(s.exchange)
            share = sum(len(words_of(beat.text)) for beat in s.beats) / sum(words)
            assert abs(share - float(x.end - x.start) / sum(lengths)) <= 2 * max(words) / sum(words)


def test_without_a_free_exchange_nothing_moves_and_other_sections_stay() -> None:
    b = small()
    assert spread_over_exchanges(b) == b
    talk = Section(id="s2", beats=(Beat(id="b2", text="More of it"),))
    told = replace(b, script=(*b.script, talk))
    assert spread_over_exchanges(told) == told
    more = replace(told, exchanges=(*b.exchanges, Exchange(id="x2", start=F(40), end=F(50), technique="sweep")))
    made = spread_over_exchanges(more)
    assert made.script[0] == b.script[0] and [s.exchange for s in made.script] == ["x1", "x2"]


def test_words_are_found_whatever_their_capitals_and_ties_stay() -> None:
    b = small("Watch this. The knee slides here, and the Knee is past.")
    found = find_words(b, "knee")
    text = b.script[0].beats[0].text
    assert [text[x.start : x.end] for x in found] == ["knee", "Knee"]
    made = replace_found(b, found, "shin")
    assert made.script[0].beats[0].text == "Watch this. The shin slides here, and the shin is past."
    assert made.script[0].beats[0].ties == b.script[0].beats[0].ties
    assert find_words(b, "") == () and find_words(b, "elbow") == ()
