"""Playing the demo in the real window, offscreen: pictures shown a second as a share of the footage's own thirty, and
the longest time the interface thread was busy at a stretch (aim: under 100 ms)."""

from __future__ import annotations

import os
import tempfile
import time
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
SECONDS, RATE = 4.0, 30


def main() -> None:
    """Open the demo, play the footage in three stages."""
    from chapto.app.screen.screen import Screen
    from chapto.app.start import application
    from chapto.app.studio import Studio
    from chapto.app.window import Window
    from chapto.demo.working_copy import demo_project
    from chapto.review.work import Stage
    from chapto.store.session import Session
    from chapto.voice.speaker import StandInSpeaker

    app = application()
    with tempfile.TemporaryDirectory() as scratch:
        session = Session.open(demo_project(fresh=True, folder=Path(scratch)))
        window = Window(Studio(session, proxies=False), speaker=StandInSpeaker(), analyse=False)
        window.resize(1280, 800)
        window.show()
        window.studio.wait()
        for stage in (Stage.FOOTAGE, Stage.LOG, Stage.WRITE):
            window.go(stage)
            window.player.show_mat(session.breakdown.exchanges[1].start)
            screen = next(s for s in window.findChildren(Screen) if s.isVisible())
            shown: list[object] = []
            note = window.player.moved.connect(lambda shown=shown, screen=screen: shown.append(screen.shown_key))
            window.player.play()
            longest, end = 0.0, time.perf_counter() + SECONDS
            while time.perf_counter() < end:
                start = time.perf_counter()
                app.processEvents()
                longest = max(longest, time.perf_counter() - start)
                time.sleep(0.002)
            window.player.pause()
            window.player.moved.disconnect(note)
            share = min(len(set(shown)) / SECONDS / RATE, 1.0)
            print(f"playing in {stage}: {share:.0%} of thirty pictures a second, busy {longest * 1000:.0f} ms at most")
        window.close()


if __name__ == "__main__":
    main()
