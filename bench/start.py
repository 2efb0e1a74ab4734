"""From nothing to the first picture: the demo opened in a process of its own, against an empty PyQt6 window that is
shown in one (aim: at most 1.5 s on a quiet machine, 150 MB). Also what `chapto --version` and `chapto inspect` take
against a Python that does nothing, and whether they load Qt (aim: no)."""

from __future__ import annotations

import os
import subprocess
import sys
import tempfile
import time
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
TIMES = 5
EMPTY = """
from PyQt6.QtWidgets import QApplication, QWidget
app = QApplication([])
window = QWidget()
window.resize(1280, 800)
window.show()
app.processEvents()
"""
CHAPTO = """
import sys, time
from pathlib import Path
from chapto.app.start import Windows, application
from chapto.app.faults import Faults
app = application()
windows = Windows(Faults())
windows.open(Path(sys.argv[1]))
window = windows.now
from chapto.app.screen.screen import Screen
screen = next(s for s in window.findChildren(Screen) if s.isVisible())
while screen.shown_key is None:
    app.processEvents()
    time.sleep(0.001)
screen.repaint()
"""
MEMORY = """
with open("/proc/self/status") as status:
    print(next(int(line.split()[1]) for line in status if line.startswith("VmRSS")) // 1024, flush=True)
"""
OUT = "import os; os._exit(0)"
NO_QT = """
import sys
from chapto.cli.main import main
try:
    main(sys.argv[1:])
finally:
    print("Qt" if any(m.startswith("PyQt6") for m in sys.modules) else "no Qt", file=sys.stderr)
"""


def main() -> None:
    """Measure and print."""
    from chapto.demo.working_copy import demo_project

    with tempfile.TemporaryDirectory() as scratch:
        # Compiled once, as what is installed is; some machines forbid it in general.
        os.environ.pop("PYTHONDONTWRITEBYTECODE", None)
        os.environ["PYTHONPYCACHEPREFIX"] = scratch
        project = str(demo_project(fresh=True, folder=Path(scratch)))
        _run(CHAPTO, project)
        nothing = _quickest("pass")[0]
        empty, empty_memory = _quickest(EMPTY)
        first, memory = _quickest(CHAPTO, project)
        print(
            f"first picture of the demo after {first:.2f} s ({first / empty:.1f} empty windows of {empty:.2f} s), "
            f"with {memory} MB ({empty_memory} MB)"
        )
        for arguments in (["--version"], ["inspect", project]):
            done = subprocess.run(
                [sys.executable, "-c", NO_QT, *arguments], capture_output=True, text=True, check=False
            )
            seconds, _ = _quickest(NO_QT, *arguments, prints=False)
            what = done.stderr.strip().splitlines()[-1]
            print(f"chapto {arguments[0]}: {seconds:.2f} s ({seconds / nothing:.0f} bare Pythons), {what}")


def _quickest(code: str, *arguments: str, prints: bool = True) -> tuple[float, int]:
    """The shortest of `TIMES` runs in seconds, and the memory of one."""
    found = [_run(code, *arguments, prints=prints) for _ in range(TIMES)]
    return min(seconds for seconds, _ in found), min(memory for _, memory in found)


def _run(code: str, *arguments: str, prints: bool = True) -> tuple[float, int]:
    begun = time.perf_counter()
    ending = f"\n{MEMORY}\n{OUT}" if prints else ""
    with subprocess.Popen(
        [sys.executable, "-c", code + ending, *arguments], stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, text=True
    ) as child:
        assert child.stdout is not None
        said = child.stdout.readline()
        if not prints:
            child.wait()
        return time.perf_counter() - begun, int(said) if prints else 0


if __name__ == "__main__":
    main()
