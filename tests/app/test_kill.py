"""Killing the application loses at most the last second of edits."""

import subprocess
import sys
import time
from pathlib import Path

import pytest

from chapto.demo.working_copy import demo_project
from chapto.store.session import Session

EDITING = """
import sys
from pathlib import Path
from PyQt6.QtCore import QTimer
from PyQt6.QtTest import QTest
from chapto.app.start import application
from chapto.app.studio import Studio
from chapto.app.window import Window
from chapto.store.session import Session
from chapto.voice.speaker import StandInSpeaker

app = application()
window = Window(Studio(Session.open(Path(sys.argv[1])), proxies=False), speaker=StandInSpeaker())
window.show()
window.write_page.script.choose("b4")
editor = window.write_page.script.cards["b4"].editor
count = 0

def type_one():
    global count
    count += 1
    QTest.keyClicks(editor, f"w{count} ")
    print(count, flush=True)

timer = QTimer()
timer.timeout.connect(type_one)
timer.start(60)
app.exec()
"""


@pytest.mark.parametrize("after", [25, 38])
def test_a_kill_while_typing_loses_at_most_the_last_second(tmp_path: Path, after: int) -> None:
    project = demo_project(fresh=True, folder=tmp_path)
    running = subprocess.Popen(
        [sys.executable, "-c", EDITING, str(project)], stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, text=True
    )
    assert running.stdout is not None
    typed: list[tuple[int, float]] = []
    for line in running.stdout:
        typed.append((int(line), time.monotonic()))
        if len(typed) >= after:
            running.kill()
            break
    killed = time.monotonic()
    running.wait()
    running.stdout.close()
    session = Session.open(project)
    assert session.recovered
    kept = session.breakdown.find_beat("b4")[1].text
    due = [n for n, at in typed if at < killed - 1.0]
    assert due and all(f"w{n} " in kept + " " for n in due)
    session.undo()
    assert "w1 " not in session.breakdown.find_beat("b4")[1].text
