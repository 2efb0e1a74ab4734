"""`chapto pictures`: a PNG of every stage from the demo, for documents and for looking at."""

from __future__ import annotations

import time
from collections.abc import Callable
from fractions import Fraction
from pathlib import Path

from PyQt6.QtCore import QBuffer, QByteArray
from PyQt6.QtWidgets import QApplication

from chapto.app.frame.next_step import Stage
from chapto.app.studio import Studio
from chapto.app.window import Window
from chapto.store.outputs import OutputGate
from chapto.store.session import Session
from chapto.voice.speaker import StandInSpeaker

WRITE_BEAT, WRITE_WORD = "b8", 6


def take_pictures(
    session: Session, folder: Path, *, replacing: bool = False, size: tuple[int, int] = (1280, 800)
) -> list[Path]:
    """Open the window on `session`, visit every stage, and save a picture of each; returns the files."""
    folder.mkdir(parents=True, exist_ok=True)
    gate = OutputGate(session.breakdown, session.path, replacing=replacing)
    window = Window(Studio(session, proxies=False), speaker=StandInSpeaker())
    window.resize(*size)
    window.show()
    made: list[Path] = []

    def snap(name: str) -> None:
        _let_run(window.is_settled)
        picture = QByteArray()
        device = QBuffer(picture)
        device.open(QBuffer.OpenModeFlag.WriteOnly)
        window.grab().save(device, "PNG")
        made.append(gate.write(folder / f"{name}.png", picture.data()))

    try:
        window.studio.wait()
        b = window.studio.breakdown
        script = window.write_page.script
        window.go(Stage.FOOTAGE)
        snap("footage")
        waiting = window.footage_page.chart.model.open_stretches
        if waiting:
            window.footage_page.chart.choose(waiting[0])
            snap("footage-decide")
        if len(b.footage) > 1:
            window.footage_page.chart.choose_file(b.footage[2 % len(b.footage)].id)
            window.player.show_mat(Fraction("38.75"))
            window.footage_page.begin_line_up()
            snap("footage-line-up")
            window.footage_page.end_line_up()
        window.go(Stage.LOG)
        if len(b.exchanges) > 1:
            window.log_page.choose(b.exchanges[1].id)
            window.player.show_mat(b.exchanges[1].start + 2)
        snap("log")
        window.log_page.show_sheet(1)
        snap("log-points")
        window.log_page.show_sheet(2)
        snap("log-figures")
        if len(b.exchanges) > 2:
            window.log_page.compare(b.exchanges[1].id, b.exchanges[2].id)
            window.log_page.comparison.go(Fraction("3.6"))
            snap("log-compare")
            window.log_page.comparison.done.emit()
        window.log_page.show_sheet(0)
        window.go(Stage.WRITE)
        window.write_page.lacing.show_all()
        if WRITE_BEAT in script.cards:
            script.choose(WRITE_BEAT, WRITE_WORD)
            window.write_page.go_to_word()
        snap("write")
        window.write_page.lacing.zoom(4.6)
        snap("write-closer")
        window.write_page.lacing.zoom(5.0)
        snap("write-words")
        window.write_page.lacing.show_all()
        style = window.studio.breakdown.style
        window.write_page.bar.set_style("run-through")
        window.studio.wait()
        lacking = window.studio.programme.shortfalls
        if lacking:
            script.choose(lacking[0].beat, lacking[0].word)
            window.write_page.go_to_word()
            _let_run(lambda: bool(script.cards[script.current].ways.ways), longest=10)
            snap("write-ways")
        window.write_page.bar.set_style(style)
        window.studio.wait()
        for stage in (Stage.MARK, Stage.VOICE, Stage.REVIEW):
            window.go(stage)
            snap(stage.value.lower())
        window.go(Stage.PUBLISH)
        window.player.show_frame(window.studio.programme.frames // 6)
        snap("publish")
        window.go(Stage.SHELF)
        snap("shelf")
        window.go(Stage.WRITE)
        window.show_keys()
        snap("keys")
    finally:
        window.close()
    return made


def _let_run(settled: Callable[[], bool], *, longest: float = 120.0) -> None:
    """Let the window work until it has all its pictures, and a little longer for what is painted then."""
    start = time.monotonic()
    while time.monotonic() - start < longest:
        QApplication.processEvents()
        time.sleep(0.005)
        if time.monotonic() - start > 0.4 and settled():
            break
    QApplication.processEvents()
