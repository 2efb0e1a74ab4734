"""The description under a video, by the shipped template and by one of one's own."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import pytest
from msgspec.structs import replace

from chapto.demo.story import demo_breakdown
from chapto.document.breakdown import Breakdown
from chapto.document.edit_script import change_beat_kind
from chapto.document.script import BeatKind
from chapto.programme.compile import compile_programme
from chapto.programme.programme import Programme
from chapto.publish.description import DescriptionError, described, description, template_file


@pytest.fixture(scope="module")
def told(tmp_path_factory: pytest.TempPathFactory) -> tuple[Breakdown, Programme]:
    b = demo_breakdown(tmp_path_factory.mktemp("demo"))
    return b, compile_programme(b, {})


def test_it_says_what_it_is_about_then_chapters_care_and_thanks(told: tuple[Breakdown, Programme]) -> None:
    """Hosting sites read `m:ss Title` lines as chapters and show the first two lines in lists (from memory)."""
    text = description(*told)
    lines = text.splitlines()
    assert lines[0] == told[0].about.splitlines()[0]
    assert [x for x in lines if x.startswith("0:00 ")] == ["0:00 Two knee slides"]
    assert "qualified coach" in text and "Wren Adeyo, marigold sleeves" in text and "advertisement" not in text
    assert "\n\n\n" not in text and "{" not in text


def test_a_paid_part_is_told(told: tuple[Breakdown, Programme]) -> None:
    b = change_beat_kind(told[0], "b21", BeatKind.SPONSOR)
    assert "This video contains advertisement." in description(b, told[1])


@pytest.fixture
def own() -> Iterator[Path]:
    """Where one's own template stands, for one test."""
    place = template_file()
    place.parent.mkdir(parents=True, exist_ok=True)
    yield place
    place.unlink(missing_ok=True)


def test_ones_own_template_is_used_and_a_bad_one_is_said(told: tuple[Breakdown, Programme], own: Path) -> None:
    own.write_text("{{ title|upper }}: {{ chapters|length }} parts", "utf-8")
    assert description(*told) == "TWO KNEE SLIDES: 9 parts\n"
    for bad in ("{{ nothing }}", "{% for x in %}", "{{ title.__class__.__mro__ }}"):
        own.write_text(bad, "utf-8")
        with pytest.raises(DescriptionError, match=r"description\.txt\.j2"):
            description(*told)
    own.write_bytes(b"\xff\xfe")
    with pytest.raises(DescriptionError, match="can't be read"):
        description(*told)


def test_what_the_creator_wrote_stands_as_it_is(told: tuple[Breakdown, Programme]) -> None:
    b = replace(told[0], about="{{ about }} & <b> 100 %")
    assert described(b, told[1], "{{ about }}", "x") == "{{ about }} & <b> 100 %\n"
