"""The lacing of about 2,000 passages and 5,000 ties: one whole repaint at several scales (aim: under 16 ms), and as so
many times plain filling of 2,000 rectangles on the same picture in the same run."""

from __future__ import annotations

import os
import time
from collections.abc import Callable
from dataclasses import replace as with_

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from PyQt6.QtCore import QRectF
from PyQt6.QtGui import QColor, QPainter, QPixmap

from bench.long_breakdown import long_breakdown
from chapto.app.axis import Axis
from chapto.app.lacing.build import lacing_model
from chapto.app.lacing.canvas import Canvas
from chapto.app.lacing.log_model import log_line, on_rail
from chapto.app.lacing.model import Lace, LacingModel
from chapto.app.lacing.paint import draw_lacing
from chapto.app.start import application
from chapto.programme.compile import compile_programme
from chapto.programme.knowledge import shipped_knowledge

WIDTH, HEIGHT, TURNS = 1196, 260, 15


def main() -> None:
    """Time the drawing of everything that stands still."""
    application()
    b = long_breakdown(720)
    p = compile_programme(b, {})
    start = time.perf_counter()
    model = _with_ties(lacing_model(b, p), 5000)
    built = time.perf_counter() - start
    rail = on_rail(log_line(b, shipped_knowledge()), model)
    print(
        f"{len(model.bands)} passages, {len(model.laces)} ties, {len(model.words)} words; worked out in {built:.2f} s"
    )
    pixmap = QPixmap(WIDTH, HEIGHT)
    plain = _best(lambda: _rectangles(pixmap))
    print(f"2,000 plain rectangles: {plain * 1000:.1f} ms")
    axis = Axis()
    axis.resize(WIDTH, model.seconds)
    for name, zoom in (("whole", 1.0), ("8 minutes", 8.0), ("2 minutes", 4.0), ("20 s", 6.0), ("3 s", 6.0)):
        axis.zoom(zoom, WIDTH / 2)

        def draw() -> None:
            painter = QPainter(pixmap)
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            draw_lacing(Canvas(painter, model, axis, HEIGHT, ""), *rail, None)
            painter.end()

        took = _best(draw)
        seconds = WIDTH / axis.scale
        print(f"repaint, {name} ({seconds:.0f} s in view): {took * 1000:.1f} ms, {took / plain:.1f} of the rectangles")


def _with_ties(model: LacingModel, count: int) -> LacingModel:
    """The model with words tied until there are `count` ties."""
    tied = {(x.beat, x.word) for x in model.laces}
    laces = list(model.laces)
    free = [w for w in model.words if (w.beat, w.word) not in tied]
    step = max(len(free) // max(count - len(laces), 1), 1)
    for w in free[::step][: max(count - len(laces), 0)]:
        said = float(w.start)
        home = model.stretch_at(said)
        state = model.laces[len(laces) % len(model.laces)].state
        laces.append(Lace(w.beat, w.word, w.text, said, said, said if home else None, 0.0, state))
    return with_(model, laces=tuple(sorted(laces, key=lambda x: x.said)))


def _rectangles(pixmap: QPixmap) -> None:
    painter = QPainter(pixmap)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    colour = QColor("#6F8FC7")
    for i in range(2000):
        painter.fillRect(QRectF(i * 0.6, 20.3, 0.6, 200), colour)
    painter.end()


def _best(work: Callable[[], object]) -> float:
    found = []
    for _ in range(TURNS):
        start = time.perf_counter()
        work()
        found.append(time.perf_counter() - start)
    return min(found)


if __name__ == "__main__":
    main()
