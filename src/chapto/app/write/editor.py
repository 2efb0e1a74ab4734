"""The text of one beat: as tall as its words, tied words underlined."""

from __future__ import annotations

from PyQt6.QtCore import QEvent, QPoint, Qt, pyqtSignal
from PyQt6.QtGui import (
    QColor,
    QContextMenuEvent,
    QFocusEvent,
    QKeyEvent,
    QKeySequence,
    QResizeEvent,
    QSyntaxHighlighter,
    QTextCharFormat,
    QTextCursor,
    QTextDocument,
)
from PyQt6.QtWidgets import QFrame, QPlainTextEdit, QSizePolicy, QWidget

from chapto.app.own_keys import key_of
from chapto.app.theme import text_font
from chapto.document.script import word_spans
from chapto.paint.colours import INK_SOFT, TIES
from chapto.programme.programme import TieState

TieStates = dict[int, TieState]


class _Ties(QSyntaxHighlighter):
    """Underlines tied words in the colour of how well they meet."""

    def __init__(self, document: QTextDocument) -> None:
        super().__init__(document)
        self.states: TieStates = {}
        self.wrong: tuple[tuple[int, int], ...] = ()
        self.drafted: tuple[tuple[int, int], ...] = ()
        self.turns: frozenset[int] = frozenset()

    def highlightBlock(self, text: str | None) -> None:
        """Qt calls this for the one paragraph a beat is."""
        spans = word_spans(text or "")
        for first, stop in self.drafted:
            if stop <= len(spans):
                look = QTextCharFormat()
                look.setForeground(QColor(INK_SOFT))
                look.setFontItalic(True)
                self.setFormat(spans[first][0], spans[stop - 1][1] - spans[first][0], look)
        for first, stop in self.wrong:
            if stop <= len(spans):
                look = self.format(spans[first][0])
                look.setUnderlineStyle(QTextCharFormat.UnderlineStyle.WaveUnderline)
                look.setUnderlineColor(QColor(TIES[TieState.LATE]))
                self.setFormat(spans[first][0], spans[stop - 1][1] - spans[first][0], look)
        for i in self.turns:
            if i < len(spans):
                look = self.format(spans[i][0])
                look.setFontOverline(True)
                self.setFormat(spans[i][0], spans[i][1] - spans[i][0], look)
        for i, (start, end) in enumerate(spans):
            if i in self.states:
                look = self.format(start)
                look.setFontUnderline(True)
                look.setUnderlineStyle(QTextCharFormat.UnderlineStyle.SingleUnderline)
                look.setUnderlineColor(QColor(TIES[self.states[i]]))
                tint = QColor(TIES[self.states[i]])
                tint.setAlpha(56)
                look.setBackground(tint)
                self.setFormat(start, end - start, look)


