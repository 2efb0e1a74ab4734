"""Project files: they come back the same, and bad ones are refused in a sentence, untouched."""

import contextlib
import json
from fractions import Fraction
from pathlib import Path

import jsonschema
import pytest
from hypothesis import given

from chapto.document.bout_rules import CallKind
from chapto.document.breakdown import Breakdown, Publishing
from chapto.document.clearance import Agreement
from chapto.document.picture_format import Codec
from chapto.document.treatments import Again, GoTo, ShowPhoto
from chapto.store.errors import DamagedFile, StoreError
from chapto.store.schema import VERSION, decode, encode, json_schema
from chapto.store.session import Session
from tests.document.samples import breakdowns, small

OLD_FILE = Path(__file__).parent / "version-1.chapto"


@given(breakdowns())
def test_a_document_comes_back_the_same(b: Breakdown) -> None:
    assert decode(encode(b), "x.chapto") == b


@given(breakdowns())
def test_what_is_written_follows_the_published_schema(b: Breakdown) -> None:
    jsonschema.Draft202012Validator(json.loads(json_schema())).validate(json.loads(encode(b)))


def test_the_schema_itself_is_valid_and_refuses_wrong_types() -> None:
    schema = json.loads(json_schema())
    jsonschema.Draft202012Validator.check_schema(schema)
    broken = json.loads(encode(small()))
    broken["breakdown"]["exchanges"][0]["start"] = 12.5
    with pytest.raises(jsonschema.ValidationError):
        jsonschema.Draft202012Validator(schema).validate(broken)


def test_a_file_of_the_first_version_still_opens() -> None:
    b = decode(OLD_FILE.read_bytes(), OLD_FILE.name)
    assert (b.title, len(b.exchanges), b.script[0].beats[0].ties[0].moment) == ("Small", 1, "m1")


def test_a_file_of_the_second_version_still_opens_as_it_was() -> None:
    b = decode((OLD_FILE.parent / "version-2.chapto").read_bytes(), "version-2.chapto")
    assert (b.style, b.control_strip, b.script[2].show_first, len(b.labels)) == ("half-speed study", True, True, 6)
    assert decode(encode(b), "again.chapto") == b


def test_a_file_cut_at_any_byte_is_refused_in_a_sentence() -> None:
    data = encode(small()).rstrip()
    for cut in range(len(data)):
        with pytest.raises(StoreError) as caught:
            decode(data[:cut], "bout.chapto")
        assert str(caught.value) in {
            "“bout.chapto” is empty.",
            "“bout.chapto” is not a Chapto breakdown.",
            "“bout.chapto” is damaged or cut off; an earlier copy may be whole.",
        }


@pytest.mark.parametrize(
    ("data", "sentence"),
    [
        (b"", "is empty"),
        (b"\x89PNG\r\n\x1a\n\x00\x00", "is not a Chapto breakdown"),
        (b"\xff\xfe{}", "is not a Chapto breakdown"),
        (b'{"format": "something else", "version": 1}', "is not a Chapto breakdown"),
        (b"[1, 2, 3]", "is not a Chapto breakdown"),
        (b"[" * 100_000, "is not a Chapto breakdown"),
        (b'{"format": "chapto breakdown", "version": 99, "new": {}}', "was saved by a newer Chapto (format 99"),
        (b'{"format": "chapto breakdown", "version": 1, "breakdown": {"title": 3}}', "is damaged: Expected `str`"),
        (b'{"format": "chapto breakdown", "version": 1, "breakdown": {"title": "a", "odd": 1}}', "unknown field `odd`"),
    ],
)
def test_foreign_damaged_and_newer_files_each_get_their_sentence(data: bytes, sentence: str) -> None:
    with pytest.raises(StoreError) as caught:
        decode(data, "bout.chapto")
    assert sentence in str(caught.value)


def test_a_file_that_contradicts_itself_is_refused() -> None:
    text = by_hand(encode(small()).decode().replace('"moment": "m1"', '"moment": "m7"'))
    with pytest.raises(DamagedFile, match="that is not there"):
        decode(text.encode(), "x.chapto")


def by_hand(text: str) -> str:
    """As somebody leaves the file who changed it on purpose: without its checksum."""
    return "".join(line for line in text.splitlines(keepends=True) if '"checksum"' not in line)


def test_a_file_changed_by_hand_opens_without_its_checksum_and_not_with_it() -> None:
    text = encode(small()).decode().replace("Small", "Smell")
    with pytest.raises(DamagedFile, match="its checksum does not fit"):
        decode(text.encode(), "x.chapto")
    assert decode(by_hand(text).encode(), "x.chapto").title == "Smell"


@pytest.mark.parametrize("bit", [0, 3, 5, 7])
def test_no_flipped_bit_makes_another_document(bit: int) -> None:
    data, b = encode(small()), small()
    for place in range(len(data)):
        flipped = bytearray(data)
        flipped[place] ^= 1 << bit
        with contextlib.suppress(StoreError):
            assert decode(bytes(flipped), "x.chapto") == b


def test_a_file_nested_ten_thousand_deep_is_refused_in_a_sentence() -> None:
    deep = b'{"format": "chapto breakdown", "version": 4, "breakdown": {"title": "a", "part": ' + b"[" * 10_000
    for data in (deep, deep + b"]" * 10_000 + b"}}"):
        with pytest.raises(StoreError, match="damaged"):
            decode(data, "deep.chapto")


