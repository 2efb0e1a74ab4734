"""The ten-press trial: press Space as soon as the disc turns marigold; the median is the reaction time."""

from __future__ import annotations

import random
import time
from collections.abc import Callable

from PyQt6.QtCore import QEvent, QPointF, QRectF, Qt, QTimer
from PyQt6.QtGui import QColor, QKeyEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QWidget

from chapto.app.frame.sheet import paint_sheet
from chapto.app.theme import number_font, text_font
from chapto.matlog.reaction import PRESSES, reaction_time
from chapto.paint.colours import FIRST, INK, INK_SOFT, PAPER_DEEP, PAPER_LINE


class Trial(QWidget):
    """Lies over the window until ten presses are done or Esc ends it; `done` gets the seconds."""

    def __init__(self, parent: QWidget, done: Callable[[float], object]) -> None:
        super().__init__(parent)
        self._done = done
        self._times: list[float] = []
        self._lit: float | None = None
        self.says = "Press Space as soon as the disc turns marigold. Ten times. Esc ends."
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.timeout.connect(self._light)
        self.setProperty("ownKeys", True)
        self.setGeometry(parent.rect())
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.show()
        self.raise_()
        self.setFocus()
        self._wait()

    @property
    def is_lit(self) -> bool:
        """Whether the disc waits for a press."""
        return self._lit is not None

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """A sheet of paper with the disc."""
        p = QPainter(self)
        sheet = paint_sheet(p, self.rect(), 560, 260)
        p.setPen(QPen(QColor(PAPER_LINE), 2))
        p.setBrush(QColor(FIRST if self.is_lit else PAPER_DEEP))
        p.drawEllipse(QPointF(sheet.center().x(), sheet.top() + 108), 54, 54)
        p.setPen(QColor(INK))
        p.setFont(text_font(15))
        p.drawText(
            QRectF(sheet.left(), sheet.bottom() - 78, sheet.width(), 26), Qt.AlignmentFlag.AlignCenter, self.says
        )
        p.setPen(QColor(INK_SOFT))
        p.setFont(number_font(15))
        shown = "   ".join(f"{t:.2f}" for t in self._times)
        p.drawText(QRectF(sheet.left(), sheet.bottom() - 46, sheet.width(), 24), Qt.AlignmentFlag.AlignCenter, shown)
        p.end()

    def event(self, event: QEvent | None) -> bool:
        """While the trial is up, no key is a shortcut of the window."""
        if event is not None and event.type() == QEvent.Type.ShortcutOverride:
            event.accept()
            return True
        return super().event(event)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Space counts, Esc ends."""
        assert event is not None
        if event.key() == Qt.Key.Key_Escape:
            self._end()
        elif event.key() == Qt.Key.Key_Space and not event.isAutoRepeat():
            self._press()

    def _press(self) -> None:
        if self._lit is None:
            self.says = "Too soon: wait for the colour."
            self._wait()
            return
        self._times.append(time.monotonic() - self._lit)
        if len(self._times) < PRESSES:
            self.says = f"{PRESSES - len(self._times)} more."
            self._wait()
            return
        found = reaction_time(self._times)
        if found is not None:
            self._done(found)
        self._end()

    def _wait(self) -> None:
        self._lit = None
        self._timer.start(random.randint(700, 1900))
        self.update()

    def _light(self) -> None:
        self._lit = time.monotonic()
        self.update()

    def _end(self) -> None:
        self._timer.stop()
        self.close()
        self.deleteLater()