class BeatEditor(QPlainTextEdit):
    """Signals what the keys mean for the script; it never changes the document itself."""

    typed = pyqtSignal(str)
    focused = pyqtSignal()
    split_at = pyqtSignal(int)
    joined_back = pyqtSignal()
    left = pyqtSignal(int)
    pasted = pyqtSignal(str)
    menu_asked = pyqtSignal(QPoint)

    def __init__(self, text: str, parent: QWidget | None = None) -> None:
        super().__init__(text, parent)
        self.setFont(text_font(16))
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setUndoRedoEnabled(False)
        self.setTabChangesFocus(True)
        self.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setPlaceholderText("Say what happened, or why it worked.")
        self.setAccessibleName("Words of the beat")
        document = self.document()
        assert document is not None
        document.setDocumentMargin(1)
        self._ties = _Ties(document)
        self._known = text
        self.textChanged.connect(self._on_text)
        self._fit()

    def show_text(self, text: str) -> None:
        """Take the document's text, keeping the caret, without saying that it was typed."""
        if text == self.toPlainText():
            return
        place = self.textCursor().position()
        self._known = text
        self.setPlainText(text)
        caret = self.textCursor()
        caret.setPosition(min(place, len(text)))
        self.setTextCursor(caret)
        self._fit()

    def show_ties(self, states: TieStates) -> None:
        """Which words are tied, and how well they meet."""
        if states != self._ties.states:
            self._ties.states = states
            self._ties.rehighlight()

    def show_wrong(self, wrong: tuple[tuple[int, int], ...]) -> None:
        """Which words (half-open ranges) are written wrong."""
        if wrong != self._ties.wrong:
            self._ties.wrong = wrong
            self._ties.rehighlight()

    def show_turns(self, turns: frozenset[int]) -> None:
        """At which words the picture turns to something else."""
        if turns != self._ties.turns:
            self._ties.turns = turns
            self._ties.rehighlight()

    def show_drafted(self, drafted: tuple[tuple[int, int], ...]) -> None:
        """Which words (half-open ranges) nobody has touched since they were drafted."""
        if drafted != self._ties.drafted:
            self._ties.drafted = drafted
            self._ties.rehighlight()

    def word_at_caret(self) -> int | None:
        """Number of the word the caret is in or behind; None in an empty beat."""
        spans = word_spans(self.toPlainText())
        place = self.textCursor().position()
        return next((i for i, (_, end) in enumerate(spans) if place <= end), len(spans) - 1 if spans else None)

    def put_caret(self, word: int) -> None:
        """Put the caret into a word."""
        spans = word_spans(self.toPlainText())
        caret = self.textCursor()
        caret.setPosition(spans[word][0] if word < len(spans) else 0)
        self.setTextCursor(caret)

    # ── Qt ───────────────────────────────────────────────────────────────────────────────────────────────
    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Return splits, Backspace at the start joins, up and down leave at the edges."""
        assert event is not None
        caret = self.textCursor()
        if event.matches(QKeySequence.StandardKey.Undo) or event.matches(QKeySequence.StandardKey.Redo):
            event.ignore()
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.split_at.emit(caret.position())
        elif event.key() == Qt.Key.Key_Backspace and caret.position() == 0 and not caret.hasSelection():
            self.joined_back.emit()
        elif event.key() in (Qt.Key.Key_Up, Qt.Key.Key_Down) and not event.modifiers():
            up = event.key() == Qt.Key.Key_Up
            before = QTextCursor(caret)
            moved = caret.movePosition(QTextCursor.MoveOperation.Up if up else QTextCursor.MoveOperation.Down)
            if moved and caret != before:
                self.setTextCursor(caret)
            else:
                self.left.emit(-1 if up else 1)
        else:
            super().keyPressEvent(event)

    def event(self, event: QEvent | None) -> bool:
        """Undo belongs to the whole document, not to one editor."""
        if event is not None and event.type() == QEvent.Type.ShortcutOverride:
            key = key_of(event)
            if key.matches(QKeySequence.StandardKey.Undo) or key.matches(QKeySequence.StandardKey.Redo):
                event.ignore()
                return False
        return super().event(event)

    def insertFromMimeData(self, source: object) -> None:
        """One pasted paragraph comes in at the caret; several are for the script, which makes beats of them."""
        text = source.text()  # type: ignore[attr-defined]
        if "\n\n" in text.strip().replace("\r\n", "\n") or len(text.split()) > 90:
            self.pasted.emit(text)
            return
        self.insertPlainText(" ".join(text.split()))

    def contextMenuEvent(self, event: QContextMenuEvent | None) -> None:
        """A menu for the word under the pointer, which gets the caret unless something is chosen."""
        assert event is not None
        if not self.textCursor().hasSelection():
            self.setTextCursor(self.cursorForPosition(event.pos()))
        self.menu_asked.emit(event.globalPos())

    def focusInEvent(self, event: QFocusEvent | None) -> None:
        """Say which beat is being written."""
        super().focusInEvent(event)
        self.focused.emit()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """Another width breaks the lines elsewhere."""
        super().resizeEvent(event)
        self._fit()

    def _on_text(self) -> None:
        # Another look of the words is told as a change as well.
        if (text := self.toPlainText()) != self._known:
            self._known = text
            self._fit()
            self.typed.emit(text)

    def _fit(self) -> None:
        document = self.document()
        assert document is not None
        lines = max(int(document.size().height()), 1)
        height = lines * self.fontMetrics().lineSpacing() + 6
        if height != self.height():
            self.setFixedHeight(height)
