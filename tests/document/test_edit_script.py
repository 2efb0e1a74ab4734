"""Edits of the script keep ties on their words."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from chapto.document import edit_breakdown, edit_script
from chapto.document.breakdown import Breakdown, DocumentError
from chapto.document.checks import checked
from chapto.document.script import Beat, Tie, word_spans, words_of
from chapto.document.treatments import Hold
from tests.document.samples import WORDS, breakdowns, small


def beat_of(b: Breakdown) -> Beat:
    return b.script[0].beats[0]


def tied_words(b: Breakdown) -> list[str]:
    return [words_of(beat.text)[t.word] for _, beat in b.beats() for t in beat.ties]


@pytest.mark.parametrize(
    ("text", "tied"),
    [
        ("Now watch this. The knee slides here, and she is past.", ["here,"]),
        ("Watch. The knee slides here, done.", ["here,"]),
        ("Watch this. The knee slides there, and she is past.", ["there,"]),
        ("Watch this. The knee slides Here, and she is past.", ["Here,"]),
        ("Watch this. The knee and she is past.", []),
        ("", []),
    ],
)
def test_a_tie_stays_on_its_word_when_the_text_changes(text: str, tied: list[str]) -> None:
    made = checked(edit_script.rewrite(small(), "b1", text))
    assert tied_words(made) == tied


def test_splitting_and_joining_a_beat_gives_back_the_words_and_the_ties() -> None:
    b = small()
    split = checked(edit_script.split_beat(b, "b1", 12))
    assert [x.text for x in split.script[0].beats] == ["Watch this.", "The knee slides here, and she is past."]
    assert tied_words(split) == ["here,"]
    joined = checked(edit_script.join_beat(split, split.script[0].beats[1].id))
    assert (beat_of(joined).text, beat_of(joined).ties) == (beat_of(b).text, beat_of(b).ties)


@pytest.mark.parametrize("place", [0, 3, 200])
def test_a_beat_is_only_split_between_words(place: int) -> None:
    with pytest.raises(DocumentError, match="between two of its words"):
        edit_script.split_beat(small(), "b1", place)


def test_tying_a_word_twice_replaces_the_tie() -> None:
    b = edit_script.tie_word(edit_script.tie_word(small(), "b1", 8, "m1"), "b1", 8, "m2")
    assert beat_of(b).ties == (Tie(word=5, moment="m1"), Tie(word=8, moment="m2"))
    assert beat_of(edit_script.untie_word(b, "b1", 5)).ties == (Tie(word=8, moment="m2"),)


def test_a_word_or_moment_that_is_not_there_cannot_be_tied() -> None:
    with pytest.raises(DocumentError, match="no such word"):
        edit_script.tie_word(small(), "b1", 99, "m1")
    with pytest.raises(DocumentError, match="no moment"):
        edit_script.tie_word(small(), "b1", 1, "m9")


def test_sections_move_as_far_as_there_is_room() -> None:
    b = edit_script.add_section(edit_script.add_section(small(), title="Two"), title="Three")
    assert [s.title for s in edit_script.move_section(b, "s1", 5).script] == ["Two", "Three", "Pass"]
    assert edit_script.move_section(b, "s1", -1).script == b.script


def test_a_new_beat_comes_after_the_one_that_is_named() -> None:
    b = edit_script.add_beat(edit_script.add_beat(small(), "s1", "last"), "s1", "second", after="b1")
    assert [x.text for x in b.script[0].beats][1:] == ["second", "last"]
    assert len({x.id for _, x in b.beats()}) == 3


def test_a_treatment_is_set_and_taken_back() -> None:
    held = edit_script.treat(small(), "b1", Hold("m1"))
    assert beat_of(held).treatment == Hold("m1")
    assert edit_script.treat(held, "b1", None) == small()


@given(breakdowns(), st.data())
def test_no_edit_leaves_a_document_that_contradicts_itself(b: Breakdown, data: st.DataObject) -> None:
    beats = [beat.id for _, beat in b.beats()]
    for _ in range(4):
        if not beats:
            return
        beat = data.draw(st.sampled_from(beats))
        text = " ".join(data.draw(st.lists(st.sampled_from(WORDS), max_size=10)))
        b = checked(edit_script.rewrite(b, beat, text))
        spans = word_spans(text)
        if len(spans) > 1:
            b = checked(edit_script.split_beat(b, beat, spans[len(spans) // 2][0]))
        b = checked(edit_script.join_beat(b, beat))
        beats = [x.id for _, x in b.beats()]
    assert b.script[0].id == "s1"
    # Whatever was split and joined, every tie still belongs to a word that is there.
    assert all(0 <= t.word < len(words_of(x.text)) for _, x in b.beats() for t in x.ties)


def test_words_are_cut_with_their_ties_and_the_sentence_stays_one() -> None:
    b = edit_script.cut_words(small(), "b1", 6, 10)
    assert beat_of(b).text == "Watch this. The knee slides here." and tied_words(b) == ["here."]
    without_start = edit_script.cut_words(small(), "b1", 0, 2)
    assert beat_of(without_start).text.startswith("The knee") and tied_words(without_start) == ["here,"]
    assert tied_words(edit_script.cut_words(small(), "b1", 2, 6)) == []
    with pytest.raises(DocumentError, match="at least one word"):
        edit_script.cut_words(small(), "b1", 0, 10)


def test_a_beat_goes_up_and_down_through_the_sections_and_back() -> None:
    b = edit_script.add_beat(edit_script.add_section(edit_script.add_beat(small(), "s1", "Two."), title="Next"), "s2")
    order = [x.id for _, x in b.beats()]
    down = edit_script.move_beat(edit_script.move_beat(b, "b1", 1), "b1", 1)
    assert [[x.id for x in s.beats] for s in down.script] == [["b2"], ["b1", "b3"]]
    back = edit_script.move_beat(edit_script.move_beat(down, "b1", -1), "b1", -1)
    assert back == b and [x.id for _, x in edit_script.move_beat(b, "b1", -1).beats()] == order


def test_a_tie_moves_to_another_word_of_its_beat() -> None:
    assert tied_words(edit_script.move_tie(small(), "b1", 5, 4)) == ["slides"]
    with pytest.raises(DocumentError, match="not tied"):
        edit_script.move_tie(small(), "b1", 4, 3)


def test_narrators_come_and_go_and_their_beats_are_kept() -> None:
    b = edit_breakdown.add_narrator(small(), "Bram")
    b = edit_script.set_narrator(b, "b1", "n2")
    assert b.narrator(beat_of(b)).name == "Bram" and b.narrators[0].guide_voice != b.narrators[1].guide_voice
    left = checked(edit_breakdown.remove_narrator(b, "n2"))
    assert left.narrator(beat_of(left)).name == "Narrator"
    with pytest.raises(DocumentError, match="at least one narrator"):
        edit_breakdown.remove_narrator(left, "n1")
    with pytest.raises(DocumentError, match="words a minute"):
        checked(edit_breakdown.change_narrator(b, "n2", pace=20))


def test_a_wished_length_is_a_limit_only_when_there_is_one() -> None:
    assert edit_breakdown.set_target(small(), 0, limit=True).target_is_limit is False
    assert checked(edit_breakdown.set_target(small(), 90, limit=True)).target == 90
