"""The pad: what can be logged with one key, each button with its key, beside the picture."""

from __future__ import annotations

from functools import partial

from PyQt6.QtWidgets import QGridLayout, QHBoxLayout, QWidget

from chapto.app import layouts
from chapto.app.log.finder_line import FinderLine
from chapto.app.log.log_controller import LogController
from chapto.app.log.trial import Trial
from chapto.app.studio import Studio
from chapto.app.widgets import button, ground, label
from chapto.document.bout import MomentKind, Outcome
from chapto.document.people import Side
from chapto.errors import ChaptoError
from chapto.lexicon.find import Finder
from chapto.lexicon.lexicon import Lexicon, Named, Position, Technique
from chapto.lexicon.trade_words import trade_word
from chapto.store.own_names import keep_name

OUTCOME_KEYS = ((Outcome.LANDED, "0"), (Outcome.STOPPED, "−"), (Outcome.HALF, "="))
SHORT_NAMES = {"outside-ashi": "leg entanglement", "closed-guard": "closed", "open-guard": "open", "half-guard": "half",
               "side-control": "side", "back-control": "back"}  # fmt: skip


class Pad(QWidget):
    """Follows what has been begun."""

    def __init__(self, studio: Studio, pen: LogController) -> None:
        super().__init__()
        self._studio, self._pen = studio, pen
        ground(self, "paper")
        self.setStyleSheet("QPushButton { padding: 3px 4px; }")
        column = layouts.column(self, margins=(14, 10, 12, 8), spacing=5)
        column.addLayout(self._spans())
        column.addLayout(self._control())
        column.addLayout(self._positions())
        column.addLayout(self._moments())
        self.finder = FinderLine(
            _finder(pen.lexicon), lambda: pen.recent, self._picked, lambda begun: pen.keep(meant=begun), self._keep_name
        )
        column.addWidget(self.finder)
        pen.begun_changed.connect(self.follow)
        studio.changed.connect(self.follow)
        self.follow()

    def follow(self) -> None:
        """What has been begun, and the names of both."""
        b = self._studio.breakdown
        self._first.setText(f"A  {b.first.name} on top")
        self._second.setText(f"D  {b.second.name} on top")
        for key, made, name in (("x", self._exchange, "Exchange"), ("r", self._round, "Round")):
            letter = "E" if key == "x" else "R"
            made.setText(f"{letter}  {name} {'ends' if key in self._pen.begun else 'begins'}")
            made.setProperty("open", key in self._pen.begun)
            style = made.style()
            if style is not None:
                style.unpolish(made)
                style.polish(made)

    def _spans(self) -> QHBoxLayout:
        row = layouts.row(spacing=5)
        self._exchange = button("", self._pen.exchange, tip="An exchange begins or ends here", key="E")
        self._round = button("", self._pen.round, tip="A round begins or ends here", key="R")
        row.addWidget(self._exchange, 3)
        for outcome, key in OUTCOME_KEYS:
            made = button(
                f"{key} {trade_word(outcome)}",
                partial(self._pen.exchange, outcome),
                tip=f"It was {trade_word(outcome)}",
                key=key,
            )
            row.addWidget(made, 2)
        row.addWidget(self._round, 3)
        return row

    def _control(self) -> QHBoxLayout:
        row = layouts.row(spacing=5)
        self._first = button("", partial(self._pen.control, Side.FIRST), tip="The first is on top from here", key="A")
        nobody = button("S  nobody", partial(self._pen.control, None), tip="Nobody is on top from here", key="S")
        self._second = button("", partial(self._pen.control, Side.SECOND), tip="The second is on top", key="D")
        for made, wide in ((self._first, 5), (nobody, 3), (self._second, 5)):
            row.addWidget(made, wide)
        return row

    def _positions(self) -> QGridLayout:
        grid = _five()
        keyed = [p for p in self._pen.lexicon.positions.values() if p.key]
        for i, p in enumerate(keyed):
            made = button(
                f"{p.key.upper()}  {SHORT_NAMES.get(p.id, p.en)}", partial(self._pen.position, p.id),
                tip=f"{p.en} from here", key=p.key.upper(),
            )  # fmt: skip
            made.setProperty("letters", "narrow")
            grid.addWidget(made, i // 5, i % 5)
        return grid

    def _moments(self) -> QGridLayout:
        grid = _five()
        for i, kind in enumerate(MomentKind):
            word, number = trade_word(kind), str(i + 1)
            made = button(f"{number}  {word}", partial(self._pen.moment, kind), tip=f"Moment: {word}", key=number)
            made.setProperty("letters", "narrow")
            grid.addWidget(made, i // 5, i % 5)
        reaction = layouts.row(spacing=2)
        self._reaction = label("", soft=True)
        self._reaction.setToolTip("What you press while it plays counts this much earlier: your reaction time")
        reaction.addWidget(self._reaction, 1)
        for text, by in (("−", -0.1), ("+", 0.1)):
            reaction.addWidget(button(text, partial(self._react, by), tip="Your reaction time", kind="quiet"))
        reaction.addWidget(button("?", self.trial, tip="Measure it in ten presses", kind="quiet"))
        grid.addLayout(reaction, 1, 4)
        self._react(0.0)
        return grid

    def trial(self) -> None:
        """Measure the reaction time."""
        home = self.window()
        if home is not None:
            Trial(home, lambda seconds: self._react(seconds - self._studio.preferences.now.reaction))

    def _react(self, by: float) -> None:
        self._studio.preferences.set(reaction=round(self._studio.preferences.now.reaction + by, 2))
        reaction = self._studio.preferences.now.reaction
        self._reaction.setText(f"{reaction:g} s late")

    def _keep_name(self, item: Position | Technique, name: str) -> None:
        """Another name for it, in the user's own file, and known from now on."""
        try:
            keep_name(self._studio.known.lexicon, item, name)
        except ChaptoError as error:
            self._studio.message.emit(str(error))
            return
        self._studio.compiling.know_again()
        self.finder.use(_finder(self._studio.known.lexicon))
        self._studio.message.emit(f"“{name}” is another name of {item.en} from now on.")

    def _picked(self, item: Position | Technique) -> None:
        if isinstance(item, Technique):
            self._pen.technique(item)
        else:
            self._pen.position(item.id)


def _finder(lexicon: Lexicon) -> Finder:
    items: list[Named] = [*lexicon.techniques.values(), *lexicon.positions.values()]
    return Finder(items)


def _five() -> QGridLayout:
    """Rows of five equal buttons."""
    grid = QGridLayout()
    grid.setSpacing(5)
    for column, wide in enumerate((5, 5, 5, 5, 6)):
        grid.setColumnStretch(column, wide)
        grid.setColumnMinimumWidth(column, 70)
    return grid
