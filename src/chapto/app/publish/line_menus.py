"""What can be done with a chapter or a caption, at the pointer: the words themselves are the script's."""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction

from PyQt6.QtGui import QGuiApplication
from PyQt6.QtWidgets import QMenu, QWidget

from chapto.app.publish.timed_list import TimedLine
from chapto.programme.programme import Programme
from chapto.publish.captions import to_webvtt
from chapto.publish.chapter_list import chapter_list
from chapto.review.work import NextStep, Stage

Go = Callable[[Fraction], object]
Show = Callable[[NextStep], object]


def chapter_menu(parent: QWidget, programme: Programme, line: TimedLine, go: Go, show: Show) -> QMenu:
    """Showing a chapter, changing its title, taking the whole list along."""
    menu = QMenu(parent)
    menu.addAction("Show it", lambda: go(line.at))
    section = programme.section_at(int(line.at * programme.fps))
    if section is not None:
        step = NextStep("", Stage.WRITE, item=section.section)
        menu.addAction("Change its title in Write", lambda: show(step))
    menu.addSeparator()
    menu.addAction("Copy all chapters with their times", lambda: _copy(chapter_list(programme)))
    return menu


def caption_menu(parent: QWidget, programme: Programme, line: TimedLine, go: Go, show: Show) -> QMenu:
    """Showing a caption, changing its words, taking words along."""
    menu = QMenu(parent)
    menu.addAction("Show it", lambda: go(line.at))
    word = next((w for w in programme.words if w.end > line.at), None)
    if word is not None:
        step = NextStep("", Stage.WRITE, beat=word.beat, word=word.word)
        menu.addAction("Change its words in Write", lambda: show(step))
    menu.addSeparator()
    menu.addAction("Copy its words", lambda: _copy(" ".join(line.text.split())))
    menu.addAction("Copy all captions with their times", lambda: _copy(to_webvtt(programme.captions)))
    return menu


def _copy(text: str) -> None:
    board = QGuiApplication.clipboard()
    if board is not None:
        board.setText(text)
