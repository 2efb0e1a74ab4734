"""The kinds of marks, each drawn as it will lie on the picture, with its key."""

from __future__ import annotations

from functools import lru_cache

from PyQt6.QtCore import QEvent, QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QHelpEvent, QImage, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QToolTip, QWidget

from chapto.app.theme import number_font, text_font
from chapto.document.joints import Joint
from chapto.document.mark_kinds import RULES, MarkKind
from chapto.document.people import Side
from chapto.paint.colours import CHOSEN, FIRST, INK, INK_SOFT, PAPER, SECOND, SPRUCE, SPRUCE_LINE, see_through
from chapto.paint.marks.drawn import Drawn
from chapto.paint.marks.looks import LOOKS
from chapto.paint.plates import blank, painter_on, plate
from chapto.paint.signs import dot

K = MarkKind
KEYS: dict[str, MarkKind] = {
    "G": K.GRIP, "F": K.FRAME, "D": K.FORCE, "L": K.LEVEL, "K": K.KNEE_LINE, "E": K.BASE, "W": K.WEIGHT, "S": K.STEP,
    "A": K.GAP, "P": K.PATH, "O": K.SPOTLIGHT, "I": K.WINDOW, "C": K.CLOSER, "T": K.GHOST, "X": K.COVER,
}  # fmt: skip
COLUMNS = 5
HIGH, PICTURE = 54, 34


