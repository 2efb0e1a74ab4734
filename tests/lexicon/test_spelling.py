"""Names written wrong in running text, and plain text in which nothing is wrong."""

from __future__ import annotations

import random
from pathlib import Path

import pytest

from chapto.demo.story import demo_breakdown
from chapto.lexicon.lexicon import shipped_lexicon
from chapto.lexicon.spelling import Spelling

LEXICON = shipped_lexicon()
SPELLING = Spelling(LEXICON)
ROOT = Path(__file__).parents[2]


@pytest.mark.parametrize(
    ("text", "right"),
    [
        ("She hits the signal leg, again.", "single leg"),
        ("Uncle pick!", "Ankle pick"),
        ("a guilotine from here", "guillotine"),
        ("the underhok", "underhook"),
        ("the undehook", "underhook"),
        ("he turttles", "turtles"),
    ],
)
def test_a_name_written_wrong_is_told_with_the_right_one(text: str, right: str) -> None:
    assert [s.right for s in SPELLING.slips(text)] == [right]


def test_usual_misspellings_of_the_lexicon_are_found_in_a_sentence() -> None:
    right = {n.casefold() for x in (*LEXICON.techniques.values(), *LEXICON.positions.values()) for n in x.names()}
    wrong = [(w, t) for t in LEXICON.techniques.values() for w in t.wrong if w not in right]
    found = [(w, t) for w, t in wrong if [s.written for s in SPELLING.slips(f"Then the {w} comes.")] == [w]]
    assert len(found) == len(wrong) > 30
    for w, t in found:
        assert SPELLING.slips(f"Then the {w} comes.")[0].right in t.names()


def test_one_wrong_letter_in_a_long_name_is_found_far_more_often_than_not() -> None:
    rng = random.Random(3)
    words = sorted({w for t in LEXICON.techniques.values() for w in t.en.split() if len(w) >= 8 and w.isalpha()})
    asked = []
    for word in words:
        i = rng.randrange(2, len(word) - 1)
        asked.append((word[:i] + word[i + 1 :], word))
    found = [w for w, right in asked if any(s.right == right for s in SPELLING.slips(f"the {w} here"))]
    assert len(found) >= 0.8 * len(asked) and len(asked) >= 10


def test_nothing_is_wrong_in_the_demos_script_in_the_guide_or_in_a_licence() -> None:
    texts = [beat.text for _, beat in demo_breakdown(Path("/")).beats()]
    texts += (ROOT / "docs" / "guide.md").read_text("utf-8").splitlines()
    texts += (ROOT / "LICENSE").read_text("utf-8").splitlines()
    assert sum(len(t.split()) for t in texts) > 6000
    assert [s for t in texts for s in SPELLING.slips(t)] == []


def test_right_names_with_their_endings_are_right() -> None:
    for t in LEXICON.techniques.values():
        for name in t.names():
            assert SPELLING.slips(f"Look at the {name} now, and two {name}s.") == ()


@pytest.mark.parametrize("said", ["hipping", "tapped", "framing", "bridging", "choked", "turtled", "passer"])
def test_a_word_of_the_trade_with_any_ending_is_right(said: str) -> None:
    assert SPELLING.slips(f"He is {said} here.") == ()


def test_every_single_word_of_the_lexicon_may_be_bent() -> None:
    """Doubled letters and dropped ones as English has them: “hip, hipping”, “frame, framing”."""
    for word in sorted(w for w in SPELLING.words() if w.isalpha() and w.isascii() and len(w) > 3):
        stem = word.removesuffix("e") if word.endswith("e") else word + word[-1]
        assert SPELLING.slips(f"So {stem}ing there, {stem}ed here.") == (), word


@pytest.mark.parametrize(
    "text",
    ["He went to hold on.", "The neighbor mat is loud.", "She is a wizard there.", "They stand on the mound.",
     "We cross phase two.", "He likes to hold the collar.", "I regard this as safe."],
)  # fmt: skip
def test_ordinary_english_is_never_changed(text: str) -> None:
    """Such words are names only in speech that was recognised, and are asked there."""
    assert SPELLING.slips(text) == ()
