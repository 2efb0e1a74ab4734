"""The look: fonts, palette and the one style sheet of the window."""

from __future__ import annotations

from functools import lru_cache
from pathlib import Path

from PyQt6.QtCore import QByteArray, QRectF, QSize, Qt
from PyQt6.QtGui import QColor, QFont, QIcon, QPainter, QPalette, QPixmap
from PyQt6.QtSvg import QSvgRenderer
from PyQt6.QtWidgets import QApplication

from chapto.paint.colours import (
    AMBER,
    BEGUN,
    CHOSEN,
    DEEP,
    FIRST,
    INK,
    INK_HOVER,
    INK_OFF,
    INK_SOFT,
    MAIN_OFF,
    ON_DARK,
    ON_DARK_OFF,
    ON_DARK_SOFT,
    PAPER,
    PAPER_DEEP,
    PAPER_HOVER,
    PAPER_LINE,
    PAPER_PRESSED,
    SPRUCE,
    SPRUCE_HOVER,
    SPRUCE_LIGHT,
    SPRUCE_LINE,
)
from chapto.paint.fonts import NUMBERS, TEXT, load_fonts

ICONS = Path(__file__).parent / "icons"

STYLE = f"""
* {{ font-family: "{TEXT}"; font-size: 13px; }}
QToolTip {{ background: {PAPER}; color: {INK}; border: 1px solid {PAPER_LINE}; padding: 4px 7px; }}
QScrollBar:vertical {{ background: transparent; width: 10px; margin: 2px; }}
QScrollBar::handle:vertical {{ background: {PAPER_LINE}; border-radius: 3px; min-height: 28px; }}
QScrollBar::handle:vertical:hover {{ background: {INK_SOFT}; }}
QScrollBar::add-line, QScrollBar::sub-line, QScrollBar::add-page, QScrollBar::sub-page {{ background: none; height: 0; }}
QScrollArea {{ background: transparent; border: none; }}
QSplitter::handle {{ background: {DEEP}; }}

[ground="paper"] {{ background: {PAPER}; color: {INK}; }}
[ground="paper"] QLabel {{ color: {INK}; background: transparent; }}
[ground="paper"] QLabel[soft="true"] {{ color: {INK_SOFT}; }}
[ground="rule"] {{ background: {PAPER_LINE}; }}
[ground="dark"] {{ background: {SPRUCE}; color: {ON_DARK}; }}
[ground="dark"] QLabel {{ color: {ON_DARK}; background: transparent; }}
[ground="dark"] QLabel[soft="true"] {{ color: {ON_DARK_SOFT}; }}
QLabel[letters="title"] {{ font-size: 18px; font-weight: 600; }}
QLabel[letters="welcome"] {{ font-size: 24px; font-weight: 600; }}
QLabel[letters="head"] {{ font-size: 15px; font-weight: 600; }}
QLabel[letters="time"] {{ font-family: "{NUMBERS}"; font-size: 15px; }}
QLabel[letters="clock"] {{ font-family: "{NUMBERS}"; font-size: 24px; font-weight: 500; }}

QPushButton {{ border-radius: 5px; padding: 5px 11px; font-weight: 500; }}
[ground="paper"] QPushButton {{ background: {PAPER_DEEP}; color: {INK}; border: 1px solid {PAPER_LINE}; }}
[ground="paper"] QPushButton:hover {{ background: {PAPER_HOVER}; }}
[ground="paper"] QPushButton:pressed {{ background: {PAPER_PRESSED}; }}
[ground="paper"] QPushButton:disabled {{ color: {INK_OFF}; background: {PAPER_DEEP}; }}
[ground="paper"] QPushButton[act="main"] {{ background: {INK}; color: {PAPER}; border: 1px solid {INK}; font-weight: 600; }}
[ground="paper"] QPushButton[act="main"]:hover {{ background: {INK_HOVER}; }}
[ground="paper"] QPushButton[act="main"]:disabled {{ background: {MAIN_OFF}; border-color: {MAIN_OFF}; }}
[ground="dark"] QPushButton {{ background: {SPRUCE_LIGHT}; color: {ON_DARK}; border: 1px solid {SPRUCE_LINE}; }}
[ground="dark"] QPushButton:hover {{ background: {SPRUCE_HOVER}; }}
[ground="dark"] QPushButton[act="main"] {{ background: {FIRST}; color: {INK}; border: 1px solid {FIRST}; font-weight: 600; }}
[ground="dark"] QPushButton[act="main"]:hover {{ background: {AMBER}; }}
[ground="dark"] QPushButton:checked {{ background: {ON_DARK}; color: {INK}; border-color: {ON_DARK}; }}
[ground="dark"] QPushButton:disabled {{ color: {ON_DARK_OFF}; border-color: {SPRUCE_LIGHT}; background: {SPRUCE}; }}
[ground="paper"] QPushButton[open="true"] {{ background: {BEGUN}; border-color: {AMBER}; color: {INK}; }}
[ground="paper"] QPushButton:checked {{ background: {INK}; color: {PAPER}; border-color: {INK}; }}
QPushButton[letters="narrow"] {{ font-family: "{NUMBERS}"; font-size: 15px; }}
QPushButton:focus {{ border: 1px solid {FIRST}; }}
QPushButton[act="quiet"] {{ background: transparent; border: 1px solid transparent; padding: 3px 6px; }}
[ground="paper"] QPushButton[act="quiet"]:hover {{ background: {PAPER_DEEP}; }}
[ground="dark"] QPushButton[act="quiet"]:hover {{ background: {SPRUCE_LIGHT}; }}

QLineEdit {{ background: {PAPER}; color: {INK}; border: none; border-bottom: 1px solid {PAPER_LINE}; padding: 3px 2px;
  selection-background-color: {FIRST}; selection-color: {INK}; }}
QLineEdit:focus {{ border-bottom: 2px solid {FIRST}; padding-bottom: 2px; }}
QPlainTextEdit {{ background: transparent; color: {INK}; border: none; font-size: 16px;
  selection-background-color: {CHOSEN}; selection-color: {INK}; }}
QListWidget[kind="pictures"] {{ background: transparent; outline: none; }}
QListWidget[kind="pictures"]::item {{ border: 3px solid transparent; padding: 0; }}
QListWidget[kind="pictures"]::item:selected {{ background: transparent; border: 3px solid {FIRST}; }}
QDialog {{ background: {PAPER}; color: {INK}; }}
QDialog QLabel {{ color: {INK}; background: transparent; }}
QDialog QPushButton {{ background: {PAPER_DEEP}; color: {INK}; border: 1px solid {PAPER_LINE}; min-width: 62px; }}
QDialog QPushButton:default {{ background: {INK}; color: {PAPER}; border-color: {INK}; font-weight: 600; }}
QDialog QPushButton:hover {{ background: {PAPER_HOVER}; color: {INK}; }}
QDialog QPushButton:disabled {{ color: {INK_OFF}; }}
QDialog QToolButton {{ background: transparent; border: 1px solid transparent; border-radius: 4px; padding: 3px; }}
QDialog QToolButton:hover {{ background: {PAPER_DEEP}; }}
QDialog QToolButton:checked {{ background: {PAPER_DEEP}; border-color: {PAPER_LINE}; }}
QDialog QTreeView, QDialog QListView {{ background: {PAPER}; color: {INK}; border: 1px solid {PAPER_LINE};
  selection-background-color: {INK}; selection-color: {PAPER}; alternate-background-color: {PAPER_DEEP}; }}
QDialog QHeaderView {{ background: {PAPER_DEEP}; border: none; }}
QDialog QHeaderView::section {{ background: {PAPER_DEEP}; color: {INK_SOFT}; border: none; padding: 4px 7px; }}
QDialog QComboBox {{ background: {PAPER}; color: {INK}; border: 1px solid {PAPER_LINE}; border-radius: 4px;
  padding: 3px 7px; }}
QDialog QComboBox::drop-down {{ border: none; width: 20px; }}
QDialog QComboBox QAbstractItemView {{ background: {PAPER}; color: {INK}; selection-background-color: {INK};
  selection-color: {PAPER}; }}
QDialog QSpinBox {{ background: {PAPER}; color: {INK}; border: 1px solid {PAPER_LINE}; padding: 2px; }}
QDialog QSplitter::handle {{ background: {PAPER}; }}
QMenu {{ background: {PAPER}; color: {INK}; border: 1px solid {PAPER_LINE}; padding: 5px; }}
QMenu::item {{ padding: 5px 26px 5px 12px; border-radius: 4px; }}
QMenu::item:selected {{ background: {INK}; color: {PAPER}; }}
QMenu::item:disabled {{ color: {INK_OFF}; }}
QMenu::separator {{ height: 1px; background: {PAPER_LINE}; margin: 5px 8px; }}
"""


