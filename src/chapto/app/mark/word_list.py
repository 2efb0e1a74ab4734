"""The script on paper, each mark hung under its word."""

from __future__ import annotations

from dataclasses import dataclass

from PyQt6.QtCore import QPoint, QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QContextMenuEvent, QFontMetricsF, QMouseEvent, QPainter, QPaintEvent, QPen, QResizeEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from chapto.app.mark.words_model import BeatWords, HungMark, WordCell
from chapto.app.theme import text_font
from chapto.document.people import Side
from chapto.paint.colours import AMBER, CHOSEN, INK, INK_SOFT, PAPER, PAPER_BRIGHT, PAPER_LINE
from chapto.paint.lettering import cut
from chapto.paint.plates import plate
from chapto.paint.signs import side_sign

LEFT, RIGHT, TOP = 18.0, 14.0, 10.0
LINE, TAG, GAP, HEAD = 23.0, 21.0, 12.0, 26.0
LETTERS = 15


@dataclass(frozen=True)
class _Word:
    cell: WordCell
    box: QRectF


@dataclass(frozen=True)
class _Tag:
    mark: HungMark
    box: QRectF
    under: QPointF


class WordList(QWidget):
    """`word_chosen` carries beat and word, `mark_chosen` the id of a mark."""

    word_chosen = pyqtSignal(str, int)
    mark_chosen = pyqtSignal(str)
    menu_asked = pyqtSignal(QPoint)

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName("Words and their marks")
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.beats: tuple[BeatWords, ...] = ()
        self.at: tuple[str, int] = ("", -1)
        self.mark = ""
        self.colours: dict[Side, str] = {}
        self._words: list[_Word] = []
        self._tags: list[_Tag] = []
        self._heads: list[tuple[str, float]] = []
        self._laid_for: tuple[object, int] | None = None
        self._high = 40.0

    def show_beats(
        self, beats: tuple[BeatWords, ...], at: tuple[str, int], mark: str, colours: dict[Side, str]
    ) -> None:
        """Show the script; the word `at` and a mark are the chosen ones."""
        self.at, self.mark, self.colours = at, mark, colours
        if beats != self.beats:
            self.beats = beats
            self._laid_for = None
        self._lay()
        self.update()

    def place_of_chosen(self) -> QRectF | None:
        """Where the chosen word stands."""
        return next((w.box for w in self._words if (w.cell.beat, w.cell.number) == self.at), None)

    def sizeHint(self) -> QSize:
        """As high as its words."""
        return QSize(200, round(self._high))

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """Break the lines anew."""
        super().resizeEvent(event)
        self._lay()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Choose the mark or the word under the pointer."""
        if event is None:
            return
        at = event.position()
        tag = next((t for t in self._tags if t.box.contains(at)), None)
        if tag is not None:
            self.mark_chosen.emit(tag.mark.mark)
            return
        word = next((w for w in self._words if w.box.adjusted(-2, 0, 3, 2).contains(at)), None)
        if word is not None:
            self.word_chosen.emit(word.cell.beat, word.cell.number)

    def contextMenuEvent(self, event: QContextMenuEvent | None) -> None:
        """The mark under the pointer is chosen, and what can be done with it asked for."""
        if event is None:
            return
        tag = next((t for t in self._tags if t.box.contains(QPointF(event.pos()))), None)
        if tag is not None:
            self.mark_chosen.emit(tag.mark.mark)
            self.menu_asked.emit(event.globalPos())

    def _lay(self) -> None:
        if self._laid_for == (id(self.beats), self.width()):
            return
        self._laid_for = (id(self.beats), self.width())
        metrics, small = QFontMetricsF(text_font(LETTERS)), QFontMetricsF(text_font(12, 500))
        space, y = metrics.horizontalAdvance(" "), TOP
        self._words, self._tags, self._heads = [], [], []
        for beat in self.beats:
            if beat.title:
                self._heads.append((beat.title, y))
                y += HEAD
            line: list[_Word] = []
            x = LEFT
            for cell in beat.words:
                wide = metrics.horizontalAdvance(cell.text)
                if x > LEFT and x + wide > self.width() - RIGHT:
                    y = self._end_line(line, y, small)
                    x, line = LEFT, []
                line.append(_Word(cell, QRectF(x, y, wide, LINE)))
                x += wide + space
            y = self._end_line(line, y, small) + GAP
        self._high = y + 6
        self.setFixedHeight(round(self._high))

    def _end_line(self, line: list[_Word], y: float, small: QFontMetricsF) -> float:
        """Hang the marks of a line under it, in as many rows as they need; where the next line begins."""
        self._words += line
        rows: list[float] = []
        for word in line:
            for mark in word.cell.marks:
                text = mark.text or mark.kind.value
                wide = min(small.horizontalAdvance(text) + 30, self.width() - LEFT - RIGHT)
                x = min(word.box.left(), self.width() - RIGHT - wide)
                row = next((r for r, end in enumerate(rows) if end + 6 <= x), len(rows))
                if row == len(rows):
                    rows.append(0.0)
                rows[row] = x + wide
                box = QRectF(x, y + LINE + 3 + row * (TAG + 3), wide, TAG - 1)
                under = QPointF(min(word.box.left() + 9, box.right() - 8), word.box.bottom() - 2)
                self._tags.append(_Tag(mark, box, under))
        return y + LINE + len(rows) * (TAG + 3) + (4 if rows else 0)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Words, ties under them as threads, marks on theirs."""
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        p.fillRect(self.rect(), QColor(PAPER))
        p.setFont(text_font(12, 600))
        p.setPen(QColor(INK_SOFT))
        for title, y in self._heads:
            p.drawText(QRectF(LEFT, y, self.width() - LEFT - RIGHT, HEAD - 4), Qt.AlignmentFlag.AlignVCenter, title)
        for word in self._words:
            self._word(p, word)
        for tag in self._tags:
            self._tag(p, tag)
        p.end()

    def _word(self, p: QPainter, word: _Word) -> None:
        cell = word.cell
        if (cell.beat, cell.number) == self.at:
            p.setPen(Qt.PenStyle.NoPen)
            p.setBrush(QColor(CHOSEN))
            p.drawRoundedRect(word.box.adjusted(-3, 1, 3, -1), 4, 4)
        p.setFont(text_font(LETTERS, 600 if cell.moment else 400))
        p.setPen(QColor(INK))
        p.drawText(word.box, Qt.AlignmentFlag.AlignVCenter, cell.text)
        if cell.moment:
            p.setPen(QPen(QColor(INK_SOFT), 1.3, Qt.PenStyle.DashLine))
            y = word.box.bottom() - 2
            p.drawLine(QPointF(word.box.left(), y), QPointF(word.box.right(), y))

    def _tag(self, p: QPainter, tag: _Tag) -> None:
        m, chosen = tag.mark, tag.mark.mark == self.mark
        p.setPen(QPen(QColor(INK_SOFT), 1.2))
        p.drawLine(tag.under, QPointF(tag.under.x(), tag.box.top() + 2))
        plate(
            p,
            tag.box,
            3,
            CHOSEN if chosen else PAPER_BRIGHT,
            AMBER if m.trouble else INK_SOFT if chosen else PAPER_LINE,
        )
        side_sign(
            p,
            QPointF(tag.box.left() + 11, tag.box.center().y()),
            4.4,
            m.side,
            self.colours.get(m.side, "") if m.side else "",
        )
        font = text_font(12, 500)
        p.setFont(font)
        p.setPen(QColor(INK if m.text else INK_SOFT))
        words = cut(m.text or m.kind.value, font, tag.box.width() - 26)
        p.drawText(tag.box.adjusted(20, 0, -2, 0), Qt.AlignmentFlag.AlignVCenter, words)
