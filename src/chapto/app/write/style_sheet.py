"""The limits of a house style of the user's own, beside the picture they change."""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction
from functools import partial

from msgspec.structs import replace
from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QLineEdit, QWidget

from chapto.app import layouts
from chapto.app.studio import Studio
from chapto.app.widgets import button, ground, label
from chapto.app.write.gauge import Gauge
from chapto.errors import ChaptoError
from chapto.pacing.styles import HouseStyle
from chapto.store.own_styles import drop_own, keep_own, own_styles

RATES = (Fraction(3, 4), Fraction(1, 2), Fraction(3, 8), Fraction(1, 4))
THOUSANDTHS = 1000


def _seconds(value: float) -> str:
    return f"{value:g} s"


def _points(value: float) -> str:
    return f"{value:.1f}"


LIMITS = (
    ("longest_hold", "Longest hold", 0, 60, 0.5, _seconds),
    ("longest_pause", "Longest wait for the picture", 0, 20, 0.5, _seconds),
    ("longest_silence", "Longest silence at the end", 0, 30, 0.5, _seconds),
    ("breath", "Breath between two beats", 0, 2, 0.05, _seconds),
    ("lead_in", "Picture before the first word", 0, 3, 0.1, _seconds),
    ("hurry", "A voice may hurry by", 0, 0.25, 0.01, lambda v: f"{v:.0%}"),
    ("linger", "… and linger by", 0, 0.25, 0.01, lambda v: f"{v:.0%}"),
    ("base_rate", "Speed where nothing is said of it", 0.25, 1, 0.05, lambda v: f"{v:.2f}×"),
    ("smoothest", "New pictures a second at least", 0, 30, 1, lambda v: f"{v:.0f}"),
)
WEIGHTS = (
    ("hold", "A second held", 0, 5, 0.1),
    ("stop", "Each stop", 0, 6, 0.1),
    ("slow", "A second won by slowing", 0, 5, 0.1),
    ("pause", "A second of waiting words", 0, 5, 0.1),
    ("change", "Each change of speed", 0, 2, 0.1),
    ("hurry", "A second by which it hurries", 0, 5, 0.1),
)


class StyleSheet(QWidget):
    """Follows the style in use; every change is written at once and fitted anew. `done` when it is put away."""

    done = pyqtSignal()

    def __init__(self, studio: Studio) -> None:
        super().__init__()
        self._studio = studio
        self._name = ""
        self._before: HouseStyle | None = None
        ground(self, "paper")
        column = layouts.column(self, margins=(20, 14, 16, 12), spacing=8)
        self.title = QLineEdit()
        self.title.setAccessibleName("Name of the house style")
        self.title.setStyleSheet("QLineEdit { font-size: 18px; font-weight: 600; border-bottom: none; }")
        self.title.editingFinished.connect(lambda: self._change(lambda s: replace(s, title=self.title.text().strip())))
        column.addWidget(self.title)
        column.addWidget(
            label(
                "Kept for all your breakdowns. Undo does not reach here: “As it was” takes back what you change now.",
                soft=True, wrap=True,
            )
        )  # fmt: skip
        column.addWidget(self._body(), 1)
        row = layouts.row()
        row.addWidget(button("Done", self.done.emit, tip="Back to the script", key="Esc", kind="main"))
        row.addWidget(button("As it was", self.restore, tip="Take back what was changed here"))
        row.addStretch(1)
        row.addWidget(button("Throw away", self.drop, tip="Use Stop and talk, and forget this style", kind="quiet"))
        column.addLayout(row)
        studio.changed.connect(self._style_in_use)

    def _body(self) -> QWidget:
        inner = ground(QWidget(), "paper")
        column = layouts.column(inner, margins=(0, 0, 8, 0), spacing=0)
        self.gauges: dict[str, Gauge] = {}
        column.addWidget(label("How far picture and voice may go", size="head"))
        for field, text, low, high, step, shown in LIMITS:
            made = Gauge(text, low, high, step, shown)
            made.moved.connect(lambda v, f=field: self._change(lambda s: replace(s, **{f: exact(v)})))
            self.gauges[field] = made
            column.addWidget(made)
        rates = layouts.row()
        rates.addWidget(label("Slower speeds it may use"))
        self._rates = {}
        for rate in RATES:
            made_rate = button(f"{float(rate):g}×", partial(self._turn, rate))
            made_rate.setCheckable(True)
            self._rates[rate] = made_rate
            rates.addWidget(made_rate)
        rates.addStretch(1)
        column.addLayout(rates)
        column.addSpacing(14)
        column.addWidget(label("What it would rather not do: the higher, the less of it", size="head", wrap=True))
        for field, text, low, high, step in WEIGHTS:
            made = Gauge(text, low, high, step, _points)
            made.moved.connect(lambda v, f=field: self._change(lambda s: weighed(s, f, v)))
            self.gauges[field] = made
            column.addWidget(made)
        column.addStretch(1)
        return layouts.scrolled(inner)

    def open(self) -> None:
        """Show the style in use, which is one of the user's own."""
        self._name = self._studio.breakdown.style
        self._before = own_styles().get(self._name)
        self._follow()
        self.gauges["longest_hold"].setFocus()

    def _style_in_use(self) -> None:
        """Another style came into use while the sheet is open, by undo for example: it is put away."""
        if self.isVisible() and self._studio.breakdown.style != self._name:
            self.done.emit()

    def restore(self) -> None:
        """The style as it was when the sheet was opened."""
        if self._before is not None:
            before = self._before
            self._change(lambda s: before)

    def drop(self) -> None:
        """Forget this style."""
        self._studio.edit("change the house style", lambda b: replace(b, style="stop-and-talk"))
        try:
            drop_own(self._name)
            self._studio.compiling.know_again()
        except ChaptoError as error:
            self._studio.message.emit(str(error))
        self.done.emit()

    def _turn(self, rate: Fraction) -> None:
        def change(s: HouseStyle) -> HouseStyle:
            rates = set(s.rates) ^ {rate}
            return replace(s, rates=tuple(sorted((r for r in rates if r < s.base_rate), reverse=True)))

        self._change(change)

    def _change(self, change: Callable[[HouseStyle], HouseStyle]) -> None:
        style = own_styles().get(self._name)
        if style is None or change(style) == style:
            return
        made = change(style)
        made = replace(made, rates=tuple(r for r in made.rates if r < made.base_rate), title=made.title or style.title)
        try:
            keep_own(self._name, made)
        except ChaptoError as error:
            self._studio.message.emit(str(error))
        self._studio.compiling.know_again()
        self._follow()

    def _follow(self) -> None:
        style = own_styles().get(self._name)
        if style is None:
            return
        if not self.title.hasFocus():
            self.title.setText(style.title)
        for field, *_ in LIMITS:
            self.gauges[field].show_value(float(getattr(style, field)))
        for field, *_ in WEIGHTS:
            self.gauges[field].show_value(getattr(style.weights, field))
        for rate, made in self._rates.items():
            made.setChecked(rate in style.rates)
            made.setEnabled(rate < style.base_rate)


def exact(value: float) -> Fraction:
    """A thousandth at the finest."""
    return Fraction(round(value * THOUSANDTHS), THOUSANDTHS)


def weighed(style: HouseStyle, field: str, value: float) -> HouseStyle:
    """The style with another weight."""
    return replace(style, weights=replace(style.weights, **{field: round(value, 3)}))
