"""What opening the demo again costs, in processor time of the first twenty seconds, against the first time, when
nothing of it is in the cache (aim: at most 0.3: what was found in files and sound is kept)."""

from __future__ import annotations

import os
import resource
import subprocess
import sys
import tempfile
import time
from pathlib import Path

SECONDS = 20


def main() -> None:
    """Open it three times with one cache."""
    with tempfile.TemporaryDirectory() as scratch:
        env = {**os.environ, "QT_QPA_PLATFORM": "offscreen"}
        env |= {f"XDG_{name}_HOME": f"{scratch}/{name}" for name in ("CACHE", "STATE", "DATA", "CONFIG")}
        first, *again = (
            float(subprocess.run([sys.executable, __file__, scratch], env=env, capture_output=True, check=True).stdout)
            for _ in range(3)
        )
    print(f"opened again: {min(again) / first:.2f} of the first time (aim: at most 0.3)")
    print(f"  {first:.0f} s of processor time the first time, {min(again):.0f} s again")


def opened(folder: Path) -> float:
    """Processor seconds of a window on a fresh demo."""
    from chapto.app.start import application
    from chapto.app.studio import Studio
    from chapto.app.window import Window
    from chapto.demo.working_copy import demo_project
    from chapto.store.session import Session
    from chapto.voice.speaker import StandInSpeaker

    app = application()
    project = demo_project(fresh=True, folder=Path(tempfile.mkdtemp(dir=folder)))
    window = Window(Studio(Session.open(project), proxies=False), speaker=StandInSpeaker(), analyse=False)
    window.show()
    window.studio.wait()
    end = time.monotonic() + SECONDS
    while time.monotonic() < end:
        app.processEvents()
        time.sleep(0.01)
    window.close()
    used = resource.getrusage(resource.RUSAGE_SELF)
    return used.ru_utime + used.ru_stime


if __name__ == "__main__":
    if len(sys.argv) > 1:
        print(opened(Path(sys.argv[1])))
    else:
        main()
