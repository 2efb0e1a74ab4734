"""Draw the demo footage: `python -m chapto.demo.generate [FOLDER] [--moves]`.

The same code always gives the same pictures and sound; the files under `demo/footage/` are its output.
"""

from __future__ import annotations

import argparse
import os
import sys
from concurrent.futures import ProcessPoolExecutor
from fractions import Fraction
from functools import lru_cache
from pathlib import Path

import av
import numpy as np
from PyQt6.QtCore import QRectF
from PyQt6.QtGui import QImage, QPainter

from chapto.demo import sounds
from chapto.demo.choreography import bout, referee_joints, sparring
from chapto.demo.figures import MOSS, REFEREE, WREN, limbs_of
from chapto.demo.motion import Motion, load, save, worked_out
from chapto.demo.raster import Picture, draw_limbs
from chapto.demo.scene import OPEN, background, draw_board, draw_shadows, to_bytes
from chapto.demo.shots import SHOTS, Shot
from chapto.media.opening import file_url
from chapto.paint.application import application
from chapto.paint.fonts import load_fonts

BOUT_LENGTH, BOUT_START = 300.0, 4.0
POINTS = ((0.0, (0, 0)), (44.0, (2, 0)), (112.6, (5, 0)), (131.4, (7, 0)), (150.4, (7, 2)), (211.8, (11, 2)))
"""The referee's points on the board: (mat seconds, (Wren, Moss))."""
FOOTAGE = Path(__file__).parent / "footage"
KEY_FRAME_SECONDS = 6
MOVES = {"bout": bout, "sparring": sparring}


@lru_cache(maxsize=1)
def _ready_to_paint() -> object:
    """Qt's application object, kept for the life of the process, and the fonts that belong to it."""
    app = application(offscreen=True)
    load_fonts()
    return app


@lru_cache(maxsize=2)
def shipped_motion(name: str) -> Motion:
    """How both move in one of `MOVES`, as it was worked out for the shipped footage."""
    return Motion(load(FOOTAGE / f"{name}-motion.npz"))


def write_motion(name: str) -> str:
    """Work one of `MOVES` out, keep it beside the footage, and say its size."""
    path = FOOTAGE / f"{name}-motion.npz"
    save(path, worked_out(MOVES[name]()))
    return f"{path}: {path.stat().st_size:,} bytes"


class Drawer:
    """Pictures of one shot."""

    def __init__(self, shot: Shot) -> None:
        _ready_to_paint()
        self._shot = shot
        self._bout = shot.hall == OPEN
        self.motion = shipped_motion("bout" if self._bout else "sparring")
        self._hall = background(shot.hall, shot.camera, seed=shot.seed)

    def picture(self, t: float) -> Picture:
        """The picture at world time `t`: (height, width, 3) uint8 RGB."""
        first, second = self.motion.joints(t)
        people = [first, second]
        limbs = limbs_of(first, WREN) + limbs_of(second, MOSS)
        if self._bout:
            referee = referee_joints(t)
            people.append(referee)
            limbs += limbs_of(referee, REFEREE)
        image = QImage(self._hall)
        painter = QPainter(image)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        draw_shadows(painter, people, self._shot.camera)
        if self._shot.board:
            over = min(max(t - BOUT_START, 0.0), sounds.STOP - BOUT_START)
            points = [value for since, value in POINTS if since <= t][-1]
            draw_board(painter, QRectF(*self._shot.board, 140, 100), clock=BOUT_LENGTH - over, points=points)
        painter.end()
        picture = to_bytes(image)
        draw_limbs(picture, limbs, self._shot.camera)
        return self._fogged(picture, t)

    def _fogged(self, picture: Picture, t: float) -> Picture:
        if not self._shot.fog:
            return picture
        thick = float(np.clip(min(t - self._shot.fog[0], self._shot.fog[1] - t) / 0.8, 0, 1)) * 0.72
        if thick <= 0:
            return picture
        return (picture * np.float32(1 - thick) + np.float32(255 * 0.74 * thick)).astype(np.uint8)


def write_shot(shot: Shot, folder: Path) -> str:
    """Write one demo file as H.264/AAC and say its size."""
    path = folder / f"{shot.name}.mp4"
    drawer = Drawer(shot)
    span = shot.mat_at(shot.seconds) + 1.0
    audio = sounds.heard_by(shot, sounds.world_sound(span, drawer.motion, bout=shot.hall == OPEN))
    with av.open(file_url(path), "w", options={"movflags": "+faststart"}) as out:
        video = out.add_stream("libx264", rate=shot.fps)
        video.width, video.height, video.pix_fmt = shot.camera.width, shot.camera.height, "yuv420p"
        video.codec_context.thread_count = 1
        video.codec_context.gop_size = KEY_FRAME_SECONDS * shot.fps
        video.options = {"preset": "medium", "crf": str(shot.crf), "tune": "animation"}
        sound = out.add_stream("aac", rate=sounds.RATE, layout="mono")
        sound.bit_rate = 32_000
        sound.codec_context.time_base = Fraction(1, sounds.RATE)
        _write_sound(out, sound, audio)
        for k in range(round(shot.seconds * shot.fps)):
            frame = av.VideoFrame.from_ndarray(drawer.picture(shot.mat_at(k / shot.fps)), format="rgb24")
            frame.pts, frame.time_base = k, Fraction(1, shot.fps)
            out.mux(video.encode(frame))
        out.mux(video.encode(None))
    return f"{path}: {path.stat().st_size:,} bytes"


def _write_sound(out: av.container.OutputContainer, stream: av.AudioStream, audio: sounds.Sound) -> None:
    for i in range(0, len(audio), 1024):
        block = av.AudioFrame.from_ndarray(
            np.ascontiguousarray(audio[None, i : i + 1024]), format="fltp", layout="mono"
        )
        block.sample_rate, block.pts, block.time_base = sounds.RATE, i, Fraction(1, sounds.RATE)
        out.mux(stream.encode(block))
    out.mux(stream.encode(None))


def main(arguments: list[str] | None = None) -> int:
    """Write all demo files, or those named, into a folder; return the exit status."""
    parser = argparse.ArgumentParser(prog="python -m chapto.demo.generate", description=__doc__)
    parser.add_argument("folder", nargs="?", type=Path, default=FOOTAGE)
    parser.add_argument("--only", action="append", choices=[s.name for s in SHOTS])
    parser.add_argument("--moves", action="store_true", help="work out anew how both move, before drawing")
    given = parser.parse_args(arguments)
    given.folder.mkdir(parents=True, exist_ok=True)
    shots = [s for s in SHOTS if not given.only or s.name in given.only]
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    with ProcessPoolExecutor() as pool:
        if given.moves:
            print(*pool.map(write_motion, MOVES), sep="\n")
        jobs = [pool.submit(write_shot, s, given.folder) for s in sorted(shots, key=lambda s: -s.seconds * s.fps)]
        for job in jobs:
            print(job.result())
    return 0


if __name__ == "__main__":
    sys.exit(main())
