"""Killing the application at any moment: at most the last second of edits is lost, and no older edits ever come back.

`CHAPTO_KILLS` says how often (50 in CI; `make soak` takes 500).
"""

from __future__ import annotations

import os
import random
import signal
import subprocess
import sys
import time
from pathlib import Path

import pytest

from chapto.demo.working_copy import demo_project
from chapto.store.session import Session

KILLS = int(os.environ.get("CHAPTO_KILLS", "50"))

EDITING = """
import sys
from pathlib import Path
from PyQt6.QtCore import QTimer
from PyQt6.QtTest import QTest
from chapto.app.start import application
from chapto.app.studio import Studio
from tests.app.driven import DrivenWindow as Window
from chapto.store.session import Session
from chapto.voice.speaker import StandInSpeaker

app = application()
window = Window(Studio(Session.open(Path(sys.argv[1])), proxies=False), speaker=StandInSpeaker(), analyse=False)
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

SESSION = """
import random, sys, time
from pathlib import Path
from msgspec.structs import replace
from chapto.store.session import Session

chance = random.Random(int(sys.argv[2]))
session = Session.open(Path(sys.argv[1]))
start = int(session.breakdown.title)
print(f"opened {start} {int(session.offered is not None)}", flush=True)
for n in range(start + 1, start + 4000):
    session.edit("count", lambda b: replace(b, title=str(n)))
    print(f"edited {n}", flush=True)
    if chance.random() < 0.04:
        session.save()
        print(f"saved {n}", flush=True)
    if chance.random() < 0.02:
        session.undo(); session.redo()
    time.sleep(chance.random() * 0.02)
    session.keep_safe()
"""


def test_a_kill_while_typing_in_the_window_loses_at_most_the_last_second(tmp_path: Path) -> None:
    project = demo_project(fresh=True, folder=tmp_path)
    running = subprocess.Popen(
        [sys.executable, "-c", EDITING, str(project)], stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, text=True
    )
    assert running.stdout is not None
    typed: list[tuple[int, float]] = []
    for line in running.stdout:
        typed.append((int(line), time.monotonic()))
        if len(typed) >= 32:
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


@pytest.mark.timeout(0 if KILLS > 50 else 240)
def test_kills_at_random_moments_lose_at_most_a_second_and_bring_nothing_old_back(tmp_path: Path) -> None:
    """Edits count upwards, are saved now and then, and the process is killed; whatever is opened next has every number
    that was older than a second, and never one from before the last that was seen."""
    from msgspec.structs import replace

    from tests.document.samples import small

    project = tmp_path / "count.chapto"
    Session.create(replace(small(), title="0"), project).close()
    chance, floor = random.Random(7), 0
    for kill in range(KILLS):
        running = subprocess.Popen(
            [sys.executable, "-c", SESSION, str(project), str(kill)], stdout=subprocess.PIPE, text=True
        )
        assert running.stdout is not None
        end = time.monotonic() + 0.35 + chance.random() * 0.9
        seen: list[tuple[str, int, float]] = []
        for line in running.stdout:
            what, number, *offered = line.split()
            seen.append((what, int(number), time.monotonic()))
            assert not offered or offered == ["0"], "edits of another state were found where there are none"
            assert what != "opened" or int(number) >= floor, "older edits came back"
            if time.monotonic() > end and what == "edited":
                break
        running.send_signal(signal.SIGKILL)
        killed = time.monotonic()
        running.wait()
        running.stdout.close()
        floor = max((n for what, n, at in seen if at < killed - 1.0 or what in ("saved", "opened")), default=floor)
    assert int(Session.open(project).breakdown.title) >= floor
    assert not [p for p in tmp_path.iterdir() if "part" in p.name or "conflict" in p.name]
