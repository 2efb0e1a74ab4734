"""The study sheet on pages of A4."""

from __future__ import annotations

from collections.abc import Mapping
from pathlib import Path

from PyQt6.QtCore import QMarginsF, QRectF, QSizeF, Qt, QUrl
from PyQt6.QtGui import QColor, QFont, QImage, QPageLayout, QPageSize, QPainter, QPdfWriter, QTextDocument

from chapto.paint.colours import INK_SOFT
from chapto.paint.fonts import TEXT, load_fonts
from chapto.publish.study import Study, study_html

MARGINS = QMarginsF(16, 15, 16, 17)
"""Millimetres."""
DOTS = 144
"""Dots an inch in which the page is laid out."""


def write_study_pdf(place: Path, sheet: Study, pictures: Mapping[int, QImage]) -> None:
    """Write the sheet with its key frames (by number) to `place`. `OSError` where nothing can be written there."""
    load_fonts()
    document = QTextDocument()
    document.setDefaultFont(QFont(TEXT, 10))
    names = {}
    for number, image in pictures.items():
        names[number] = f"frame:{number}"
        document.addResource(QTextDocument.ResourceType.ImageResource.value, QUrl(names[number]), image)
    shape = next((i.width() / i.height() for i in pictures.values()), 16 / 9)
    document.setHtml(study_html(sheet, names, for_print=True, shape=shape))
    writer = QPdfWriter(str(place))
    writer.setResolution(DOTS)
    writer.setTitle(f"{sheet.title}: study sheet")
    writer.setCreator("Chapto")
    layout = QPageLayout(
        QPageSize(QPageSize.PageSizeId.A4), QPageLayout.Orientation.Portrait, MARGINS, QPageLayout.Unit.Millimeter
    )
    writer.setPageLayout(layout)
    page = QSizeF(layout.paintRectPixels(DOTS).size())
    document.documentLayout().setPaintDevice(writer)  # type: ignore[union-attr]
    document.setPageSize(page)
    p = QPainter()
    if not p.begin(writer):
        raise OSError(f"“{place.name}” can't be written.")
    count = document.pageCount()
    for number in range(count):
        if number:
            writer.newPage()
        p.save()
        p.translate(0, -number * page.height())
        document.drawContents(p, QRectF(0, number * page.height(), page.width(), page.height()))
        p.restore()
        p.setFont(QFont(TEXT, 8))
        p.setPen(QColor(INK_SOFT))
        foot = QRectF(0, page.height() + 8, page.width(), 24)
        p.drawText(foot, Qt.AlignmentFlag.AlignRight, f"{sheet.title}   {number + 1} of {count}")
    p.end()
