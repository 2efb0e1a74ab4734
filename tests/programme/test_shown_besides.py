"""What narrators do with the picture besides: photos, talk as it was filmed, voices that fall in, steps, and
coming closer."""

from __future__ import annotations

from fractions import Fraction

import pytest
from msgspec.structs import replace

from chapto.clock.passage import Kind, PhotoCard
from chapto.document import edit_breakdown, edit_footage, edit_music, edit_photos, edit_script, edit_turns
from chapto.document.breakdown import Breakdown, DocumentError
from chapto.document.checks import checked
from chapto.document.edit_closer import come_closer
from chapto.document.music_checks import music_open
from chapto.document.script import BeatKind, Stamp
from chapto.document.treatments import ShowPhoto
from chapto.pacing.fitted import Lack
from chapto.programme.compile import compile_programme
from chapto.programme.framing_sections import credits_of
from chapto.programme.placed import TieState
from chapto.programme.programme import Programme
from chapto.programme.ways.find import ways_out
from chapto.publish.inspect import inspected
from tests.document.samples import small

F = Fraction


def with_photos() -> Breakdown:
    b = edit_photos.add_photo(small(), name="Right", path="right.jpg", fingerprint="1-r", width=900, height=600)
    return checked(edit_photos.add_photo(b, name="Wrong", path="wrong.png", fingerprint="1-w", width=600, height=900))


def cards(p: Programme) -> list[PhotoCard]:
    return [x.photo for x in p.passages if x.photo is not None]


# ── photos ───────────────────────────────────────────────────────────────────────────────────────────────────
def test_a_photo_stands_while_its_beat_is_said_and_two_stand_beside_each_other() -> None:
    b = edit_script.add_beat(with_photos(), "s1", "This is how it should look.")
    beat = b.script[0].beats[-1].id
    for shown in (ShowPhoto("o1"), ShowPhoto("o1", beside="o2"), ShowPhoto("o2", push=True)):
        p = compile_programme(checked(edit_script.treat(b, beat, shown)), {})
        assert cards(p) == [PhotoCard(shown.photo, shown.beside, shown.push)]
        card = next(x for x in p.passages if x.photo)
        said = [w for w in p.words if w.beat == beat]
        assert card.watch_in / p.fps <= said[0].start + 1 / p.fps and said[-1].end <= card.watch_out / p.fps + F(1, 2)
        assert [t.state for t in p.ties] == [TieState.MET]
    told = inspected(b, p)["passages"]
    assert any(x["photo"] == ["o2"] for x in told)


def test_a_photo_at_a_word_lasts_its_seconds_and_a_small_one_leaves_the_picture_alone() -> None:
    b = edit_script.rewrite(with_photos(), "b1", "Watch this. The knee slides here, and she is past him and down " * 2)
    at_word = checked(edit_turns.turn_at(b, "b1", 8, ShowPhoto("o1", seconds=F(2))))
    p = compile_programme(at_word, {})
    (card,) = [x for x in p.passages if x.photo]
    assert 2 <= card.frames / p.fps < 3 and p.passages[-1].photo is None
    small_one = checked(edit_script.treat(b, "b1", ShowPhoto("o1", inset=True)))
    shown, plain = compile_programme(small_one, {}), compile_programme(b, {})
    assert shown.passages == plain.passages
    assert [(i.photo, i.footage) for i in shown.insets] == [("o1", "")]
    middle = (shown.insets[0].start + shown.insets[0].end) // 2
    assert shown.inset_at(middle) is None and shown.photo_at(middle) == shown.insets[0]


def test_a_photo_that_goes_takes_what_shows_it_along() -> None:
    b = edit_script.treat(with_photos(), "b1", ShowPhoto("o1", beside="o2"))
    one = checked(edit_photos.remove_photo(b, "o1"))
    assert one.find_beat("b1")[1].treatment == ShowPhoto("o2")
    assert checked(edit_photos.remove_photo(one, "o2")).find_beat("b1")[1].treatment is None
    with pytest.raises(DocumentError, match="photo that is not there"):
        checked(edit_script.treat(b, "b1", ShowPhoto("o9")))


# ── as filmed ────────────────────────────────────────────────────────────────────────────────────────────────
def test_what_is_shown_as_filmed_runs_once_with_its_own_sound_and_words() -> None:
    b = edit_script.rewrite(small(), "b1", "Hips! Hips! Now the underhook.")
    b = edit_script.add_beat(checked(edit_script.change_section(b, "s1", as_filmed=True)), "s1", "Good. Again.")
    beats = b.script[0].beats
    b = replace(
        b, script=(replace(b.script[0], beats=(beats[0], replace(beats[1], stamps=(Stamp(word=0, at=F(16)),)))),)
    )
    p = compile_programme(checked(b), {})
    assert [(x.kind, x.mat_in, x.rate, x.frames) for x in p.passages] == [(Kind.RUN, 10, 1, 300)]
    assert not any(x.heard for x in p.voice) and p.shortfalls == ()
    assert p.words[0].start == 0 and next(w.start for w in p.words if w.text == "Good.") == 6
    assert "Hips!" in p.captions[0].text
    told = inspected(b, p)
    assert told["sections"][0]["as_filmed"] and all(x["heard_in_footage"] for x in told["voice"])


