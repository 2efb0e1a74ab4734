"""Times that came with the script and tie nothing yet: one step ties them all."""

from __future__ import annotations

from PyQt6.QtWidgets import QWidget

from chapto.app import layouts
from chapto.app.studio import Studio
from chapto.app.widgets import button, ground, label
from chapto.document import edit_script
from chapto.document.breakdown import Breakdown
from chapto.pacing.offers import Offer, offers


class StampsRow(QWidget):
    """A line over the script while there are such times."""

    def __init__(self, studio: Studio) -> None:
        super().__init__()
        self._studio = studio
        self._seen: object = None
        ground(self, "paper")
        row = layouts.row(self, margins=(16, 2, 12, 6), spacing=8)
        self._words = label("", wrap=True)
        row.addWidget(self._words, 1)
        self._tie = button("Tie them all", self.tie_all, tip="Tie every one of them", key="Ctrl+Shift+G", sign="lace")
        row.addWidget(self._tie)
        row.addWidget(button("Forget them", self.forget, tip="Leave the words without these times", kind="quiet"))
        studio.changed.connect(self._follow)
        self._follow()

    def tie_all(self) -> None:
        """Tie every word beside which a time came; one step of undo."""
        found = self._found()
        if not found:
            self._studio.message.emit("No time that came with the script is left without a tie.")
            return
        wanted = [(o.beat, o.word, o.at) for o in found]
        self._studio.edit(f"tie {_times(len(wanted))}", lambda b: edit_script.tie_all(b, wanted))

    def forget(self) -> None:
        """The words stay, their times go."""
        self._studio.edit("forget the times of the script", edit_script.forget_stamps)

    def _found(self) -> list[Offer]:
        return [o for o in offers(self._studio.breakdown) if o.stamped]

    def _follow(self) -> None:
        b = self._studio.breakdown
        seen = b.script, b.moments, b.exchanges
        if self._seen is not None and all(x is y for x, y in zip(seen, self._seen, strict=True)):  # type: ignore[call-overload]
            return
        self._seen = seen
        stamped = _any_stamps(b)
        count = len(self._found()) if stamped else 0
        self.setVisible(stamped)
        self._tie.setVisible(count > 0)
        if stamped:
            self._words.setText(_sentence(b, count))


def _any_stamps(b: Breakdown) -> bool:
    return any(s.word not in {t.word for t in beat.ties} for _, beat in b.beats() for s in beat.stamps)


def _sentence(b: Breakdown, count: int) -> str:
    left = sum(s.word not in {t.word for t in beat.ties} for _, beat in b.beats() for s in beat.stamps) - count
    beyond = f"{_times(left)} lie where their section shows nothing, or go back."
    if not count:
        return f"Of the times that came with the script, {beyond}"
    came = f"{_times(count)} came with the script, dashed in the lacing below."
    return f"{came} {beyond.capitalize()}" if left else came


def _times(n: int) -> str:
    return f"{n:,} time{'' if n == 1 else 's'}"
