"""Work off the interface thread, and every way it can end."""

from __future__ import annotations

import threading
from collections.abc import Callable, Iterator
from typing import Any

import pytest
from pytestqt.qtbot import QtBot

from chapto.app.jobs import Job, JobQueue
from chapto.app.workers import Workers
from chapto.errors import Cancelled, ChaptoError


@pytest.fixture
def queue(qapp: object) -> Iterator[JobQueue]:
    made = JobQueue("test")
    yield made
    made.close()


@pytest.fixture
def workers(qapp: object) -> Iterator[Workers]:
    made = Workers()
    yield made
    made.close()


def ends_of(job: Job[Any]) -> list[str]:
    """What a job says, in order."""
    said: list[str] = []
    job.then(lambda result: said.append(f"result {result}"))
    job.failed.connect(lambda sentence: said.append(sentence))
    job.stopped.connect(lambda: said.append("stopped"))
    job.ended.connect(lambda: said.append("ended"))
    return said


def raising(error: Exception) -> Callable[[Any, Any], None]:
    def work(progress: Any, stopped: Any) -> None:
        raise error

    return work


def begun(add: Callable[[Job[Any]], object], job: Job[Any]) -> list[str]:
    """Hears of every end of a job, also of one that comes at once, and begins it."""
    said = ends_of(job)
    add(job)
    return said


@pytest.mark.parametrize(
    ("work", "says"),
    [
        (lambda progress, stopped: 3, "result 3"),
        (raising(ChaptoError("The disk is full.")), "The disk is full."),
        (raising(Cancelled()), "stopped"),
        (raising(ZeroDivisionError("by zero")), "“Work” failed inside Chapto (ZeroDivisionError)"),
    ],
)
def test_a_job_ends_in_one_way_and_then_says_that_it_has(
    queue: JobQueue, qtbot: QtBot, work: Callable[[Any, Any], Any], says: str
) -> None:
    job = Job("Work", work)
    said = ends_of(job)
    queue.add(job)
    qtbot.waitUntil(lambda: "ended" in said, timeout=120_000)
    assert len(said) == 2 and said[0].startswith(says)


def test_what_fails_does_not_stop_the_queue(queue: JobQueue, qtbot: QtBot) -> None:
    queue.add(Job("one", raising(ZeroDivisionError())))
    said = begun(queue.add, Job("two", lambda progress, stopped: "done"))
    qtbot.waitUntil(lambda: said == ["result done", "ended"], timeout=120_000)


def test_work_that_is_stopped_hears_of_it_and_work_that_waits_never_begins(queue: JobQueue, qtbot: QtBot) -> None:
    under_way, heard = threading.Event(), list[str]()

    def patient(progress: Any, stopped: Callable[[], bool]) -> None:
        under_way.set()
        while not stopped():
            threading.Event().wait(0.001)
        heard.append("stopped")
        raise Cancelled

    running = begun(queue.add, Job("running", patient))
    waiting = begun(queue.add, Job("waiting", lambda progress, stopped: heard.append("worked")))
    assert under_way.wait(3)
    queue.stop()
    later = begun(queue.add, Job("later", lambda progress, stopped: "done"))
    qtbot.waitUntil(lambda: "ended" in later, timeout=120_000)
    assert running == waiting == ["stopped", "ended"]
    assert heard == ["stopped"] and later[0] == "result done"


def test_a_queue_that_is_closed_stops_what_still_comes_in(queue: JobQueue) -> None:
    queue.close()
    late: Job[None] = Job("late", lambda progress, stopped: None)
    said = ends_of(late)
    assert queue.add(late) is late
    assert said == ["stopped", "ended"]


def test_progress_is_shown_under_the_title_and_ends_at_one(workers: Workers, qtbot: QtBot) -> None:
    shown: list[tuple[str, float]] = []
    workers.progressed.connect(lambda title, share: shown.append((title, share)))
    workers.run_asked(Job("Render", lambda progress, stopped: [progress(0.25), progress(1.0)]))
    qtbot.waitUntil(lambda: ("Render", 1.0) in shown, timeout=120_000)
    assert shown == [("Render", 0.25), ("Render", 0.999), ("Render", 1.0)]


@pytest.mark.parametrize(
    "run", ["run_asked", "run_in_background", "run_unseen", "run_for_programme", "run_short", "run_thought"]
)
def test_whatever_fails_in_any_queue_is_said(workers: Workers, qtbot: QtBot, run: str) -> None:
    said: list[str] = []
    workers.message.connect(said.append)
    getattr(workers, run)(Job("Looking", raising(ChaptoError("The file is gone."))))
    qtbot.waitUntil(lambda: said == ["The file is gone."], timeout=120_000)


def test_stopping_one_background_job_stops_all_of_them_and_no_other(workers: Workers, qtbot: QtBot) -> None:
    gate = threading.Event()

    def patient(progress: Any, stopped: Callable[[], bool]) -> str:
        while not stopped() and not gate.is_set():
            threading.Event().wait(0.001)
        if stopped():
            raise Cancelled
        return "done"

    dropped: list[str] = []
    workers.dropped.connect(lambda: dropped.append("dropped"))
    first = begun(workers.run_in_background, Job("first", patient))
    second = begun(workers.run_in_background, Job("second", patient))
    asked = begun(workers.run_asked, Job("asked", patient))
    workers.stop("nobody")
    workers.stop("first")
    qtbot.waitUntil(lambda: "ended" in first and "ended" in second, timeout=120_000)
    assert first[0] == second[0] == "stopped" and dropped == ["dropped"] and asked == []
    gate.set()
    qtbot.waitUntil(lambda: asked == ["result done", "ended"], timeout=120_000)
