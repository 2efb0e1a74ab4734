"""Every test runs offscreen, with its own XDG folders, and may leave no thread behind."""

from __future__ import annotations

import logging
import os
import tempfile
import threading
from collections.abc import Iterator
from pathlib import Path

import pytest
from hypothesis import HealthCheck, settings

# The same examples every time in CI; `make soak` looks for new ones.
SOAKING = int(os.environ.get("CHAPTO_EXAMPLES", "0"))
settings.register_profile(
    "chapto",
    deadline=None,
    max_examples=SOAKING or 40,
    derandomize=not SOAKING,
    suppress_health_check=[HealthCheck.too_slow],
)
settings.load_profile("chapto")
os.environ["QT_QPA_PLATFORM"] = "offscreen"
# The tests run on all cores already; what measures time would suffer from more processes.
os.environ.setdefault("CHAPTO_ENCODERS", "1")
# Threads that wait for one another by spinning take the cores from other tests.
for threads in ("OMP_NUM_THREADS", "OPENBLAS_NUM_THREADS"):
    os.environ.setdefault(threads, "1")
# Compiled once for all the processes that tests start, also where that is forbidden in general.
os.environ.pop("PYTHONDONTWRITEBYTECODE", None)
os.environ.setdefault("PYTHONPYCACHEPREFIX", str(Path(tempfile.gettempdir()) / f"chapto-tests-{os.getuid()}"))


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """What takes longest begins first: it must not be what all others wait for in the end."""
    items.sort(key=lambda item: "rendered" not in getattr(item, "fixturenames", ()))


@pytest.fixture(scope="session", autouse=True)
def own_folders(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Path]:
    """Cache, state and data folders of this run: nothing of the user's is read or written. The processes of a run share
    their cache, as windows do: what is worked out of the demo's footage is worked out once."""
    home = tmp_path_factory.mktemp("xdg")
    if "PYTEST_XDIST_WORKER" in os.environ:
        shared = tmp_path_factory.getbasetemp().parent / "cache"
        shared.mkdir(exist_ok=True)
        (home / "cache").symlink_to(shared)
    old = {}
    for name in ("CACHE", "STATE", "DATA", "CONFIG"):
        key = f"XDG_{name}_HOME"
        old[key] = os.environ.get(key)
        os.environ[key] = str(home / name.lower())
    yield home
    for key, value in old.items():
        if value is None:
            os.environ.pop(key, None)
        else:
            os.environ[key] = value


@pytest.fixture(autouse=True)
def no_thread_left() -> Iterator[None]:
    """A test that starts threads has to end them."""
    before = set(threading.enumerate())
    yield
    left = [t for t in threading.enumerate() if t not in before and t.is_alive()]
    for thread in left:
        thread.join(timeout=5)
    assert not [t.name for t in left if t.is_alive()]


@pytest.fixture(autouse=True)
def nothing_is_logged(caplog: pytest.LogCaptureFixture) -> Iterator[None]:
    """A record of WARNING or worse in any log is a fault that somebody should have seen."""
    yield
    bad = [r.getMessage() for r in caplog.get_records("call") if r.levelno >= logging.WARNING]
    assert not bad


@pytest.fixture(scope="session")
def qapp_cls() -> type:
    """pytest-qt makes the application; Chapto's theme is put on it by `dressed`."""
    from PyQt6.QtWidgets import QApplication

    return QApplication


@pytest.fixture
def dressed(qapp: object) -> object:
    """The application object with Chapto's fonts and style."""
    from chapto.app.theme import STYLE, dress

    # Dressing again would style every widget of earlier tests anew.
    if qapp.styleSheet() != STYLE:  # type: ignore[attr-defined]
        dress(qapp)  # type: ignore[arg-type]
    return qapp


@pytest.fixture(scope="session")
def guide() -> object:
    """One guide voice for the whole run; lines that several tests say are spoken once."""
    from chapto.voice.guide import GuideVoice

    return GuideVoice()


@pytest.fixture
def demo_file(tmp_path: Path) -> Path:
    """A fresh demo project."""
    from chapto.demo.working_copy import demo_project

    return demo_project(fresh=True, folder=tmp_path, takes=False, marks=False)
