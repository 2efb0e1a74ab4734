"""What is shown and heard besides the footage, through the real window."""

from __future__ import annotations

import wave
from fractions import Fraction
from pathlib import Path

import cv2
import numpy as np
from msgspec.structs import replace
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QLineEdit, QMenu, QPushButton
from pytestqt.qtbot import QtBot

from chapto.app.window import Window
from chapto.app.write.page import WritePage
from chapto.app.write.section_menu import section_menu
from chapto.app.write.treatment_menu import treatment_menu
from chapto.clock.passage import Kind
from chapto.document import edit_script
from chapto.document.mark_kinds import MarkKind
from chapto.document.treatments import Hold, Loop, ShowPhoto
from chapto.media.sound import RATE
from chapto.pacing.fitted import Lack
from chapto.paint.overlay import Overlay
from chapto.review.work import Stage

F = Fraction


def write_page(window: Window) -> WritePage:
    window.go(Stage.WRITE)
    page = window.stages[Stage.WRITE].page
    assert isinstance(page, WritePage)
    return page


def press(menu: QMenu, *path: str) -> None:
    """Choose an entry by the names of the menus it lies in."""
    for name in path:
        entry = next(a for a in menu.actions() if a.text() == name)
        deeper = entry.menu()
        if deeper is None:
            entry.trigger()
            return
        menu = deeper


def test_the_picture_turns_at_the_word_of_the_caret_and_undo_takes_it_back(demo: Window) -> None:
    page, studio = write_page(demo), demo.studio
    before = studio.breakdown
    page.script.choose("b9", 12)
    press(
        treatment_menu(page, studio, "b9", F(88), 12),
        "From “Pushing” on".replace("Pushing", before.find_beat("b9")[1].text.split()[12].strip(".,")),
        "Loop until the words are out",
        "The last 2 s, half speed, to and fro",
    )
    beat = studio.breakdown.find_beat("b9")[1]
    assert beat.turns[0].treatment == Loop(F(2), F(1, 2), to_and_fro=True)
    assert "1 turn" in page.script.cards["b9"]._treatment.text()
    studio.session.undo()
    assert studio.breakdown == before


def test_the_picture_comes_closer_from_the_script(demo: Window) -> None:
    page, studio = write_page(demo), demo.studio
    press(treatment_menu(page, studio, "b12", F(104), 3), "Come closer", "Slowly, to the middle")
    mark = studio.breakdown.marks[-1]
    assert (mark.kind, mark.beat, mark.word, mark.zoom, mark.ease) == (MarkKind.CLOSER, "b12", 3, F(3, 2), 6)


def test_a_section_takes_a_house_style_and_stands_as_it_was_filmed(demo: Window) -> None:
    page, studio = write_page(demo), demo.studio
    section = studio.breakdown.script[2].id
    press(section_menu(page, studio, section, page.drafting), "House style", "Half-speed study")
    assert studio.breakdown.script[2].style == "half-speed study" and studio.wait()
    span = next(s for s in studio.programme.sections if s.section == section)
    rates = {x.rate for x in studio.programme.passages if span.start <= x.watch_in < span.end}
    assert F(1, 2) in rates and 1 not in rates
    press(section_menu(page, studio, section, page.drafting), "As filmed, with its own sound and words")
    assert studio.breakdown.script[2].as_filmed and studio.wait()
    assert not any(
        x.heard for x in studio.programme.voice if x.beat in {b.id for b in studio.breakdown.script[2].beats}
    )


def test_one_key_gives_every_dull_still_something_to_look_at(demo: Window, qtbot: QtBot) -> None:
    page, studio = write_page(demo), demo.studio
    long = (
        "And if you are late, wait for the next step he takes, because a foot that carries no weight can't be lifted. "
    )

    def stands(b: object) -> object:
        b = edit_script.rewrite(studio.breakdown, "b6", "Take the base away first, then finish. " + long * 3)
        return edit_script.treat(replace(b, takes=()), "b6", Hold("m3"))

    studio.edit("stand", stands)  # type: ignore[arg-type]
    assert studio.wait() and any(s.lack is Lack.STILL for s in studio.programme.shortfalls)
    words = [w.text for w in studio.programme.words]
    QTest.keyClick(page.script, Qt.Key.Key_0, Qt.KeyboardModifier.AltModifier)
    qtbot.waitUntil(lambda: studio.session.would_undo == "give every still something to look at", timeout=120_000)
    assert studio.wait() and all(s.lack is not Lack.STILL for s in studio.programme.shortfalls)
    assert [w.text for w in studio.programme.words] == words


def test_a_dropped_photo_is_brought_in_shown_and_named(demo: Window, qtbot: QtBot, tmp_path: Path) -> None:
    page, studio = write_page(demo), demo.studio
    picture = np.full((60, 90, 3), (40, 160, 220), np.uint8)
    cv2.imwrite(str(tmp_path / "podium.png"), picture)
    count = len(studio.breakdown.photos)
    demo.stages[Stage.FOOTAGE].take_files([tmp_path / "podium.png"])
    qtbot.waitUntil(lambda: len(studio.breakdown.photos) == count + 1, timeout=120_000)
    photo = studio.breakdown.photos[-1]
    assert (photo.name, photo.width, photo.height) == ("podium", 90, 60)
    press(treatment_menu(page, studio, "b13", F(110)), "Photo", "podium", "In the place of the picture")
    assert studio.breakdown.find_beat("b13")[1].treatment == ShowPhoto(photo.id) and studio.wait()
    card = next(x for x in studio.programme.passages if x.photo and x.photo.photo == photo.id)
    assert card.kind is Kind.CARD
    shown = Overlay(studio.breakdown, studio.programme, (640, 360), studio.files.photos).card(card.watch_in)
    assert shown is not None and shown[1].pixelColor(320, 180).red() > 200
    page._open_sheet(page.photos)
    owner = next(x for x in page.photos.findChildren(QLineEdit) if x.text() == "" and "Whose" in x.placeholderText())
    owner.setText("Ilka")
    owner.editingFinished.emit()
    assert studio.breakdown.photo(photo.id).clearance.owner == "Ilka"
    takes_out = [x for x in page.photos.findChildren(QPushButton) if "Take out" in x.text()]
    takes_out[-1].click()
    assert len(studio.breakdown.photos) == count and studio.breakdown.find_beat("b13")[1].treatment is None


def test_music_comes_in_with_its_licence_and_is_heard_on_cards(demo: Window, qtbot: QtBot, tmp_path: Path) -> None:
    page, studio = write_page(demo), demo.studio
    with wave.open(str(tmp_path / "tide.wav"), "wb") as out:
        out.setnchannels(2)
        out.setsampwidth(2)
        out.setframerate(RATE)
        out.writeframes(np.full((2 * RATE, 2), 4000, np.int16).tobytes())
    page._open_sheet(page.music)
    page.music.bring_in(tmp_path / "tide.wav")
    qtbot.waitUntil(lambda: len(studio.breakdown.music) == 1, timeout=120_000)
    licence = next(x for x in page.music.findChildren(QLineEdit) if "licence" in x.placeholderText())
    licence.setText("CC BY 4.0")
    licence.editingFinished.emit()
    assert studio.breakdown.music[0].licence == "CC BY 4.0" and studio.wait()
    qtbot.waitUntil(lambda: "u1" in studio.files.sounds, timeout=120_000)
    last = studio.programme.music[-1]
    silent = round((last.end - 1) * RATE)
    assert np.abs(studio.mix().read(silent, RATE // 4)).max() > 0.01
