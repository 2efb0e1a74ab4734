"""`chapto pictures`: a PNG of every stage from the demo, for documents and for looking at."""

from __future__ import annotations

from pathlib import Path
from tempfile import TemporaryDirectory

from PyQt6.QtCore import QBuffer, QByteArray

from chapto.app.frame.where_left import note_recent
from chapto.app.let_run import let_run
from chapto.app.stages import START
from chapto.app.studio import Studio
from chapto.app.window import Window
from chapto.demo.talk_project import talk_project
from chapto.document.breakdown import Breakdown
from chapto.review.work import Stage
from chapto.store.outputs import OutputGate
from chapto.store.session import Session
from chapto.voice.speaker import StandInSpeaker


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
        let_run(window.is_settled)
        take(window, name)

    def take(window: Window, name: str) -> None:
        picture = QByteArray()
        device = QBuffer(picture)
        device.open(QBuffer.OpenModeFlag.WriteOnly)
        window.grab().save(device, "PNG")
        made.append(gate.write(folder / f"{name}.png", picture.data()))

    try:
        window.studio.wait()
        for stage, view in window.stages.items():
            window.go(stage)
            view.pictures(snap)
        window.go(START)
        window.show_keys()
        snap("keys")
        note_recent(window)
    finally:
        window.close()
    with TemporaryDirectory() as scratch:
        talk = Session.open(talk_project(fresh=True, folder=Path(scratch)))
        for other, stage, name in (
            (talk, Stage.VOICE, "talk"),
            (Session(Breakdown(title="New breakdown"), None), Stage.FOOTAGE, "start"),
        ):
            window = Window(Studio(other, proxies=False), speaker=StandInSpeaker())
            window.resize(*size)
            window.show()
            try:
                window.studio.wait()
                window.go(stage)
                let_run(window.is_settled)
                take(window, name)
            finally:
                window.close()
    return made