def test_a_file_of_the_third_version_still_opens_as_it_was() -> None:
    b = decode((OLD_FILE.parent / "version-3.chapto").read_bytes(), "version-3.chapto")
    assert (b.target, b.target_is_limit, b.script[0].weight, len(b.script[0].beats)) == (300, True, 2, 3)
    assert decode(encode(b), "again.chapto") == b


def test_a_file_of_the_fourth_version_still_opens_as_it_was() -> None:
    """Before version 5 the referee could only give points."""
    b = decode((OLD_FILE.parent / "version-4.chapto").read_bytes(), "version-4.chapto")
    assert [(c.kind, c.points) for c in b.ruling.points] == [(CallKind.POINTS, n) for n in (2, 3, 2, 2, 4)]
    assert len(b.exchanges) == 7 and decode(encode(b), "again.chapto") == b


def test_a_file_of_the_fifth_version_still_opens_as_it_was() -> None:
    """Before version 6 there were no takes."""
    b = decode((OLD_FILE.parent / "version-5.chapto").read_bytes(), "version-5.chapto")
    assert (b.people[0].agreement, b.ruling.points[0].kind, b.takes) == (Agreement.WITHDRAWN, CallKind.PENALTY, ())
    assert decode(encode(b), "again.chapto") == b


def test_a_file_of_the_sixth_version_still_opens_as_it_was() -> None:
    """Before version 7 takes had no cuts, and were not cleaned by choice."""
    b = decode((OLD_FILE.parent / "version-6.chapto").read_bytes(), "version-6.chapto")
    assert (b.takes[0].seconds, b.takes[0].cuts, b.takes[0].cleaned, b.guide_only) == (Fraction(7, 2), (), True, False)
    assert decode(encode(b), "again.chapto") == b


def test_a_file_of_the_seventh_version_still_opens_as_it_was() -> None:
    """Before version 8 nothing could be drawn on the picture."""
    b = decode((OLD_FILE.parent / "version-7.chapto").read_bytes(), "version-7.chapto")
    assert (b.takes[0].cuts, b.takes[0].tempo, b.guide_only) == (((1, Fraction(3, 2)),), Fraction(21, 20), True)
    assert (b.anchors, b.figures, b.marks) == ((), (), ()) and decode(encode(b), "again.chapto") == b


def test_a_file_of_the_eighth_version_still_opens_as_it_was() -> None:
    """Before version 9 no times and no marks of speakers came with a script, and nothing was drafted."""
    b = decode((OLD_FILE.parent / "version-8.chapto").read_bytes(), "version-8.chapto")
    assert (len(b.marks), b.anchors[0].keys[0].x, b.narrators[0].written) == (1, 0.4, ())
    assert [(beat.stamps, beat.drafted) for _, beat in b.beats()] == [((), "")]
    assert decode(encode(b), "again.chapto") == b


def test_a_file_of_the_ninth_version_still_opens_as_it_was() -> None:
    """Before version 10 nothing went round."""
    b = decode((OLD_FILE.parent / "version-9.chapto").read_bytes(), "version-9.chapto")
    (beat,) = (beat for _, beat in b.beats())
    assert (beat.treatment, beat.drafted, len(beat.stamps)) == (Again(camera="f1"), beat.text, 1)
    assert (b.script[0].once_more, b.script[0].more_camera) == (True, "f1")
    assert decode(encode(b), "again.chapto") == b


def test_a_file_of_the_tenth_version_still_opens_as_it_was() -> None:
    """Before version 11 nobody talked while watching."""
    b = decode((OLD_FILE.parent / "version-10.chapto").read_bytes(), "version-10.chapto")
    (beat,) = (beat for _, beat in b.beats())
    assert (b.talks, beat.treatment, b.music[0].name) == ((), ShowPhoto("o1"), "Tide")
    assert decode(encode(b), "again.chapto") == b


def test_a_file_of_the_eleventh_version_still_opens_as_it_was() -> None:
    """Before version 12 nothing was left as it is, and nobody noted what bothered."""
    b = decode((OLD_FILE.parent / "version-11.chapto").read_bytes(), "version-11.chapto")
    (beat,) = (beat for _, beat in b.beats())
    assert (b.talks[0].path, beat.treatment) == ("talk.flac", GoTo(at=Fraction(14)))
    assert (b.waivers, b.notes, b.for_beginners) == ((), (), False) and decode(encode(b), "again.chapto") == b


def test_a_file_of_the_twelfth_version_still_opens_as_it_was() -> None:
    """Before version 13 nothing was said of codes, thumbnails and shorts, and nothing was written down as gone out."""
    b = decode((OLD_FILE.parent / "version-12.chapto").read_bytes(), "version-12.chapto")
    assert (b.waivers[0].reason, b.notes[0].text, b.about) == (
        "She wants it so.", "Too quick here.", "Two knee slides, one answer.",
    )  # fmt: skip
    assert (b.publishing, b.format.codec, b.format.quality) == (Publishing(), Codec.H264, 3)
    assert decode(encode(b), "again.chapto") == b


def test_a_refused_file_is_left_as_it_was(tmp_path: Path) -> None:
    newer = tmp_path / "newer.chapto"
    newer.write_bytes(encode(small()).replace(f'"version": {VERSION}'.encode(), b'"version": 50'))
    before = newer.read_bytes()
    with pytest.raises(StoreError, match="newer Chapto"):
        Session.open(newer)
    assert newer.read_bytes() == before


def test_an_unreadable_file_gets_a_sentence(tmp_path: Path) -> None:
    with pytest.raises(StoreError, match="can't be opened: No such file"):
        Session.open(tmp_path / "missing.chapto")
    with pytest.raises(StoreError, match="can't be opened"):
        Session.open(tmp_path)
