"""Playing the demo in the real window, offscreen, with nothing else to do and with one core and both kept busy by
other processes: pictures shown a second as a share of the footage's own thirty (aim: all, all, half), and the longest
time the interface thread was busy at a stretch: its own work (processor time), and with what it waited for a core or
another thread. Beside it, how many pictures a second are decoded and nothing else."""

from __future__ import annotations

import os
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
SECONDS, RATE = 4.0, 30


def main() -> None:
    """Open the demo, play the footage in four stages."""
    from chapto.app.let_run import let_run
    from chapto.app.screen.screen import Screen
    from chapto.app.start import SWITCH, application
    from chapto.app.studio import Studio
    from chapto.app.window import Window
    from chapto.demo.working_copy import demo_project
    from chapto.media.reader import FrameReader
    from chapto.review.work import Stage
    from chapto.store.session import Session
    from chapto.voice.speaker import StandInSpeaker

    app = application()
    sys.setswitchinterval(SWITCH)
    with tempfile.TemporaryDirectory() as scratch:
        session = Session.open(demo_project(fresh=True, folder=Path(scratch)))
        window = Window(Studio(session, proxies=False), speaker=StandInSpeaker(), analyse=False)
        window.resize(1280, 800)
        window.show()
        window.studio.wait()
        place = next(iter(window.studio.files.places.values()))
        reader, start = FrameReader(place), time.perf_counter()
        for number in range(120):
            reader.picture(number, 716, 402)
        decoded = 120 / (time.perf_counter() - start)
        reader.close()
        print(f"decoding alone: {decoded:.0f} pictures a second")
        for busy in (0, 1, 2):
            for stage in (Stage.FOOTAGE, Stage.LOG, Stage.WRITE, Stage.VOICE):
                window.go(stage)
                window.player.show_mat(session.breakdown.exchanges[1].start)
                screen = next(s for s in window.findChildren(Screen) if s.isVisible())
                shown: list[object] = []
                note = window.player.moved.connect(lambda shown=shown, screen=screen: shown.append(screen.shown_key))
                let_run(window.is_settled)
                with _busy(busy):
                    window.player.play()
                    longest, work, end = 0.0, 0.0, time.perf_counter() + SECONDS
                    while time.perf_counter() < end:
                        start, worked = time.perf_counter(), time.thread_time()
                        app.processEvents()
                        work = max(work, time.thread_time() - worked)
                        longest = max(longest, time.perf_counter() - start)
                        time.sleep(0.002)
                    window.player.pause()
                window.player.moved.disconnect(note)
                rate = len(set(shown)) / SECONDS
                print(
                    f"{busy} cores busy elsewhere, {stage}: {rate / RATE:.0%} of thirty pictures a second "
                    f"({rate / decoded:.2f} of decoding alone), interface works {work * 1000:.0f} ms at most, "
                    f"{longest * 1000:.0f} ms with waiting"
                )
        window.close()


@contextmanager
def _busy(cores: int) -> Iterator[None]:
    others = [subprocess.Popen([sys.executable, "-c", "while True: pass"]) for _ in range(cores)]
    try:
        yield
    finally:
        for other in others:
            other.kill()
            other.wait()


if __name__ == "__main__":
    main()
