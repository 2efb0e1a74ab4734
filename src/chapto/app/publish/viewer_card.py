"""The video as a viewer meets it: its thumbnail as small as lists show it, its title as they cut it, the first lines of
what stands under it, and the chapters."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QRectF, QSize, Qt
from PyQt6.QtGui import QColor, QFontMetricsF, QImage, QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QWidget

from chapto.app.theme import number_font, text_font
from chapto.paint.colours import DEEP, INK, INK_SOFT, ON_DARK, PAPER, PAPER_DEEP, PAPER_LINE, SPRUCE
from chapto.paint.lettering import MIDDLE, write
from chapto.paint.plates import plate
from chapto.publish.site.viewer import ViewerPage

THUMB = QSize(168, 94)
"""As lists show it."""
HIGH = 142
EDGE = 14


class ViewerCard(QWidget):
    """`pressed` is called with "thumbnail", "title", "description" or "chapters", whichever is pressed."""

    def __init__(self, pressed: Callable[[str], object]) -> None:
        super().__init__()
        self._pressed = pressed
        self.page: ViewerPage | None = None
        self.thumbnail = QImage()
        self.setFixedHeight(HIGH)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setAccessibleName("As a viewer will see it")
        self.setToolTip("As a viewer will see it: press what you want to change")

    def show_page(self, page: ViewerPage, thumbnail: QImage) -> None:
        """Show another page."""
        self.page, self.thumbnail = page, thumbnail
        self.setAccessibleDescription(f"{page.listed}. {' '.join(page.first_lines)}")
        self.update()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Lead to what is pressed."""
        assert event is not None
        at = event.position()
        if at.x() < EDGE + THUMB.width() + 8:
            self._pressed("thumbnail")
        elif at.y() < 52:
            self._pressed("title")
        else:
            self._pressed("description" if at.y() < 98 else "chapters")

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Enter leads to the thumbnail."""
        assert event is not None
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self._pressed("thumbnail")
            return
        super().keyPressEvent(event)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """The list entry left, what its page says right."""
        p = QPainter(self)
        p.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
        p.fillRect(self.rect(), QColor(PAPER))
        if self.page is None:
            p.end()
            return
        self._listed(p, self.page)
        self._under(p, self.page)
        p.end()

    def _listed(self, p: QPainter, page: ViewerPage) -> None:
        box = QRectF(EDGE, 12, THUMB.width(), THUMB.height())
        if self.thumbnail.isNull():
            p.fillRect(box, QColor(SPRUCE))
            p.setFont(text_font(12))
            write(p, box, "looking for one…", ON_DARK, MIDDLE)
        else:
            p.drawImage(box, self.thumbnail)
        p.setFont(number_font(13, 600))
        wide = QFontMetricsF(p.font()).horizontalAdvance(page.length) + 10
        badge = QRectF(box.right() - wide - 4, box.bottom() - 20, wide, 16)
        ground = QColor(DEEP)
        ground.setAlpha(215)
        plate(p, badge, 3, ground, "")
        write(p, badge, page.length, ON_DARK, MIDDLE)
        p.setFont(text_font(12, 600))
        write(p, QRectF(EDGE, box.bottom() + 6, THUMB.width(), 18), page.listed, INK)

    def _under(self, p: QPainter, page: ViewerPage) -> None:
        left = EDGE + THUMB.width() + 22
        room = QRectF(left, 10, self.width() - left - EDGE, 24)
        count, most = page.title_count
        p.setFont(number_font(13))
        told = f"{count} of {most}"
        wide = QFontMetricsF(p.font()).horizontalAdvance(told) + 4
        write(p, QRectF(room.right() - wide, room.top(), wide, room.height()), told, INK_SOFT)
        p.setFont(text_font(17, 600))
        write(p, room.adjusted(0, 0, -wide - 8, 0), page.title, INK)
        p.setFont(text_font(13))
        for i, line in enumerate(page.first_lines):
            write(p, QRectF(left, 38 + 19 * i, room.width(), 19), line, INK)
        if page.more:
            p.setFont(text_font(12))
            lines = "line" if page.more == 1 else "lines"
            write(
                p,
                QRectF(left, 38 + 19 * len(page.first_lines), room.width(), 18),
                f"{page.more} {lines} more",
                INK_SOFT,
            )
        self._chapters(p, page, left)

    def _chapters(self, p: QPainter, page: ViewerPage, left: float) -> None:
        x, top = left, 106.0
        p.setFont(text_font(12, 500))
        if not page.chapters:
            write(p, QRectF(left, top, self.width() - left, 22), "A site would show no chapters.", INK_SOFT)
            return
        metrics = QFontMetricsF(p.font())
        for at, title in page.chapters:
            words = f"{at}  {title}"
            wide = metrics.horizontalAdvance(words) + 16
            if x + wide > self.width() - EDGE - 22:
                write(p, QRectF(x, top, 24, 22), "…", INK_SOFT)
                break
            box = QRectF(x, top, wide, 22)
            plate(p, box, 4, PAPER_DEEP, PAPER_LINE)
            write(p, box.adjusted(8, 0, -6, 0), words, INK)
            x += wide + 6
