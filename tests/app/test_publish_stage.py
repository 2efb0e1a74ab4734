"""Publish through the real window: all that goes out by one press, looked at, mended, sent."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from fractions import Fraction
from pathlib import Path

import av
import pytest
from msgspec.structs import replace
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtGui import QDesktopServices, QImage
from pytestqt.qtbot import QtBot

from chapto.app.publish.part_rows import Entry, State
from chapto.app.publish.send_sheet import SendSheet
from chapto.document.picture_format import Codec
from chapto.document.publishing import Shape, Short
from chapto.publish.manifest import read_manifest, strangers
from chapto.publish.site.site import State as SiteState
from chapto.publish.site.stand_in import StandInSite
from chapto.review.work import Stage
from chapto.store.schema import decode
from chapto.store.session import Session
from tests.app.conftest import Opener, Questions
from tests.app.driven import DrivenWindow as Window
from tests.render.test_package import small_breakdown

CONTROL = Qt.KeyboardModifier.ControlModifier


@pytest.fixture
def window(open_window: Opener, tmp_path: Path, qtbot: QtBot) -> Window:
    """A small breakdown, shown in Publish, with a site of its own."""
    b = small_breakdown(tmp_path)
    Session.create(replace(b, script=b.script[:2]), tmp_path / "roll.chapto").close()
    made = open_window(Session.open(tmp_path / "roll.chapto"))
    qtbot.waitUntil(lambda: made.studio.programme.frames > 0, timeout=120_000)
    made.go(Stage.PUBLISH)
    made.publish_page.foot.site = StandInSite(tmp_path / "site")
    return made


def made_all(window: Window, qtbot: QtBot) -> None:
    page = window.publish_page
    qtbot.keyClick(window, Qt.Key.Key_R, CONTROL)
    qtbot.waitUntil(lambda: page.job is None and bool(page.result.text()), timeout=120_000)
    assert page.result.text().startswith("Made “roll-package”"), page.result.text()


def test_one_press_makes_everything_and_it_goes_out(
    window: Window, tmp_path: Path, qtbot: QtBot, questions: Questions, monkeypatch: pytest.MonkeyPatch
) -> None:
    page = window.publish_page
    states: list[dict[Entry, State]] = []
    spans: list[tuple[int, int]] = []
    page.making.told.connect(lambda: states.append({r.entry: r.state for r in page.parts.rows}))
    page.making.ready.connect(spans.extend)
    made_all(window, qtbot)
    assert {r.state for r in page.parts.rows} == {State.MADE}
    assert any(s[Entry.VIDEO] is State.MAKING and s[Entry.THUMBNAIL] is State.MADE for s in states)
    played: list[str] = []
    monkeypatch.setattr(QDesktopServices, "openUrl", lambda url: played.append(url.toLocalFile()))
    page.parts.choose(Entry.VIDEO)
    qtbot.mouseClick(page.format.play_button, Qt.MouseButton.LeftButton)
    page.parts.choose(Entry.STUDY)
    qtbot.mouseClick(page.words.button, Qt.MouseButton.LeftButton)
    page.foot.show_result()
    folder = tmp_path / "roll-package"
    assert played == [str(folder / "roll.mp4"), str(folder / "roll.study.pdf"), str(folder)]
    covered = {f for a, z in spans for f in range(a, z)}
    assert covered == set(range(window.studio.programme.frames))
    manifest = read_manifest(tmp_path / "roll-package")
    assert manifest is not None and strangers(tmp_path / "roll-package", manifest) == ()
    # Sent, with another title, from tomorrow on.
    qtbot.keyClick(page, Qt.Key.Key_Return, CONTROL)
    sheet = window.findChild(SendSheet)
    assert sheet is not None
    sheet.title.setText("Two tries, one answer")
    qtbot.mouseClick(sheet.later, Qt.MouseButton.LeftButton)
    qtbot.mouseClick(sheet.send_button, Qt.MouseButton.LeftButton)
    qtbot.waitUntil(lambda: sheet.job is None and "can be seen from" in sheet.told.text(), timeout=120_000)
    (published,) = window.studio.breakdown.publishing.published
    assert published.title == "Two tries, one answer" and published.address in sheet.told.text()
    assert {r.state for r in page.parts.rows} == {State.MADE}
    wait = datetime.fromisoformat(published.goes_public) - datetime.now(UTC)
    assert timedelta(hours=22) < wait < timedelta(hours=26)
    # The thumbnail is replaced, and it is taken back.
    video = published.address.rsplit("/", 1)[1]
    before = (tmp_path / "site" / video / "thumbnail.jpg").read_bytes()
    (tmp_path / "site" / video / "thumbnail.jpg").write_bytes(b"")
    sheet._new_thumbnail(published)
    assert (tmp_path / "site" / video / "thumbnail.jpg").read_bytes() == before
    questions.answers = [0]
    sheet._withdraw(published)
    assert window.publish_page.foot.site.standing(video).state is SiteState.WITHDRAWN
    sheet.leave()
    window.studio.save_quietly()
    kept = decode((tmp_path / "roll.chapto").read_bytes(), "roll").publishing.published
    assert kept[0].withdrawn and kept[0].video == published.video


def test_a_change_is_told_and_a_second_making_is_quick_and_replaces_it(
    window: Window, tmp_path: Path, qtbot: QtBot
) -> None:
    page = window.publish_page
    made_all(window, qtbot)
    first = read_manifest(tmp_path / "roll-package")
    page.format.quality.setValue(2)
    assert {r.state for r in page.parts.rows} == {State.CHANGED}
    qtbot.waitUntil(lambda: window.studio.compiling.production.breakdown.format.quality == 2, timeout=120_000)
    made_all(window, qtbot)
    second = read_manifest(tmp_path / "roll-package")
    assert first is not None and second is not None and first.files != second.files
    assert [p.name for p in tmp_path.iterdir() if p.name.startswith(".roll")] == []


def test_stopping_leaves_nothing_and_goes_on_later(window: Window, tmp_path: Path, qtbot: QtBot) -> None:
    page = window.publish_page
    page.make()
    qtbot.waitUntil(lambda: page.making.whole > 0.1, timeout=120_000)
    page.stop()
    qtbot.waitUntil(lambda: page.job is None, timeout=120_000)
    assert page.result.text().startswith("Stopped; nothing was written.")
    assert not (tmp_path / "roll-package").exists()
    made_all(window, qtbot)


def test_a_preview_is_small_replaces_its_like_and_touches_nothing_that_goes_out(
    window: Window, tmp_path: Path, qtbot: QtBot, questions: Questions
) -> None:
    page = window.publish_page
    for _ in range(2):
        qtbot.keyClick(page, Qt.Key.Key_R, CONTROL | Qt.KeyboardModifier.AltModifier)
        qtbot.waitUntil(lambda: page.job is None and bool(page.result.text()), timeout=120_000)
        assert page.result.text().startswith("Made roll-breakdown-preview.mp4, small")
    with av.open(str(tmp_path / "roll-breakdown-preview.mp4")) as media:
        assert media.streams.video[0].height <= 480
    assert not [p for p in tmp_path.glob("roll-breakdown*") if "preview" not in p.name]
    assert State.MADE not in {r.state for r in page.parts.rows} and not questions.asked
    (tmp_path / "roll-breakdown-preview.mp4").write_bytes(b"another's")
    questions.answers = [1]
    page.foot.preview()
    assert page.job is None and "already" in questions.asked[0]
    assert (tmp_path / "roll-breakdown-preview.mp4").read_bytes() == b"another's"


def test_what_somebody_put_there_is_left_and_another_folder_is_offered(
    window: Window, tmp_path: Path, qtbot: QtBot, questions: Questions
) -> None:
    (tmp_path / "roll-package").mkdir()
    (tmp_path / "roll-package" / "own.txt").write_text("mine")
    questions.answers = [1, 0]
    window.publish_page.make()
    assert window.publish_page.job is None and "own.txt" in questions.asked[0]
    window.publish_page.make()
    qtbot.waitUntil(lambda: window.publish_page.job is None, timeout=120_000)
    assert (tmp_path / "roll-package-2" / "manifest.json").exists()
    assert [p.name for p in (tmp_path / "roll-package").iterdir()] == ["own.txt"]


def test_each_entry_can_be_mended_where_it_is_shown(window: Window, qtbot: QtBot) -> None:
    page = window.publish_page
    qtbot.waitUntil(lambda: not page.looked_at.thumbnail.isNull(), timeout=120_000)
    page.parts.setFocus()
    page.parts.choose(Entry.THUMBNAIL)
    assert page.thumbnail.proposals.count() >= 1
    page.thumbnail.proposals.itemClicked.emit(page.thumbnail.proposals.item(0))
    page.thumbnail.title.setText("Frame first")
    page.thumbnail.title.editingFinished.emit()
    chosen = window.studio.breakdown.publishing.thumbnail
    assert chosen.title == "Frame first" and chosen.footage == window.studio.breakdown.footage[0].id
    before = page.looked_at.thumbnail.copy()
    qtbot.waitUntil(lambda: page.looked_at.thumbnail != before, timeout=120_000)
    page.thumbnail.title.setText("A title with so many words that nobody could read it where a list shows it small")
    page.thumbnail.title.editingFinished.emit()
    assert "a few words do more" in page.thumbnail._told.text()
    window.player.show_frame(40)
    page.thumbnail.take_shown()
    passage = window.studio.programme.time_map.passage_at(40)
    assert window.studio.breakdown.publishing.thumbnail.at == passage.mat_at(40)
    qtbot.keyClick(page.parts, Qt.Key.Key_Down)
    assert page.parts.chosen is Entry.VIDEO
    qtbot.waitUntil(lambda: page.looked_at.estimated is not None, timeout=120_000)
    assert "MB" in page.format.estimate.text() and "to make" in page.format.estimate.text()
    page.format._size(1080)
    page.format._edit("rate", lambda b: replace(b, format=replace(b.format, fps=Fraction(25), codec=Codec.AV1)))
    f = window.studio.breakdown.format
    assert (f.width, f.height, f.fps, f.codec) == (1920, 1080, 25, Codec.AV1)
    assert "not clearer" in page.format._small.text()
    page.parts.choose(Entry.SHORTS)
    sections = [s.id for s in window.studio.breakdown.script]
    chosen_before = [k for k, b in page.shorts.buttons.items() if b.isChecked()]
    assert len(chosen_before) == 1
    qtbot.mouseClick(page.shorts.buttons[sections[1], Shape.SQUARE], Qt.MouseButton.LeftButton)
    shorts = window.studio.breakdown.publishing.shorts
    assert shorts is not None and Short(section=sections[1], shape=Shape.SQUARE) in shorts and len(shorts) == 2
    for section, shape in chosen_before:
        qtbot.mouseClick(page.shorts.buttons[section, shape], Qt.MouseButton.LeftButton)
    assert window.studio.breakdown.publishing.shorts == (Short(section=sections[1], shape=Shape.SQUARE),)
    page.parts.choose(Entry.STUDY)
    assert "to print" in page.words.text.text() and not page.words.button.isEnabled()
    qtbot.mouseClick(page.card, Qt.MouseButton.LeftButton, pos=QPoint(60, 60))
    assert page.parts.chosen is Entry.THUMBNAIL


def test_the_card_shows_what_a_list_and_a_page_would(window: Window, qtbot: QtBot) -> None:
    page = window.publish_page
    assert page.card.page is not None and page.card.page.title == "Two tries"
    image = page.card.grab().toImage().convertToFormat(QImage.Format.Format_RGB32)
    assert len({image.pixel(x, 22) for x in range(image.width())}) > 5
    window.studio.edit("about", lambda b: replace(b, about="First line.\nSecond line.\nThird line."))
    qtbot.waitUntil(lambda: page.card.page.first_lines == ("First line.", "Second line."), timeout=120_000)
