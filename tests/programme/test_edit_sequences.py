"""After any sequence of edits the programme holds together; undo restores the very same one."""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction
from itertools import pairwise
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from chapto.document import edit_breakdown, edit_log, edit_pacing, edit_photos, edit_script, edit_turns
from chapto.document.breakdown import Breakdown, DocumentError
from chapto.document.script import BeatKind, Part, words_of
from chapto.document.treatments import (
    Again,
    Cutaway,
    Hold,
    Loop,
    Pace,
    Run,
    ShowPhoto,
    SideBySide,
    Skip,
    Slow,
    TextCard,
)
from chapto.programme.compile import compile_programme
from chapto.programme.programme import Programme, TieState
from chapto.store.session import Session
from tests.document.samples import WORDS, breakdowns

F = Fraction
Edit = Callable[[Breakdown], Breakdown]
HALVES = st.fractions(0, 60, max_denominator=20)
TREATMENTS = (
    None, Run(), Slow(F(1, 2)), Hold(), Hold("m1"), Again(F(3), F(1, 2)), Again(F(2), F(1), 2), Skip("m2"),
    Cutaway(F(5)), Cutaway(F(31), F(1, 2), F(2)), Cutaway(F(8), inset=True), SideBySide(F(4), F(33)),
    Loop(F(3), F(1, 2)), Loop(F(2), F(1), to_and_fro=True), TextCard("A card"),
    Pace(F(1, 2)), Pace(F(0)), ShowPhoto("o1"), ShowPhoto("o2", beside="o1", seconds=F(2)),
    ShowPhoto("o2", push=True, inset=True),
)  # fmt: skip


@st.composite
def edits(draw: st.DrawFn) -> Edit:
    """One edit with its numbers drawn; what it is done to is chosen when the document is there."""
    which, n, m = draw(st.integers(0, 23)), draw(st.integers(0, 30)), draw(st.integers(0, 30))
    at, text = draw(HALVES), " ".join(draw(st.lists(st.sampled_from(WORDS), max_size=9)))
    treatment, kind = draw(st.sampled_from(TREATMENTS)), draw(st.sampled_from(list(BeatKind)))
    part, up = draw(st.sampled_from(list(Part))), draw(st.sampled_from([-1, 1]))
    style = draw(st.sampled_from(["run-through", "stop-and-talk", "half-speed study"]))

    def edit(b: Breakdown) -> Breakdown:
        beats, sections, moments = [x for _, x in b.beats()], b.script, b.moments
        beat = beats[n % len(beats)] if beats else None
        section = sections[n % len(sections)] if sections else None
        word = m % max(len(words_of(beat.text)), 1) if beat else 0
        acts: list[tuple[Any, Callable[[], Breakdown]]] = [
            (beat, lambda: edit_script.rewrite(b, beat.id, text)),
            (beat, lambda: edit_script.tie_word(b, beat.id, word, moments[m % len(moments)].id)),
            (beat, lambda: edit_script.untie_word(b, beat.id, word)),
            (beat, lambda: edit_script.treat(b, beat.id, treatment)),
            (beat, lambda: edit_turns.turn_at(b, beat.id, word, treatment)),
            (beat, lambda: edit_turns.no_turn_at(b, beat.id, word)),
            (beat, lambda: edit_turns.turn_between(b, beat.id, word // 2, word, treatment or Pace())),
            (beat, lambda: edit_script.split_beat(b, beat.id, m)),
            (beat, lambda: edit_script.join_beat(b, beat.id)),
            (beat, lambda: edit_script.move_beat(b, beat.id, up)),
            (beat, lambda: edit_script.hold_at(b, beat.id, word, at / 10)),
            (beat, lambda: edit_script.change_beat_kind(b, beat.id, kind)),
            (section, lambda: edit_script.move_section(b, section.id, up)),
            (section, lambda: edit_script.add_beat(b, section.id, text)),
            (section, lambda: edit_script.change_section(b, section.id, part=part)),
            (section, lambda: edit_script.change_section(b, section.id, show_first=up > 0, once_more=m > 15)),
            (section, lambda: edit_script.change_section(b, section.id, as_filmed=up > 0)),
            (section, lambda: edit_script.change_section(b, section.id, style=style)),
            (b.photos, lambda: edit_photos.remove_photo(b, b.photos[n % len(b.photos)].id)),
            (section, lambda: edit_pacing.skip_span(b, section.id, at, at + 2)),
            (section, lambda: edit_pacing.allow_more(b, section.id, hold=at / 10, rate=F(1, 4))),
            (moments, lambda: edit_log.change_moment(b, moments[m % len(moments)].id, at=at)),
            (True, lambda: edit_breakdown.set_style(b, style)),
            (True, lambda: edit_breakdown.set_target(b, n * 4, limit=up > 0)),
        ]
        there, act = acts[which]
        return act() if there else b

    return edit


def holds_together(b: Breakdown, p: Programme) -> None:
    """What must be true of every programme."""
    assert sum(x.frames for x in p.passages) == p.frames == (p.sections[-1].end if p.sections else 0)
    for one, other in pairwise(p.passages):
        assert one.watch_out == other.watch_in
    for tie in p.ties:
        if tie.planned is not None and tie.shown is not None and tie.state is TieState.MET:
            assert abs(tie.shown - tie.planned) <= F(1, 2) / p.fps
    starts = [c.start for c in p.chapters]
    assert starts == sorted(set(starts))
    for i, one_label in enumerate(p.labels):
        for label in p.labels[i + 1 :]:
            assert one_label.row != label.row or one_label.end <= label.start or label.end <= one_label.start
    for caption, after in pairwise(p.captions):
        assert caption.start <= caption.end <= after.start
    for inset in p.insets:
        assert 0 <= inset.start < inset.end <= p.frames
    written = [(x.id, i) for _, x in b.beats() for i in range(len(words_of(x.text)))]
    assert [(w.beat, w.word) for w in p.words] == written
    for word, next_word in pairwise(p.words):
        assert word.start <= word.end <= next_word.start + F(1, 1000)


@settings(max_examples=60)
@given(breakdowns(), st.lists(edits(), max_size=8))
def test_any_sequence_of_edits_leaves_a_whole_programme_and_undo_the_very_same(b: Breakdown, made: list[Edit]) -> None:
    session = Session(b, None)
    before = [compile_programme(session.breakdown, {})]
    for edit in made:
        steps = session.would_undo
        try:
            session.edit(f"step {len(before)}", edit)
        except DocumentError:
            continue
        if session.would_undo != steps:
            before.append(compile_programme(session.breakdown, {}))
            holds_together(session.breakdown, before[-1])
    for p in reversed(before[:-1]):
        session.undo()
        assert compile_programme(session.breakdown, {}) == p
    assert session.breakdown == b
