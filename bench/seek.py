"""Seek-to-picture through Chapto's cache and proxies against plain PyAV on the same 1080p long-GOP file.

Prints the ratio of the 95th percentiles; the aim is under 0.1.
"""

from __future__ import annotations

import os
import sys
import tempfile
import time
from fractions import Fraction
from pathlib import Path

import av
import numpy as np

sys.path.insert(0, str(Path(__file__).parent))
from material import FPS, long_gop_file

SECONDS, SEEKS = 40, 60


def plain(path: Path, seconds: float) -> None:
    """Open once per seek is not counted: seek back to the key frame, decode up to the picture, make RGB."""
    global _container
    stream = _container.streams.video[0]
    _container.seek(int(seconds / stream.time_base), stream=stream, backward=True)
    for frame in _container.decode(stream):
        if frame.time is not None and frame.time >= seconds - 1e-6:
            frame.to_ndarray(format="rgb24")
            return


def main() -> None:
    """Make the file and the proxy, time the same random seeks both ways."""
    global _container
    with tempfile.TemporaryDirectory() as scratch:
        os.environ["XDG_CACHE_HOME"] = scratch
        from chapto.document.footage import Footage
        from chapto.media.pictures import FootagePictures
        from chapto.media.proxy import make_proxy

        path = long_gop_file(Path(scratch) / "long.mp4", width=1920, height=1080, seconds=SECONDS)
        make_proxy(path, "bench")
        footage = Footage(
            id="f1", name="f1", path=str(path), fingerprint="bench", duration=Fraction(SECONDS), fps=Fraction(FPS)
        )  # fmt: skip
        places = np.random.default_rng(1).uniform(0, SECONDS - 1, SEEKS)
        _container = av.open(str(path))
        _container.streams.video[0].thread_type = "AUTO"
        times: dict[str, list[float]] = {"plain": [], "chapto": []}
        pictures = FootagePictures({"f1": path})
        pictures.picture(footage, Fraction(0), 960, 540)
        for seconds in places:
            start = time.perf_counter()
            plain(path, float(seconds))
            middle = time.perf_counter()
            pictures.picture(footage, Fraction(float(seconds)).limit_denominator(1000), 960, 540)
            times["plain"].append(middle - start)
            times["chapto"].append(time.perf_counter() - middle)
        pictures.close()
        _container.close()
    ninety_five = {k: float(np.percentile(v, 95)) for k, v in times.items()}
    ratio = ninety_five["chapto"] / ninety_five["plain"]
    print(f"seek to picture, 95th percentile: {ratio:.3f} of plain PyAV (aim: under 0.1)")
    print(f"  medians: {np.median(times['chapto']) / np.median(times['plain']):.3f}")


if __name__ == "__main__":
    main()
