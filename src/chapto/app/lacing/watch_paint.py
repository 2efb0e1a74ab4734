"""Under the watch rail: words, what does not fit, chapters, the running time, the wished length."""

from __future__ import annotations

from bisect import bisect_left

from PyQt6.QtCore import QLineF, QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainterPath, QPen

from chapto.app.lacing.canvas import LEAST, Canvas, width_of
from chapto.app.lacing.detail import joined
from chapto.app.ruler import STEPS, marks, step_for
from chapto.app.theme import number_font, text_font
from chapto.clock.timecode import clock_text
from chapto.paint.colours import CHOSEN, FIRST, INK, INK_SOFT, PAPER_DEEP, PAPER_LINE, TIES
from chapto.paint.lettering import write
from chapto.programme.programme import TieState

EVERY_WORD, PHRASES = 85.0, 26.0
"""Pixels a second from which every word, or each phrase, has room."""
APART = 6.0
"""Pixels between two section edges that are drawn."""
MARKS_APART = 64.0
"""Pixels between two marks of the ruler, at least."""


def draw_under_the_rail(c: Canvas) -> None:
    """Ground, section edges, chapters, ruler, words."""
    r, p = c.rows, c.p
    p.fillRect(QRectF(0, r.chapters_foot, c.axis.width, r.height - r.chapters_foot), QColor(PAPER_DEEP))
    _ruler(c)
    _chapters(c)
    if c.axis.scale >= EVERY_WORD:
        _single_words(c)
    elif c.axis.scale >= PHRASES:
        _phrases(c)
    else:
        _bars(c)
        _tied_words(c)
    _troubles(c)


def _ruler(c: Canvas) -> None:
    r, p = c.rows, c.p
    step = step_for(c.axis.scale, apart=MARKS_APART, least=STEPS[0])
    p.setFont(number_font(13))
    for second in marks(max(c.from_ - step, 0), min(c.to, c.model.seconds), step):
        x = c.axis.x(second)
        p.setPen(QPen(QColor(PAPER_LINE), 1))
        p.drawLine(QLineF(x, r.chapters_foot, x, r.chapters_foot + 5))
        write(p, QRectF(x + 4, r.chapters_foot, 60, 17), clock_text(second, tenths=step < 1), INK_SOFT)
    if c.model.target:
        _target(c, c.axis.x(c.model.target))


def _target(c: Canvas, x: float) -> None:
    """A flag where the video is wished to end."""
    r, p = c.rows, c.p
    flag = QPainterPath(QPointF(x, r.height))
    flag.lineTo(x, r.chapters_foot - 10)
    flag.lineTo(x + 12, r.chapters_foot - 5)
    flag.lineTo(x, r.chapters_foot)
    p.setPen(QPen(QColor(INK), 1.4))
    p.setBrush(QColor(FIRST))
    p.drawPath(flag)


def _chapters(c: Canvas) -> None:
    r, p, last = c.rows, c.p, -1e9
    p.setPen(QPen(QColor(INK_SOFT), 1, Qt.PenStyle.DotLine))
    for start, title in c.model.edges_in(c.from_, c.to):
        x = c.axis.x(start)
        if start and x - last >= APART:
            p.drawLine(QLineF(x, r.rail_foot, x, r.chapters_foot if title else r.words_foot))
            last = x
    for start, end, title in c.model.chapters_in(c.from_, c.to):
        if (end - start) * c.axis.scale >= LEAST:
            box = c.between(start, end, r.words_foot, r.chapters_foot).adjusted(4, 0, -2, 0)
            c.text(box, title, text_font(12, 600), INK)


def _single_words(c: Canvas) -> None:
    r, p, font = c.rows, c.p, text_font(15)
    until, row = -1e9, 0
    p.setFont(font)
    for w in c.model.words_in(c.from_ - 1, c.to):
        x = c.axis.x(float(w.start))
        row = (row + 1) % 2 if x < until + 4 else 0
        p.setPen(QColor(INK if w.beat == c.chosen or not c.chosen else INK_SOFT))
        p.drawText(QPointF(x, r.words_top + row * 12 + 13), w.text)
        until = x + width_of(font, w.text)


def _phrases(c: Canvas) -> None:
    """Each beat's words as one line, cut where it runs out of room."""
    r = c.rows
    runs = c.model.phrases_in(c.from_ - 2, c.to)
    for i, run in enumerate(runs):
        limit = runs[i + 1].start if i + 1 < len(runs) else run.end + 2
        width = min(run.end - run.start + 2, limit - run.start) * c.axis.scale - 8
        box = QRectF(c.axis.x(run.start), r.words_top, width, 18)
        chosen = run.beat == c.chosen
        if chosen:
            c.p.fillRect(box.adjusted(-3, 0, 0, 1), QColor(CHOSEN))
        c.text(box, run.text, text_font(14, 500 if chosen else 400), INK if chosen else INK_SOFT)


def _bars(c: Canvas) -> None:
    y = c.rows.words_top + 20
    c.p.setPen(Qt.PenStyle.NoPen)
    for run in joined(c.model.phrases_in(c.from_, c.to), c.axis.scale):
        c.p.setBrush(QColor(INK if run.beat == c.chosen else PAPER_LINE))
        x, width = c.axis.x(run.start), max((run.end - run.start) * c.axis.scale - 2, 1)
        if width < 12:
            c.plain(x, x + width, y, y + 5, c.p.brush().color())
        else:
            c.p.drawRoundedRect(QRectF(x, y, width, 5), 2, 2)


def _tied_words(c: Canvas) -> None:
    """As many tied words as there is room for; what does not meet comes first."""
    font = text_font(13, 500)
    c.p.setFont(font)
    c.p.setPen(QColor(INK))
    taken: list[tuple[float, float]] = []
    for lace in sorted(c.laces, key=lambda x: x.state is TieState.MET):
        x = c.axis.x(lace.said) - 3
        text = lace.text.strip(".,;:!?")
        end = x + width_of(font, text) + 6
        i = bisect_left(taken, (x, end))
        if (i == 0 or taken[i - 1][1] <= x) and (i == len(taken) or taken[i][0] >= end):
            c.p.drawText(QPointF(x, c.rows.words_top + 13), text)
            taken.insert(i, (x, end))


def _troubles(c: Canvas) -> None:
    """A notch in the rail's foot at each word where something does not fit."""
    p, y, last = c.p, c.rows.rail_foot, -1e9
    p.setPen(Qt.PenStyle.NoPen)
    p.setBrush(QColor(TIES[TieState.BROKEN]))
    for trouble in c.model.troubles:
        x = c.axis.x(trouble.place)
        if c.sees(trouble.place, trouble.place) and x - last > 3:
            notch = QPainterPath(QPointF(x, y - 1))
            notch.lineTo(x - 5, y + 8)
            notch.lineTo(x + 5, y + 8)
            notch.closeSubpath()
            p.drawPath(notch)
            last = x
