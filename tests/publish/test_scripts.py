"""Scripts from elsewhere become sections and beats."""

from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from chapto.document import edit_script
from chapto.document.checks import checked
from chapto.programme.programme import Caption
from chapto.publish.captions import to_subrip, to_webvtt
from chapto.publish.scripts.beats_of import LONGEST, split_beats
from chapto.publish.scripts.parts import ImportedBeat, ImportedSection, ScriptFileError
from chapto.publish.scripts.plain_text import parts_of
from chapto.publish.scripts.put_in import put_parts
from chapto.publish.scripts.read import read_script
from tests.document.samples import small

MARKDOWN = """Before it all.

# The **first** try

Her knee lands on top.
It is already the trouble.

- Look at the frame.
- *Nothing* to lean on.

## Second try
1. The underhook first.
---
> Then the knee.
"""


def test_headings_make_sections_paragraphs_and_list_items_make_beats() -> None:
    assert [(p.title, texts(p)) for p in parts_of(MARKDOWN)] == [
        ("", ["Before it all."]),
        (
            "The first try",
            ["Her knee lands on top. It is already the trouble.", "Look at the frame.", "Nothing to lean on."],
        ),
        ("Second try", ["The underhook first.", "Then the knee."]),
    ]


def texts(part: ImportedSection) -> list[str]:
    return [beat.text for beat in part.beats]


@given(st.lists(st.sampled_from(["word", "knee,", "slides.", "there!", "why?"]), max_size=400))
def test_splitting_keeps_every_word_and_no_beat_is_longer_than_its_sentences_ask(words: list[str]) -> None:
    beats = split_beats(" ".join(words))
    assert " ".join(beats).split() == words
    assert all(beat[-1] in ".!?" for beat in beats[:-1])
    assert all(len(b.split()) <= LONGEST or all(w[-1] not in ".!?" for w in b.split()[:-1]) for b in beats)


def test_a_pasted_script_goes_after_the_beat_and_its_sections_behind_the_section() -> None:
    b = checked(put_parts(small(), "s1", "b1", parts_of(MARKDOWN)))
    assert [(s.title, len(s.beats)) for s in b.script] == [("Pass", 2), ("The first try", 3), ("Second try", 2)]
    assert b.script[0].beats[0] == small().script[0].beats[0]
    assert b.script[0].beats[1].text == "Before it all."


def test_an_empty_beat_is_filled_first() -> None:
    b = edit_script.rewrite(small(), "b1", "")
    b = put_parts(b, "s1", "b1", (ImportedSection("", (ImportedBeat("One."), ImportedBeat("Two."))),))
    assert [x.text for x in b.script[0].beats] == ["One.", "Two."]


@pytest.mark.parametrize(("ending", "write"), [(".srt", to_subrip), (".vtt", to_webvtt)])
def test_caption_files_come_in_as_the_words_that_were_said(tmp_path: Path, ending: str, write: object) -> None:
    captions = tuple(
        Caption(i * 2, i * 2 + 1, text) for i, text in enumerate(("Her knee & hip", "slide in.", "Watch this."))
    )
    path = tmp_path / f"said{ending}"
    path.write_text(write(captions))  # type: ignore[operator]
    assert [texts(p) for p in read_script(path)] == [["Her knee & hip slide in. Watch this."]]


@pytest.mark.parametrize(
    ("name", "data"),
    [("a.txt", b""), ("a.md", b"\n\n---\n"), ("a.txt", b"\xff\xfe\x00"), ("a.vtt", b"no captions"), ("gone.txt", None)],
)
def test_a_file_without_a_script_is_refused_in_a_sentence(tmp_path: Path, name: str, data: bytes | None) -> None:
    if data is not None:
        (tmp_path / name).write_bytes(data)
    with pytest.raises(ScriptFileError, match=rf"“{name}”.*\.$"):
        read_script(tmp_path / name)


def test_a_very_long_script_is_put_in_at_once_and_is_a_sound_document() -> None:
    text = "\n\n".join(f"Beat number {i} has its words." for i in range(36_000))
    made = checked(put_parts(small(), "s1", "", parts_of(text)))
    beats = [beat for _, beat in made.beats()]
    assert len(beats) == 36_001 and len({beat.id for beat in beats}) == 36_001
    assert beats[-1].text == "Beat number 35999 has its words."


@pytest.mark.parametrize(
    "text", ["*a " * 20_000, "# " + " " * 50_000, "`" * 50_000, "_x" * 30_000, "#" * 50_000, "." * 50_000]
)
def test_marks_by_the_thousand_are_only_text(text: str) -> None:
    made = put_parts(small(), "s1", "", parts_of(text))
    checked(made)


def test_one_word_longer_than_a_beat_may_be_is_cut(tmp_path: Path) -> None:
    made = checked(put_parts(small(), "s1", "", parts_of("x" * 50_000)))
    assert [len(beat.text) for _, beat in made.beats()][1:] == [20_000, 20_000, 10_000]


@pytest.mark.parametrize(
    ("text", "plain"), [("a * b", "a * b"), ("2*3*4", "234"), ("**b** and *i*", "b and i"), ("_one", "_one")]
)
def test_only_marks_in_pairs_round_words_go(text: str, plain: str) -> None:
    assert texts(parts_of(text)[0]) == [plain]
