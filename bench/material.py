"""Footage for the benches, made on the spot: moving pictures with a key frame every 250 frames, and sound; and what is
told over it."""

from __future__ import annotations

from fractions import Fraction
from pathlib import Path
from typing import TYPE_CHECKING

import av
import numpy as np

if TYPE_CHECKING:
    from chapto.document.breakdown import Breakdown

FPS = 30
TALK = "The knee goes to the mat, the hips follow, and the frame on the collar is already gone when she moves."


def long_gop_file(path: Path, *, width: int, height: int, seconds: int) -> Path:
    """H.264 with one key frame in 250, a soft background and a block that wanders over it."""
    rng = np.random.default_rng(3)
    small = rng.integers(40, 200, (height // 40, width // 40, 3), dtype=np.uint8)
    ground = np.kron(small, np.ones((40, 40, 1), np.uint8))[:height, :width]
    with av.open(str(path), "w") as out:
        video = out.add_stream("libx264", rate=FPS)
        video.width, video.height, video.pix_fmt = width, height, "yuv420p"
        video.options = {"preset": "veryfast", "crf": "23", "g": "250", "keyint_min": "250", "sc_threshold": "0"}
        audio = out.add_stream("aac", rate=48_000, layout="stereo")
        tone = (0.1 * np.sin(np.arange(seconds * 48_000) * 0.05)).astype(np.float32)
        for i in range(seconds * FPS):
            picture = ground.copy()
            x, y = int((i * 7) % (width - 300)), int((i * 3) % (height - 300))
            picture[y : y + 300, x : x + 300] = rng.integers(0, 255, (1, 1, 3), dtype=np.uint8)
            frame = av.VideoFrame.from_ndarray(picture, format="rgb24")
            frame.pts, frame.time_base = i, Fraction(1, FPS)
            out.mux(video.encode(frame))
        for at in range(0, len(tone), 1024):
            block = np.repeat(tone[None, at : at + 1024], 2, axis=0)
            sound = av.AudioFrame.from_ndarray(np.ascontiguousarray(block), format="fltp", layout="stereo")
            sound.sample_rate, sound.pts, sound.time_base = 48_000, at, Fraction(1, 48_000)
            out.mux(audio.encode(sound))
        out.mux(video.encode(None))
        out.mux(audio.encode(None))
    return path


def explained(folder: Path, *, parts: int, seconds: int) -> Breakdown:
    """So many exchanges of a bout of 720 lines, each told at half speed, over a hold and as it runs, with a label."""
    from chapto.document import edit_footage, edit_log, edit_script
    from chapto.document.breakdown import Breakdown
    from chapto.document.treatments import Hold, Slow
    from chapto.store.fingerprint import fingerprint

    F = Fraction
    footage = long_gop_file(folder / f"bout-{parts}.mp4", width=1280, height=720, seconds=seconds)
    b = edit_footage.add_footage(
        Breakdown(title="Bench"), name="bout", path=str(footage), fingerprint=fingerprint(footage),
        duration=F(seconds), fps=F(30),
    )  # fmt: skip
    for i in range(parts):
        b = edit_log.add_exchange(b, F(2 + 15 * i), F(12 + 15 * i))
        b = edit_log.add_moment(b, F(6 + 15 * i))
        b = edit_script.add_section(b, title=f"Part {i + 1}", exchange=b.exchanges[-1].id)
        for treatment in (Slow(F(1, 2)), Hold(b.moments[-1].id), None):
            b = edit_script.add_beat(b, b.script[-1].id, TALK)
            b = edit_script.treat(b, b.script[-1].beats[-1].id, treatment)
        b = edit_log.set_label(b, b.moments[-1].id, "Knee slide")
    return b
