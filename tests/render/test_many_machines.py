"""Rendering on several machines, here processes on the loopback: the same bytes, and a killed one loses nothing."""

from __future__ import annotations

import os
import signal
import subprocess
import sys
import time
from collections.abc import Iterator
from pathlib import Path

import av
import pytest

from chapto.render.many_machines import Lacking, sent_file, take_block
from chapto.store.session import Session
from tests.render.test_package import small_breakdown

RUN = [sys.executable, "-m", "chapto.cli"]


@pytest.fixture
def project(tmp_path: Path) -> Path:
    Session.create(small_breakdown(tmp_path), tmp_path / "roll.chapto").close()
    return tmp_path / "roll.chapto"


class Machines:
    """A scheduler and machines with a cache of their own each."""

    def __init__(self, folder: Path) -> None:
        self.folder, self.all = folder, []
        where = str(folder / "scheduler.json")
        self.scheduler = self._start("dask_scheduler", "--host", "127.0.0.1", "--port", "0", "--no-dashboard",
                                     "--scheduler-file", where)  # fmt: skip
        for _ in range(200):
            if (folder / "scheduler.json").exists():
                break
            time.sleep(0.1)
        import json

        self.address = json.loads((folder / "scheduler.json").read_text())["address"]

    def add(self) -> subprocess.Popen[bytes]:
        """One machine more."""
        cache = self.folder / f"machine-{len(self.all)}"
        cache.mkdir()
        made = self._start("dask_worker", self.address, "--nthreads", "1", "--no-nanny", "--no-dashboard",
                           "--local-directory", str(cache), cache=cache)  # fmt: skip
        self.all.append(made)
        return made

    def _start(self, name: str, *options: str, cache: Path | None = None) -> subprocess.Popen[bytes]:
        env = dict(os.environ) | ({"XDG_CACHE_HOME": str(cache)} if cache is not None else {})
        command = [sys.executable, "-m", f"distributed.cli.{name}", *options]
        with open(self.folder / f"{name}.log", "ab") as log:
            return subprocess.Popen(command, env=env, stdout=log, stderr=log)

    def close(self) -> None:
        for one in (*self.all, self.scheduler):
            one.kill()
            one.wait()


@pytest.fixture
def machines(tmp_path: Path) -> Iterator[Machines]:
    (tmp_path / "cluster").mkdir()
    made = Machines(tmp_path / "cluster")
    yield made
    made.close()


def rendering(project: Path, out: str, cache: str, *more: str) -> subprocess.Popen[str]:
    env = dict(os.environ) | {"XDG_CACHE_HOME": str(project.parent / cache)}
    command = [*RUN, "render", str(project), "-o", str(project.parent / out), *more]
    return subprocess.Popen(command, env=env, stdout=subprocess.PIPE, stderr=subprocess.PIPE, text=True)


@pytest.mark.timeout(240)
def test_two_machines_make_the_same_bytes_and_a_killed_one_loses_nothing(project: Path, machines: Machines) -> None:
    alone = rendering(project, "alone.mp4", "alone", "--quiet")
    first, _ = machines.add(), machines.add()
    _, said = alone.communicate()
    assert alone.returncode == 0, said
    together = rendering(project, "together.mp4", "together", "--workers", machines.address)
    pieces = project.parent / "together" / "chapto" / "pieces"
    while together.poll() is None and not (pieces.is_dir() and len(list(pieces.glob("*.mp4"))) >= 2):
        time.sleep(0.02)
    os.kill(first.pid, signal.SIGKILL)
    _, said = together.communicate()
    assert together.returncode == 0, said
    assert (project.parent / "together.mp4").read_bytes() == (project.parent / "alone.mp4").read_bytes()


@pytest.mark.timeout(240)
def test_footage_that_a_machine_has_not_is_sent_there(
    project: Path, machines: Machines, monkeypatch: pytest.MonkeyPatch
) -> None:
    """The machine sees the file under another path only: it is looked for by its fingerprint, and sent."""
    import zlib

    from chapto.render import many_machines
    from chapto.render.media_places import media_places
    from chapto.render.order import Order
    from chapto.render.production import produce
    from chapto.voice.guide import GuideVoice

    b = Session.look(project).breakdown
    made = produce(b, GuideVoice(), project=project)
    places = media_places(b, project)[0]
    hidden = {i: Path("/nowhere") / p.name for i, p in places.items()}
    order = Order(b, made.programme, hidden, {})
    monkeypatch.setenv("XDG_CACHE_HOME", str(project.parent / "there"))
    (mark,) = (c.fingerprint for c in b.footage)
    _, lacking = many_machines._placed(Order.unpacked(zlib.decompress(zlib.compress(order.packed()))), ())
    assert lacking == (mark,) and Lacking("here", lacking).fingerprints == (mark,)
    data = next(iter(places.values())).read_bytes()
    for first in range(0, len(data), 5000):
        take_block(mark, ".mp4", first, data[first : first + 5000])
    placed, lacking = many_machines._placed(order, ())
    assert lacking == () and next(iter(placed.places.values())) == sent_file(mark, ".mp4")
    sent_file(mark, ".mp4").unlink()
    shared, lacking = many_machines._placed(order, (str(project.parent),))
    assert lacking == () and next(iter(shared.places.values())).parent == project.parent


def test_nobody_at_the_address_is_told(project: Path) -> None:
    nobody = rendering(project, "never.mp4", "never", "--workers", "tcp://127.0.0.1:9")
    _, said = nobody.communicate(timeout=200)
    assert nobody.returncode == 1 and said.startswith("Nobody answers at tcp://127.0.0.1:9")
    assert not (project.parent / "never.mp4").exists()


def test_a_preview_is_small_and_from_quick_pictures(project: Path) -> None:
    made = rendering(project, "small.mp4", "cache", "--preview", "--quiet")
    _, said = made.communicate()
    assert made.returncode == 0, said
    with av.open(str(project.parent / "small.mp4")) as media:
        assert (media.streams.video[0].width, media.streams.video[0].height) == (320, 180)
