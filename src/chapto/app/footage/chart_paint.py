"""Painting the coverage chart: the angle track above, under it a lane for each camera, lit where it is used."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

import numpy as np
from PyQt6.QtCore import QLineF, QPointF, QRectF, Qt
from PyQt6.QtGui import QBrush, QColor, QFontMetricsF, QPainter, QPainterPath, QPen

from chapto.app.axis import Axis
from chapto.app.film_cells import paint_cell
from chapto.app.filmstrip import Filmstrip
from chapto.app.footage.chart_curve import Curve, paint_curve
from chapto.app.footage.chart_look import LOOK
from chapto.app.footage.chart_model import ChartModel, Lane, Stretch
from chapto.app.footage_analysis import FootageAnalysis
from chapto.app.ruler import marks, step_for
from chapto.app.theme import number_font, text_font
from chapto.clock.timecode import clock_text
from chapto.document.breakdown import Breakdown
from chapto.document.condition import ConditionKind
from chapto.document.footage import Footage
from chapto.media.loud_and_tones import LOUDNESS_HERTZ
from chapto.paint.colours import (
    ALARM,
    AMBER,
    DEEP,
    FIRST,
    HEARD,
    INK,
    ON_DARK,
    ON_DARK_SOFT,
    PAPER,
    SPRUCE,
    SPRUCE_HOVER,
    SPRUCE_LIGHT,
    SPRUCE_LINE,
    TAKEN,
    TIES,
    see_through,
)
from chapto.paint.lettering import write
from chapto.paint.plates import plate
from chapto.programme.programme import TieState

MARKS_APART = 58.0
"""Pixels between two marks of the ruler, at least."""
KIND_LETTER = {
    ConditionKind.FOGGED: "fogged",
    ConditionKind.BLOCKED: "blocked",
    ConditionKind.SHAKY: "shaky",
    ConditionKind.STOPPED: "no picture",
    ConditionKind.IDLE: "quiet",
    ConditionKind.SIGNAL: "signal",
}


@dataclass
class ChartPainter:
    """Paints one chart. `axis` maps the model's places to pixels right of the gutter."""

    p: QPainter
    model: ChartModel
    axis: Axis
    width: float
    b: Breakdown
    film: Filmstrip
    desk: FootageAnalysis
    missing: frozenset[str]
    chosen_file: str
    chosen: tuple[str, str, float] | None
    moved: tuple[float, float] | None

    def x(self, mat: float) -> float:
        """Pixel of a mat time."""
        return LOOK.gutter + self.axis.x(self.model.axis.place(mat))

    def draw(self) -> None:
        """Everything but the playhead."""
        foot = LOOK.height(len(self.model.lanes))
        self.p.fillRect(QRectF(0, 0, self.width, 4000), QColor(SPRUCE))
        self.p.save()
        self.p.setClipRect(QRectF(LOOK.gutter, 0, self.width - LOOK.gutter, foot))
        self._ruler(foot)
        self._log()
        for i, lane in enumerate(self.model.lanes):
            self._lane(i, lane)
        self._angles()
        self._folds(foot)
        self.p.restore()
        self._gutter()

    # ── time ─────────────────────────────────────────────────────────────────────────────────────────────
    def _ruler(self, foot: float) -> None:
        p = self.p
        p.setFont(number_font(13))
        step = step_for(self.axis.scale, apart=MARKS_APART)
        for start, end in self.model.axis.runs:
            for second in marks(start, end, step):
                x = self.x(second)
                if LOOK.gutter - 60 < x < self.width:
                    p.setPen(QColor(SPRUCE_LIGHT))
                    p.drawLine(QLineF(x, LOOK.ruler, x, foot - LOOK.gap))
                    if self.x(end) - x > 34 or second - start < step:
                        write(p, QRectF(x + 4, 2, 60, LOOK.ruler - 2), clock_text(second), ON_DARK_SOFT)

    def _log(self) -> None:
        """Rounds as a rule, exchanges as blocks on it: what ends of choices snap to."""
        p = self.p
        for r in self.b.rounds:
            a, z = self.x(float(r.start)), self.x(float(r.end))
            p.fillRect(QRectF(a, LOOK.ruler + 6, z - a, 2), QColor(SPRUCE_LINE).lighter(125))
        for e in self.b.exchanges:
            a, z = self.x(float(e.start)), self.x(float(e.end))
            plate(p, QRectF(a, LOOK.ruler + 3, max(z - a, 3), 8), 2, ON_DARK_SOFT, "")

    def _angles(self) -> None:
        """Which camera is used when: its number, on paper where the creator chose it."""
        p, top = self.p, LOOK.ruler + LOOK.log
        numbers = {c.id: lane.number for lane in self.model.lanes for c in lane.files}
        for span in self.model.angles:
            a, z = self.x(float(span.start)), self.x(float(span.end))
            box = QRectF(a + 0.5, top, max(z - a - 1, 2), LOOK.angles - 4)
            if span.chosen:
                plate(p, box, 4, PAPER, "")
            else:
                plate(p, box, 4, SPRUCE_LIGHT, QColor(SPRUCE_LINE).lighter(130))
            if box.width() > 13:
                p.setFont(number_font(15, 600))
                number = QRectF(max(box.left(), LOOK.gutter) + 6, top, 14, box.height())
                write(p, number, str(numbers[span.footage.id]), INK if span.chosen else ON_DARK)
                name = span.footage.camera_name + (" · chosen" if span.chosen else "")
                p.setFont(text_font(12, 500))
                room = box.right() - max(box.left(), LOOK.gutter) - 26
                if room > 40:
                    words = QRectF(max(box.left(), LOOK.gutter) + 20, top, room, box.height())
                    write(p, words, name, INK if span.chosen else ON_DARK_SOFT)

    def _folds(self, foot: float) -> None:
        """A break where long unfilmed time was folded away, with its length."""
        p = self.p
        for fold in self.model.axis.folds:
            a, z = self.x(fold.start), self.x(fold.end)
            p.fillRect(QRectF(a + 1, 0, z - a - 2, foot), QColor(DEEP))
            p.setPen(QPen(QColor(SPRUCE_LINE), 1.4))
            for x in (a + 1, z - 1):
                wave = QPainterPath(QPointF(x, 0))
                y = 0.0
                while y < foot:
                    wave.quadTo(x + 3, y + 4, x, y + 8)
                    wave.quadTo(x - 3, y + 12, x, y + 16)
                    y += 16
                p.setBrush(Qt.BrushStyle.NoBrush)
                p.drawPath(wave)
            p.save()
            p.translate((a + z) / 2, foot / 2)
            p.rotate(-90)
            p.setPen(QColor(ON_DARK_SOFT))
            p.setFont(number_font(13))
            text = f"{clock_text(fold.end - fold.start)} not filmed"
            p.drawText(QRectF(-90, -10, 180, 20), Qt.AlignmentFlag.AlignCenter, text)
            p.restore()

    # ── cameras ──────────────────────────────────────────────────────────────────────────────────────────
    def _gutter(self) -> None:
        p = self.p
        p.setFont(text_font(12))
        room = LOOK.gutter - 20
        write(p, QRectF(12, 2, room, LOOK.ruler - 2), "mat clock", ON_DARK_SOFT)
        write(p, QRectF(12, LOOK.ruler + LOOK.log, room, LOOK.angles - 4), "shown from", ON_DARK_SOFT)
        for i, lane in enumerate(self.model.lanes):
            top = LOOK.lane_top(i)
            chosen = any(c.id == self.chosen_file for c in lane.files)
            if chosen:
                p.fillRect(QRectF(0, top, 4, LOOK.lane), QColor(FIRST))
            key = QRectF(12, top + LOOK.name, 22, 22)
            plate(p, key, 4, SPRUCE_LIGHT, ON_DARK_SOFT, 1.2)
            p.setPen(QColor(ON_DARK))
            p.setFont(number_font(15, 600))
            p.drawText(key, Qt.AlignmentFlag.AlignCenter, str(lane.number))
            p.setFont(text_font(14, 600 if chosen else 500))
            write(p, QRectF(42, top + LOOK.name, LOOK.gutter - 50, 22), lane.camera, ON_DARK)
            p.setFont(text_font(12))
            gone = [c for c in lane.files if c.id in self.missing]
            waiting = sum(s.decision is None for s in lane.stretches)
            text, colour = ("main", ON_DARK_SOFT) if i == 0 else ("", ON_DARK_SOFT)
            if waiting:
                text, colour = f"{waiting} to decide", TIES[TieState.LATE]
            if gone:
                text, colour = "file missing", ALARM
            p.setPen(QColor(colour))
            p.drawText(QRectF(12, top + LOOK.name + 23, LOOK.gutter - 16, 16), Qt.AlignmentFlag.AlignVCenter, text)
            if i == 0:
                self._legend(top + LOOK.name + LOOK.film + 4)

    def _legend(self, top: float) -> None:
        """What the two curves under the pictures are."""
        p = self.p
        p.setPen(QPen(QColor(FIRST), 1.6))
        p.drawLine(QLineF(13, top + 8, 22, top + 8))
        p.fillRect(QRectF(78, top + 3, 9, 9), QColor(HEARD))
        p.setPen(QColor(ON_DARK_SOFT))
        p.setFont(text_font(12))
        p.drawText(QRectF(26, top, 52, 16), Qt.AlignmentFlag.AlignVCenter, "activity")
        p.drawText(QRectF(91, top, 40, 16), Qt.AlignmentFlag.AlignVCenter, "sound")

    def _lane(self, i: int, lane: Lane) -> None:
        p, top = self.p, LOOK.lane_top(i)
        film_top, film_height = LOOK.film_box(i)
        for start, end in self.model.axis.runs:
            a, z = self.x(start), self.x(end)
            empty = QRectF(a, film_top, z - a, film_height + LOOK.curve)
            p.fillRect(empty, QBrush(QColor(SPRUCE_HOVER), Qt.BrushStyle.BDiagPattern))
        for c in lane.files:
            self._file(c, film_top, film_height)
        free = LOOK.gutter
        for s in lane.stretches:
            free = self._stretch(s, top, film_top, film_height, free)

    def _file(self, c: Footage, top: float, height: float) -> None:
        p = self.p
        a, z = self.x(float(c.mat_in)), self.x(float(c.mat_out))
        bar = QRectF(a, top, z - a, height + LOOK.curve)
        left, right = max(a, LOOK.gutter), min(z, self.width)
        if right <= left:
            return
        p.fillRect(bar, QColor(DEEP))
        if c.id in self.missing:
            p.setPen(QColor(ALARM))
            p.setFont(text_font(13))
            p.drawText(bar.adjusted(10, 0, 0, 0), Qt.AlignmentFlag.AlignVCenter, f"{c.name}: the file is missing")
            return
        self._pictures(c, top, height, a, z, left, right)
        self._unlit(c, top, height, left, right)
        curve = QRectF(a, top + height + 2, z - a, LOOK.curve - 3)
        heard = self.desk.heard.get(c.id)
        if heard is not None:
            level = np.log10(np.maximum(heard.loudness, 1e-4)) / 4 + 1
            times = np.arange(len(level)) / LOUDNESS_HERTZ
            self._curve(c, times, level, curve, QColor(HEARD))
        seen = self.desk.readings.get(c.id)
        if seen is not None:
            top_value = max(float(np.percentile(seen.activity, 97)), 1e-6)
            self._curve(c, seen.at, np.clip(seen.activity / top_value, 0, 1), curve, QColor(FIRST), line=True)

    def _pictures(
        self, c: Footage, top: float, height: float, a: float, z: float, left: float, right: float
    ) -> None:  # fmt: skip
        """Pictures at places that depend on the file alone, so that moving the view asks for no new ones."""
        p = self.p
        each = height * 16 / 9
        count = max(round((z - a) / each), 1)
        count = 1 << max(count - 1, 0).bit_length() if count > 1 else 1
        step = (z - a) / count
        for k in range(max(int((left - a) / step), 0), min(int((right - a) / step) + 1, count)):
            at = c.mat_in + (c.mat_out - c.mat_in) * Fraction(2 * k + 1, 2 * count)
            image = self.film.of(c, at)
            if image is None:
                continue
            box = QRectF(a + k * step, top, step + 0.5, height)
            paint_cell(p, box, image)

    def _unlit(self, c: Footage, top: float, height: float, left: float, right: float) -> None:
        """Darken the pictures where another camera is used."""
        p, at = self.p, left
        for span in self.model.used(c.id):
            a, z = max(self.x(float(span.start)), left), min(self.x(float(span.end)), right)
            if z <= a:
                continue
            if a > at:
                p.fillRect(QRectF(at, top, a - at, height), see_through(DEEP, 165))
            p.fillRect(QRectF(a, top - 2.5, z - a, 2.5), QColor(PAPER))
            at = max(at, z)
        if right > at:
            p.fillRect(QRectF(at, top, right - at, height), see_through(DEEP, 165))

    def _curve(
        self, c: Footage, times: Curve, values: Curve, box: QRectF, colour: QColor, *, line: bool = False
    ) -> None:
        span = max(box.left(), LOOK.gutter), min(box.right(), self.width)
        paint_curve(self.p, times, values, float(c.duration), box, span, colour, line=line)

    def _stretch(self, s: Stretch, top: float, film_top: float, height: float, free: float) -> float:
        """A bracket over the pictures: dashed and amber while it waits, hatched once it was taken. Its name stands
        above, not before pixel `free`; returns where the next name may stand."""
        p = self.p
        chosen = s.key == self.chosen
        start, end = self.moved if chosen and self.moved else (s.start, s.end)
        a, z = self.x(start), self.x(end)
        if z < LOOK.gutter or a > self.width:
            return free
        box = QRectF(a, film_top, max(z - a, 4), height)
        open_ = s.decision is None
        colour = QColor(TIES[TieState.LATE] if open_ else TAKEN)
        if not open_:
            p.fillRect(box, QBrush(see_through(DEEP, 150), Qt.BrushStyle.SolidPattern))
            p.fillRect(box, QBrush(see_through(TAKEN, 90), Qt.BrushStyle.FDiagPattern))
        pen = QPen(colour, 2.6 if chosen else 1.6, Qt.PenStyle.DashLine if open_ else Qt.PenStyle.SolidLine)
        p.setPen(pen)
        p.setBrush(see_through(AMBER, 46) if open_ else Qt.BrushStyle.NoBrush)
        p.drawRect(box.adjusted(0.5, 0.5, -0.5, -0.5))
        if chosen:
            for x in (box.left(), box.right()):
                plate(p, QRectF(x - 3, film_top + height / 2 - 9, 6, 18), 3, colour, "")
        text = KIND_LETTER[s.kind] + ("?" if open_ else "")
        p.setFont(text_font(12, 600))
        width = QFontMetricsF(p.font()).horizontalAdvance(text) + 12
        tag = QRectF(max(box.left(), free), top + 1, width, LOOK.name - 4)
        if tag.left() > box.right() + 24:
            return free
        plate(p, tag, 3, colour, "")
        p.setPen(QColor(DEEP))
        p.drawText(tag, Qt.AlignmentFlag.AlignCenter, text)
        return tag.right() + 2
