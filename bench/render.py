"""Rendering a one-minute programme (run, half speed, holds, labels, voice) against the `ffmpeg` program doing the
same trims, `setpts`, overlay and mix with the same encoder settings. Prints how many times as fast it is (aim: 1.5).
Nothing is in the cache of pieces, and the processes are started before.
"""

from __future__ import annotations

import os
import shutil
import subprocess
import sys
import tempfile
import time
import wave
from pathlib import Path

import numpy as np

sys.path.insert(0, str(Path(__file__).parent))
from material import FPS, explained

ROUNDS = 3


def main() -> None:
    """Render the same programme both ways, in turn, and compare the best of each."""
    if shutil.which("ffmpeg") is None:
        sys.exit("This bench needs the ffmpeg program.")
    with tempfile.TemporaryDirectory() as scratch:
        os.environ["XDG_CACHE_HOME"] = scratch
        folder = Path(scratch)
        ours, reference = [], []
        production, places, sounds, samples = _prepared(folder)
        (footage,) = places.values()  # type: ignore[attr-defined]
        command = _ffmpeg(folder, footage, production, samples)
        from chapto.render.worker import PieceWorkers

        workers = PieceWorkers()
        for number in range(ROUNDS + 1):
            for kind in ("pieces", "soundtracks"):
                shutil.rmtree(folder / "chapto" / kind, ignore_errors=True)
            took = _timed(lambda: _chapto(folder, production, places, sounds, samples, workers))
            if not number:
                continue
            ours.append(took)
            reference.append(_timed(lambda: subprocess.run(command, check=True, capture_output=True)))
        seconds = float(production.programme.seconds)
        workers.close()
    faster = min(reference) / min(ours)
    print(f"render of {seconds:.0f} s: {faster:.2f} times as fast as the ffmpeg program (aim: 1.5 or more)")
    print(f"  {seconds / min(ours):.1f}× real time here, ffmpeg {seconds / min(reference):.1f}×")


def _timed(work: object) -> float:
    start = time.perf_counter()
    work()  # type: ignore[operator]
    return time.perf_counter() - start


def _prepared(folder: Path) -> tuple[object, ...]:
    from chapto.render.media_places import media_places
    from chapto.render.production import footage_sounds, produce
    from chapto.voice.guide import GuideVoice, SpeechSounds

    b = explained(folder, parts=3, seconds=50)
    production = produce(b, GuideVoice(folder / "voice"))
    places, _ = media_places(b, None)
    samples = SpeechSounds(production.speeches)
    return production, places, footage_sounds(b, places), samples


def _chapto(folder: Path, production: object, places: object, sounds: object, samples: object, workers: object) -> None:
    from chapto.render.file import render
    from chapto.store.outputs import OutputGate

    gate = OutputGate(production.breakdown, None, replacing=True)  # type: ignore[attr-defined]
    render(
        production.breakdown, production.programme, places, samples, sounds, folder / "ours.mp4", gate, workers=workers
    )  # type: ignore[attr-defined,arg-type]


def _ffmpeg(folder: Path, footage: Path, production: object, samples: dict[str, np.ndarray]) -> list[str]:
    """The same passages, labels and voice as one filter graph."""
    from chapto.media.stretch import stretched
    from chapto.paint.application import application
    from chapto.paint.overlay import Overlay
    from chapto.render.encodings import PICTURES, Codec

    application(offscreen=True)
    p = production.programme  # type: ignore[attr-defined]
    voice = np.zeros(round(float(p.seconds) * 48_000) + 48_000, np.float32)
    for phrase in p.voice:
        part = samples[phrase.beat][round(phrase.voice_in * 48_000) : round(phrase.voice_out * 48_000)]
        part = stretched(part, float(phrase.tempo))
        at = round(phrase.at * 48_000)
        voice[at : at + len(part)] += part
    with wave.open(str(folder / "voice.wav"), "wb") as out:
        out.setnchannels(1)
        out.setsampwidth(2)
        out.setframerate(48_000)
        out.writeframes((np.clip(voice, -1, 1) * 32767).astype("<i2").tobytes())
    overlay = Overlay(production.breakdown, p, (1280, 720))  # type: ignore[attr-defined]
    inputs = ["-i", str(footage), "-i", str(folder / "voice.wav")]
    chains, names, sound_names = [], [], []
    count = len(p.passages)
    chains.append(f"[0:v]split={count}" + "".join(f"[in{i}]" for i in range(count)))
    chains.append(f"[0:a]asplit={count}" + "".join(f"[ain{i}]" for i in range(count)))
    for i, x in enumerate(p.passages):
        start, length = float(x.mat_in), x.frames / FPS
        if x.rate == 0:
            picture = f"trim=start={start:.5f}:duration=0.034,setpts=PTS-STARTPTS"
            picture += f",tpad=stop_mode=clone:stop_duration={length:.5f}"
        else:
            rate = float(x.rate)
            picture = f"trim=start={start:.5f}:duration={length * rate:.5f},setpts=(PTS-STARTPTS)/{rate:.5f}"
        picture += f",fps={FPS},trim=end_frame={x.frames}"
        sound = f"atrim=start={start:.5f}:duration={length:.5f},asetpts=PTS-STARTPTS"
        sound += ",volume=0" if x.rate != 1 else ""
        chains += [f"[in{i}]{picture}[v{i}]", f"[ain{i}]{sound}[a{i}]"]
        names.append(f"[v{i}]")
        sound_names.append(f"[a{i}]")
    chains.append("".join(names) + f"concat=n={count}[cat]")
    chains.append("".join(sound_names) + f"concat=n={count}:v=0:a=1[gym]")
    last = "[cat]"
    for i, label in enumerate(p.labels):
        (box, *_) = overlay.boxes(label.start)
        box.image.save(str(folder / f"label{i}.png"))
        inputs += ["-i", str(folder / f"label{i}.png")]
        window = f"enable='between(t,{label.start / FPS:.5f},{(label.end - 1) / FPS:.5f})'"
        chains.append(f"{last}[{i + 2}:v]overlay={box.x}:{box.y}:{window}[o{i}]")
        last = f"[o{i}]"
    chains.append("[1:a]asplit[say][key]")
    chains.append("[gym][key]sidechaincompress=threshold=0.01:ratio=20:attack=150:release=150[low]")
    chains.append("[low][say]amix=inputs=2:duration=first:normalize=0[mixed]")
    options = [v for k, o in PICTURES[Codec.H264].options_of(3).items() if k in ("preset", "crf") for v in (f"-{k}", o)]
    return [
        "ffmpeg", "-y", "-v", "error", *inputs, "-filter_complex", ";".join(chains), "-map", last, "-map", "[mixed]",
        "-c:v", "libx264", *options, "-g", "60", "-pix_fmt", "yuv420p", "-c:a", "aac", "-b:a", "160k",
        "-movflags", "+faststart", str(folder / "reference.mp4"),
    ]  # fmt: skip


if __name__ == "__main__":
    main()
