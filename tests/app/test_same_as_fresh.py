"""However a document was come to, by edits, undo and redo, the studio is what opening that document anew would give."""

from __future__ import annotations

import random
from pathlib import Path

import pytest
from pytestqt.qtbot import QtBot

from chapto.app.studio import Studio
from chapto.document import edit_footage, edit_script
from chapto.document.breakdown import Breakdown
from chapto.media.probe import probe
from chapto.render.new import with_footage
from chapto.store.session import Session
from chapto.voice.guide import GuideVoice
from tests.app.driven import DrivenWindow as Window
from tests.media.clips import Clip, make


def state(studio: Studio) -> dict[str, object]:
    """What the window shows of files, sounds, cameras and programme."""
    b = studio.breakdown
    return {
        "places": studio.files.places,
        "missing": studio.files.missing,
        "sounds": {k: (len(s), s.read(24_000, 100).tobytes()) for k, s in studio.files.sounds.items()},
        "cameras": [getattr(studio.angles.at(t), "id", None) for t in range(0, 400, 7)],
        "programme": studio.programme,
        "pictures": [studio.files.pictures.picture(c, c.mat_in + c.duration / 2, 64, 36).tobytes() for c in b.footage],
    }


@pytest.mark.parametrize("seed", [1, 2, 3])
def test_random_edits_undo_and_redo_leave_what_a_fresh_open_gives(
    dressed: object, guide: GuideVoice, tmp_path: Path, qtbot: QtBot, seed: int
) -> None:
    chance = random.Random(seed)
    clips = [make(tmp_path / f"{i}.mp4", Clip(frames=24 + 6 * i)) for i in range(3)]

    def bring(b: Breakdown) -> Breakdown:
        known = {c.name for c in b.footage}
        left = [c for c in clips if c.stem not in known]
        return with_footage(b, left[0], probe(left[0]), tmp_path) if left else b

    def take_out(b: Breakdown) -> Breakdown:
        return edit_footage.remove_footage(b, chance.choice(b.footage).id) if b.footage else b

    def place(b: Breakdown) -> Breakdown:
        from fractions import Fraction

        there = {chance.choice(b.footage).id: (Fraction(chance.randrange(9)), Fraction(0))} if b.footage else {}
        return edit_footage.place_footage(b, there)

    def write(b: Breakdown) -> Breakdown:
        return edit_script.rewrite(b, next(beat.id for _, beat in b.beats()), f"Look here, {chance.randrange(99)}.")

    from chapto.render.new import new_breakdown

    session = Session.create(new_breakdown(clips[:2], tmp_path), tmp_path / "p.chapto")
    studio = Studio(session, guide=guide, proxies=False)
    try:
        for _ in range(14):
            act = chance.choice([bring, take_out, take_out, place, write, "undo", "undo", "redo"])
            if act == "undo":
                session.undo()
            elif act == "redo":
                session.redo()
            else:
                studio.edit("edit", act)  # type: ignore[arg-type]
            if chance.random() < 0.3:
                assert studio.wait()
        assert studio.wait()
        session.save()
        fresh = Studio(Session.look(tmp_path / "p.chapto"), guide=guide, proxies=False)
        try:
            assert fresh.wait()
            assert state(studio) == state(fresh)
        finally:
            fresh.close()
    finally:
        studio.close()


def test_undo_of_taking_a_file_out_brings_its_picture_and_sound_back(demo: Window, qtbot: QtBot) -> None:
    before = state(demo.studio)
    for footage in demo.studio.breakdown.footage[:2]:
        demo.studio.edit("take out", lambda b, c=footage: edit_footage.remove_footage(b, c.id))
    assert len(demo.studio.files.places) == len(demo.studio.breakdown.footage)
    demo.studio.session.undo()
    demo.studio.session.undo()
    assert demo.studio.wait()
    assert demo.studio.files.missing == () and state(demo.studio) == before