class KindTiles(QWidget):
    """`chosen` carries a kind of mark."""

    chosen = pyqtSignal(object)

    def __init__(self) -> None:
        super().__init__()
        self.setMouseTracking(True)
        self.setAccessibleName("Kinds of marks")
        self.setFixedHeight(-(-len(KEYS) // COLUMNS) * HIGH + 6)
        self.proposed: MarkKind | None = None
        self._under: MarkKind | None = None

    def propose(self, kind: MarkKind | None) -> None:
        """Show which kind the moment of the chosen word wants."""
        if kind is not self.proposed:
            self.proposed = kind
            self.update()

    def sizeHint(self) -> QSize:
        """Wide enough for five names."""
        return QSize(400, self.height())

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Put one down."""
        kind = self._kind_at(event.position()) if event is not None else None
        if kind is not None:
            self.chosen.emit(kind)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        """Light up what is under the pointer."""
        under = self._kind_at(event.position()) if event is not None else None
        if under is not self._under:
            self._under = under
            self.update()

    def leaveEvent(self, event: QEvent | None) -> None:
        """Nothing is under the pointer any more."""
        self._under = None
        self.update()

    def event(self, event: QEvent | None) -> bool:
        """Say what a kind means."""
        if isinstance(event, QHelpEvent) and event.type() == QEvent.Type.ToolTip:
            kind = self._kind_at(QPointF(event.pos()))
            if kind is not None:
                key = next(k for k, v in KEYS.items() if v is kind)
                QToolTip.showText(event.globalPos(), f"{kind.value.capitalize()}: {RULES[kind].meaning}  ({key})", self)
                return True
        return super().event(event)

    def _tile(self, number: int) -> QRectF:
        wide = (self.width() - 16) / COLUMNS
        return QRectF(8 + number % COLUMNS * wide, 3 + number // COLUMNS * HIGH, wide, HIGH)

    def _kind_at(self, at: QPointF) -> MarkKind | None:
        return next((k for i, k in enumerate(KEYS.values()) if self._tile(i).contains(at)), None)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """A small picture of each, its name and its key."""
        p = QPainter(self)
        p.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
        p.fillRect(self.rect(), QColor(PAPER))
        ratio = self.devicePixelRatioF()
        for i, (key, kind) in enumerate(KEYS.items()):
            tile = self._tile(i).adjusted(2, 2, -2, -2)
            if kind in (self.proposed, self._under):
                plate(p, tile, 5, CHOSEN if kind is self.proposed else PAPER)
            box = QRectF(tile.center().x() - PICTURE * 0.8, tile.top() + 2, PICTURE * 1.6, PICTURE)
            p.drawImage(box, kind_picture(kind, ratio))
            foot = QRectF(tile.left(), tile.bottom() - 15, tile.width(), 14)
            p.setFont(text_font(12, 500))
            name = kind.value.capitalize()
            wide = p.fontMetrics().horizontalAdvance(name)
            left = foot.center().x() - (wide + 14) / 2
            p.setPen(QColor(INK))
            p.drawText(QRectF(left, foot.top(), wide + 2, 14), Qt.AlignmentFlag.AlignVCenter, name)
            p.setFont(number_font(13, 500))
            p.setPen(QColor(INK_SOFT))
            p.drawText(QRectF(left + wide + 5, foot.top(), 14, 14), Qt.AlignmentFlag.AlignVCenter, key)
        p.end()


@lru_cache(maxsize=64)
def kind_picture(kind: MarkKind, ratio: float) -> QImage:
    """A kind by its own painter, on a patch of dark."""
    wide, high = round(PICTURE * 1.6 * 2 * ratio), round(PICTURE * 2 * ratio)
    image = blank(wide, high)
    p = painter_on(image)
    plate(p, QRectF(0, 0, wide, high), 10 * ratio, SPRUCE, "")
    p.scale(wide / 160, high / 100)
    if kind in (K.COVER, K.CLOSER, K.SPOTLIGHT):
        _changed_picture(p, kind)
    else:
        LOOKS[kind].paint(p, _sample(kind))
    p.end()
    return image


def _sample(kind: MarkKind) -> Drawn:
    """A mark of a kind in a picture of 160 × 100, large."""
    q = QPointF
    places: dict[MarkKind, tuple[QPointF, ...]] = {
        K.GRIP: (q(80, 52),),
        K.FRAME: (q(40, 70), q(120, 32)),
        K.FORCE: (q(34, 30), q(128, 74)),
        K.LEVEL: (q(28, 28), q(132, 76)),
        K.KNEE_LINE: (q(64, 18), q(72, 82), q(112, 48)),
        K.BASE: (q(28, 76), q(76, 84), q(130, 68), q(90, 56)),
        K.WEIGHT: (q(80, 14), q(80, 72)),
        K.STEP: (q(36, 34), q(112, 66)),
        K.GAP: (q(46, 30), q(116, 72)),
        K.PATH: (q(128, 34),),
        K.WINDOW: (q(38, 66),),
        K.GHOST: (q(80, 50),),
    }
    trail = tuple(q(24 + 10.4 * k, 78 - 52 * (k / 10) ** 2 + 8 * (k % 3)) for k in range(11)) if kind is K.PATH else ()
    return Drawn(
        points=places[kind],
        sides=(Side.FIRST, Side.SECOND, Side.SECOND, None)[: len(places[kind])],
        of=Side.FIRST,
        colour=FIRST,
        other=SECOND,
        colours={Side.FIRST: FIRST, Side.SECOND: SECOND},
        unit=0.92 if kind is K.LEVEL else 1.15,
        state=RULES[kind].states[0] if RULES[kind].states else None,
        before=_small_figure() if kind is K.GHOST else None,
        trail=trail,
        radius=12,
        box=QRectF(76, 16, 70, 54) if kind is K.WINDOW else None,
        centre=q(78, 26) if kind is K.BASE else None,
    )


def _small_figure() -> dict[Joint, QPointF]:
    """Somebody on hands and knees."""
    q, j = QPointF, Joint
    return {
        j.HEAD: q(116, 30), j.NECK: q(104, 36), j.LEFT_SHOULDER: q(102, 40), j.RIGHT_SHOULDER: q(98, 42),
        j.LEFT_HIP: q(58, 44), j.RIGHT_HIP: q(56, 46), j.LEFT_ELBOW: q(104, 58), j.RIGHT_ELBOW: q(98, 60),
        j.LEFT_WRIST: q(106, 76), j.RIGHT_WRIST: q(98, 78), j.LEFT_KNEE: q(58, 74), j.RIGHT_KNEE: q(52, 76),
        j.LEFT_ANKLE: q(32, 80), j.RIGHT_ANKLE: q(28, 82),
    }  # fmt: skip


def _changed_picture(p: QPainter, kind: MarkKind) -> None:
    if kind is K.SPOTLIGHT:
        for r, alpha in ((34, 60), (27, 110), (20, 235)):
            dot(p, QPointF(80, 50), r, see_through(PAPER, alpha))
    elif kind is K.CLOSER:
        for scale, alpha in ((1.0, 90), (0.68, 160), (0.36, 255)):
            box = QRectF(80 - 62 * scale, 50 - 38 * scale, 124 * scale, 76 * scale)
            p.setPen(QPen(see_through(PAPER, alpha), 3))
            p.setBrush(Qt.BrushStyle.NoBrush)
            p.drawRoundedRect(box, 4, 4)
    else:
        for i, colour in enumerate((SPRUCE_LINE, INK_SOFT, SPRUCE_LINE, PAPER, SPRUCE_LINE)):
            dot(p, QPointF(60 + 10 * i, 44 + 6 * (i % 2)), 24, see_through(colour, 90))