def test_a_wished_length_is_not_asked_of_what_is_shown_as_filmed() -> None:
    b = edit_script.add_section(small(), title="Filmed", exchange="x1")
    b = checked(edit_script.change_section(b, b.script[1].id, as_filmed=True))
    natural = compile_programme(b, {}).seconds
    wished = compile_programme(edit_breakdown.set_target(b, int(natural) + 4), {})
    assert abs(wished.seconds - int(natural) - 4) < 1
    assert wished.sections[1].end - wished.sections[1].start == 300


# ── two at once ──────────────────────────────────────────────────────────────────────────────────────────────
def test_another_voice_falls_in_and_both_are_read_on_two_lines_with_their_names() -> None:
    b = edit_breakdown.add_narrator(small(), "Bram")
    b = edit_breakdown.change_narrator(b, b.narrators[0].id, name="Ilka")
    b = edit_script.add_beat(b, "s1", "Wait, which knee?")
    other = b.script[0].beats[1].id
    b = edit_script.set_narrator(b, other, b.narrators[1].id)
    apart = compile_programme(b, {})
    p = compile_programme(checked(edit_script.fall_in(b, other, F(1, 2))), {})
    first, second = (next(x for x in p.voice if x.beat == beat) for beat in ("b1", other))
    last = [x for x in p.voice if x.beat == "b1"][-1]
    assert last.until - second.at == F(1, 2) and first.at == apart.voice[0].at
    (both,) = [c.text for c in p.captions if "\n" in c.text and ": " in c.text]
    assert both.split("\n")[1].startswith("Bram: Wait") and both.startswith("Ilka: ")
    same = edit_script.set_narrator(edit_script.fall_in(b, other, F(1, 2)), other, "")
    assert compile_programme(same, {}).voice[-1].at >= compile_programme(same, {}).voice[-2].until


# ── slips of beats ───────────────────────────────────────────────────────────────────────────────────────────
def test_steps_are_counted_in_their_section_and_a_question_stands_while_it_is_asked() -> None:
    b = small()
    for text in ("Win the underhook, with the elbow high.", "Get the knee through.", "Flatten him."):
        b = edit_script.add_beat(b, "s1", text, kind=BeatKind.STEP)
    b = edit_script.add_beat(b, "s1", "What would you do here?", kind=BeatKind.VIEWERS)
    p = compile_programme(checked(b), {})
    slips = {x.label: x for x in p.labels if x.label.startswith("b")}
    assert [slips[x.id].text for x in b.script[0].beats[1:]] == [
        "1 of 3  Win the underhook", "2 of 3  Get the knee through", "3 of 3  Flatten him", "What would you do here?",
    ]  # fmt: skip
    for beat, slip in slips.items():
        said = [w for w in p.words if w.beat == beat]
        assert abs(slip.start / p.fps - said[0].start) < F(1, 10) and slip.end / p.fps >= said[-1].end - F(1, 10)


# ── music ──────────────────────────────────────────────────────────────────────────────────────────────────────
def test_music_plays_where_it_is_wanted_and_nowhere_else() -> None:
    b = edit_music.add_music(small(), name="Tide", path="tide.wav", fingerprint="1-t", seconds=F(20))
    b = edit_script.add_section(b, title="Next", at=0)
    p = compile_programme(checked(b), {})
    card = p.passages[0]
    assert card.kind is Kind.CARD and [(m.start, m.end) for m in p.music] == [(0, card.watch_out / p.fps)]
    quiet = checked(edit_music.change_music(b, "u1", cards=False, openings=False, silences=True))
    p = compile_programme(quiet, {})
    said = [(x.at, x.until) for x in p.voice]
    assert p.music and all(m.end <= a or m.start >= z for m in p.music for a, z in said)
    filmed = edit_script.change_section(quiet, "s1", as_filmed=True)
    assert all(m.end <= p.sections[1].start / p.fps for m in compile_programme(filmed, {}).music)
    nowhere = edit_music.change_music(quiet, "u1", silences=False)
    assert compile_programme(nowhere, {}).music == () and inspected(quiet, p)["music"][0]["music"] == "u1"


def test_the_licence_of_music_is_asked_for_and_credited() -> None:
    b = edit_music.add_music(small(), name="Tide", path="tide.wav", fingerprint="1-t", seconds=F(20))
    assert music_open(b) == ("Under which licence may “Tide” be used?",)
    b = edit_music.change_music(b, "u1", licence="CC BY 4.0", credit="Tide, by Ilka")
    assert music_open(b) == () and "Music: Tide, by Ilka, CC BY 4.0" in credits_of(b)


# ── closer ───────────────────────────────────────────────────────────────────────────────────────────────────
def test_a_picture_comes_only_as_near_as_its_file_has_lines_and_nearer_is_reported() -> None:
    b = edit_footage.change_footage(small(), "f1", lines=720)
    near = checked(come_closer(b, "b1", 5, "f1", F(14), (0.4, 0.5), zoom=F(3)))
    assert near.marks[0].zoom == F(3, 2) and compile_programme(near, {}).marks
    assert all(s.lack is not Lack.SOFT for s in compile_programme(near, {}).shortfalls)
    nearer = replace(near, marks=(replace(near.marks[0], zoom=F(2)),))
    (soft,) = [s for s in compile_programme(nearer, {}).shortfalls if s.lack is Lack.SOFT]
    assert "360 lines" in soft.sentence and (soft.beat, soft.word) == ("b1", 5)
    (way,) = ways_out(nearer, soft, {})
    assert way.change(nearer).marks[0].zoom == F(3, 2)
