"""The programs as they are started: exit status, no network, no display, a real window."""

from __future__ import annotations

import os
import re
import shutil
import subprocess
import sys
from pathlib import Path

import pytest

from tests.media.clips import Clip, make
from tests.voice.sound_service import SoundService, is_installed

CHAPTO = [sys.executable, "-m", "chapto.cli"]


def environment(**more: str) -> dict[str, str]:
    """That of a machine without a display, but for what is given."""
    bare = {k: v for k, v in os.environ.items() if k not in ("DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM")}
    return {**bare, **more}


def run(*arguments: str, env: dict[str, str] | None = None, seconds: float = 200) -> subprocess.CompletedProcess[str]:
    return subprocess.run(
        [*CHAPTO, *arguments], capture_output=True, text=True, timeout=seconds, env=env or environment()
    )


def test_rendering_and_then_opening_a_window_use_one_application(tmp_path: Path) -> None:
    """Without a display the demo renders, then takes pictures: two application objects in one process ended it."""
    code = (
        "from chapto.render.frames import ProgrammeFrames\n"
        "from chapto.document.breakdown import Breakdown\nfrom chapto.programme.compile import compile_programme\n"
        "b = Breakdown(title='x'); ProgrammeFrames(b, compile_programme(b, {}), {}).close()\n"
        "from chapto.app.start import application\napp = application()\n"
        "from PyQt6.QtWidgets import QLabel\nlabel = QLabel('x'); label.show(); app.processEvents()\n"
    )
    for _ in range(5):
        done = subprocess.run(
            [sys.executable, "-c", code], capture_output=True, text=True, env=environment(), timeout=200
        )
        assert done.returncode == 0, done.stderr


def test_a_folder_that_holds_something_else_is_not_filled_with_demo_results_over_it(tmp_path: Path) -> None:
    (tmp_path / "two-knee-slides.mp4").write_bytes(b"my own")
    done = run("demo", "--folder", str(tmp_path))
    assert done.returncode == 1 and "is there already" in done.stderr
    assert (tmp_path / "two-knee-slides.mp4").read_bytes() == b"my own"


def test_without_a_display_opening_a_window_is_a_sentence() -> None:
    done = run("open")
    assert done.returncode == 1 and done.stderr.startswith("There is no display")


def test_a_file_whose_name_is_no_text_is_a_sentence(tmp_path: Path) -> None:
    place = os.fsencode(tmp_path) + b"/caf\xe9.mp4"
    make(tmp_path / "real.mp4", Clip(frames=5)).rename(Path(os.fsdecode(place)))
    done = subprocess.run(
        [*CHAPTO, "new", place, "-o", str(tmp_path / "x.chapto")], capture_output=True, env=environment(), timeout=200
    )
    assert done.returncode == 1 and b"rename it" in done.stderr and b"Traceback" not in done.stderr


EVERY_STAGE = """
import sys
from pathlib import Path
from PyQt6.QtTest import QTest
from chapto.app import start
from chapto.app.faults import Faults
from chapto.review.work import Stage

app = start.application()
windows = start.Windows(Faults())
windows.open(Path(sys.argv[1]))
for stage in (Stage.FOOTAGE, Stage.LOG, Stage.WRITE, Stage.MARK, Stage.VOICE, Stage.PUBLISH):
    windows.now.go(stage)
    QTest.qWait(200)
    assert windows.now.stage == stage, stage
windows.now.close()
"""