def dress(app: QApplication) -> None:
    """Give the whole application Chapto's fonts, palette and style."""
    load_fonts()
    app.setStyle("Fusion")
    app.setFont(text_font(13))
    palette = QPalette()
    for role, colour in (
        (QPalette.ColorRole.Window, DEEP),
        (QPalette.ColorRole.WindowText, ON_DARK),
        (QPalette.ColorRole.Base, PAPER),
        (QPalette.ColorRole.Button, PAPER_DEEP),
        (QPalette.ColorRole.ButtonText, INK),
        (QPalette.ColorRole.Text, INK),
        (QPalette.ColorRole.Highlight, FIRST),
        (QPalette.ColorRole.HighlightedText, INK),
        (QPalette.ColorRole.PlaceholderText, INK_SOFT),
    ):
        palette.setColor(role, QColor(colour))
    app.setPalette(palette)
    app.setStyleSheet(STYLE)
    app.setWindowIcon(QIcon(str(ICONS / "org.chapto.Chapto.svg")))


def text_font(pixels: int, weight: int = 400) -> QFont:
    """Barlow at a size in pixels."""
    return _font(TEXT, pixels, weight)


def number_font(pixels: int, weight: int = 400) -> QFont:
    """Barlow Condensed, for times and numbers."""
    return _font(NUMBERS, pixels, weight)


@lru_cache(maxsize=64)
def _font(family: str, pixels: int, weight: int) -> QFont:
    font = QFont(family)
    font.setPixelSize(pixels)
    font.setWeight(QFont.Weight(weight))
    return font


@lru_cache(maxsize=200)
def icon_pixmap(name: str, colour: str, size: int = 20, ratio: float = 1.0) -> QPixmap:
    """One of Chapto's icons in a colour, `size` logical pixels square."""
    svg = (ICONS / f"{name}.svg").read_text("utf-8").replace("#000", colour)
    pixmap = QPixmap(QSize(round(size * ratio), round(size * ratio)))
    pixmap.fill(Qt.GlobalColor.transparent)
    painter = QPainter(pixmap)
    QSvgRenderer(QByteArray(svg.encode())).render(painter, QRectF(0, 0, size * ratio, size * ratio))
    painter.end()
    pixmap.setDevicePixelRatio(ratio)
    return pixmap


def icon(name: str, colour: str = INK) -> QIcon:
    """One of Chapto's icons for a button."""
    return QIcon(icon_pixmap(name, colour, 20, 2.0))
