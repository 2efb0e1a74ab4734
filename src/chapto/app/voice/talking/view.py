"""While somebody talks: the picture as large as it gets, how loud it comes in, the time, what was marked."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPainterPath, QPaintEvent, QPen
from PyQt6.QtWidgets import QWidget

from chapto.app import layouts
from chapto.app.log.log_controller import LogController
from chapto.app.over_window import OverWindow
from chapto.app.playhead import View
from chapto.app.screen.feed import PictureFeed
from chapto.app.screen.player import Player
from chapto.app.screen.screen import Screen
from chapto.app.studio import Studio
from chapto.app.theme import number_font
from chapto.app.voice.level_thread import LevelThread
from chapto.app.voice.talking.booth import TalkBooth, TalkState
from chapto.app.widgets import ground, label
from chapto.clock.timecode import clock_text
from chapto.document.bout import MomentKind, Outcome
from chapto.document.footage import cameras_of
from chapto.document.talks import Act
from chapto.paint.colours import FIRST, PAPER, see_through
from chapto.paint.lens import Lens
from chapto.programme.figures_at import shape_of

LOOK_EVERY = 50
"""Milliseconds between two looks at level and time."""
STAYS = 2_500
"""Milliseconds that what was marked is read."""
HINT = (
    "Space plays and stops · B five seconds back · O to and fro · A another camera · W that was wrong · "
    "R the phrase again · C chapter · P pause · E and numbers log · Return ends"
)
ENDED = {Qt.Key.Key_0: Outcome.LANDED, Qt.Key.Key_Minus: Outcome.STOPPED}


class TalkScreen(Screen):
    """The picture of a talk: a press points instead of playing. `pointed` carries the place, 0…1 of the picture as it
    was filmed, and whether it is pressed."""

    pointed = pyqtSignal(float, float, bool)

    def __init__(self, studio: Studio, player: Player, feed: PictureFeed) -> None:
        super().__init__(studio, player, feed)
        self._stroke: list[QPointF] = []
        self.count = ""

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """It points from here on."""
        if event is not None and event.button() == Qt.MouseButton.LeftButton:
            self._stroke = []
            self._point(event.position(), pressed=True)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        """The stroke goes on."""
        if event is not None and self._stroke:
            self._point(event.position(), pressed=True)

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        """It points no longer."""
        if event is not None and self._stroke:
            self._point(event.position(), pressed=False)
            self._stroke = []
            self.update()

    def mouseDoubleClickEvent(self, event: QMouseEvent | None) -> None:
        """Two presses point twice."""
        self.mousePressEvent(event)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """The picture, the stroke that is being drawn, and the count."""
        super().paintEvent(event)
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        if self._stroke:
            path = QPainterPath(self._stroke[0])
            for place in self._stroke[1:]:
                path.lineTo(place)
            p.setPen(QPen(QColor(FIRST), 4, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
            p.drawPath(path)
            p.drawEllipse(self._stroke[-1], 5, 5)
        if self.count:
            p.fillRect(self.rect(), see_through(PAPER, 40))
            p.setPen(QColor(PAPER))
            p.setFont(number_font(150, 600))
            p.drawText(QRectF(self.rect()), Qt.AlignmentFlag.AlignCenter, self.count)
        p.end()

    def _point(self, at: QPointF, *, pressed: bool) -> None:
        self._stroke.append(at)
        head, b, area = self._player.head, self._studio.breakdown, self.area()
        camera = head.camera(b.footage, self._studio.angles)
        if camera is not None and head.view is View.MAT:
            place = (area.x(), area.y(), area.width(), area.height())
            x, y = Lens(place, shape_of(b, camera), camera.mirrored).back(at)
            self.pointed.emit(x, y, pressed)
        self.update()


class TalkView(OverWindow):
    """Lies over `window` while the booth is on."""

    def __init__(
        self, window: QWidget, studio: Studio, player: Player, feed: PictureFeed, booth: TalkBooth
    ) -> None:  # fmt: skip
        super().__init__(window, "Talking while watching")
        self._studio, self._player, self._booth = studio, player, booth
        self._pen = LogController(studio, player)
        ground(self, "dark")
        column = layouts.column(self, margins=(18, 12, 18, 12), spacing=10)
        top = layouts.row(spacing=18)
        self.time, self.noted = label("0:00.0", size="welcome"), label("", size="head")
        top.addWidget(self.time)
        top.addWidget(self.noted, 1)
        self.level = LevelThread(dark=True)
        self.level.setFixedWidth(260)
        top.addWidget(self.level)
        column.addLayout(top)
        self.picture = TalkScreen(studio, player, feed)
        column.addWidget(self.picture, 1)
        column.addWidget(label(HINT, soft=True), alignment=Qt.AlignmentFlag.AlignHCenter)
        self.picture.pointed.connect(booth.point)
        self._timer = QTimer(self)
        self._timer.setInterval(LOOK_EVERY)
        self._timer.timeout.connect(self._look)
        self._timer.start()
        self._read = QTimer(self)
        self._read.setSingleShot(True)
        self._read.setInterval(STAYS)
        self._read.timeout.connect(lambda: self.noted.setText(""))
        booth.changed.connect(self._follow)
        booth.noted.connect(self._note)
        self._follow()
        self.show_over()

    def leave(self) -> None:
        """The take ends."""
        self._booth.changed.disconnect(self._follow)
        self._booth.noted.disconnect(self._note)
        self._timer.stop()
        super().leave()
        self._booth.stop()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """What can be said by a key while both hands are busy."""
        assert event is not None
        match event.key():
            case Qt.Key.Key_W:
                self._booth.act(Act.WRONG)
            case Qt.Key.Key_C:
                self._booth.act(Act.CHAPTER)
            case Qt.Key.Key_P:
                self._booth.pause()
            case Qt.Key.Key_R:
                self._booth.back_a_phrase()
            case Qt.Key.Key_O:
                self._booth.to_and_fro()
            case Qt.Key.Key_A:
                self._other_camera()
            case Qt.Key.Key_Return | Qt.Key.Key_Enter:
                self.leave()
            case key if self._log(key):
                pass
            case _:
                super().keyPressEvent(event)

    def _log(self, key: int) -> bool:
        """The keys of the log that need no words: an exchange, how it ended, a moment of a kind; whether it is one."""
        kinds = list(MomentKind)
        if key == Qt.Key.Key_E:
            self._pen.exchange()
        elif key in ENDED:
            self._pen.exchange(ENDED[Qt.Key(key)])
        elif Qt.Key.Key_1 <= key < Qt.Key.Key_1 + len(kinds):
            self._pen.moment(kinds[key - Qt.Key.Key_1])
        else:
            return False
        self._note("Logged.")
        return True

    def _other_camera(self) -> None:
        """The next camera that was running, and after the last the one that is found."""
        b, head = self._studio.breakdown, self._player.head
        there = [c for c in b.footage if c.covers(head.mat)]
        ids = ["", *(c.id for c in there)] if len(cameras_of(b.footage)) > 1 else [""]
        at = ids.index(head.through) if head.through in ids else 0
        self._player.look_through(ids[(at + 1) % len(ids)])

    def _note(self, said: str) -> None:
        self.noted.setText(said)
        self._read.start()

    def _look(self) -> None:
        recorder = self._booth.recorder
        if recorder is not None:
            self.time.setText(clock_text(recorder.seconds, tenths=True))
            m = recorder.meter
            self.level.show_level(m.peak, m.loudness, m.loudest, m.clipped)

    def _follow(self) -> None:
        state = self._booth.state
        self.picture.count = str(self._booth.left) if state is TalkState.COUNTING else ""
        self.picture.update()
        if state is TalkState.PAUSED:
            since = self._booth.said_again_from
            again = (
                "Paused. P goes on."
                if since is None
                else f"Paused. P goes on, from {clock_text(since, tenths=True)} again."
            )
            self.noted.setText(again)
        elif state is TalkState.TALKING and self.noted.text().startswith("Paused"):
            self.noted.setText("")
        if not self._booth.is_on:
            QTimer.singleShot(0, self._over)

    def _over(self) -> None:
        """The booth ended by itself: the device went, or a session is over."""
        if not self._booth.is_on and self.isVisible():
            self.leave()