@pytest.mark.skipif(shutil.which("strace") is None, reason="strace is not installed")
def test_no_command_and_no_stage_ever_opens_a_socket_to_a_network(tmp_path: Path) -> None:
    make(tmp_path / "a.mp4", Clip(frames=12)).rename(tmp_path / "http:")
    trace = tmp_path / "trace"
    commands = [
        [*CHAPTO, "new", "http:", "-o", "x.chapto"],
        [*CHAPTO, "render", "x.chapto", "-o", "x.mp4", "--quiet"],
        [*CHAPTO, "inspect", "x.chapto"],
        [sys.executable, "-c", EVERY_STAGE, "x.chapto"],
    ]
    traced = 0
    for command in commands:
        done = subprocess.run(
            ["strace", "-f", "-qq", "-e", "trace=socket,connect,execve", "-o", str(trace), *command],
            capture_output=True, text=True, env=environment(QT_QPA_PLATFORM="offscreen"), timeout=220, cwd=tmp_path,
        )  # fmt: skip
        if "ptrace" in done.stderr and done.returncode != 0:
            pytest.skip("this machine does not let strace look")
        assert done.returncode == 0, done.stderr
        calls = trace.read_text()
        traced += calls.count("execve(")
        assert not re.search(r"AF_INET", calls), calls
    assert traced >= len(commands), "nothing was traced"


WINDOW = """
import sys
from pathlib import Path
from PyQt6.QtCore import QTimer
from PyQt6.QtTest import QTest
from chapto.app import start
from tests.app.driven import DrivenWindow as Window
from chapto.review.work import Stage
from chapto.app.faults import Faults

start.Window = Window
app = start.application()
assert app.platformName() == "xcb", app.platformName()
windows = start.Windows(Faults())
windows.open(Path(sys.argv[1]))
window = windows.now
faults = []
windows._faults.happened.connect(faults.append)

def until(wanted, seconds=120):
    for _ in range(int(seconds * 50)):
        if wanted():
            return
        QTest.qWait(20)
    raise AssertionError(wanted)

until(lambda: window.studio.compiling.is_compiled)
until(lambda: window.player.speaker.has_device, 120)
for stage in (Stage.FOOTAGE, Stage.LOG, Stage.WRITE, Stage.PUBLISH):
    window.go(stage)
    before = window.player.head
    window.player.play()
    until(lambda: window.player.speaker.played() > 0.3, 120)
    window.player.pause()
    assert window.player.head != before, stage
window.go(Stage.WRITE)
window.write_page.script.choose("b4")
QTest.keyClicks(window.write_page.script.cards["b4"].editor, "and look ")
until(lambda: window.studio.compiling.is_compiled)
window.publish_page.target = Path(sys.argv[2])
window.go(Stage.PUBLISH)
window.publish_page.start_render()
until(lambda: "%" in window.publish_page.render_button.text(), 120)
window.publish_page.stop()
until(lambda: window.publish_page.job is None, 120)
assert not faults, faults
window.close()
QTimer.singleShot(0, app.quit)
sys.exit(app.exec())
"""


@pytest.mark.skipif(not is_installed() or shutil.which("Xvfb") is None, reason="Xvfb or pulseaudio is missing")
def test_the_real_window_opens_plays_edits_renders_and_closes_with_a_real_device(
    demo_file: Path, tmp_path: Path
) -> None:
    service = SoundService(tmp_path / "sound")
    service.start()
    read, write = os.pipe()
    screen = subprocess.Popen(
        ["Xvfb", "-displayfd", str(write), "-screen", "0", "1400x900x24", "-nolisten", "tcp"],
        pass_fds=(write,), stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL,
    )  # fmt: skip
    os.close(write)
    recorder = service.record(tmp_path / "heard.raw")
    try:
        display = f":{os.read(read, 20).decode().strip()}"
        env = {**service.environment, "DISPLAY": display, "QT_QPA_PLATFORM": "xcb"}
        done = subprocess.run(
            [sys.executable, "-c", WINDOW, str(demo_file), str(tmp_path / "out.mp4")],
            capture_output=True, text=True, timeout=230, env=env,
        )  # fmt: skip
        assert done.returncode == 0, done.stdout + done.stderr
        assert not (tmp_path / "out.mp4").exists()
    finally:
        os.close(read)
        for process in (recorder, screen):
            process.kill()
            process.wait()
        service.kill()
