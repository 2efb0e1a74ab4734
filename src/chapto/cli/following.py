"""`chapto track`: a point followed through a video."""

from __future__ import annotations

import argparse
import json
from fractions import Fraction

from chapto.document.bounds import clock_seconds
from chapto.document.marks import Anchor, Key
from chapto.errors import ChaptoError

AFTER = Fraction(5)
"""Seconds for which a point with one key is followed, where nothing else is said."""


def track(options: argparse.Namespace) -> int:
    """Follow one point and print where it is in every picture."""
    from chapto.document.footage import Footage
    from chapto.document.mark_kinds import Sticks
    from chapto.media.probe import probe
    from chapto.media.tracks import tracks_of
    from chapto.store.fingerprint import fingerprint

    info, mark = probe(options.video), fingerprint(options.video)
    aspect = Fraction(info.width, info.height)
    footage = Footage(
        id="f1", name=options.video.name, path=str(options.video), fingerprint=mark, duration=info.duration,
        fps=info.fps, aspect=aspect,
    )  # fmt: skip
    keys = tuple(sorted((_key(text, info.duration) for text in options.keys), key=lambda k: k.mat))
    if len({k.mat for k in keys}) < len(keys):
        raise ChaptoError("Two keys are at the same second.")
    start = _second(options.start) if options.start else keys[0].mat
    end = _second(options.end) if options.end else keys[-1].mat if len(keys) > 1 else keys[0].mat + AFTER
    anchor = Anchor(id="a1", footage="f1", keys=keys, sticks=Sticks(options.sticks))
    needed = {"a1": (min(start, keys[0].mat), max(end, keys[-1].mat))}
    tracks, _ = tracks_of((anchor,), {"f1": footage}, {"f1": options.video}, needed)
    found = tracks["a1"]
    rows = []
    for at in found.at:
        place = found.place(float(at))
        if place is not None and float(start) - 1e-6 <= at <= float(end) + 1e-6:
            row = {"time": round(float(at), 6), "x": round(place.x, 6), "y": round(place.y, 6)}
            rows.append({**row, "doubt": round(place.doubt, 3), "hidden": place.hidden})
    if options.json:
        print(json.dumps({"video": str(options.video), "points": rows}, indent=1, ensure_ascii=False))
        return 0
    for row in rows:
        notes = "  hidden" if row["hidden"] else "  in doubt" if float(row["doubt"]) >= 1 else ""
        print(f"{row['time']:9.3f}  {row['x']:.4f}  {row['y']:.4f}{notes}")
    return 0


def _key(text: str, length: Fraction) -> Key:
    parts = [p.strip() for p in text.split(",")]
    wrong = ChaptoError(f"“{text}” is no key: write the second, x and y from 0 to 1, like 12.5,0.4,0.6.")
    if len(parts) not in (3, 4) or (len(parts) == 4 and parts[3] != "hidden"):
        raise wrong
    try:
        x, y = float(parts[1]), float(parts[2])
    except ValueError:
        raise wrong from None
    second = _second(parts[0])
    if not (0 <= x <= 1 and 0 <= y <= 1):
        raise wrong
    if not 0 <= second < length:
        raise ChaptoError(f"The video has no picture at {float(second):g} s; it lasts {float(length):.1f} s.")
    return Key(mat=second, x=x, y=y, seen=len(parts) == 3)


def _second(text: str) -> Fraction:
    found = clock_seconds(text)
    if found is None:
        raise ChaptoError(f"“{text}” is no time.")
    return found
