"""What is seen while nothing was brought in: the invitation, the order of the work, and what was opened last."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPixmap
from PyQt6.QtWidgets import QSizePolicy, QWidget

from chapto.app import layouts
from chapto.app.earlier import day_of
from chapto.app.theme import icon_pixmap, number_font, text_font
from chapto.app.widgets import button, ground, label
from chapto.clock.timecode import clock_text
from chapto.paint.colours import (
    DEEP,
    FIRST,
    INK,
    INK_SOFT,
    ON_DARK,
    ON_DARK_SOFT,
    PAPER_DEEP,
    PAPER_LINE,
    SPRUCE_LINE,
)
from chapto.paint.lettering import write
from chapto.review.work import Stage
from chapto.store.recent import Recent, recent

WAY = (
    (Stage.FOOTAGE, "what you filmed"),
    (Stage.LOG, "what happened"),
    (Stage.WRITE, "what you say"),
    (Stage.MARK, "what you mean"),
    (Stage.VOICE, "how it sounds"),
    (Stage.REVIEW, "what they will see"),
    (Stage.PUBLISH, "what goes out"),
)
SHOWN = 5


class StartPage(QWidget):
    """`bring_in` asks for videos, `open_file` opens a breakdown, `demo` and `talk` the two that ship."""

    def __init__(
        self,
        bring_in: Callable[[], object],
        open_file: Callable[[Path], object],
        demo: Callable[[], object],
        talk: Callable[[], object],
    ) -> None:
        super().__init__()
        dark = ground(QWidget(), "dark")
        column = layouts.column(dark, margins=(40, 30, 40, 26), spacing=10)
        column.addStretch(3)
        column.addWidget(_Mat(), alignment=Qt.AlignmentFlag.AlignHCenter)
        middle = Qt.AlignmentFlag.AlignHCenter
        said = label("Drop here what you filmed.", size="welcome")
        column.addWidget(said, alignment=middle)
        more = label("One camera or several, videos or photos. Nothing is copied, nothing is changed.", soft=True)
        column.addWidget(more, alignment=middle)
        column.addSpacing(8)
        row = layouts.row(spacing=10)
        row.addStretch(1)
        self.main = button(
            "Bring in videos", bring_in, tip="Bring in videos", key="Ctrl+I", sign="plus", kind="main", dark=True
        )
        row.addWidget(self.main)
        row.addWidget(button("Look at the demo", demo, tip="Open a finished breakdown to look around in", dark=True))
        row.addWidget(
            button("A talk-through", talk, tip="Open a round that was talked through once, while watching", dark=True)
        )
        row.addStretch(1)
        column.addLayout(row)
        column.addStretch(3)
        column.addWidget(_Way())
        side = ground(QWidget(), "paper")
        listed = layouts.column(side, margins=(24, 26, 20, 20), spacing=8)
        listed.addWidget(label("Opened last", size="title"))
        self.cards = [_RecentCard(one, partial(open_file, Path(one.path))) for one in recent()[:SHOWN]]
        for card in self.cards:
            listed.addWidget(card)
        if not self.cards:
            listed.addWidget(label("Breakdowns that you save are found here again.", soft=True, wrap=True))
        listed.addStretch(1)
        layouts.column(self, layouts.split(Qt.Orientation.Horizontal, dark, side, sizes=(806, 390), stretch=(1,)))
        self.setFocusProxy(self.main)


class _Mat(QWidget):
    """Where things are dropped: a mat seen from above, the two on it."""

    def __init__(self) -> None:
        super().__init__()
        self.setFixedSize(QSize(220, 124))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """A dashed edge; first a disc, second a square."""
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        p.setPen(QPen(QColor(SPRUCE_LINE), 2, Qt.PenStyle.DashLine))
        p.setBrush(QColor(DEEP))
        p.drawRoundedRect(QRectF(2, 2, self.width() - 4, self.height() - 4), 8, 8)
        p.drawPixmap(QPointF(self.width() / 2 - 24, self.height() / 2 - 24),
                     icon_pixmap("footage", FIRST, 48, self.devicePixelRatioF()))  # fmt: skip
        p.end()


class _Way(QWidget):
    """The stages in the order of the work, with what each is for."""

    def __init__(self) -> None:
        super().__init__()
        self.setFixedHeight(84)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setAccessibleName("The order of the work: " + ", ".join(f"{s.value}: {what}" for s, what in WAY))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """A line through their signs."""
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        wide = self.width() / len(WAY)
        p.setPen(QPen(QColor(SPRUCE_LINE), 1.5))
        for i in range(len(WAY) - 1):
            p.drawLine(QPointF((i + 0.5) * wide + 20, 14), QPointF((i + 1.5) * wide - 20, 14))
        for i, (stage, what) in enumerate(WAY):
            x = (i + 0.5) * wide
            sign = icon_pixmap(stage.value.lower(), ON_DARK, 22, self.devicePixelRatioF())
            p.drawPixmap(QPointF(x - 11, 3), sign)
            p.setPen(QColor(ON_DARK))
            p.setFont(text_font(13, 600))
            p.drawText(QRectF(i * wide, 30, wide, 18), Qt.AlignmentFlag.AlignCenter, stage.value)
            p.setPen(QColor(ON_DARK_SOFT))
            p.setFont(number_font(14))
            centred = Qt.AlignmentFlag.AlignHCenter | Qt.TextFlag.TextWordWrap
            p.drawText(QRectF(i * wide + 4, 47, wide - 8, 36), centred, what)
        p.end()


class _RecentCard(QWidget):
    """One breakdown: its picture, its title, when it was looked at and how long it is. A press or Return opens it."""

    def __init__(self, one: Recent, act: Callable[[], object]) -> None:
        super().__init__()
        self.one, self._act = one, act
        self._picture = QPixmap(str(one.picture))
        self.setFixedHeight(76)
        self.setMinimumWidth(200)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAttribute(Qt.WidgetAttribute.WA_Hover)
        self.setToolTip(one.path)
        self.setAccessibleName(f"Open {one.title}")

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Picture on the left, words beside it."""
        p = QPainter(self)
        p.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
        if self.hasFocus() or self.underMouse():
            p.setPen(QPen(QColor(FIRST if self.hasFocus() else PAPER_LINE), 1))
            p.setBrush(QColor(PAPER_DEEP))
            p.drawRoundedRect(QRectF(0.5, 0.5, self.width() - 1, self.height() - 1), 5, 5)
        frame = QRectF(6, 6, 112, 63)
        p.fillRect(frame, QColor(DEEP))
        if not self._picture.isNull():
            size = self._picture.size().scaled(112, 63, Qt.AspectRatioMode.KeepAspectRatio)
            place = QRectF(0, 0, size.width(), size.height())
            place.moveCenter(frame.center())
            p.drawPixmap(place.toRect(), self._picture)
        left, wide = 128.0, self.width() - 136.0
        for y, font, colour, text in (
            (8, text_font(15, 600), INK, self.one.title),
            (29, text_font(13), INK_SOFT, self.one.part or Path(self.one.path).parent.name),
            (48, number_font(14), INK_SOFT, f"{clock_text(self.one.seconds)} · {day_of(self.one.at)}"),
        ):
            p.setFont(font)
            write(p, QRectF(left, y, wide, 20), text, colour)
        p.end()

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        """Open it."""
        self._act()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Return and Space open it."""
        assert event is not None
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space):
            self._act()
        else:
            super().keyPressEvent(event)
