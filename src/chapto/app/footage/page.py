"""The Footage stage, as far as it goes: which files there are, and bringing in more."""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPainterPath, QPaintEvent
from PyQt6.QtWidgets import QHBoxLayout, QScrollArea, QVBoxLayout, QWidget

from chapto.app.log.filmstrip import Filmstrip
from chapto.app.studio import Studio
from chapto.app.theme import number_font, text_font
from chapto.app.widgets import button, ground, label
from chapto.clock.timecode import clock_text
from chapto.document.footage import Footage
from chapto.paint.colours import DEEP, ON_DARK, ON_DARK_SOFT, SPRUCE, TIES
from chapto.programme.programme import TieState

KEYS = (("Ctrl+I", "bring in videos"),)
PICTURES = 6


class Reel(QWidget):
    """One file: pictures along its length, and its facts."""

    def __init__(self, studio: Studio, film: Filmstrip, footage: Footage) -> None:
        super().__init__()
        self._studio, self._film, self.footage = studio, film, footage
        self.setFixedHeight(124)
        film.arrived.connect(self.update)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Name and facts over a row of pictures."""
        p, c = QPainter(self), self.footage
        p.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
        p.fillRect(self.rect(), QColor(SPRUCE))
        p.setPen(QColor(ON_DARK))
        p.setFont(text_font(15, 600))
        p.drawText(QRectF(20, 6, 300, 24), Qt.AlignmentFlag.AlignVCenter, c.name)
        gone = c.id not in self._studio.places
        begins = clock_text(c.mat_in, tenths=True)
        facts = f"{clock_text(c.duration)} long   {float(c.fps):g} pictures a second   from mat {begins}"
        p.setFont(number_font(15))
        p.setPen(QColor(TIES[TieState.LATE] if gone else ON_DARK_SOFT))
        text = "this file is missing; put it back beside the project" if gone else facts
        p.drawText(QRectF(200, 6, self.width() - 220, 24), Qt.AlignmentFlag.AlignVCenter, text)
        width = (self.width() - 40) / PICTURES
        for i in range(PICTURES):
            box = QRectF(20 + i * width, 34, width - 4, 82)
            clip = QPainterPath()
            clip.addRoundedRect(box, 3, 3)
            p.fillPath(clip, QColor(DEEP))
            at = c.mat_in + (c.mat_out - c.mat_in) * Fraction(2 * i + 1, 2 * PICTURES)
            image = None if gone else self._film.of(c, at)
            if image is not None:
                p.save()
                p.setClipPath(clip)
                scale = max(box.width() / image.width(), box.height() / image.height())
                size = QRectF(0, 0, image.width() * scale, image.height() * scale)
                size.moveCenter(box.center())
                p.drawImage(size, image)
                p.restore()
        p.end()


class FootagePage(QWidget):
    """Files on dark; what this stage will do more, on paper."""

    def __init__(self, studio: Studio, bring_in: Callable[[], object]) -> None:
        super().__init__()
        self._studio = studio
        self.film = Filmstrip(studio)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        area = QScrollArea()
        area.setWidgetResizable(True)
        inner = ground(QWidget(), "dark")
        self._reels = QVBoxLayout(inner)
        self._reels.setContentsMargins(0, 10, 0, 10)
        self._reels.setSpacing(6)
        area.setWidget(inner)
        row.addWidget(area, 1)
        side = ground(QWidget(), "paper")
        side.setFixedWidth(330)
        column = QVBoxLayout(side)
        column.setContentsMargins(22, 20, 20, 20)
        column.setSpacing(10)
        column.addWidget(label("What you filmed, or may use.", size="title", wrap=True))
        column.addWidget(label("Drop videos anywhere on the window. Nothing is copied or changed.", wrap=True))
        column.addWidget(
            button("Bring in videos", bring_in, tip="Bring in videos", key="Ctrl+I", sign="plus", kind="main")
        )
        column.addSpacing(16)
        column.addWidget(label("Still to come here", size="head"))
        for text in (
            "Bringing several cameras onto one clock by their sound.",
            "Finding fog, blocked views and stretches where nothing happens.",
            "Choosing which camera is used when.",
            "Who is in it, and who agreed.",
        ):
            column.addWidget(label(text, soft=True, wrap=True))
        column.addStretch(1)
        row.addWidget(side)
        studio.changed.connect(self._follow)
        self._shown: tuple[str, ...] = ()
        self._follow()

    def _follow(self) -> None:
        b = self._studio.breakdown
        now = tuple(c.id for c in b.footage)
        if now == self._shown and now:
            return
        self._shown = now
        while item := self._reels.takeAt(0):
            widget = item.widget()
            if widget is not None:
                widget.deleteLater()
        for c in b.footage:
            self._reels.addWidget(Reel(self._studio, self.film, c))
        if not b.footage:
            self._reels.addWidget(label("   No footage yet.", soft=True))
        self._reels.addStretch(1)
