"""The demo is a whole breakdown, as one would be published."""

from __future__ import annotations

import pytest

from chapto.clock.passage import Kind
from chapto.demo.story import demo_breakdown
from chapto.document.breakdown import Breakdown
from chapto.document.edit_breakdown import set_style
from chapto.document.people import Side
from chapto.document.script import Part
from chapto.pacing.styles import house_styles
from chapto.programme.compile import compile_programme
from chapto.programme.programme import Programme, TieState
from chapto.render.production import produce
from chapto.voice.guide import GuideVoice


@pytest.fixture(scope="module")
def b(tmp_path_factory: pytest.TempPathFactory) -> Breakdown:
    return demo_breakdown(tmp_path_factory.mktemp("demo"))


@pytest.fixture(scope="module")
def p(b: Breakdown, guide: GuideVoice) -> Programme:
    return produce(b, guide).programme


def test_it_is_a_full_piece_in_stop_and_talk_of_three_to_five_minutes(b: Breakdown, p: Programme) -> None:
    assert b.style == "stop-and-talk" and 180 <= p.seconds <= 300
    assert [s.part for s in b.script[:2]] == [Part.OPENING, Part.INTRODUCTION]
    assert [s.part for s in b.script[-2:]] == [Part.RECAP, Part.CREDITS]
    explained = [s for s in b.script if s.part is Part.TALK and s.exchange]
    assert len(explained) >= 4
    assert any(s.show_first for s in explained) and any(s.once_more for s in explained)
    assert {n.id for n in b.narrators} == {beat.narrator or "n1" for _, beat in b.beats()}


def test_every_tie_meets_and_nothing_is_lacking(p: Programme) -> None:
    assert len(p.ties) >= 12 and {t.state for t in p.ties} == {TieState.MET}
    assert p.shortfalls == ()


def test_it_cuts_away_sets_two_tries_side_by_side_and_names_what_is_seen(b: Breakdown, p: Programme) -> None:
    assert any(x.kind is Kind.CUTAWAY and x.footage == "f4" for x in p.passages)
    assert [i.beside for i in p.insets] == [True]
    assert len(p.labels) >= 6 and len(p.chapters) >= 8
    assert [c.risk for c in p.cautions] == ["rotational knee", "strangle", "always"]
    named = {n.name for n in p.names}
    assert named >= {b.athlete(side).name for side in Side} and named & {n.name for n in b.narrators}
    assert any(x.kind is Kind.CARD and "Wren" in x.text for x in p.passages)


@pytest.mark.parametrize("style", list(house_styles()))
def test_every_other_style_gives_a_valid_programme_at_once(b: Breakdown, style: str) -> None:
    p = compile_programme(set_style(b, style), {})
    assert sum(x.frames for x in p.passages) == p.frames == p.sections[-1].end
    assert len(p.words) == sum(len(x.text.split()) for _, x in b.beats())
    for tie in p.ties:
        lacking = {(s.beat, s.word) for s in p.shortfalls}
        assert tie.state is TieState.MET or (tie.beat, tie.word) in lacking
