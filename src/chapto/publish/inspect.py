"""The compiled programme as plain JSON data, for other programs and for tests."""

from __future__ import annotations

from fractions import Fraction
from typing import Any

from chapto.bodies.track import Place
from chapto.document.breakdown import Breakdown
from chapto.programme.figures_at import place_at
from chapto.programme.placed_marks import PlacedMark
from chapto.programme.programme import Programme


def seconds(value: Fraction | None) -> float | None:
    """A time to the microsecond; None stays None."""
    return None if value is None else round(float(value), 6)


def inspected(b: Breakdown, p: Programme) -> dict[str, Any]:
    """Everything the viewer gets, ties with their lag, and what did not fit."""
    scripted = {s.id: s for s in b.script}
    return {
        "title": b.title,
        "fps": str(p.fps),
        "frames": p.frames,
        "seconds": seconds(p.seconds),
        "passages": [
            {
                "kind": x.kind.value,
                "footage": x.footage,
                "mat_in": seconds(x.mat_in),
                "mat_out": seconds(x.mat_out),
                "rate": seconds(x.rate),
                "watch_in": x.watch_in,
                "watch_out": x.watch_out,
                "photo": None if x.photo is None else [x.photo.photo, *([x.photo.beside] if x.photo.beside else [])],
            }
            for x in p.passages
        ],
        "sections": [
            {
                "section": s.section,
                "title": s.title,
                "watch_in": s.start,
                "watch_out": s.end,
                "style": scripted[s.section].style or b.style,
                "as_filmed": scripted[s.section].as_filmed,
            }
            for s in p.sections
        ],
        "voice": [
            {
                "beat": v.beat,
                "words": [v.first, v.end],
                "start": seconds(v.at),
                "end": seconds(v.until),
                "tempo": seconds(v.tempo),
                "heard_in_footage": not v.heard,
            }
            for v in p.voice
        ],
        "ties": [
            {
                "beat": t.beat,
                "word": t.word,
                "text": t.text,
                "moment": t.moment,
                "mat": seconds(t.mat),
                "said": seconds(t.said),
                "planned": seconds(t.planned),
                "shown": seconds(t.shown),
                "lag": seconds(t.lag),
                "state": t.state.value,
            }
            for t in p.ties
        ],
        "labels": [{"text": x.text, "watch_in": x.start, "watch_out": x.end, "row": x.row} for x in p.labels],
        "names": [{"name": n.name, "under": n.under, "watch_in": n.start, "watch_out": n.end} for n in p.names],
        "insets": [
            {
                "footage": i.footage,
                "mat_in": seconds(i.mat_in),
                "rate": seconds(i.rate),
                "beside": i.beside,
                "photo": i.photo,
                "watch_in": i.start,
                "watch_out": i.end,
            }
            for i in p.insets
        ],
        "music": [{"music": m.music, "start": seconds(m.start), "end": seconds(m.end)} for m in p.music],
        "cautions": [{"risk": c.risk, "text": c.text, "watch_in": c.start, "watch_out": c.end} for c in p.cautions],
        "chapters": [{"title": c.title, "start": seconds(c.start / p.fps)} for c in p.chapters],
        "captions": [{"start": seconds(c.start), "end": seconds(c.end), "text": c.text} for c in p.captions],
        "marks": [_mark(b, p, m) for m in p.marks],
        "unplaced_marks": [{"mark": u.mark, "sentence": u.sentence} for u in p.unplaced],
        "shortfalls": [
            {"beat": s.beat, "word": s.word, "seconds": seconds(s.seconds), "sentence": s.sentence}
            for s in p.shortfalls
        ],
    }


def _mark(b: Breakdown, p: Programme, m: PlacedMark) -> dict[str, Any]:
    """A mark with where its points are, frame by frame, 0…1 of the footage's picture; None where that is not known."""
    mark = m.mark
    figure = next((f for f in b.figures if f.id == mark.figure), None)
    ids = mark.anchors or (figure.anchors if figure is not None else ())
    camera, frames = b.camera(m.footage), []
    for frame in range(m.start, m.end):
        passage, inset = p.time_map.passage_at(frame), p.inset_at(frame)
        if passage.footage == m.footage:
            mat = passage.mat_at(frame)
        elif inset is not None and inset.footage == m.footage:
            mat = inset.mat_at(frame)
        else:
            continue
        places = [place_at(p.readings.tracks, a, camera, mat) for a in ids]
        frames.append({"frame": frame, "points": [_point(q) for q in places]})
    return {
        "mark": mark.id,
        "kind": str(mark.kind),
        "of": str(mark.of) if mark.of is not None else None,
        "footage": m.footage,
        "watch_in": m.start,
        "watch_out": m.end,
        "words": m.words,
        "fact": m.fact,
        "frames": frames,
    }


def _point(place: Place | None) -> dict[str, Any] | None:
    if place is None:
        return None
    return {"x": round(place.x, 5), "y": round(place.y, 5), "hidden": place.hidden, "doubt": round(place.doubt, 3)}


def listed(found: dict[str, Any]) -> str:
    """`inspected` data as lines for reading."""
    lines = [f"{found['title']}: {found['seconds']:.1f} s at {found['fps']} frames a second", "", "Passages"]
    for x in found["passages"]:
        start, length = x["watch_in"] / _rate(found), (x["watch_out"] - x["watch_in"]) / _rate(found)
        speed = f" at {x['rate']:g}×" if x["rate"] not in (0, 1) else ""
        lines.append(f"  {start:7.2f}  {x['kind']}{speed}, {length:.2f} s from mat {x['mat_in']:.2f} {x['footage']}")
    lines += ["", "Ties"]
    for t in found["ties"]:
        lag = "never shown" if t["lag"] is None else f"lag {t['lag']:+.3f} s"
        lines.append(f"  {t['said']:7.2f}  “{t['text']}” {lag}, {t['state']}")
    lines += ["", "Chapters", *(f"  {c['start']:7.2f}  {c['title']}" for c in found["chapters"])]
    counted = (f"{len(found[what])} {what}" for what in ("labels", "names", "insets", "cautions", "captions", "marks"))
    lines += ["", ", ".join(counted)]
    return "\n".join([*lines, *(s["sentence"] for s in found["shortfalls"])])


def _rate(found: dict[str, Any]) -> float:
    return float(Fraction(found["fps"]))
