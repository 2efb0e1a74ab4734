"""Captions that can be read."""

from fractions import Fraction

from hypothesis import given
from hypothesis import strategies as st

from chapto.pacing.spoken import estimate
from chapto.programme.captions import LINE, captions_of
from chapto.programme.programme import PlacedWord
from tests.document.samples import WORDS

F = Fraction


def placed(text: str, *, pace: int = 190, after: int = 0, beat: str = "b1") -> list[PlacedWord]:
    line, at = estimate(text, pace), F(after)
    return [
        PlacedWord(beat, i, w, at + a, at + z)
        for i, (w, (a, z)) in enumerate(zip(text.split(), line.words, strict=True))
    ]


def test_captions_break_at_phrases() -> None:
    words = placed("Her knee lands on top of his thigh, and that is already the trouble. Look at his far arm.")
    assert [c.text.replace("\n", " ") for c in captions_of(words)] == [
        "Her knee lands on top of his thigh, and that is already the trouble.",
        "Look at his far arm.",
    ]


def test_two_beats_never_share_a_caption() -> None:
    words = placed("First.") + placed("Second.", after=1, beat="b2")
    assert [c.text for c in captions_of(words)] == ["First.", "Second."]


@given(st.lists(st.sampled_from(WORDS), min_size=1, max_size=60), st.integers(160, 260))
def test_at_most_two_lines_all_words_none_twice(texts: list[str], pace: int) -> None:
    """Two lines at most: BBC Subtitle Guidelines."""
    cues = captions_of(placed(" ".join(texts), pace=pace))
    assert " ".join(c.text.replace("\n", " ") for c in cues).split() == texts
    for cue in cues:
        lines = cue.text.split("\n")
        assert len(lines) <= 2
        assert all(len(line) <= LINE for line in lines)
        assert cue.start < cue.end


def test_a_short_caption_lingers_when_nothing_follows() -> None:
    (cue,) = captions_of(placed("Watch the hips now please", pace=260))
    assert cue.end - cue.start >= F(3, 10) * 5
