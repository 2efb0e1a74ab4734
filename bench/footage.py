"""Judging pictures and bringing cameras onto one clock, against plainly decoding the same files.

Prints how many times real time the analysis of a proxy runs (aim: ten or more) and its time as a share of decoding
the proxy plainly; and the time to sync two ten-minute files as a share of decoding their sound.
"""

from __future__ import annotations

import os
import sys
import tempfile
import time
import wave
from collections.abc import Callable
from pathlib import Path

import av
import numpy as np

sys.path.insert(0, str(Path(__file__).parent))
from material import long_gop_file

SECONDS, MINUTES, SHIFT = 60, 10, 37.25


def timed(work: Callable[[], object]) -> float:
    """Seconds that `work` takes, the better of two."""
    times = []
    for _ in range(2):
        start = time.perf_counter()
        work()
        times.append(time.perf_counter() - start)
    return min(times)


def decode_pictures(path: Path) -> None:
    """Every picture of a file."""
    with av.open(str(path)) as media:
        for _ in media.decode(video=0):
            pass


def decode_sound(path: Path) -> None:
    """All sound of a file."""
    with av.open(str(path)) as media:
        for frame in media.decode(audio=0):
            frame.to_ndarray()


def sound_file(path: Path, samples: np.ndarray) -> Path:
    """AAC in MP4, as a phone writes it."""
    plain = path.with_suffix(".wav")
    with wave.open(str(plain), "wb") as out:
        out.setnchannels(1)
        out.setsampwidth(2)
        out.setframerate(48_000)
        out.writeframes((np.clip(samples, -1, 1) * 32767).astype("<i2").tobytes())
    with av.open(str(plain)) as source, av.open(str(path), "w") as out:
        stream = out.add_stream("aac", rate=48_000, layout="mono")
        for frame in source.decode(audio=0):
            out.mux(stream.encode(frame))
        out.mux(stream.encode(None))
    return path


def main() -> None:
    """Make the material and compare."""
    with tempfile.TemporaryDirectory() as scratch:
        os.environ["XDG_CACHE_HOME"] = scratch
        from chapto.media.proxy import make_proxy
        from chapto.media.readings import measure
        from chapto.media.sound import load_sound
        from chapto.media.sync import listening, sync_sounds

        folder = Path(scratch)
        clip = long_gop_file(folder / "bout.mp4", width=1920, height=1080, seconds=SECONDS)
        proxy = make_proxy(clip, "bench")
        took = timed(lambda: measure(clip, proxy))
        print(f"judging the picture: {SECONDS / took:.0f}× real time (aim: 10 or more)")
        print(f"  {took / timed(lambda: decode_pictures(proxy)):.2f} of plainly decoding the proxy")

        rng = np.random.default_rng(1)
        total = MINUTES * 60 + 60
        swell = np.interp(np.arange(total * 48_000) / 48_000, np.arange(total + 1), rng.uniform(0.05, 0.4, total + 1))
        hall = rng.standard_normal(total * 48_000) * swell * 0.3
        length, shift = MINUTES * 60 * 48_000, round(SHIFT * 48_000)
        noise = [rng.standard_normal(length) * 0.02 for _ in range(2)]
        files = [
            sound_file(folder / "one.m4a", hall[:length] + noise[0]),
            sound_file(folder / "two.m4a", hall[shift : shift + length] * 0.7 + noise[1]),
        ]
        heard = [listening(load_sound(f, f.stem)) for f in files]
        found = sync_sounds(*heard)
        if not found.is_trusted or abs(found.offset - SHIFT) > 0.01:
            sys.exit(f"The two files were not brought together: {found}")
        took = timed(lambda: sync_sounds(*heard))
        decoding = timed(lambda: [decode_sound(f) for f in files])
        print(f"sync of two {MINUTES}-minute files: {took / decoding:.2f} of decoding their sound")


if __name__ == "__main__":
    main()
