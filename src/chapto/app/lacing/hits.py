"""What lies under the pointer in the lacing. Free of Qt."""

from __future__ import annotations

from dataclasses import dataclass

from chapto.app.axis import Axis
from chapto.app.lacing.drags import Drag, EdgeDrag, LaceDrag, PinDrag, SectionDrag, SkipDrag, TargetDrag, WordDrag
from chapto.app.lacing.model import LacingModel
from chapto.app.lacing.rows import Rows
from chapto.clock.timecode import clock_text
from chapto.document.breakdown import Breakdown

NEAR, EDGE = 7.0, 4.0
"""Pixels within which a press means a lace, pin or flag; the edge of a band."""


@dataclass(frozen=True)
class Hits:
    """One lacing as it is on the screen."""

    b: Breakdown
    model: LacingModel
    axis: Axis
    rows: Rows

    def drag_at(self, x: float, y: float, *, skipping: bool = False) -> Drag | None:
        """What is taken hold of by a press at a pixel; with `skipping` the mat rail is drawn over."""
        r, place = self.rows, self.axis.at(x)
        if skipping and y <= r.mat_foot and self.model.stretch_at(place) is not None:
            return SkipDrag(self.model, place)
        if r.mat_foot - 12 <= y <= r.mat_foot + 5:
            pins = [p for p in self.model.pins if abs(self.axis.x(p.place) - x) <= NEAR]
            if pins:
                return PinDrag(self.model, min(pins, key=lambda p: abs(self.axis.x(p.place) - x)))
        if y <= r.mat_top:
            section = next((s for s in self.model.sections if s.start <= place * self.model.fps < s.end), None)
            return SectionDrag(self.model, section.section) if section else None
        if r.rail_top <= y <= r.rail_foot:
            return self._edge(x)
        if r.rail_foot < y <= r.words_top + 18:
            near = NEAR / self.axis.scale
            laces = self.model.laces_in(place - near, place + near)
            if laces:
                return LaceDrag(self.model, min(laces, key=lambda t: abs(t.said - place)))
            word = next((w for w in self.model.words_in(place, place + 1e-6) if w.start <= place < w.end), None)
            if word is not None:
                return WordDrag(self.model, word.beat, word.word, word.text, float(word.start))
        if y >= r.chapters_foot - 12 and self.model.target and abs(self.axis.x(self.model.target) - x - 3) <= NEAR:
            return TargetDrag(self.model, self.b.target_is_limit)
        return None

    def _edge(self, x: float) -> EdgeDrag | None:
        place, near = self.axis.at(x), EDGE / self.axis.scale
        bands = [
            band
            for band in self.model.bands_in(place - near, place + near)
            if abs(band.end - place) <= near and (band.end - band.start) * self.axis.scale > 2 * EDGE
        ]
        can = [band for band in bands if EdgeDrag.can(self.b, band)]
        return EdgeDrag(self.model, self.b, can[0]) if can else None

    def about(self, x: float, y: float) -> str:
        """What stands beside the pointer when nothing is grabbed."""
        r, place = self.rows, self.axis.at(x)
        match self.drag_at(x, y):
            case PinDrag(_, pin):
                return f"{pin.kind}: {pin.note or 'no note'}, mat {clock_text(pin.mat, tenths=True)}"
            case LaceDrag(_, lace):
                if lace.lag is None:
                    return f"“{lace.text}”: its moment is never on the screen"
                return f"“{lace.text}” {'meets its moment' if abs(lace.lag) < 0.02 else f'lag {lace.lag:+.2f} s'}"
            case EdgeDrag() as edge:
                return f"pull: {edge.said(edge.place)}"
            case TargetDrag() as target:
                return target.said(target.place)
        if r.rail_foot < y <= r.words_top:
            trouble = next((t for t in self.model.troubles if abs(self.axis.x(t.place) - x) <= NEAR), None)
            if trouble is not None:
                return trouble.sentence
        if r.mat_foot < y <= r.rail_foot:
            band = self.model.band_at(place)
            if band is not None:
                speed = f" at {abs(band.rate):g}×" if band.rate not in (0.0, 1.0) else ""
                speed += " backwards" if band.rate < 0 else ""
                mat = clock_text(band.mat_in, tenths=True)
                return f"{band.kind.value}{speed}, {band.end - band.start:.1f} s from mat {mat}"
        return ""
