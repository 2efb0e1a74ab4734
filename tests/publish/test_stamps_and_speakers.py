"""Times are never words, speakers are known by their marks, and captions come in as machines make them."""

from __future__ import annotations

from fractions import Fraction
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from chapto.publish.scripts.parts import ImportedBeat, speakers_of, stamps_of
from chapto.publish.scripts.plain_text import parts_of
from chapto.publish.scripts.read import read_script
from chapto.publish.scripts.stamps import leading_stamp

F = Fraction


def beats(text: str, *known: str) -> list[tuple[str, str, list[Fraction]]]:
    return [(x.speaker, x.text, [at for _, at in x.stamps]) for part in parts_of(text, known) for x in part.beats]


@pytest.mark.parametrize(
    ("line", "seconds", "rest"),
    [
        ("[0:23] She shoots.", F(23), "She shoots."),
        ("0:23 She shoots.", F(23), "She shoots."),
        ("(1:02:03)", F(3723), ""),
        ("00:00:23,400 --> 00:00:25,000", F("23.4"), ""),
        ("00:00:23.400 --> 00:00:25.000 align:start position:0%", F("23.4"), ""),
        ("00:00:23,400 -->", F("23.4"), ""),
        ("1:05:10 - He falls.", F(3910), "He falls."),
        ("[0:23 - 0:31] Both.", F(23), "Both."),
        ("12:05: the tap", F(725), "the tap"),
    ],
)
def test_times_at_the_start_of_a_line_are_times(line: str, seconds: Fraction, rest: str) -> None:
    assert leading_stamp(line) == (seconds, rest)


@pytest.mark.parametrize(
    "line", ["She shoots at 0:23.", "2:0 for Wren", "4:99 no", "50/50 guard", "12:345", "0:23rd", ""]
)
def test_what_is_no_time_stays_words(line: str) -> None:
    assert leading_stamp(line) is None


def test_each_time_begins_a_beat_and_stays_beside_its_first_word() -> None:
    text = "0:23 She waits for Moss. Then she goes.\n\n[0:31]\nHis hands are up.\nAnd down.\n- (0:40) He falls."
    assert beats(text) == [
        ("", "She waits for Moss. Then she goes.", [F(23)]),
        ("", "His hands are up. And down.", [F(31)]),
        ("", "He falls.", [F(40)]),
    ]


def test_times_beside_every_few_words_are_of_running_talk() -> None:
    lines = [f"{i // 20}:{i * 3 % 60:02d}\nso he goes to the left and" for i in range(40)]
    found = parts_of("\n".join(lines))[0].beats
    assert all(8 <= len(x.text.split()) <= 45 for x in found) and 8 <= len(found) <= 24
    assert not any(c.isdigit() for x in found for c in x.text)
    assert stamps_of(parts_of("\n".join(lines)))[:2] == (F(0), F(6))


def test_cues_pasted_as_text_leave_no_numbers_behind() -> None:
    text = "1\n00:00:01,000 --> 00:00:03,000\nHer knee\n\n2\n00:00:03,000 --> 00:00:05,000\nslides in.\n"
    assert " ".join(x[1] for x in beats(text)) == "Her knee slides in."


@pytest.mark.parametrize(
    ("text", "speakers"),
    [
        ("HOST: What then?\nGUEST: I go under.\nAnd up.", [("HOST", "What then?"), ("GUEST", "I go under. And up.")]),
        (
            "Ilka: So.\n\nMore of it.\n\nBram: Yes.\n\nIlka: No.",
            [("Ilka", "So."), ("Ilka", "More of it."), ("Bram", "Yes."), ("Ilka", "No.")],
        ),
        ("Coach Vale: Up!\nSo he stands.", [("Coach Vale", "Up! So he stands.")]),
        ("[0:10] HOST: Here?", [("HOST", "Here?")]),
        ("HOST: [0:10] Here?", [("HOST", "Here?")]),
        ("HOST:\nHere?", [("HOST", "Here?")]),
        ("Guest post: hello.", [("", "Guest post: hello.")]),
        ("Kimura: bend it.\nKimura: and hold.", [("", "Kimura: bend it. Kimura: and hold.")]),
        ("Note: keep the elbow in.\nNote: and the head up.", [("", "Note: keep the elbow in. Note: and the head up.")]),
        ("Remember: base first.\nRemember: head up.", [("", "Remember: base first. Remember: head up.")]),
        ("One thing: he is tired.", [("", "One thing: he is tired.")]),
    ],
)  # fmt: skip
def test_who_speaks_is_read_from_marks_and_from_nothing_else(text: str, speakers: list[tuple[str, str]]) -> None:
    assert [(who, said) for who, said, _ in beats(text)] == speakers


def test_names_with_a_time_behind_them_are_speakers_as_services_write_them() -> None:
    text = "Ilka 0:23\nHis hands are up.\n\nTove (0:31)\nAnd down.\n\nIlka 0:40\nHe falls."
    assert beats(text, "Ilka") == [
        ("Ilka", "His hands are up.", [F(23)]),
        ("Tove", "And down.", [F(31)]),
        ("Ilka", "He falls.", [F(40)]),
    ]
    assert beats("She shoots at 0:23")[0][1] == "She shoots at 0:23"


def test_a_name_that_comes_once_is_a_speaker_only_if_it_is_known() -> None:
    assert beats("Tove: he falls.")[0][0] == "" and beats("Tove: he falls.", "Tove")[0][0] == "Tove"


def test_captions_made_by_machines_come_in_once_with_voices_times_and_pauses(tmp_path: Path) -> None:
    """Rolling lines, times of single words, voices and sounds, as the WebVTT recommendation of the W3C has them."""
    path = tmp_path / "a.vtt"
    path.write_text(
        "WEBVTT\nKind: captions\n\nNOTE hello\n\n00:00:01.200 --> 00:00:03.000 align:start position:0%\n"
        "<v Ilka>so this is\n\n00:00:03.000 --> 00:00:05.500\nso this is\n"
        "<00:00:03.400><c> the</c><00:00:03.800><c> knee &amp; line</c>\n\n"
        "00:00:05.500 --> 00:00:05.510\nthe knee &amp; line\n\n01:00:05.600 --> 01:00:08.000\n"
        "<v.loud Bram>yes</v> [Music]\n"
    )
    (part,) = read_script(path)
    assert part.beats == (
        ImportedBeat("so this is the knee & line", "Ilka", ((0, F("1.2")),)),
        ImportedBeat("yes", "Bram", ((0, F("3605.6")),)),
    )
    assert speakers_of((part,)) == ("Ilka", "Bram")


def test_a_pause_of_the_captions_begins_a_beat_where_no_opener_stands(tmp_path: Path) -> None:
    path = tmp_path / "a.srt"
    said = [
        f"pull the {arm} arm across the body and keep the head low while walking" for arm in ("far", "near", "free")
    ]
    cues = [f"{n}\n00:00:{n * 6:02d},000 --> 00:00:{n * 6 + 5:02d},000\n{text}\n" for n, text in enumerate(said)]
    path.write_text("\n".join(cues))
    assert [x.text for x in read_script(path)[0].beats] == said


@given(st.text(alphabet="0:1[]()-> \n#*.HOST:ab<v>", max_size=300))
def test_no_text_is_refused_or_makes_an_empty_beat(text: str) -> None:
    assert all(x.text.strip() for part in parts_of(text) for x in part.beats)
