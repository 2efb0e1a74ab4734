"""Recording: whatever happens to device, disk or program, what was said until then is there."""

from __future__ import annotations

import errno
import os
import signal
import subprocess
import sys
import threading
import time
import wave
from pathlib import Path

import numpy as np
import pytest

from chapto.media.sound import load_sound
from chapto.voice.recording import wav_file
from chapto.voice.recording.device import Device, _converter, microphones
from chapto.voice.recording.meter import Meter
from chapto.voice.recording.microphone import RATE, Block, Hear, Lost, Prompt
from chapto.voice.recording.recorder import Recorder
from chapto.voice.recording.room import judged
from chapto.voice.recording.stand_in import StandInMicrophone
from chapto.voice.recording.stand_in_speech import read_line
from chapto.voice.recording.unfinished import new_recording, unfinished
from chapto.voice.recording.wav_file import WavFile
from tests.voice.sound_service import SINK, SoundService, is_installed

# A voice that speaks in real time must not be kept waiting by other tests.
pytestmark = pytest.mark.alone

LINE = "Watch the left hand, it is the frame; once the frame goes, the knee line goes too."


class Given:
    """A microphone that hears what it is given."""

    channels = 1

    def prompt(self, lines: object) -> None: ...

    def start(self, hear: Hear, lost: Lost) -> None:
        self.hear, self.lost = hear, lost

    def stop(self) -> None: ...


def tone(seconds: float, peak: float = 0.3) -> Block:
    wave_form = peak * 32767 * np.sin(2 * np.pi * 1000 * np.arange(round(seconds * RATE)) / RATE)
    return np.round(wave_form).astype(np.int16)[:, None]


def frames(path: Path) -> np.ndarray:
    with wave.open(str(path)) as file:
        assert (file.getframerate(), file.getsampwidth()) == (RATE, 2)
        return np.frombuffer(file.readframes(file.getnframes()), "<i2").reshape(-1, file.getnchannels())


def test_the_file_is_whole_after_every_block(tmp_path: Path) -> None:
    """Read by Python's own library and by libavformat while it is still being written."""
    file = WavFile(tmp_path / "a.wav", 1)
    for n in range(1, 4):
        file.append(tone(0.1))
        assert len(frames(file.path)) == n * RATE // 10
    whole = load_sound(file.path, "open")
    file.close()
    assert len(whole) == 3 * RATE // 10 and np.abs(whole.read(0, len(whole))).max() > 0.2
    with pytest.raises(FileExistsError):
        WavFile(file.path, 1)


def test_a_kill_while_recording_loses_less_than_half_a_second(tmp_path: Path) -> None:
    project = tmp_path / "p.chapto"
    code = f"""
import sys, time
from pathlib import Path
from chapto.voice.recording.microphone import Prompt
from chapto.voice.recording.recorder import Recorder
from chapto.voice.recording.stand_in import StandInMicrophone
from chapto.voice.recording.unfinished import new_recording
microphone = StandInMicrophone()
microphone.prompt([Prompt({LINE!r}, 0.0)])
recorder = Recorder(microphone, new_recording(Path({str(project)!r}), "b4"))
began = time.monotonic()
while True:
    print(time.monotonic() - began, flush=True)
    time.sleep(0.02)
"""
    with subprocess.Popen([sys.executable, "-c", code], stdout=subprocess.PIPE, text=True) as child:
        assert child.stdout is not None
        for told in child.stdout:
            if float(told) > 1.7:
                break
        child.send_signal(signal.SIGKILL)
    (found,) = unfinished(project)
    assert found.subject == "b4" and float(found.seconds) > float(told) - 0.5
    assert len(frames(found.path)) == found.seconds * RATE
    assert new_recording(project, "b4") != found.path


