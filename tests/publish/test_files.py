"""Captions and chapter lists as others read them."""

import io
import re
from fractions import Fraction
from itertools import pairwise
from pathlib import Path

import pysubs2
import pytest
import webvtt
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from chapto.programme.caption_places import raised_captions
from chapto.programme.compile import compile_programme
from chapto.programme.programme import Caption
from chapto.publish.captions import to_subrip, to_webvtt
from chapto.publish.chapter_list import chapter_list, chapter_problems
from chapto.publish.inspect import inspected, listed
from chapto.publish.package import write_beside
from chapto.store.outputs import OutputGate
from tests.document.samples import small

F = Fraction
text = st.text(st.characters(whitelist_categories=("L", "N", "P", "S"), max_codepoint=0x2FFF), min_size=1, max_size=30)


@given(st.lists(text, min_size=1, max_size=8))
def test_webvtt_is_read_back_by_another_library(texts: list[str]) -> None:
    """W3C WebVTT, read by `webvtt-py`."""
    cues = tuple(Caption(F(2 * i), F(2 * i) + F("1.234"), t) for i, t in enumerate(texts))
    read = webvtt.from_buffer(io.StringIO(to_webvtt(cues)))
    assert [c.start_in_seconds for c in read] == [2 * i for i in range(len(texts))]
    import html

    got = [html.unescape(c.raw_text) for c in read]
    assert got == [t.replace("{", "(").replace("}", ")") for t in texts]


def test_webvtt_looks_as_the_standard_says() -> None:
    written = to_webvtt((Caption(F("3661.5"), F("3663.25"), "knee & hip --> <grip>\nsecond line"),))
    lines = written.splitlines()
    assert lines[0] == "WEBVTT"
    assert "01:01:01.500 --> 01:01:03.250" in lines
    assert "knee &amp; hip --&gt; &lt;grip&gt;" in lines and "second line" in lines


def test_captions_leave_the_foot_to_letters_that_stand_there(tmp_path: Path) -> None:
    """W3C WebVTT: `line` as a share of the picture's height; read back by `webvtt-py`."""
    from chapto.demo.story import demo_breakdown

    p = compile_programme(demo_breakdown(tmp_path), {})
    raised = raised_captions(p, 16 / 9)
    assert 0 < len(raised) < len(p.captions) / 2
    written = to_webvtt(p.captions, raised)
    times = [line for line in written.splitlines() if "-->" in line]
    assert [i for i, line in enumerate(times) if line.endswith(" line:14%")] == sorted(raised)
    assert raised_captions(p, 16 / 9, control=True) == dict.fromkeys(raised, 26), "under the strip of control"
    assert len(webvtt.from_string(written)) == len(p.captions)


def test_subrip_has_counter_times_and_a_blank_line() -> None:
    written = to_subrip((Caption(F(0), F("1.5"), "one\ntwo"), Caption(F(2), F(3), "three")))
    assert written.startswith("1\n00:00:00,000 --> 00:00:01,500\none\ntwo\n\n2\n00:00:02,000")
    assert [e.plaintext for e in pysubs2.SSAFile.from_string(written)] == ["one\ntwo", "three"]


def test_the_chapter_list_starts_at_nothing_and_names_each_chapter(tmp_path: Path) -> None:
    """First at 0:00, at least three, at least 10 s each (from memory of hosting sites)."""
    from chapto.demo.story import demo_breakdown

    p = compile_programme(demo_breakdown(tmp_path), {})
    lines = chapter_list(p).splitlines()
    assert lines[0].startswith("0:00 ")
    assert len(lines) == len(p.chapters) >= 3
    seconds = [int(m) * 60 + int(s) for m, s in (line.split(" ", 1)[0].split(":") for line in lines)]
    assert all(other - one >= 10 for one, other in pairwise([*seconds, int(p.seconds)]))
    assert chapter_problems(p) == ()
    assert all(line.split(" ", 1)[0].count(":") == 1 for line in lines)


def test_what_a_hosting_site_would_not_take_is_said() -> None:
    p = compile_programme(small(), {})
    assert any("at least 3 chapters" in s for s in chapter_problems(p))
    short = replace(small().exchanges[0], id="x2", start=F(30), end=F(35))
    after = replace(small().script[0], id="s2", title="Short one", exchange="x2", beats=())
    b = replace(small(), exchanges=(*small().exchanges, short), script=(*small().script, after))
    assert any("“Short one” lasts 5.0 s" in s for s in chapter_problems(compile_programme(b, {})))
    section = replace(small().script[0], title="")
    late = replace(small(), script=(section, replace(small().script[0], id="s2", beats=())))
    assert any("begin at 0:00" in s for s in chapter_problems(compile_programme(late, {})))


def test_files_are_written_beside_the_video(tmp_path: Path) -> None:
    gate = OutputGate(small(), None)
    made = write_beside(small(), tmp_path / "bout.mp4", compile_programme(small(), {}), gate)
    assert [p.name for p in made] == ["bout.vtt", "bout.srt", "bout.chapters.txt", "bout.description.txt"]
    assert (tmp_path / "bout.chapters.txt").read_text() == "0:00 Pass\n"


def test_the_inspected_programme_tells_everything_in_seconds() -> None:
    found = inspected(small(), compile_programme(small(), {}))
    assert set(found) >= {
        "passages",
        "ties",
        "labels",
        "names",
        "insets",
        "cautions",
        "chapters",
        "captions",
        "seconds",
    }
    assert found["passages"][0]["watch_in"] == 0
    assert found["passages"][-1]["watch_out"] == found["frames"]
    assert found["ties"][0]["lag"] == pytest.approx(0, abs=1 / 60)
    assert "“here,” lag" in listed(found)


def test_what_is_listed_are_seconds_of_the_video() -> None:
    """Chapters and passages at a rate that is no whole number."""
    b = replace(small(), format=replace(small().format, fps=F(30000, 1001)))
    b = replace(b, script=(*b.script, replace(b.script[0], id="s2", title="Again", beats=())))
    p = compile_programme(b, {})
    found = inspected(b, p)
    assert [c["start"] for c in found["chapters"]] == pytest.approx([float(c.start / p.fps) for c in p.chapters])
    second = next(line for line in listed(found).splitlines() if line.endswith("Again"))
    assert float(second.split()[0]) == pytest.approx(float(p.chapters[1].start / p.fps), abs=0.006)
    lengths = [float(m) for m in re.findall(r", ([0-9.]+) s from mat", listed(found))]
    assert lengths == pytest.approx([float(x.frames / p.fps) for x in p.passages], abs=0.006)
    assert sum(lengths) == pytest.approx(float(p.seconds), abs=0.05)


def test_subrip_is_read_back_by_a_library_that_did_not_write_it() -> None:
    """SubRip as commonly read, by `webvtt-py`."""
    cues = (Caption(F(0), F("1.5"), "one\ntwo"), Caption(F("3661.25"), F(3663), "three"))
    read = webvtt.from_buffer(io.StringIO(to_subrip(cues)), format="srt")
    assert [(c.start, c.end, c.text) for c in read] == [
        ("00:00:00.000", "00:00:01.500", "one\ntwo"), ("01:01:01.250", "01:01:03.000", "three"),
    ]  # fmt: skip
