"""Writing in the real window, offscreen: the longest it is busy after a key (aim: under 100 ms) in the demo's
own script and in one of 2,000 words, and how long the programme takes to follow; as a ratio of the two."""

from __future__ import annotations

import os
import tempfile
import time
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
KEYS = "and look again "


def main() -> None:
    """Type into a beat in the middle, in both."""
    from msgspec.structs import replace
    from PyQt6.QtCore import Qt
    from PyQt6.QtTest import QTest

    from bench.long_breakdown import long_breakdown
    from chapto.app.start import application
    from chapto.app.studio import Studio
    from chapto.app.window import Window
    from chapto.demo.working_copy import demo_project
    from chapto.review.work import Stage
    from chapto.store.session import Session
    from chapto.voice.speaker import StandInSpeaker

    app = application()

    def typing(session: Session) -> tuple[float, float]:
        window = Window(Studio(session, proxies=False), speaker=StandInSpeaker(), analyse=False)
        window.resize(1280, 800)
        window.show()
        window.studio.wait(seconds=120)
        script = window.stages[Stage.WRITE].page.script
        beat = list(script.cards)[len(script.cards) // 2]
        script.choose(beat, 2)
        app.processEvents()
        editor, longest = script.cards[beat].editor, 0.0
        for key in KEYS:
            start = time.perf_counter()
            QTest.keyClicks(editor, key)
            app.processEvents()
            longest = max(longest, time.perf_counter() - start)
            QTest.qWait(30)
        start = time.perf_counter()
        while not window.studio.compiling.is_compiled:
            before = time.perf_counter()
            app.processEvents()
            longest = max(longest, time.perf_counter() - before)
            time.sleep(0.002)
        followed = time.perf_counter() - start
        QTest.keyClick(editor, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
        window.close()
        return longest, followed

    with tempfile.TemporaryDirectory() as scratch:
        project = demo_project(fresh=True, folder=Path(scratch))
        short, follows = typing(Session.open(project))
        demo = Session.open(project).breakdown
        words = long_breakdown(70)
        merged = replace(demo, script=words.script)
        count = sum(len(x.text.split()) for _, x in merged.beats())
        long, long_follows = typing(Session(merged, Path(scratch) / "long.chapto"))
    print(f"demo: a key keeps the window busy {short * 1000:.0f} ms at most, the programme follows in {follows:.2f} s")
    print(f"{count} words: {long * 1000:.0f} ms at most, {long_follows:.2f} s")
    print(f"ratio: {long / short:.1f} busy, {long_follows / max(follows, 0.001):.1f} following")


if __name__ == "__main__":
    main()
