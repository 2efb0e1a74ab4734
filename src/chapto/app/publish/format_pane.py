"""Size, rate, code and quality of the video, with how large it becomes and how long it takes."""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction
from functools import partial

from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtWidgets import QMenu, QPushButton, QSlider, QWidget

from chapto.app import layouts
from chapto.app.menus import choice
from chapto.app.studio import Studio
from chapto.app.widgets import button, label
from chapto.clock.rates import RATES
from chapto.document.edit_breakdown import set_loudness, set_shown
from chapto.document.edit_publishing import set_picture
from chapto.document.picture_format import QUALITIES, Codec
from chapto.render.encodings import PICTURES
from chapto.render.estimate import Estimate

LINES = (720, 1080, 1440, 2160)
LOUDNESSES = {-14: "as hosting sites play it", -16: "for listening", -23: "as broadcasters want it"}
"""Integrated loudness: common practice of hosting sites, of talk to listen to, and EBU R 128."""
OF_QUALITY = ("smallest", "small", "usual", "fine", "finest")


class FormatPane(QWidget):
    """Each press is an edit; what it changes stands beside it. `play` plays the video that was made."""

    def __init__(self, studio: Studio, play: Callable[[], object]) -> None:
        super().__init__()
        self._studio = studio
        column = layouts.column(self, margins=(2, 4, 2, 0), spacing=8)
        sizes = layouts.row(None, label("Lines", soft=True))
        self._sizes: dict[int, QPushButton] = {}
        for lines in LINES:
            made = button(str(lines), partial(self._size, lines), tip=f"{lines} lines high")
            made.setCheckable(True)
            self._sizes[lines] = made
            sizes.addWidget(made)
        sizes.addStretch(1)
        column.addLayout(sizes)
        kinds = layouts.row()
        self._rate = button("", self._choose_rate, tip="Pictures a second")
        self._code = button("", self._choose_code, tip="How pictures are encoded")
        self.loudness = button("", self._choose_loudness, tip="Loudness of the whole video")
        for one in (self._rate, self._code, self.loudness):
            kinds.addWidget(one)
        kinds.addStretch(1)
        column.addLayout(kinds)
        painted = layouts.row()
        self.strip = button("Control strip", self._toggle_strip, tip="Paint who controls into the picture")
        self._captions = button("Captions painted in", self._toggle_captions, tip="For where nobody can switch them on")
        for one in (self.strip, self._captions):
            one.setCheckable(True)
            painted.addWidget(one)
        painted.addStretch(1)
        column.addLayout(painted)
        quality = layouts.row(None, label("Quality", soft=True))
        self.quality = QSlider(Qt.Orientation.Horizontal)
        self.quality.setRange(QUALITIES[0], QUALITIES[-1])
        self.quality.setPageStep(1)
        self.quality.setAccessibleName("Quality of the picture")
        self.quality.setToolTip("From the smallest file to the finest picture")
        self.quality.valueChanged.connect(self._set_quality)
        quality.addWidget(self.quality, 1)
        self._of = label("", soft=True)
        self._of.setFixedWidth(56)
        quality.addWidget(self._of)
        column.addLayout(quality)
        self.estimate = label("", wrap=True)
        column.addWidget(self.estimate)
        self._small = label("", soft=True, wrap=True)
        column.addWidget(self._small)
        column.addStretch(1)
        played = layouts.row()
        self.play_button = button("Play it", play, tip="Play the video that was made", sign="play")
        self.play_button.setEnabled(False)
        played.addWidget(self.play_button)
        played.addStretch(1)
        column.addLayout(played)
        self.follow()

    def follow(self) -> None:
        """The document is another."""
        b = self._studio.breakdown
        f = b.format
        for lines, made in self._sizes.items():
            made.setChecked(min(f.width, f.height) == lines)
        self._rate.setText(f"{float(f.fps):.5g} a second")
        self._code.setText(PICTURES[f.codec].said)
        self.loudness.setText(f"{f.loudness} LUFS".replace("-", "−"))
        self.strip.setChecked(b.control_strip)
        self._captions.setChecked(f.burnt_captions)
        self.quality.blockSignals(True)
        self.quality.setValue(f.quality)
        self.quality.blockSignals(False)
        self._of.setText(OF_QUALITY[f.quality - 1])
        most = max((min(c.lines, round(c.lines * float(c.aspect or 1))) or c.lines for c in b.footage), default=0)
        more = most and min(f.width, f.height) > most
        self._small.setText(f"The footage has {most} lines; more makes the file larger, not clearer." if more else "")
        self._small.setVisible(bool(more))

    def show_estimate(self, found: Estimate | None) -> None:
        """How large and how long; None while that is being tried."""
        if found is None:
            self.estimate.setText("Trying a few seconds of it…")
            return
        size = f"{found.size / 1e6:.0f} MB" if found.size < 1e9 else f"{found.size / 1e9:.1f} GB"
        minutes, seconds = divmod(round(found.seconds), 60)
        took = f"{minutes} min {seconds:02} s" if minutes else f"{seconds} s"
        self.estimate.setText(f"About {size}, about {took} to make if nothing of it was made before.")

    def _edit(self, what: str, change: Callable[..., object], **values: object) -> None:
        self._studio.edit(what, partial(change, **values))  # type: ignore[arg-type]
        self.follow()

    def _size(self, lines: int) -> None:
        f = self._studio.breakdown.format
        ratio = Fraction(f.width, f.height)
        size = (lines * ratio, Fraction(lines)) if ratio >= 1 else (Fraction(lines), lines / ratio)
        width, height = (round(v / 2) * 2 for v in size)
        self._edit("change the size of the video", set_picture, size=(width, height))

    def _choose_rate(self) -> None:
        menu, now = QMenu(self), self._studio.breakdown.format.fps
        for rate in sorted(RATES):
            act = partial(self._edit, "change the rate of the video", set_picture, fps=rate)
            choice(menu, f"{float(rate):.5g}", act, checked=rate == now)
        menu.exec(self._rate.mapToGlobal(QPoint(0, self._rate.height())))

    def _choose_code(self) -> None:
        menu, now = QMenu(self), self._studio.breakdown.format.codec
        for codec in Codec:
            held = ", ".join(box.value[1:].upper() for box in PICTURES[codec].boxes)
            act = partial(self._edit, "change how the video is encoded", set_picture, codec=codec)
            choice(menu, f"{PICTURES[codec].said}, in {held}", act, checked=codec is now)
        menu.exec(self._code.mapToGlobal(QPoint(0, self._code.height())))

    def _choose_loudness(self) -> None:
        self.loudness_menu().exec(self.loudness.mapToGlobal(QPoint(0, self.loudness.height())))

    def loudness_menu(self) -> QMenu:
        """What loudness can be chosen."""
        menu, now = QMenu(self), self._studio.breakdown.format.loudness
        for lufs, use in LOUDNESSES.items():
            act = partial(self._edit, "change the loudness", set_loudness, lufs=lufs)
            choice(menu, f"{lufs} LUFS, {use}".replace("-", "−"), act, checked=now == lufs)
        return menu

    def _toggle_strip(self) -> None:
        shown = not self._studio.breakdown.control_strip
        self._edit("show the control strip" if shown else "leave the control strip out", set_shown, control_strip=shown)

    def _toggle_captions(self) -> None:
        painted = not self._studio.breakdown.format.burnt_captions
        what = "paint captions in" if painted else "leave captions out of the picture"
        self._edit(what, set_picture, burnt_captions=painted)

    def _set_quality(self, quality: int) -> None:
        if quality != self._studio.breakdown.format.quality:
            self._edit("change the quality of the video", set_picture, quality=quality)
