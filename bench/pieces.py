"""Rendering in pieces: what a change costs, against the full render of the same run, and what pieces cost in size and
picture against one single encode.

Prints: another label in a minute (aim: at most 5 % of a full render), another beat in ten minutes (at most 15 %), size
(at most +15 %) and PSNR (at least 46 dB) against a single encode of the same frames, a preview against real time (at
least 8 times).
"""

from __future__ import annotations

import os
import sys
import tempfile
import time
from pathlib import Path

import av
import numpy as np

sys.path.insert(0, str(Path(__file__).parent))
from material import TALK, explained


def main() -> None:
    """Each measure in a cache of its own."""
    with tempfile.TemporaryDirectory() as scratch:
        os.environ["XDG_CACHE_HOME"] = scratch
        folder = Path(scratch)
        short = explained(folder, parts=3, seconds=50)
        long = explained(folder, parts=30, seconds=460)
        _changes(folder, short, "another label in a minute", _other_label, "5 %")
        _changes(folder, long, "another beat in ten minutes", _other_beat, "15 %")
        _against_single(folder, short)
        _preview(folder, short)


def _other_label(b: object) -> object:
    from chapto.document import edit_log

    return edit_log.set_label(b, b.moments[-1].id, "Knee cut")  # type: ignore[attr-defined,arg-type]


def _other_beat(b: object) -> object:
    from chapto.document import edit_script

    beat = b.script[len(b.script) // 2].beats[1]  # type: ignore[attr-defined]
    return edit_script.rewrite(b, beat.id, f"{TALK} And there is no way back.")  # type: ignore[arg-type]


def _render(folder: Path, b: object, name: str, workers: object, *, preview: bool = False) -> tuple[float, object]:
    from chapto.render.production import produce, render_production
    from chapto.voice.guide import GuideVoice

    made = produce(b, GuideVoice(folder / "voice"))  # type: ignore[arg-type]
    start = time.perf_counter()
    render_production(made, None, folder / name, replacing=True, workers=workers, preview=preview)  # type: ignore[arg-type]
    return time.perf_counter() - start, made


def _changes(folder: Path, b: object, what: str, change: object, aim: str) -> None:
    from chapto.render.worker import PieceWorkers

    os.environ["XDG_CACHE_HOME"] = str(folder / what.replace(" ", "-"))
    with PieceWorkers() as workers:
        full, made = _render(folder, b, "full.mp4", workers)
        again, _ = _render(folder, change(b), "again.mp4", workers)  # type: ignore[operator]
        same, _ = _render(folder, b, "same.mp4", workers)
    seconds = float(made.programme.seconds)  # type: ignore[attr-defined]
    print(f"{what}: {again / full:.1%} of the full render (aim: at most {aim}); nothing changed: {same / full:.1%}")
    print(f"  {seconds:.0f} s of video rendered at {seconds / full:.1f}× real time")


def _against_single(folder: Path, b: object) -> None:
    from chapto.render.encodings import GROUP, encoding_of
    from chapto.render.frames import ProgrammeFrames
    from chapto.render.media_places import media_places

    _, made = _render(folder, b, "pieces.mp4", None)
    f = made.breakdown.format  # type: ignore[attr-defined]
    encoding = encoding_of(".mp4", f)
    frames = ProgrammeFrames(made.breakdown, made.programme, media_places(made.breakdown, None)[0])  # type: ignore[attr-defined]
    with av.open(str(folder / "single.mp4"), "w") as out:
        video = out.add_stream("libx264", rate=f.fps)
        video.width, video.height, video.pix_fmt = f.width, f.height, "yuv420p"
        video.options = dict(encoding.picture.options_of(f.quality))
        video.codec_context.gop_size, video.codec_context.time_base = GROUP, 1 / f.fps
        for number, frame in enumerate(frames):
            frame.pts, frame.time_base, frame.pict_type = number, 1 / f.fps, 0
            out.mux(video.encode(frame))
        out.mux(video.encode(None))
    frames.close()
    sizes = [_bytes(folder / n) for n in ("pieces.mp4", "single.mp4")]
    print(
        f"size of the pictures in pieces against a single encode: {sizes[0] / sizes[1] - 1:+.1%} (aim: at most +15 %)"
    )
    print(f"  PSNR between the two: {_psnr(folder / 'pieces.mp4', folder / 'single.mp4'):.1f} dB (aim: at least 46)")


def _bytes(place: Path) -> int:
    with av.open(str(place)) as media:
        return sum(p.size for p in media.demux(video=0))


def _psnr(one: Path, other: Path) -> float:
    errors = []
    with av.open(str(one)) as a, av.open(str(other)) as z:
        for x, y in zip(a.decode(video=0), z.decode(video=0), strict=True):
            off = x.to_ndarray(format="gray").astype(np.float32) - y.to_ndarray(format="gray").astype(np.float32)
            errors.append(float(np.square(off).mean()))
    return float(10 * np.log10(255**2 / max(np.mean(errors), 1e-9)))


def _preview(folder: Path, b: object) -> None:
    from chapto.media.proxy import make_proxy
    from chapto.render.worker import PieceWorkers

    os.environ["XDG_CACHE_HOME"] = str(folder / "preview")
    for c in b.footage:  # type: ignore[attr-defined]
        make_proxy(Path(c.path), c.fingerprint)
    with PieceWorkers() as workers:
        _render(folder, b, "warm.mp4", workers, preview=True)
        os.environ["XDG_CACHE_HOME"] = str(folder / "preview")
        for kept in (folder / "preview" / "chapto" / "pieces").glob("*"):
            kept.unlink()
        took, made = _render(folder, b, "preview.mp4", workers, preview=True)
    seconds = float(made.programme.seconds)  # type: ignore[attr-defined]
    print(f"preview: {seconds / took:.1f}× real time (aim: at least 8)")


if __name__ == "__main__":
    main()
