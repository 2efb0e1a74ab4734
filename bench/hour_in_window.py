"""An hour of captions by two people in the real window, offscreen: from reading the file to a tied and compiled script
(aim: ten seconds, under five presses: the file, Return, one step for the ties), the longest the window is busy
meanwhile, and how long the rest of the script takes to stand there. As a ratio to reading the file with the caption
library alone."""

from __future__ import annotations

import os
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")


def main() -> None:
    """Measure and print."""
    import pysubs2

    from bench.hour_of_talk import captions, filmed
    from chapto.app.start import application
    from chapto.app.studio import Studio
    from chapto.app.window import Window
    from chapto.review.work import Stage
    from chapto.store.session import Session
    from chapto.voice.speaker import StandInSpeaker

    app = application()
    longest = 0.0

    def wait(done: Callable[[], bool]) -> None:
        nonlocal longest
        while not done():
            begun = time.perf_counter()
            app.processEvents()
            longest = max(longest, time.perf_counter() - begun)
            time.sleep(0.002)

    with tempfile.TemporaryDirectory() as scratch:
        project, file = Path(scratch) / "hour.chapto", Path(scratch) / "hour.vtt"
        file.write_text(captions(60), "utf-8")
        begun = time.perf_counter()
        pysubs2.load(str(file))
        least = time.perf_counter() - begun
        Session.create(filmed(60), project).let_go()
        window = Window(Studio(Session.open(project), proxies=False), speaker=StandInSpeaker(), analyse=False)
        window.resize(1280, 800)
        window.show()
        window.go(Stage.WRITE)
        page = window.stages[Stage.WRITE].page
        begun = time.perf_counter()
        page.elsewhere.read(file, "")
        page.incoming.act()
        wait(lambda: window.studio.compiling.is_compiled)
        page.stamps.tie_all()
        wait(lambda: window.studio.compiling.is_compiled)
        tied = time.perf_counter() - begun
        wait(page.script.is_settled)
        whole = time.perf_counter() - begun
        ties = len(window.studio.programme.ties)
        window.close()
    print(
        f"{ties} ties, tied and compiled after {tied:.1f} s ({tied / least:.0f} times the caption library alone), "
        f"all of the script and its names after {whole:.1f} s; busy for {longest:.2f} s at most"
    )


if __name__ == "__main__":
    main()
