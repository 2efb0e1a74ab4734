"""A review of up to 2,000 beats: the first one, the one after an edit of one beat (aim: under 50 ms of CPU at 500), and
after something of the log was changed; with how many times as long as compiling the same edit each takes. Then how long
the finished demo is looked at and listened to, by the length of the video."""

from __future__ import annotations

import os
import tempfile
import time
from pathlib import Path

from bench.long_breakdown import long_breakdown
from chapto.demo.working_copy import demo_project
from chapto.document import edit_log, edit_script
from chapto.document.breakdown import Breakdown
from chapto.paint.photos import Photos
from chapto.programme.compile import compile_programme
from chapto.programme.programme import Programme
from chapto.render.listening import listen
from chapto.render.media_places import media_places, photo_places
from chapto.render.production import footage_sounds, produce
from chapto.render.watching import watch
from chapto.review.review import Reviewer
from chapto.store.session import Session
from chapto.voice.guide import GuideVoice

SIZES = (100, 500, 2000)
EDITS = 5


def main() -> None:
    """Measure and print."""
    for beats in SIZES:
        _reviewed(long_breakdown(beats))
    _measured()


def _reviewed(b: Breakdown) -> None:
    reviewer = Reviewer()

    def cpu(b: Breakdown, programme: Programme) -> float:
        start = time.process_time()
        reviewer.review(b, programme)
        return time.process_time() - start

    first = cpu(b, compile_programme(b, {}))
    ids = [beat.id for _, beat in b.beats()]
    after, compiled = [], []
    for turn in range(EDITS):
        beat = ids[(turn + 1) * len(ids) // (EDITS + 1)]
        b = edit_script.rewrite(b, beat, b.find_beat(beat)[1].text + f" And turn {turn}.")
        start = time.process_time()
        programme = compile_programme(b, {})
        compiled.append(time.process_time() - start)
        after.append(cpu(b, programme))
    logged = edit_log.change_exchange(b, b.exchanges[0].id, technique="knee slide")
    log = cpu(logged, compile_programme(logged, {}))
    edit, compiling = min(after), min(compiled)
    print(
        f"{len(ids)} beats: first {1000 * first:.0f} ms, after an edit {1000 * edit:.0f} ms "
        f"({edit / compiling:.2f} of compiling it), after the log {1000 * log:.0f} ms"
    )


def _measured() -> None:
    with tempfile.TemporaryDirectory() as folder:
        os.environ["XDG_CACHE_HOME"] = folder
        project = demo_project(folder=Path(folder))
        b: Breakdown = Session.look(project).breakdown
        made = produce(b, GuideVoice(), project=project)
        places, _ = media_places(b, project)
        photos, _ = photo_places(b, project)
        sounds = footage_sounds(b, places)
        start = time.perf_counter()
        listen(made, project, sounds)
        heard = time.perf_counter()
        watch(b, made.programme, places, Photos(photos))
        end = time.perf_counter()
        b = edit_log.set_label(b, b.labels[len(b.labels) // 2].moment, "Something else")
        edited = produce(b, GuideVoice(), project=project)
        begun = time.perf_counter()
        watch(b, edited.programme, places, Photos(photos))
        again = time.perf_counter() - begun
    length = float(made.programme.seconds)
    heard_in, looked_in = (heard - start) / length, (end - heard) / length
    print(f"listened to in {heard_in:.2f}, looked at in {looked_in:.2f} of the video's length")
    print(f"looked at again with another label: {again / (end - heard):.1%} of the first time")


if __name__ == "__main__":
    main()
