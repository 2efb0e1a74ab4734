"""A PulseAudio server of the test's own, with one silent output whose monitor can be recorded."""

from __future__ import annotations

import contextlib
import os
import shutil
import subprocess
import time
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

RATE = 48_000
SINK = "chapto-test"


def is_installed() -> bool:
    """Whether this machine has the server and its tools."""
    return all(shutil.which(name) for name in ("pulseaudio", "pactl", "parec"))


class SoundService:
    """Starts, kills and restarts the server; `environment` is what a program needs to find it."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        for name in ("run", "home"):
            (folder / name).mkdir(parents=True, exist_ok=True)
            (folder / name).chmod(0o700)
        self.environment = {
            **os.environ,
            "XDG_RUNTIME_DIR": str(folder / "run"),
            "PULSE_RUNTIME_PATH": str(folder / "run"),
            "HOME": str(folder / "home"),
            "DBUS_SESSION_BUS_ADDRESS": "disabled:",
        }
        self._server: subprocess.Popen[bytes] | None = None

    def start(self) -> None:
        """Start the server and wait until its output is there."""
        with contextlib.suppress(FileNotFoundError):
            (self.folder / "run" / "pid").unlink()
        self._server = subprocess.Popen(
            [
                "pulseaudio", "-n", "--daemonize=no", "--exit-idle-time=-1", "--use-pid-file=no",
                f"--load=module-null-sink sink_name={SINK} rate={RATE} channels=2",
                f"--load=module-native-protocol-unix socket={self.folder / 'run' / 'native'}",
            ],
            env=self.environment, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL,
        )  # fmt: skip
        for _ in range(100):
            asked = subprocess.run(["pactl", "list", "short", "sinks"], env=self.environment, capture_output=True)
            if SINK.encode() in asked.stdout:
                return
            time.sleep(0.05)
        raise RuntimeError("pulseaudio did not start")

    def kill(self) -> None:
        """End the server as a crash would."""
        if self._server is not None:
            self._server.kill()
            self._server.wait()
            self._server = None

    def record(self, into: Path) -> subprocess.Popen[bytes]:
        """Begin recording what is heard, as raw 16-bit stereo at 48 kHz, with as little delay as can be had."""
        with open(into, "wb") as out:
            return subprocess.Popen(
                ["parec", "-d", f"{SINK}.monitor", "--raw", f"--rate={RATE}", "--channels=2", "--format=s16le",
                 "--latency-msec=20"],
                env=self.environment, stdout=out, stderr=subprocess.DEVNULL,
            )  # fmt: skip


def heard(recording: Path) -> NDArray[np.float64]:
    """The left channel of a recording, −1…1."""
    data = np.fromfile(recording, dtype="<i2")
    return data[: len(data) // 2 * 2].reshape(-1, 2)[:, 0] / 32768.0
