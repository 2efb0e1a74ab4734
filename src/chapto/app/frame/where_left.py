"""A window as it was left: noted when it closes, put back when the file is opened again, page by page."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

from PyQt6.QtCore import QBuffer, QByteArray, QObject, QSize, Qt
from PyQt6.QtWidgets import QSplitter, QWidget

from chapto.app.axis import Axis
from chapto.app.playhead import View
from chapto.app.screen.screen import Screen
from chapto.app.window import Window
from chapto.store.left_off import LeftOff, left_off, note_left_off
from chapto.store.recent import remember

PICTURE = QSize(320, 180)


class WhereLeft(QObject):
    """Belongs to one window. A breakdown without a file has nothing to come back to."""

    def __init__(self, window: Window) -> None:
        super().__init__(window)
        self._window, self._player, studio = window, window.player, window.studio
        self._studio, self._session = studio, studio.session
        path = self._session.path
        self._was = (left_off(path) if path is not None else None) or LeftOff()
        self._panes = dict(self._was.panes)
        self._zooms = dict(self._was.zooms)
        window.entered.connect(self._page_back)
        studio.compiled.connect(self._compiled)
        window.closing.connect(self._note)
        self._come_back()

    def _come_back(self) -> None:
        was, window = self._was, self._window
        stage = next((s for s in window.stages if s.value == was.stage), None)
        if stage is not None and self._session.breakdown.footage:
            window.go(stage)
            view = View.MAT if was.view == View.MAT.value else View.WATCH
            mat = Fraction(max(was.mat, 0.0)).limit_denominator(10**6)
            self._player.put(replace(self._player.head, view=view, mat=mat))
        self._page_back(window.stages[window.stage].page)

    def _page_back(self, page: QWidget) -> None:
        """Sizes of panes and zooms of a page that was just built."""
        for name, made in _splits(page):
            if name in self._panes and len(self._panes[name]) == made.count():
                made.setSizes(self._panes[name])
        for name, axis in _axes(page):
            if name in self._zooms:
                axis.scale, axis.left = self._zooms[name]
                axis.whole = False

    def _compiled(self) -> None:
        """The programme is there for the first time: its frames and its zoom can be gone back to."""
        window = self._window
        self._studio.compiled.disconnect(self._compiled)
        if self._was.view == View.WATCH.value:
            self._player.show_frame(self._was.frame)
        self._page_back(window.stages[window.stage].page)

    def _note(self) -> None:
        window = self._window
        session, head = self._session, self._player.head
        if session.path is None:
            return
        for view in window.entered_stages:
            self._panes |= {name: made.sizes() for name, made in _splits(view.page)}
            zooms = dict(_axes(view.page))
            self._zooms |= {name: (axis.scale, axis.left) for name, axis in zooms.items() if not axis.whole}
            self._zooms = {name: z for name, z in self._zooms.items() if not (name in zooms and zooms[name].whole)}
        now = LeftOff(
            stage=window.stage.value, view=head.view.value, mat=float(head.mat), frame=head.frame,
            zooms=self._zooms, panes=self._panes,
        )  # fmt: skip
        note_left_off(session.path, now)
        note_recent(window)


def note_recent(window: Window) -> None:
    """The breakdown of a window is the one opened last, with the picture that it shows."""
    studio = window.studio
    b, path, seconds = studio.breakdown, studio.session.path, float(studio.programme.seconds)
    if path is not None:
        remember(path, title=b.title, part=b.part, seconds=seconds, picture=_picture(window))


def _splits(page: QWidget) -> list[tuple[str, QSplitter]]:
    """The splits of a page by a name that stays: the page's kind and their order."""
    found = page.findChildren(QSplitter)
    return [(f"{type(page).__name__} {i}", made) for i, made in enumerate(found)]


def _axes(page: QWidget) -> list[tuple[str, Axis]]:
    """The time axes of a page, by the name of the widget that has it."""
    every = [(w.accessibleName(), getattr(w, "axis", None)) for w in page.findChildren(QWidget)]
    return [(name, axis) for name, axis in every if name and isinstance(axis, Axis)]


def _picture(window: Window) -> bytes:
    """What the screen shows, as a small PNG; nothing where it shows nothing."""
    screen = next((s for s in window.findChildren(Screen) if s.isVisible() and s.shown_key is not None), None)
    if screen is None:
        return b""
    smooth, keep = Qt.TransformationMode.SmoothTransformation, Qt.AspectRatioMode.KeepAspectRatio
    data = QByteArray()
    device = QBuffer(data)
    device.open(QBuffer.OpenModeFlag.WriteOnly)
    screen.grab(screen.area()).scaled(PICTURE, keep, smooth).save(device, "PNG")
    return data.data()