def test_a_full_disk_is_said_and_what_was_recorded_stays(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    real, ended, room = os.pwrite, threading.Event(), [120_000]

    def pwrite(file: int, data: bytes, place: int) -> int:
        if place + len(data) > room[0]:
            raise OSError(errno.ENOSPC, "No space left on device")
        return real(file, data, place)

    monkeypatch.setattr(wav_file.os, "pwrite", pwrite)
    given = Given()
    recorder = Recorder(given, tmp_path / "a.wav", ended_early=ended.set)
    for _ in range(20):
        given.hear(tone(0.1))
    assert ended.wait(5)
    made = recorder.stop()
    assert "disk is full" in made.trouble.lower() or "no space" in made.trouble.lower()
    assert len(frames(made.path)) == made.seconds * RATE == 12 * RATE // 10


def test_lost_samples_and_a_lost_device_are_told(tmp_path: Path) -> None:
    now, given, ended = [100.0], Given(), threading.Event()
    recorder = Recorder(given, tmp_path / "a.wav", ended_early=ended.set, clock=lambda: now[0])
    for step in range(40):
        now[0] = 100 + step * 0.1 + (0.8 if step > 20 else 0)
        given.hear(tone(0.1))
    given.lost("The microphone was unplugged.")
    made = recorder.stop()
    assert made.lost == pytest.approx(0.8, abs=0.01) and made.seconds == 4
    assert ended.is_set() and made.trouble == "The microphone was unplugged."


def test_the_meter_tells_level_and_clipping_across_blocks() -> None:
    """A 1 kHz tone of one channel at −23 dBFS has −26 LUFS (EBU Tech 3341: two such channels have −23)."""
    meter = Meter()
    meter.take(tone(1.0, 10 ** (-23 / 20)))
    assert meter.peak == pytest.approx(-23, abs=0.1) and meter.loudness == pytest.approx(-26, abs=0.1)
    full = np.array([0, 32_767, 32_767, 32_767, 32_767, 0, 32_767, 32_767, 0], np.int16)[:, None]
    meter.take(full[:2])
    meter.take(full[2:])
    meter.take(full[:3])
    meter.take(full[3:])
    assert meter.clipped == 2


def test_the_room_is_judged() -> None:
    noise = np.random.default_rng(3).normal(0, 1, 3 * RATE)
    quiet, loud = ((noise * level).astype(np.int16)[:, None] for level in (12, 600))
    assert judged(quiet).distance == 0.4 and judged(loud).distance is None
    hum = quiet[:, 0] + 150 * np.sin(2 * np.pi * 50 * np.arange(3 * RATE) / RATE)
    assert judged(hum.astype(np.int16)[:, None]).hums and not judged(quiet).hums
    assert "no sound at all" in judged(np.zeros((RATE * 3, 1), np.int16)).sentence


def test_a_device_of_another_rate_and_kind_is_heard_at_48_khz() -> None:
    convert = _converter({"samples": "flt", "rate": 44_100, "channels": 2}, 1)
    seconds = np.arange(44_100) / 44_100
    heard = np.stack([0.5 * np.sin(2 * np.pi * 440 * seconds), np.zeros(44_100)], axis=1).astype("<f4")
    out = np.concatenate([convert(heard[at : at + 4410].tobytes()) for at in range(0, 44_100, 4410)])
    assert abs(len(out) - RATE) < 100 and out.shape[1] == 1
    assert np.argmax(np.abs(np.fft.rfft(out[4800 : 4800 + RATE // 2, 0]))) == 220


def test_the_stand_in_reads_at_the_true_pace_and_slips_only_once() -> None:
    microphone, blocks = StandInMicrophone(), []
    line = "Take the base away first."
    microphone.prompt([Prompt(line, 0.3)])
    began = time.monotonic()
    microphone.start(blocks.append, lambda sentence: None)
    while not microphone.is_done and time.monotonic() - began < 30:
        time.sleep(0.02)
    took = time.monotonic() - began
    microphone.stop()
    read = read_line(line, voice="en-us+f2")
    assert took == pytest.approx(0.3 + len(read.samples) / RATE, abs=0.3)
    assert abs(sum(map(len, blocks)) / RATE - took) < 0.3
    lines = [f"{LINE} And that is number {n}." for n in range(24)]
    slips = [read_line(line, voice="en-us+f2").slip for line in lines]
    assert 1 <= sum(map(bool, slips)) <= 9 and not any(read_line(x, voice="en-us+f2", attempt=1).slip for x in lines)


@pytest.mark.skipif(not is_installed(), reason="pulseaudio is not installed")
def test_a_real_device_is_recorded_and_its_end_is_told(tmp_path: Path) -> None:
    service = SoundService(tmp_path / "sound")
    service.start()
    try:
        load = ["pactl", "load-module", "module-remap-source", f"master={SINK}.monitor", "source_name=table-microphone"]
        subprocess.run(load, env=service.environment, check=True, stdout=subprocess.DEVNULL)
        played = tmp_path / "tone.wav"
        file = WavFile(played, 1)
        file.append(tone(12.0))
        file.close()
        with subprocess.Popen(["paplay", "-d", SINK, str(played)], env=service.environment) as playing:
            names = microphones(service.environment)
            assert names
            ended = threading.Event()
            device = Device(names[0], environment=service.environment)
            recorder = Recorder(device, tmp_path / "a.wav", ended_early=ended.set)
            end = time.monotonic() + 20
            while recorder.seconds < 2 and time.monotonic() < end:
                time.sleep(0.05)
            service.kill()
            assert ended.wait(20)
            playing.kill()
        made = recorder.stop()
        assert made.trouble.startswith("The microphone") and made.seconds >= 2
        heard = frames(made.path)[:, 0].astype(float)
        assert np.argmax(np.abs(np.fft.rfft(heard[-RATE:]))) == 1000
    finally:
        service.kill()
