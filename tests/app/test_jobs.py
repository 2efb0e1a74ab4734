"""Work off the interface thread."""

from __future__ import annotations

from chapto.app.jobs import Job, JobQueue


def test_a_queue_that_is_closed_stops_what_still_comes_in(qapp: object) -> None:
    queue, done, stopped = JobQueue("test"), [], []
    queue.close()
    late = Job("late", lambda progress, asked: done.append("worked"))
    late.stopped.connect(lambda: stopped.append("stopped"))
    assert queue.add(late) is late
    assert (done, stopped) == ([], ["stopped"])
